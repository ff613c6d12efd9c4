import { hubWorkFrom, type HubWork } from '#core/bringup/bringUp';
import { advancedHub, EMPTY_HUB_STATE, type HubState } from '#core/bringup/foldHub';
import type { HubRecord, NewHubRecord } from '#core/bringup/hubRecords';
import { refusedHubRecord, type HubRuleRefusal } from '#core/bringup/hubRules';
import { present } from '#core/units/lists';
import { resolveHub } from '#core/hub/hubDraft';
import type { HubInput } from '#core/hub/hubInput';
import { requireMay, type Actor } from '../auth/actor';
import { unlessTaken } from '../db/taken';
import { afterCommit, inTransaction, type Unit } from '../db/transaction';
import { AppError, againstRule, invalid, notFound, refusal } from '../errors';
import { hubRecordDigest } from '../formats/recordChain';
import { inWorker } from '../jobs/pool';
import { audit } from '../repositories/audit';
import { clockOf } from '../repositories/feeds';
import { findHub } from '../repositories/hubs';
import {
	findHubRevision,
	hubFeedsBeyond,
	hubRecordsAfter,
	hubRecordsBeyond,
	hubRevisionIds,
	insertHubRecords,
	insertHubRevision,
	latestHubRevision,
	lockHubFeed,
	moveHubFeed,
	newestHubRevisionNumber,
	storedHubRecords,
	type HubFeedStanding,
	type HubRevision,
	type StoredHubRecord
} from '../repositories/hubWork';
import type { AppendResult } from './feed';
import { feedFollower } from './feedFollower';
import { getHub, type Hub } from './hubs';
import { catalogue } from './parts';

export type { HubRevision, NewHubRecord };

/** The feeds of hubs that somebody follows on this process. */
export const hubFeeds = feedFollower('hubs', {
	after: hubRecordsAfter,
	moved: hubFeedsBeyond,
	beyond: hubRecordsBeyond
});

/** The work of issued plans: they never change, and crews record many times against one. */
const KNOWN = new Map<string, Promise<HubWork>>();
const MOST_KNOWN = 16;

/** What is put up by an issued plan, and how; its plan is made beside the event loop. */
export function workOfRevision({ id, hub }: HubRevision): Promise<HubWork> {
	const known = KNOWN.get(id);
	if (known) return known;
	const made = inWorker('plan-hub', hub).then((plan) => hubWorkFrom(hub, plan));
	// One that failed is tried again by whoever asks next.
	made.catch(() => KNOWN.delete(id));
	const [oldest] = KNOWN.keys();
	if (KNOWN.size >= MOST_KNOWN && oldest !== undefined) KNOWN.delete(oldest);
	KNOWN.set(id, made);
	return made;
}

/** The newest issued plan of a hub; null while none is. */
export async function hubInForce(actor: Actor, hubId: string): Promise<HubRevision | null> {
	requireMay(actor, 'read-hops');
	if (!(await findHub(hubId))) throw notFound('hub');
	return (await latestHubRevision(hubId)) ?? null;
}

export async function requireHubRevision(hubId: string): Promise<HubRevision> {
	const latest = await latestHubRevision(hubId);
	if (!latest) throw refusal('hub-not-issued');
	return latest;
}

/**
 * Issues the plan of a hub: units, terminals and parts frozen, numbered 1, 2, 3 … A repeat with the same id gives
 * what was issued the first time.
 */
export async function issueHub(
	actor: Actor,
	hubId: string,
	request: { id: string; version: number; note: string }
): Promise<HubRevision> {
	requireMay(actor, 'issue-revision');
	const same = await findHubRevision(request.id);
	if (same && same.hubId !== hubId) throw refusal('id-used', 'revision');
	if (same) return same.revision;
	const { plan, site, version, name } = await getHub(actor, hubId);
	if (version !== request.version) throw refusal('changed-meanwhile', { what: 'plan' });
	const resolved = resolveHub(plan, site, await catalogue());
	if (resolved.kind !== 'input') {
		const message = 'There is no such part.';
		throw invalid(resolved.fields.map((field) => ({ field, message })));
	}
	const hub = withPlaceOnly(resolved.input);
	const { findings } = await inWorker('plan-hub', hub);
	const errors = findings.filter(({ severity }) => severity === 'error');
	if (errors.length || hub.terminals.length === 0) {
		throw refusal('plan-has-errors').with(
			errors.length
				? errors.map(({ field, message }) => ({ field, message }))
				: [{ field: 'terminals', message: 'The hub has no terminal yet.' }]
		);
	}
	await inTransaction(async (unit) => {
		if (!(await lockHubFeed(hubId, unit))) throw notFound('hub');
		const number = (await newestHubRevisionNumber(hubId, unit)) + 1;
		await insertHubRevision(
			{
				...{ id: request.id, hubId, number, note: request.note },
				input: JSON.stringify(hub),
				issuedBy: actor.userId,
				issuedAt: new Date()
			},
			unit
		);
		await audit(actor.userId, 'issue-hub', `hub:${hubId}`, { name, number }, unit);
	});
	return present(await findHubRevision(request.id), 'issued plan').revision;
}

