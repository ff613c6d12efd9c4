import { QueryTypes, type Transaction } from 'sequelize';
import type { End } from '#core/ends';
import { dependsOnSilence, underBaton, type BatonState } from '#core/record/baton';
import type { FieldRecord, RecordKind, RecordPayloads } from '#core/record/records';
import type { Actor } from '../auth/actor';
import { db, inTransaction } from '../db/connection';
import type { HopRow } from '../db/models';
import { type AppError, againstRule, invalid, refusal } from '../errors';
import {
	insertRecords,
	lockFeedRow,
	updateFeedRow,
	type StoredRecord
} from '../repositories/feeds';
import { getHopRow, requireMayRecord } from './hops';
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
	{ keepOlder = false }: { keepOlder?: boolean } = {}
): Promise<AppendResult[]> {
	const hop = await getHopRow(actor, hopId);
	requireMayRecord(actor, hop);
	const revision = await requireRevision(hopId);
	const older = await olderRevisions(hopId, revision, records);
	return inTransaction((transaction) =>
		appendInTransaction(transaction, actor, hop, revision, () => records, { older, keepOlder })
	);
}

/** Ids of the earlier revisions that records say they were measured against, by number. */
async function olderRevisions(
	hopId: string,
	latest: Revision,
	records: readonly NewRecord[]
): Promise<ReadonlyMap<number, string>> {
	const numbers = records.flatMap(({ revisionNumber }) =>
		revisionNumber !== undefined && revisionNumber !== latest.number ? [revisionNumber] : []
	);
	if (numbers.length === 0) return new Map();
	const rows = await db().query<{ id: string; number: number }>(
		'SELECT id, number FROM plan_revisions WHERE hop_id = ? AND number IN (?)',
		{ replacements: [hopId, [...new Set(numbers)]], type: QueryTypes.SELECT }
	);
	return new Map(rows.map((row) => [row.number, row.id]));
}

/** The newest revision, or the refusal that nothing can be recorded without one. */
export async function requireRevision(hopId: string): Promise<Revision> {
	const revision = await findLatestRevision(hopId);
	if (!revision) {
		throw refusal('no-revision');
	}
	return revision;
}

/**
 * The inner part of {@link appendRecords}, for callers that make their records while the feed is
 * locked. `make` gets the place after which they will stand.
 */
export async function appendInTransaction(
	transaction: Transaction,
	actor: Actor,
	hop: HopRow,
	revision: Revision,
	make: (lastSeq: number) => readonly NewRecord[] | Promise<readonly NewRecord[]>,
	revised: { older: ReadonlyMap<number, string>; keepOlder: boolean } = {
		older: new Map(),
		keepOlder: false
	}
): Promise<AppendResult[]> {
	const state = await lockFeed(hop.id, transaction);
	const records = await make(state.lastSeq);
	await learnOfBaton(state, hop.id, records, transaction);
	const known = await findKnown(
		records.map((record) => record.id),
		transaction
	);
	const results: AppendResult[] = [];
	const fresh: StoredRecord[] = [];
	const now = new Date();
	for (const record of records) {
		const payload = JSON.stringify(record.payload);
		const earlier = known.get(record.id);
		if (earlier) {
			if (
				earlier.hopId !== hop.id ||
				earlier.kind !== record.kind ||
				earlier.end !== record.end ||
				earlier.payload !== payload
			) {
				throw refusal('id-used', 'record');
			}
			results.push({ id: record.id, seq: earlier.seq, repeated: true });
			continue;
		}
		const revisionId = revisionOf(record, revision, revised, results.length);
		applyRules(state, record, results.length);
		state.lastSeq += 1;
		known.set(record.id, {
			hopId: hop.id,
			kind: record.kind,
			end: record.end,
			payload,
			seq: state.lastSeq
		});
		results.push({ id: record.id, seq: state.lastSeq, repeated: false });
		fresh.push({
			id: record.id,
			hopId: hop.id,
			seq: state.lastSeq,
			revisionId,
			end: record.end,
			kind: record.kind,
			payload,
			recordedAt: new Date(record.recordedAt),
			receivedAt: now,
			recordedBy: actor.userId
		});
	}
	if (fresh.length) {
		await insertRecords(fresh, transaction);
		const { lastSeq, rules, openVisit } = state;
		await updateFeedRow(
			hop.id,
			{ lastSeq, baton: rules.baton, ready: rules.ready, openVisit },
			transaction
		);
	}
	return results;
}

/**
 * The revision that a record is kept against: the latest, or the older one it was measured against
 * once somebody has said that it shall stand so.
 */
