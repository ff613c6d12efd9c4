import type { HubRecord } from '#core/bringup/hubRecords';
import type { TerminalJudgement } from '#core/bringup/judgeTerminal';
import type { HubInput } from '#core/hub/hubInput';
import type { HubStandIn } from '#core/simulate/simulatedHub';
import { present } from '#core/units/lists';
import { select } from '../db/sql';
import {
	hubAcceptances,
	hubRecords,
	hubRevisions,
	hubs,
	type HubAcceptanceRow,
	type HubRecordRow,
	type HubRevisionRow
} from '../db/tables';
import type { Unit } from '../db/transaction';
import type { Signature } from './acceptances';
import { clockOf } from './feeds';

/** One record of a hub as it is stored; `payload` is JSON. */
export type StoredHubRecord = HubRecordRow;

/** An issued plan of a hub, frozen with its parts. */
export interface HubRevision extends Omit<HubRevisionRow, 'input' | 'hubId'> {
	hub: HubInput;
}

/** What the feed of a hub remembers of itself between two records. */
export interface HubFeedStanding {
	lastSeq: number;
	digest: string;
	practice: HubStandIn | null;
}

const NEWEST_FIRST = [['number', 'DESC']] as const;

const revisionOf = (row: HubRevisionRow | undefined): HubRevision | undefined => {
	if (!row) return undefined;
	const { id, number, note, issuedBy, issuedAt } = row;
	return { id, number, note, issuedBy, issuedAt, hub: JSON.parse(row.input) as HubInput };
};

/** The newest issued plan; undefined while none is. */
export async function latestHubRevision(hubId: string): Promise<HubRevision | undefined> {
	return revisionOf(await hubRevisions.one({ hubId }, { order: NEWEST_FIRST }));
}

export async function findHubRevision(
	id: string
): Promise<{ hubId: string; revision: HubRevision } | undefined> {
	const row = await hubRevisions.one({ id });
	const revision = revisionOf(row);
	return row && revision && { hubId: row.hubId, revision };
}

/** Every issued plan of a hub, the oldest first. */
export async function allHubRevisions(hubId: string): Promise<HubRevision[]> {
	const columns = ['id', 'hubId', 'number', 'input', 'note', 'issuedBy', 'issuedAt'] as const;
	const rows = await hubRevisions.some(columns, { hubId }, { order: [['number', 'ASC']] });
	return rows.map((row) => present(revisionOf(row), 'issued plan'));
}

/** Ids of issued plans by their number, of those numbers. */
export async function hubRevisionIds(
	hubId: string,
	numbers: readonly number[]
): Promise<Map<number, string>> {
	if (numbers.length === 0) return new Map();
	const rows = await hubRevisions.some(['id', 'number'], { hubId, number: numbers });
	return new Map(rows.map(({ id, number }) => [number, id]));
}

/** Number of the newest issued plan, 0 while none is; a locking read. */
export async function newestHubRevisionNumber(hubId: string, unit: Unit): Promise<number> {
	const choice = { order: NEWEST_FIRST, limit: 1, unit, lock: true };
	const [row] = await hubRevisions.some(['number'], { hubId }, choice);
	return row?.number ?? 0;
}

export async function insertHubRevision(row: HubRevisionRow, unit: Unit): Promise<void> {
	await hubRevisions.add([row], unit);
}

/** Locks the feed of a hub until the unit ends: places are given in the order of commit. */
export async function lockHubFeed(hubId: string, unit: Unit): Promise<HubFeedStanding | undefined> {
	const [row] = await hubs.some(
		['lastSeq', 'digest', 'practice'],
		{ id: hubId },
		{ unit, lock: true }
	);
	if (!row) return undefined;
	const { practice, ...rest } = row;
	return { ...rest, practice: practice === null ? null : (JSON.parse(practice) as HubStandIn) };
}

export async function moveHubFeed(
	hubId: string,
	to: Pick<HubFeedStanding, 'lastSeq' | 'digest'>,
	unit: Unit
): Promise<void> {
	const { lastSeq, digest } = to;
	await hubs.change({ id: hubId }, { lastSeq, digest }, unit);
}