/** Whether what is planned now would be issued as another plan than the one in force. */
export async function hubDiffers({ plan, site }: Hub, { hub }: HubRevision): Promise<boolean> {
	const resolved = resolveHub(plan, site, await catalogue());
	return (
		resolved.kind !== 'input' ||
		JSON.stringify(withPlaceOnly(resolved.input)) !== JSON.stringify(hub)
	);
}

/** Of the site no more than the plan needs. */
function withPlaceOnly(input: HubInput): HubInput {
	const { name, latitudeDeg, longitudeDeg, groundAmslM } = input.place;
	return { ...input, place: { name, latitudeDeg, longitudeDeg, groundAmslM } };
}

const RECORDS_AT_ONCE = 2000;

/** Records of a hub after a place in its feed, in order. */
export async function hubRecordsOf(
	actor: Actor,
	hubId: string,
	afterSeq: number,
	limit = RECORDS_AT_ONCE
): Promise<HubRecord[]> {
	requireMay(actor, 'read-hops');
	if (!(await findHub(hubId))) throw notFound('hub');
	return hubRecordsAfter(hubId, afterSeq, limit);
}

/** Every record of a hub, in order. */
export async function allRecordsOfHub(actor: Actor, hubId: string): Promise<HubRecord[]> {
	const all: HubRecord[] = [];
	for (;;) {
		const part = await hubRecordsOf(actor, hubId, all.at(-1)?.seq ?? 0);
		all.push(...part);
		if (part.length < RECORDS_AT_ONCE) return all;
	}
}

/** States as they were last folded here: what was recorded never changes, so each goes on from where it was. */
const FOLDED = new Map<string, HubState>();
const MOST_FOLDED = 32;

/** Where a hub stands by every record that is there, in the unit where one is given. */
export async function standingOf(hubId: string, unit?: Unit): Promise<HubState> {
	let state = FOLDED.get(hubId) ?? EMPTY_HUB_STATE;
	for (;;) {
		const part = await hubRecordsAfter(hubId, state.lastSeq, RECORDS_AT_ONCE, unit);
		state = advancedHub(state, part);
		if (part.length < RECORDS_AT_ONCE) break;
	}
	FOLDED.delete(hubId);
	const [oldest] = FOLDED.keys();
	if (FOLDED.size >= MOST_FOLDED && oldest !== undefined) FOLDED.delete(oldest);
	FOLDED.set(hubId, state);
	return state;
}

/**
 * Appends records in order, all or none. A record whose id is already in the feed is left alone; the same id with
 * another content is refused.
 */
export async function recordAtHub(
	actor: Actor,
	hubId: string,
	records: readonly NewHubRecord[],
	keepOlder = false
): Promise<AppendResult[]> {
	const revision = await requireHubRevision(hubId);
	const append = (): Promise<AppendResult[]> =>
		appendToHub(actor, { hubId, revision, keepOlder }, () => records);
	// The same id may be coming in twice: once that is done, it is known here.
	return unlessTaken(append, append);
}

interface AppendTo {
	hubId: string;
	/** The newest. */
	revision: HubRevision;
	keepOlder: boolean;
}

/**
 * The inner part of {@link recordAtHub}, for callers that make their records while the feed is locked; `make` gets
 * the hub as it then stands.
 */
