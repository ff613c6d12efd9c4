import type { End } from '#core/ends';
import { dependsOnSilence, underBaton, type BatonState } from '#core/record/baton';
import { openSnagsAfter, type OpenSnags } from '#core/record/hopTrouble';
import type { FieldRecord, RecordKind, RecordPayloads } from '#core/record/records';
import type { StopCard } from '#core/safety/stopCards';
import { requireMay, type Actor } from '../auth/actor';
import { TakenError, unlessTaken } from '../db/taken';
import { afterCommit, inTransaction, type Unit } from '../db/transaction';
import { AppError, againstRule, invalid, refusal } from '../errors';
import {
	appendUnlessMoved,
	clockOf,
	findStoredRecords,
	insertRecords,
	lastHeardOf,
	lastPassedTo,
	lockFeed,
	newestOfKind,
	recordsAfter,
	updateFeed,
	type FeedStanding,
	type StoredRecord
} from '../repositories/feeds';
import { countRecords } from '../metrics';
import { recordDigest } from '../formats/recordChain';
import { isPractice } from '../repositories/hops';
import type { RecordPlace } from '../repositories/recordPlace';
import { revisionIds } from '../repositories/revisions';
import { getRecordPlace } from './hops';
import { hopFeeds } from './liveFeed';
import { throughGates } from './gates';
import { findLatestRevision, type Revision } from './plans';

/** A record as it comes from a device: no place in the feed yet. */
export interface NewRecord {
	id: string;
	end: End;
	kind: RecordKind;
	payload: RecordPayloads[RecordKind];
	recordedAt: string;
	/** Plan revision it was measured against, where the device says so. */
	revisionNumber?: number;
}

export interface AppendResult {
	id: string;
	seq: number;
	/** True when this id was already in the feed and nothing was added. */
	repeated: boolean;
}

interface FeedState {
	lastSeq: number;
	rules: BatonState;
	/** Seconds since the end with the baton has recorded anything; Infinity if never. */
	silentS: number;
	/** Id of the visit that is open; null while none is. */
	openVisit: string | null;
	openSnags: OpenSnags;
	sentBack: boolean;
	/** Digest of the last record. */
	digest: string;
	accepted: boolean;
}

/**
 * Appends records in order, all or none. A record whose id is already in the feed is left alone;
 * the same id with another content is refused.
 *
 * The hop's feed row is locked meanwhile, so places in the feed are given in the order of commit and
 * without gaps: a reader that asks for everything after the last place it has misses nothing, on
 * whichever server process the records arrive.
 */
export async function appendRecords(
	actor: Actor,
	hopId: string,
	records: readonly NewRecord[],
	{ keepOlder = false, known }: { keepOlder?: boolean; known?: RecordPlace | undefined } = {}
): Promise<AppendResult[]> {
	const place = await getRecordPlace(actor, hopId, known);
	if (records.some(({ kind }) => kind === 'sent-back')) requireMay(actor, 'sign');
	const revision = place.latest ?? noRevision();
	const older = await olderRevisions(hopId, revision, records);
	const cards = await throughGates(hopId, [revision.number, ...older.keys()], records);
	const done = await appendAtOnce(actor, place, revision, { records, cards });
	if (done) return done;
	const append = (): Promise<AppendResult[]> =>
		inTransaction((unit) =>
			appendInTransaction(unit, actor, hopId, revision, () => records, { older, keepOlder, cards })
		);
	// The same id may be coming in on another hop: once that is done, it is known here and refused.
	return unlessTaken(append, append);
}

/**
 * The short way of {@link appendRecords}, for what is recorded most: the feed as it was read, the rules, and one
 * statement that writes if the feed still stands there. Undefined where anything speaks against it, and nothing
 * is done: a record that is there already, another that came first, a rule, or one that takes more to know.
 */
async function appendAtOnce(
	actor: Actor,
	{ hopId, feed }: RecordPlace,
	revision: RevisionPlace,
	{ records, cards: before }: { records: readonly NewRecord[]; cards: Revised['cards'] }
): Promise<AppendResult[] | undefined> {
	const state = stateOf(feed);
	const takesMore = (record: NewRecord): boolean =>
		(record.revisionNumber ?? revision.number) !== revision.number ||
		isSimulated(record) ||
		dependsOnSilence(record, feed.baton);
	if (records.length === 0 || records.some(takesMore)) return undefined;
	try {
		const placed = placeRecords(actor, state, {
			...{ hopId, revision, records },
			revised: { ...NOTHING_REVISED, cards: before }
		});
		if (!(await appendUnlessMoved(placed.fresh, feed, feedOf(state)))) return undefined;
		appended(hopId, placed.told);
		return placed.results;
	} catch (error) {
		if (error instanceof TakenError || error instanceof AppError) return undefined;
		throw error;
	}
}

