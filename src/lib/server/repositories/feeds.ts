import type { End, PerEnd } from '#core/ends';
import type { FieldRecord, RecordKind, RecordPayloads } from '#core/record/records';
import { select, selectOne } from '../db/sql';
import { feeds, fieldRecords, type FieldRecordRow } from '../db/tables';
import type { Unit } from '../db/transaction';

/** What the feed of a hop remembers of itself between two records. */
export interface FeedStanding {
	lastSeq: number;
	baton: End;
	ready: PerEnd<boolean>;
	/** Id of the visit that is open; null while none is. */
	openVisit: string | null;
	/** Digest of the last record. */
	digest: string;
	/** Whether an acceptance of the hop is signed. */
	accepted: boolean;
}

interface StandingRow {
	lastSeq: number;
	baton: End;
	readyA: number;
	readyB: number;
	openVisit: string | null;
	digest: string;
	accepted: number;
}

const STANDING = `SELECT last_seq AS lastSeq, baton, ready_a AS readyA, ready_b AS readyB,
	open_visit AS openVisit, digest,
	EXISTS (SELECT 1 FROM acceptances x WHERE x.hop_id = hop_feeds.hop_id) AS accepted
	FROM hop_feeds WHERE hop_id = ?`;

/** The feed of a hop that is there. */
export async function readFeed(hopId: string): Promise<FeedStanding> {
	return standingOf(hopId, await selectOne<StandingRow>(STANDING, [hopId]));
}

/** Locks the feed of a hop until the unit ends: places are given in the order of commit. */
export async function lockFeed(hopId: string, unit: Unit): Promise<FeedStanding> {
	return standingOf(hopId, await selectOne<StandingRow>(`${STANDING} FOR UPDATE`, [hopId], unit));
}

function standingOf(hopId: string, row: StandingRow | undefined): FeedStanding {
	if (!row) throw new Error(`hop ${hopId} has no feed`);
	return {
		lastSeq: row.lastSeq,
		baton: row.baton,
		ready: { A: Boolean(row.readyA), B: Boolean(row.readyB) },
		openVisit: row.openVisit,
		digest: row.digest,
		accepted: Boolean(row.accepted)
	};
}

/** The feed that a new hop begins with, or that comes with a hop from elsewhere. */
export function insertFeed(
	hopId: string,
	{ lastSeq, baton, ready, openVisit, digest }: Omit<FeedStanding, 'accepted'>,
	unit: Unit
): Promise<void> {
	return feeds.add(
		{ hopId, lastSeq, baton, readyA: ready.A, readyB: ready.B, openVisit, digest },
		unit
	);
}

export async function updateFeed(
	hopId: string,
	{ lastSeq, baton, ready, openVisit, digest }: Omit<FeedStanding, 'accepted'>,
	unit: Unit
): Promise<void> {
	await feeds.change(
		{ hopId },
		{ lastSeq, baton, readyA: ready.A, readyB: ready.B, openVisit, digest },
		unit
	);
}

/** One record as it is stored; `payload` is JSON. */
export type StoredRecord = FieldRecordRow;

export function insertRecords(rows: readonly StoredRecord[], unit: Unit): Promise<void> {
	return fieldRecords.add(rows, unit);
}

/** Those of the ids that are in a feed already, of whichever hop, by id. */
export async function findStoredRecords(
	ids: readonly string[],
	unit: Unit
): Promise<Map<string, Pick<StoredRecord, 'hopId' | 'kind' | 'end' | 'payload' | 'seq'>>> {
	if (ids.length === 0) return new Map();
	const columns = ['id', 'hopId', 'kind', 'end', 'payload', 'seq'] as const;
	const rows = await fieldRecords.some(columns, { id: ids }, { unit });
	return new Map(rows.map(({ id, ...row }) => [id, row]));
}

/** One record of a hop as it is stored. */
export function findStoredRecord(hopId: string, id: string): Promise<StoredRecord | undefined> {
	return fieldRecords.one({ hopId, id });
}

/** The newest record of a kind at an end, or at either. */
export function newestOfKind(
	where: { hopId: string; kind: RecordKind; end?: End },
	unit: Unit
): Promise<StoredRecord | undefined> {
	return fieldRecords.one(where, { order: [['seq', 'DESC']], unit });
}

/** When the newest record of an end came in. */
export async function lastHeardOf(hopId: string, end: End, unit: Unit): Promise<Date | undefined> {
	const choice = { order: [['seq', 'DESC'] as const], limit: 1, unit };
	const [row] = await fieldRecords.some(['receivedAt'], { hopId, end }, choice);
	return row?.receivedAt;
}

/** The newest record that gave the baton to an end. */
export async function lastPassedTo(
	hopId: string,
	end: End,
	unit: Unit
): Promise<{ receivedAt: Date; payload: RecordPayloads['baton'] } | undefined> {
	const row = await selectOne<{ receivedAt: Date; payload: string }>(
		`SELECT received_at AS receivedAt, payload FROM field_records
		WHERE hop_id = ? AND kind = 'baton' AND JSON_VALUE(payload, '$.to') = ?
		ORDER BY seq DESC LIMIT 1`,
		[hopId, end],
		unit
	);
	return (
		row && {
			receivedAt: row.receivedAt,
			payload: JSON.parse(row.payload) as RecordPayloads['baton']
		}
	);
}

/** Records of a hop as they are stored, after a place in its feed, in order. */
export function storedRecordsAfter(
	hopId: string,
	afterSeq: number,
	limit: number
): Promise<StoredRecord[]> {
	return select(
		`SELECT id, hop_id AS hopId, seq, revision_id AS revisionId, end, kind, payload,
			recorded_at AS recordedAt, received_at AS receivedAt, recorded_by AS recordedBy, digest
		FROM field_records WHERE hop_id = ? AND seq > ? ORDER BY seq LIMIT ?`,
		[hopId, afterSeq, limit]
	);
}

/** Records of a hop after a place in its feed, in order, as the core reads them. */
export async function recordsAfter(
	hopId: string,
	afterSeq: number,
	limit: number,
	unit?: Unit
): Promise<FieldRecord[]> {
	const rows = await select<{
		id: string;
		seq: number;
		end: End;
		kind: RecordKind;
		payload: string;
		revisionNumber: number;
		recordedAt: Date;
		recordedBy: string;
	}>(
		`SELECT f.id, f.seq, f.end, f.kind, f.payload, r.number AS revisionNumber,
			f.recorded_at AS recordedAt, u.display_name AS recordedBy
		FROM field_records f
		JOIN plan_revisions r ON r.id = f.revision_id
		JOIN users u ON u.id = f.recorded_by
		WHERE f.hop_id = ? AND f.seq > ? ORDER BY f.seq LIMIT ?`,
		[hopId, afterSeq, limit],
		unit
	);
	return rows.map((row) => ({
		...row,
		payload: JSON.parse(row.payload) as unknown,
		recordedAt: row.recordedAt.toISOString()
	})) as FieldRecord[];
}
