import { QueryTypes, type Transaction } from 'sequelize';
import type { End } from '#core/ends';
import {
	SILENCE_S,
	type FieldRecord,
	type RecordKind,
	type RecordPayloads
} from '#core/record/records';
import type { Actor } from '../auth/actor';
import { db, inTransaction } from '../db/connection';
import type { HopRow } from '../db/models';
import { conflict, invalid } from '../errors';
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
	baton: End;
	ready: Record<End, boolean>;
	/** Seconds since the end with the baton has recorded anything; Infinity if never. */
	silentS: number;
	/** When the baton was taken over, if that is how it came where it is. */
	takenAt: Date | null;
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
		throw conflict(
			'no-revision',
			'No plan revision is issued for this hop yet: nothing can be measured against it.'
		);
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
	const fresh: unknown[][] = [];
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
				throw conflict('id-used', 'A different record was already kept under this id.');
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
		fresh.push([
			record.id,
			hop.id,
			state.lastSeq,
			revisionId,
			record.end,
			record.kind,
			payload,
			new Date(record.recordedAt),
			now,
			actor.userId
		]);
	}
	if (fresh.length) {
		await requireUnsigned(hop.id, transaction);
		await db().query(
			`INSERT INTO field_records
			(id, hop_id, seq, revision_id, end, kind, payload, recorded_at, received_at, recorded_by) VALUES ?`,
			{ replacements: [fresh], transaction }
		);
		await db().query(
			'UPDATE hop_feeds SET last_seq = ?, baton = ?, ready_a = ?, ready_b = ? WHERE hop_id = ?',
			{
				replacements: [state.lastSeq, state.baton, state.ready.A, state.ready.B, hop.id],
				transaction
			}
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
		const message = `Plan revision ${latest.number} was issued meanwhile; this was measured against revision ${revisionNumber}.`;
		throw conflict('plan-revised', message, [{ field, message }]);
	}
	return id;
}

async function lockFeed(hopId: string, transaction: Transaction): Promise<FeedState> {
	const [row] = await db().query<{
		last_seq: number | string;
		baton: End;
		ready_a: number;
		ready_b: number;
	}>('SELECT last_seq, baton, ready_a, ready_b FROM hop_feeds WHERE hop_id = ? FOR UPDATE', {
		replacements: [hopId],
		type: QueryTypes.SELECT,
		transaction
	});
	if (!row) throw new Error(`hop ${hopId} has no feed`);
	return {
		lastSeq: Number(row.last_seq),
		baton: row.baton,
		ready: { A: Boolean(row.ready_a), B: Boolean(row.ready_b) },
		silentS: Infinity,
		takenAt: null
	};
}

/** How silent the holder is and how it got the baton: asked only where a record depends on it. */
async function learnOfBaton(
	state: FeedState,
	hopId: string,
	records: readonly NewRecord[],
	transaction: Transaction
): Promise<void> {
	const depends = records.some(
		({ kind, end, payload }) =>
			(kind === 'baton' && (payload as RecordPayloads['baton']).how === 'taken') ||
			(NEEDS_BATON.has(kind) && end !== state.baton)
	);
	if (!depends) return;
	const latest = async (
		where: string
	): Promise<{ received: Date; payload: string } | undefined> => {
		const [row] = await db().query<{ received: Date; payload: string }>(
			`SELECT received_at AS received, payload FROM field_records
			WHERE hop_id = ? AND ${where} ORDER BY seq DESC LIMIT 1`,
			{ replacements: [hopId, state.baton], type: QueryTypes.SELECT, transaction }
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
		state.takenAt = taken?.at ?? null;
	}
}

async function requireUnsigned(hopId: string, transaction: Transaction): Promise<void> {
	const [signed] = await db().query('SELECT 1 FROM acceptances WHERE hop_id = ?', {
		replacements: [hopId],
		type: QueryTypes.SELECT,
		transaction
	});
	if (signed)
		throw conflict('hop-accepted', 'This hop is accepted and signed; its record is closed.');
}

/** What only the end that holds the baton may do: move its dish, or tighten it. */
const NEEDS_BATON = new Set<RecordKind>([
	'move',
	'sweep',
	'mount-turn',
	'aimed',
	'lock-step',
	'loosen',
	'feed-turn'
]);

/** The rules that hold across ends; changes `state` as the record will. */
function applyRules(state: FeedState, record: NewRecord, index: number): void {
	const field = [{ field: `records.${index}`, message: '' }];
	const refuse = (code: string, message: string): never => {
		throw conflict(code, message, [{ ...field[0]!, message }]);
	};
	if (record.kind === 'alignment-state') {
		state.ready[record.end] = Object.values(record.payload).every((value) => value === true);
	}
	if (NEEDS_BATON.has(record.kind)) {
		if (!state.ready.A || !state.ready.B) {
			refuse(
				'not-in-alignment-state',
				'No dish moves until both ends have confirmed the alignment state.'
			);
		}
		// What was done before the baton was taken away arrives late, and is no less true.
		const late = state.takenAt !== null && new Date(record.recordedAt) < state.takenAt;
		if (state.baton !== record.end && !late) {
			refuse('not-holding-baton', `End ${state.baton} holds the baton; only it may move its dish.`);
		}
	}
	if (record.kind === 'baton') passBaton(state, record, refuse);
}

/** Handed over by its holder, or taken by the other end after the holder's silence. */
function passBaton(
	state: FeedState,
	record: NewRecord,
	refuse: (code: string, message: string) => never
): void {
	const { to, how } = record.payload as RecordPayloads['baton'];
	if (!state.ready.A || !state.ready.B) {
		refuse(
			'not-in-alignment-state',
			'The baton passes once both ends have confirmed the alignment state.'
		);
	}
	if (how !== 'taken') {
		if (state.baton !== record.end) {
			refuse('not-holding-baton', `End ${state.baton} holds the baton; only it can hand it over.`);
		}
		if (to === record.end) refuse('baton-to-self', `End ${to} holds the baton already.`);
		state.takenAt = null;
	} else {
		if (to !== record.end || state.baton === to) {
			refuse('baton-to-self', 'The baton is taken over by the end that does not hold it.');
		}
		if (state.silentS < SILENCE_S) {
			refuse(
				'not-silent',
				`End ${state.baton} was heard ${Math.round(state.silentS)} s ago; its baton may be taken over after ${SILENCE_S} s of silence.`
			);
		}
		state.takenAt = new Date(record.recordedAt);
	}
	state.baton = to;
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