/** Ids of the earlier revisions that records say they were measured against, by number. */
async function olderRevisions(
	hopId: string,
	latest: RevisionPlace,
	records: readonly NewRecord[]
): Promise<ReadonlyMap<number, string>> {
	const numbers = records.flatMap(({ revisionNumber }) =>
		revisionNumber !== undefined && revisionNumber !== latest.number ? [revisionNumber] : []
	);
	return numbers.length ? revisionIds(hopId, numbers) : new Map();
}

/** The newest revision, or the refusal that nothing can be recorded without one. */
export async function requireRevision(hopId: string): Promise<Revision> {
	return (await findLatestRevision(hopId)) ?? noRevision();
}

const noRevision = (): never => {
	throw refusal('no-revision');
};

/** As much of a revision as a record states of it. */
type RevisionPlace = Pick<Revision, 'id' | 'number'>;

/** What somebody has said of records measured against an earlier revision. */
interface Revised {
	/** Ids of earlier revisions by number. */
	older: ReadonlyMap<number, string>;
	/** Whether what was measured against one shall stand so. */
	keepOlder: boolean;
	/** The card that stands before a record by its id, beside those of its kind. */
	cards: ReadonlyMap<string, StopCard>;
}

const NOTHING_REVISED: Revised = { older: new Map(), keepOlder: false, cards: new Map() };

/**
 * The inner part of {@link appendRecords}, for callers that make their records while the feed is
 * locked. `make` gets the place after which they will stand.
 */
export async function appendInTransaction(
	unit: Unit,
	actor: Actor,
	hopId: string,
	revision: RevisionPlace,
	make: (lastSeq: number) => readonly NewRecord[] | Promise<readonly NewRecord[]>,
	revised: Revised = NOTHING_REVISED
): Promise<AppendResult[]> {
	const state = stateOf(await lockFeed(hopId, unit));
	const records = await make(state.lastSeq);
	await learnOfBaton(state, hopId, records, unit);
	const ids = records.map(({ id }) => id);
	const known = await findStoredRecords(ids, unit);
	// Looked at under the lock: whether a hop is for practice may have changed until now.
	const practice = records.some(isSimulated) && (await isPractice(hopId, unit));
	const what = { hopId, revision, records, known, practice, revised };
	const { results, fresh, told } = placeRecords(actor, state, what);
	if (fresh.length) {
		await insertRecords(fresh, unit);
		await updateFeed(hopId, feedOf(state), unit);
		afterCommit(unit, () => appended(hopId, told));
	}
	return results;
}

interface ToPlace {
	hopId: string;
	/** The newest. */
	revision: RevisionPlace;
	records: readonly NewRecord[];
	/** Those of the records that are in a feed already, by id. */
	known?: Awaited<ReturnType<typeof findStoredRecords>>;
	practice?: boolean;
	revised?: Revised;
}

/**
 * Gives records their places in a feed by its rules, moves `state` on, and throws what stands against one.
 *
 * @returns what was asked for each, what is to be stored, and the same as its followers are told of it
 */
function placeRecords(
	actor: Actor,
	state: FeedState,
	{
		hopId,
		revision,
		records,
		known = new Map(),
		practice = false,
		revised = NOTHING_REVISED
	}: ToPlace
): { results: AppendResult[]; fresh: StoredRecord[]; told: FieldRecord[] } {
	const results: AppendResult[] = [];
	const fresh: StoredRecord[] = [];
	const told: FieldRecord[] = [];
	const now = new Date();
	for (const record of records) {
		const payload = JSON.stringify(record.payload);
		const earlier = known.get(record.id);
		if (earlier) {
			if (
				earlier.hopId !== hopId ||
				earlier.kind !== record.kind ||
				earlier.end !== record.end ||
				earlier.payload !== payload
			) {
				throw refusal('id-used', 'record');
			}
			results.push({ id: record.id, seq: earlier.seq, repeated: true });
			continue;
		}
		if (isSimulated(record) && !practice) {
			throw refusal('simulated-on-real').at(`records.${results.length}.payload.source`);
		}
		const revisionId = revisionOf(record, revision, revised, results.length);
		applyRules(state, record, results.length, revised.cards.get(record.id));
		state.lastSeq += 1;
		const { id, end, kind } = record;
		known.set(id, { hopId, kind, end, payload, seq: state.lastSeq });
		results.push({ id, seq: state.lastSeq, repeated: false });
		const row = {
			...{ id, hopId, seq: state.lastSeq, revisionId, end, kind, payload },
			recordedAt: new Date(record.recordedAt),
			receivedAt: now,
			recordedBy: actor.userId
		};
		state.digest = digestOfRow(state.digest, row);
		fresh.push({ ...row, digest: state.digest });
		told.push({
			...{ id, seq: state.lastSeq, end, kind, payload: JSON.parse(payload) as unknown },
			revisionNumber: revisionId === revision.id ? revision.number : record.revisionNumber,
			recordedAt: row.recordedAt.toISOString(),
			recordedBy: actor.displayName,
			...clockOf(row.recordedAt.toISOString(), now)
		} as FieldRecord);
	}
	return { results, fresh, told };
}