function revisionOf(
	{ revisionNumber }: NewRecord,
	latest: Revision,
	{ older, keepOlder }: { older: ReadonlyMap<number, string>; keepOlder: boolean },
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

async function lockFeed(hopId: string, transaction: Transaction): Promise<FeedState> {
	const { lastSeq, baton, ready, openVisit, accepted } = await lockFeedRow(hopId, transaction);
	return {
		lastSeq,
		rules: { baton, ready, takenAt: null },
		silentS: Infinity,
		openVisit,
		accepted
	};
}

/** How silent the holder is and how it got the baton: asked only where a record depends on it. */
async function learnOfBaton(
	state: FeedState,
	hopId: string,
	records: readonly NewRecord[],
	transaction: Transaction
): Promise<void> {
	const { baton } = state.rules;
	if (!records.some((record) => dependsOnSilence(record, baton))) return;
	const latest = async (
		where: string
	): Promise<{ received: Date; payload: string } | undefined> => {
		const [row] = await db().query<{ received: Date; payload: string }>(
			`SELECT received_at AS received, payload FROM field_records
			WHERE hop_id = ? AND ${where} ORDER BY seq DESC LIMIT 1`,
			{ replacements: [hopId, baton], type: QueryTypes.SELECT, transaction }
		);
		return row;
	};
	const heard = await latest('end = ?');
	const passed = await latest("kind = 'baton' AND JSON_VALUE(payload, '$.to') = ?");
	const heardAt = Math.max(heard?.received.getTime() ?? 0, passed?.received.getTime() ?? 0);
	state.silentS = heardAt ? (Date.now() - heardAt) / 1000 : Infinity;
	if (passed && (JSON.parse(passed.payload) as RecordPayloads['baton']).how === 'taken') {
		const [taken] = await db().query<{ at: Date }>(
			`SELECT recorded_at AS at FROM field_records
			WHERE hop_id = ? AND kind = 'baton' ORDER BY seq DESC LIMIT 1`,
			{ replacements: [hopId], type: QueryTypes.SELECT, transaction }
		);
		state.rules = { ...state.rules, takenAt: taken?.at.toISOString() ?? null };
	}
}

/** The rules that hold across ends and visits; changes `state` as the record will. */
function applyRules(state: FeedState, record: NewRecord, index: number): void {
	const field = `records.${index}`;
	const against = againstVisits(state, record);
	if (against) throw against.at(field);
	const outcome = underBaton(state.rules, record, state.silentS);
	if (outcome.kind === 'refused') throw againstRule(outcome).at(field);
	state.rules = outcome.state;
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

interface KnownRecord {
	hopId: string;
	kind: string;
	end: End;
	payload: string;
	seq: number;
}

async function findKnown(
	ids: readonly string[],
	transaction: Transaction
): Promise<Map<string, KnownRecord>> {
	if (ids.length === 0) return new Map();
	const rows = await db().query<{
		id: string;
		hop_id: string;
		kind: string;
		end: End;
		payload: string;
		seq: number | string;
	}>('SELECT id, hop_id, kind, end, payload, seq FROM field_records WHERE id IN (?)', {
		replacements: [ids],
		type: QueryTypes.SELECT,
		transaction
	});
	return new Map(
		rows.map((row) => [
			row.id,
			{
				hopId: row.hop_id,
				kind: row.kind,
				end: row.end,
				payload: typeof row.payload === 'string' ? row.payload : JSON.stringify(row.payload),
				seq: Number(row.seq)
			}
		])
	);
}

/** Records of a hop after a place in its feed, in order. No check of the actor. */
export async function readRecords(
	hopId: string,
	afterSeq: number,
	limit = 2000,
	transaction?: Transaction
): Promise<FieldRecord[]> {
	const rows = await db().query<{
		id: string;
		seq: number | string;
		end: End;
		kind: RecordKind;
		payload: string;
		number: number;
		recorded_at: Date;
		name: string;
	}>(
		`SELECT f.id, f.seq, f.end, f.kind, f.payload, r.number, f.recorded_at, u.display_name AS name
		FROM field_records f
		JOIN plan_revisions r ON r.id = f.revision_id
		JOIN users u ON u.id = f.recorded_by
		WHERE f.hop_id = ? AND f.seq > ? ORDER BY f.seq LIMIT ?`,
		{
			replacements: [hopId, afterSeq, limit],
			type: QueryTypes.SELECT,
			transaction: transaction ?? null
		}
	);
	return rows.map((row) => ({
		id: row.id,
		seq: Number(row.seq),
		end: row.end,
		kind: row.kind,
		payload: typeof row.payload === 'string' ? JSON.parse(row.payload) : row.payload,
		revisionNumber: row.number,
		recordedAt: row.recorded_at.toISOString(),
		recordedBy: row.name
	})) as FieldRecord[];
}

/** Every record of a hop. */
export async function readAllRecords(hopId: string): Promise<FieldRecord[]> {
	const all: FieldRecord[] = [];
	for (;;) {
		const part = await readRecords(hopId, all.at(-1)?.seq ?? 0);
		all.push(...part);
		if (part.length < 2000) return all;
	}
}