export async function setHubPractice(
	hubId: string,
	practice: HubStandIn | null,
	unit: Unit
): Promise<void> {
	await hubs.change({ id: hubId }, { practice: practice && JSON.stringify(practice) }, unit);
}

/** Throws TakenError where an id is in a feed already. */
export function insertHubRecords(rows: readonly HubRecordRow[], unit: Unit): Promise<void> {
	return hubRecords.add(rows, unit);
}

/** Those of the ids that are in a feed already, of whichever hub, by id. */
export async function storedHubRecords(
	ids: readonly string[],
	unit: Unit
): Promise<Map<string, Pick<HubRecordRow, 'hubId' | 'kind' | 'station' | 'payload' | 'seq'>>> {
	if (ids.length === 0) return new Map();
	const columns = ['id', 'hubId', 'kind', 'station', 'payload', 'seq'] as const;
	const rows = await hubRecords.some(columns, { id: ids }, { unit });
	return new Map(rows.map(({ id, ...row }) => [id, row]));
}

/** Records as they are stored, in order, for whoever follows their digests. */
export function storedHubRecordsAfter(
	hubId: string,
	afterSeq: number,
	limit: number
): Promise<HubRecordRow[]> {
	return select(
		`SELECT id, hub_id AS hubId, seq, revision_id AS revisionId, station, kind, payload,
			recorded_at AS recordedAt, received_at AS receivedAt, recorded_by AS recordedBy, digest
		FROM hub_records WHERE hub_id = ? AND seq > ? ORDER BY seq LIMIT ?`,
		[hubId, afterSeq, limit]
	);
}

interface ReadRow extends Pick<HubRecordRow, 'id' | 'seq' | 'station' | 'kind' | 'payload'> {
	revisionNumber: number;
	recordedAt: Date;
	receivedAt: Date;
	recordedBy: string;
}

const READ = `f.id, f.seq, f.station, f.kind, f.payload, r.number AS revisionNumber,
		f.recorded_at AS recordedAt, f.received_at AS receivedAt, u.display_name AS recordedBy
	FROM hub_records f
	JOIN hub_revisions r ON r.id = f.revision_id
	JOIN users u ON u.id = f.recorded_by`;

function recordOf({ receivedAt, ...row }: ReadRow): HubRecord {
	const recordedAt = row.recordedAt.toISOString();
	const payload = JSON.parse(row.payload) as unknown;
	return { ...row, payload, recordedAt, ...clockOf(recordedAt, receivedAt) } as HubRecord;
}

/** Records of a hub after a place in its feed, in order, as the core reads them. */
export async function hubRecordsAfter(
	hubId: string,
	afterSeq: number,
	limit: number,
	unit?: Unit
): Promise<HubRecord[]> {
	const rows = await select<ReadRow>(
		`SELECT ${READ} WHERE f.hub_id = ? AND f.seq > ? ORDER BY f.seq LIMIT ?`,
		[hubId, afterSeq, limit],
		unit
	);
	return rows.map(recordOf);
}

/** Those of the hubs whose feed goes on beyond the place given with each. */
export async function hubFeedsBeyond(places: ReadonlyMap<string, number>): Promise<string[]> {
	if (places.size === 0) return [];
	const rows = await hubs.some(['id', 'lastSeq'], { id: [...places.keys()] });
	return rows.flatMap(({ id, lastSeq }) => (lastSeq > (places.get(id) ?? 0) ? [id] : []));
}

/** Records of some hubs, of each those after a place in its feed and in order; `more` where the limit cut some off. */
export async function hubRecordsBeyond(
	places: ReadonlyMap<string, number>,
	limit: number
): Promise<{ byFeed: Map<string, HubRecord[]>; more: boolean }> {
	const byFeed = new Map<string, HubRecord[]>();
	if (places.size === 0) return { byFeed, more: false };
	const each = [...places].map(() => '(f.hub_id = ? AND f.seq > ?)').join(' OR ');
	const rows = await select<ReadRow & { hubId: string }>(
		`SELECT f.hub_id AS hubId, ${READ} WHERE ${each} ORDER BY f.hub_id, f.seq LIMIT ?`,
		[...[...places].flat(), limit]
	);
	for (const { hubId, ...row } of rows) {
		const records = byFeed.get(hubId) ?? [];
		records.push(recordOf(row));
		byFeed.set(hubId, records);
	}
	return { byFeed, more: rows.length === limit };
}