export async function appendToHub(
	actor: Actor,
	{ hubId, revision, keepOlder }: AppendTo,
	make: (
		state: HubState,
		feed: HubFeedStanding
	) => readonly NewHubRecord[] | Promise<readonly NewHubRecord[]>
): Promise<AppendResult[]> {
	const work = await workOfRevision(revision);
	return inTransaction(async (unit) => {
		const feed = await lockHubFeed(hubId, unit);
		if (!feed) throw notFound('hub');
		requireMay(actor, feed.practice ? 'record-practice' : 'record');
		let state = await standingOf(hubId, unit);
		const records = await make(state, feed);
		const known = await storedHubRecords(
			records.map(({ id }) => id),
			unit
		);
		const olderIds = await hubRevisionIds(hubId, olderNumbers(records, revision));
		const results: AppendResult[] = [];
		const rows: StoredHubRecord[] = [];
		const told: HubRecord[] = [];
		const now = new Date();
		let { digest, lastSeq } = feed;
		for (const [i, record] of records.entries()) {
			const { id, station, kind } = record;
			const payload = JSON.stringify(record.payload);
			const earlier = known.get(id);
			if (earlier) {
				const same =
					earlier.hubId === hubId &&
					earlier.kind === kind &&
					earlier.station === station &&
					earlier.payload === payload;
				if (!same) throw refusal('id-used', 'record');
				results.push({ id, seq: earlier.seq, repeated: true });
				continue;
			}
			if (isSimulated(record) && !feed.practice) {
				throw refusal('simulated-on-real').at(`records.${i}.payload.source`);
			}
			const revisionId = revisionIdOf(record, { revision, keepOlder, olderIds, index: i });
			const made = { ...record, seq: ++lastSeq } as unknown as HubRecord;
			const against = refusedHubRecord(work, state, made);
			if (against) throw refusedAt(against, i);
			const recordedAt = new Date(record.recordedAt);
			const row = {
				...{ id, hubId, seq: lastSeq, revisionId, station, kind, payload, recordedAt },
				receivedAt: now,
				recordedBy: actor.userId
			};
			digest = digestOfHubRow(digest, row);
			rows.push({ ...row, digest });
			const placed = {
				...made,
				payload: JSON.parse(payload) as unknown,
				recordedAt: recordedAt.toISOString(),
				revisionNumber: record.revisionNumber ?? revision.number,
				recordedBy: actor.displayName,
				...clockOf(recordedAt.toISOString(), now)
			} as HubRecord;
			told.push(placed);
			known.set(id, { hubId, kind, station, payload, seq: lastSeq });
			state = advancedHub(state, [placed]);
			results.push({ id, seq: lastSeq, repeated: false });
		}
		if (rows.length) {
			await insertHubRecords(rows, unit);
			await moveHubFeed(hubId, { lastSeq, digest }, unit);
			afterCommit(unit, () => hubFeeds.tell(hubId, told));
		}
		return results;
	});
}

const isSimulated = ({ payload }: NewHubRecord): boolean =>
	'source' in payload && payload.source === 'simulated';

/** Digest of a row of a hub's record. */
export function digestOfHubRow(previous: string, row: Omit<StoredHubRecord, 'digest'>): string {
	const { id, hubId, seq, revisionId, station, kind, recordedBy } = row;
	return hubRecordDigest(previous, {
		...{ id, hubId, seq, revisionId, station, kind, recordedBy },
		payload: JSON.parse(row.payload) as unknown,
		recordedAt: row.recordedAt.toISOString(),
		receivedAt: row.receivedAt.toISOString()
	});
}

const olderNumbers = (records: readonly NewHubRecord[], latest: HubRevision): number[] =>
	records.flatMap(({ revisionNumber }) =>
		revisionNumber !== undefined && revisionNumber !== latest.number ? [revisionNumber] : []
	);

/** The issued plan that a record is kept against: the newest, or an older one once somebody has said so. */
function revisionIdOf(
	{ revisionNumber }: NewHubRecord,
	{
		revision,
		keepOlder,
		olderIds,
		index
	}: {
		revision: HubRevision;
		keepOlder: boolean;
		olderIds: ReadonlyMap<number, string>;
		index: number;
	}
): string {
	if (revisionNumber === undefined || revisionNumber === revision.number) return revision.id;
	const field = `records.${index}.revisionNumber`;
	const id = olderIds.get(revisionNumber);
	if (!id) {
		throw invalid([{ field, message: `This hub has no plan revision ${revisionNumber}.` }]);
	}
	if (!keepOlder) {
		throw refusal('plan-revised', { to: revision.number, measuredAgainst: revisionNumber }).at(
			field
		);
	}
	return id;
}

/** What the rules of the core refuse, as the API says it. */
function refusedAt({ code, message, field }: HubRuleRefusal, index: number): AppError {
	const at = `records.${index}${field ? `.payload.${field}` : ''}`;
	switch (code) {
		case 'gate':
			return refusal('against-gate', message).at(at);
		case 'no-such-station':
		case 'not-at-a-unit':
			return invalid([{ field: `records.${index}.station`, message }]);
		default:
			return againstRule({ code, message }).at(at);
	}
}