/** What is stored is told here and counted. */
function appended(hopId: string, told: readonly FieldRecord[]): void {
	countRecords(told.length);
	hopFeeds.tell(hopId, told);
}

/** Digest of a row of the record, as its hop's archive will state it. */
export function digestOfRow(previous: string, row: Omit<StoredRecord, 'digest'>): string {
	return recordDigest(previous, {
		...row,
		payload: JSON.parse(row.payload) as unknown,
		recordedAt: row.recordedAt.toISOString(),
		receivedAt: row.receivedAt.toISOString()
	});
}

/** Whether a record says that it comes from the simulated hop. */
const isSimulated = ({ payload }: NewRecord): boolean =>
	'source' in payload && payload.source === 'simulated';

/**
 * The revision that a record is kept against: the latest, or the older one it was measured against
 * once somebody has said that it shall stand so.
 */
function revisionOf(
	{ revisionNumber }: NewRecord,
	latest: RevisionPlace,
	{ older, keepOlder }: Revised,
	index: number
): string {
	if (revisionNumber === undefined || revisionNumber === latest.number) return latest.id;
	const id = older.get(revisionNumber);
	const field = `records.${index}.revisionNumber`;
	if (!id) {
		throw invalid([{ field, message: `This hop has no plan revision ${revisionNumber}.` }]);
	}
	if (!keepOlder) {
		throw refusal('plan-revised', { to: latest.number, measuredAgainst: revisionNumber }).at(field);
	}
	return id;
}

const stateOf = ({ baton, ready, cards, ...rest }: FeedStanding): FeedState => ({
	...rest,
	rules: { baton, ready, takenAt: null, cards },
	silentS: Infinity
});

/** What the feed remembers of a state. */
const feedOf = ({
	rules: { baton, ready, cards },
	lastSeq,
	openVisit,
	openSnags,
	sentBack,
	digest
}: FeedState): Omit<FeedStanding, 'accepted'> => ({
	...{ lastSeq, baton, ready, openVisit, cards, openSnags, sentBack, digest }
});

/** How silent the holder is and how it got the baton: asked only where a record depends on it. */
async function learnOfBaton(
	state: FeedState,
	hopId: string,
	records: readonly NewRecord[],
	unit: Unit
): Promise<void> {
	const { baton } = state.rules;
	if (!records.some((record) => dependsOnSilence(record, baton))) return;
	const heardAt = await lastHeardOf(hopId, baton, unit);
	const passed = await lastPassedTo(hopId, baton, unit);
	const since = Math.max(heardAt?.getTime() ?? 0, passed?.receivedAt.getTime() ?? 0);
	state.silentS = since ? (Date.now() - since) / 1000 : Infinity;
	if (passed?.payload.how === 'taken') {
		const taken = await newestOfKind({ hopId, kind: 'baton' }, unit);
		state.rules = { ...state.rules, takenAt: taken?.recordedAt.toISOString() ?? null };
	}
}

/** The rules that hold across ends and visits; changes `state` as the record will. */
function applyRules(
	state: FeedState,
	record: NewRecord,
	index: number,
	card: StopCard | undefined
): void {
	const field = `records.${index}`;
	const against = againstVisits(state, record);
	if (against) throw against.at(field);
	const outcome = underBaton(state.rules, record, state.silentS, card);
	if (outcome.kind === 'refused') throw againstRule(outcome).at(field);
	state.rules = outcome.state;
	state.openSnags = openSnagsAfter(state.openSnags, record);
	if (record.kind === 'sent-back') state.sentBack = true;
}

/** After its acceptance a hop is worked on in visits only, one at a time. */
function againstVisits(state: FeedState, { kind, payload }: NewRecord): AppError | undefined {
	if (kind === 'visit-opened') {
		const { visitId } = payload as RecordPayloads['visit-opened'];
		if (!state.accepted) return refusal('not-accepted-yet');
		if (state.openVisit) return refusal('visit-open', 'another');
		state.openVisit = visitId;
		return undefined;
	}
	if (kind === 'visit-closed') {
		const { visitId } = payload as RecordPayloads['visit-closed'];
		if (state.openVisit !== visitId) return refusal('visit-not-open');
		state.openVisit = null;
		return undefined;
	}
	return state.accepted && !state.openVisit ? refusal('hop-accepted') : undefined;
}

/** Records read at once. */
const RECORDS_AT_ONCE = 2000;

/** Records of a hop after a place in its feed, in order. No check of the actor. */
export function readRecords(
	hopId: string,
	afterSeq: number,
	{ limit = RECORDS_AT_ONCE, unit }: { limit?: number; unit?: Unit } = {}
): Promise<FieldRecord[]> {
	return recordsAfter(hopId, afterSeq, limit, unit);
}

/** Every record of a hop. */
export async function readAllRecords(hopId: string): Promise<FieldRecord[]> {
	const all: FieldRecord[] = [];
	for (;;) {
		const part = await readRecords(hopId, all.at(-1)?.seq ?? 0);
		all.push(...part);
		if (part.length < RECORDS_AT_ONCE) return all;
	}
}