/** One signed acceptance of a terminal: a judgement frozen with the plan and the records it judged. */
export interface KeptAcceptance {
	id: string;
	terminal: string;
	/** 1, 2, 3 … of the terminal: one that was changed is accepted anew. */
	number: number;
	revisionNumber: number;
	/** The last record of the terminal and its unit that was judged. */
	lastSeq: number;
	judgement: TerminalJudgement;
	causes: Record<string, string>;
	signature: Signature;
	/** Display name of who signed. */
	signedBy: string;
	signedAt: Date;
	/** Its place, from 1, among those that came along with an import; null of one that was signed here. */
	importedPlace: number | null;
}

interface SignedRow extends Omit<HubAcceptanceRow, 'hubId' | 'revisionId' | 'recordDigest'> {
	revisionNumber: number;
}

/** Every acceptance of a hub's terminals, the oldest first. */
export async function acceptancesOfHub(hubId: string): Promise<KeptAcceptance[]> {
	const rows = await select<SignedRow>(
		`SELECT x.id, x.terminal, x.number, x.last_seq AS lastSeq, x.judgement, x.causes, x.signature,
			x.signed_at AS signedAt, u.display_name AS signedBy, r.number AS revisionNumber,
			x.imported_place AS importedPlace
		FROM hub_acceptances x
		JOIN users u ON u.id = x.signed_by JOIN hub_revisions r ON r.id = x.revision_id
		WHERE x.hub_id = ? ORDER BY x.signed_at, x.id`,
		[hubId]
	);
	return rows.map(readAcceptance);
}

type WrittenAcceptance = Pick<HubAcceptanceRow, 'judgement' | 'causes' | 'signature'>;
type ReadAcceptance = Pick<KeptAcceptance, 'judgement' | 'causes' | 'signature'>;

const readAcceptance = <T extends WrittenAcceptance>(
	row: T
): Omit<T, keyof WrittenAcceptance> & ReadAcceptance => ({
	...row,
	judgement: JSON.parse(row.judgement) as TerminalJudgement,
	causes: JSON.parse(row.causes) as Record<string, string>,
	signature: JSON.parse(row.signature) as Signature
});

/** Throws TakenError where the id or the number of the terminal is taken. */
export async function insertTerminalAcceptance(row: HubAcceptanceRow, unit: Unit): Promise<void> {
	await hubAcceptances.add([row], unit);
}

/** An acceptance with ids in place of names, as an archive holds it. */
export interface StoredAcceptance extends Omit<KeptAcceptance, 'importedPlace'> {
	recordDigest: string;
}

/** Every acceptance of a hub as it is stored: those that came along first, in their order, then those signed here. */
export async function storedAcceptances(hubId: string): Promise<StoredAcceptance[]> {
	const rows = await select<SignedRow & { recordDigest: string }>(
		`SELECT x.id, x.terminal, x.number, x.last_seq AS lastSeq, x.judgement, x.causes, x.signature,
			x.signed_at AS signedAt, x.signed_by AS signedBy, x.record_digest AS recordDigest,
			r.number AS revisionNumber
		FROM hub_acceptances x JOIN hub_revisions r ON r.id = x.revision_id
		WHERE x.hub_id = ? ORDER BY x.imported_place IS NULL, x.imported_place, x.signed_at, x.id`,
		[hubId]
	);
	return rows.map(readAcceptance);
}

/** Digests of the records over which acceptances of a hub's terminals were signed. */
export function signedDigests(
	hubId: string
): Promise<Pick<HubAcceptanceRow, 'terminal' | 'number' | 'recordDigest'>[]> {
	return hubAcceptances.some(['terminal', 'number', 'recordDigest'], { hubId });
}
