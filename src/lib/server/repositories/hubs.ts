import type { HubDraft } from '#core/hub/hubDraft';
import type { HubStandIn } from '#core/simulate/simulatedHub';
import { countRows, select } from '../db/sql';
import { CHAIN_START } from '../formats/recordChain';
import { hubs, type HubRow } from '../db/tables';
import type { Unit } from '../db/transaction';
import { COUNTED, type Found, type Slice } from './lists';

/** A hub as it is kept, without its site. */
export interface KeptHub {
	id: string;
	name: string;
	siteId: string;
	plan: HubDraft;
	version: number;
	/** What stands in for it; null of a real one. */
	practice: HubStandIn | null;
}

/** A line of the list of hubs. */
export interface HubLine {
	id: string;
	name: string;
	siteName: string;
	units: number;
	terminals: number;
	updatedAt: Date;
}

export type HubContent = Pick<KeptHub, 'name' | 'siteId' | 'plan'>;

const columnsOf = ({
	plan,
	...of
}: HubContent): Pick<HubRow, 'name' | 'siteId' | 'content' | 'unitCount' | 'terminalCount'> => ({
	...of,
	content: JSON.stringify(plan),
	unitCount: plan.units.length,
	terminalCount: plan.terminals.length
});

/** Signs that mean something to LIKE stand for themselves. */
const literal = (typed: string): string => typed.replace(/[\\%_]/g, '\\$&');

/** One page of hubs by name; with words, those with them in their own name or that of their site. */
export async function pageOfHubs(typed: string, slice: Slice): Promise<Found<HubLine>> {
	const like = `%${literal(typed)}%`;
	const from = `FROM hubs h JOIN sites s ON s.id = h.site_id${
		typed ? ' WHERE h.name LIKE :like OR s.name LIKE :like' : ''
	}`;
	const count = await countRows(`FROM (SELECT 1 ${from} LIMIT ${COUNTED + 1}) x`, { like });
	const rows = await select<HubLine>(
		`SELECT h.id, h.name, s.name AS siteName, h.unit_count AS units,
			h.terminal_count AS terminals, h.updated_at AS updatedAt
		${from} ORDER BY h.name LIMIT :limit OFFSET :offset`,
		{ like, limit: slice.limit, offset: slice.offset }
	);
	return { rows, count: Math.min(count, COUNTED), more: count > COUNTED };
}

export async function findHub(id: string, unit?: Unit): Promise<KeptHub | undefined> {
	const [row] = await hubs.some(
		['id', 'name', 'siteId', 'content', 'version', 'practice'],
		{ id },
		unit ? { unit } : {}
	);
	if (!row) return undefined;
	const { content, practice, ...rest } = row;
	return {
		...rest,
		plan: JSON.parse(content) as HubDraft,
		practice: practice === null ? null : (JSON.parse(practice) as HubStandIn)
	};
}

/** Throws TakenError where the name is another hub's. */
export async function insertHub(
	id: string,
	content: HubContent,
	by: string,
	at: Date,
	unit: Unit
): Promise<void> {
	const row = {
		id,
		...columnsOf(content),
		version: 1,
		createdBy: by,
		createdAt: at,
		updatedAt: at,
		lastSeq: 0,
		digest: CHAIN_START,
		practice: null
	};
	await hubs.add([row], unit);
}

/** A hub with who made it and when, as an archive holds it. */
export interface StoredHub extends KeptHub {
	createdBy: string;
	createdAt: Date;
	updatedAt: Date;
}

export async function findStoredHub(id: string): Promise<StoredHub | undefined> {
	const kept = await findHub(id);
	const [row] = await hubs.some(['createdBy', 'createdAt', 'updatedAt'], { id });
	return kept && row && { ...kept, ...row };
}

/**
 * A hub as it was elsewhere, with the place that its feed had come to. Throws TakenError where the id or the name
 * is another hub's.
 */
export async function insertStoredHub(
	{ plan, practice, name, siteId, ...rest }: StoredHub,
	feed: Pick<HubRow, 'lastSeq' | 'digest'>,
	unit: Unit
): Promise<void> {
	const row = {
		...{ ...rest, ...columnsOf({ name, siteId, plan }), ...feed },
		practice: practice && JSON.stringify(practice)
	};
	await hubs.add([row], unit);
}

/** Whether the hub still had that version and is changed now. Throws TakenError as above. */
export async function updateHub(
	id: string,
	version: number,
	content: HubContent,
	at: Date,
	unit: Unit
): Promise<boolean> {
	const values = { ...columnsOf(content), version: version + 1, updatedAt: at };
	return (await hubs.change({ id, version }, values, unit)) > 0;
}

export async function removeHub(id: string, unit: Unit): Promise<void> {
	await hubs.remove({ id }, unit);
}

/** Hubs after one by its id, in the order of their ids. */
export function hubIdsAfter(
	afterId: string,
	limit: number
): Promise<{ id: string; name: string }[]> {
	return select('SELECT id, name FROM hubs WHERE id > ? ORDER BY id LIMIT ?', [afterId, limit]);
}
