import { QueryTypes, type Transaction } from 'sequelize';
import type { End, PerEnd } from '#core/ends';
import type { RecordKind } from '#core/record/records';
import { db } from '../db/connection';

/** What the feed of a hop remembers of itself between two records. */
export interface FeedRow {
	lastSeq: number;
	baton: End;
	ready: PerEnd<boolean>;
	/** Id of the visit that is open; null while none is. */
	openVisit: string | null;
	/** Whether an acceptance of the hop is signed. */
	accepted: boolean;
}

/** Locks the feed of a hop until the transaction ends: places are given in the order of commit. */
export async function lockFeedRow(hopId: string, transaction: Transaction): Promise<FeedRow> {
	const [row] = await db().query<{
		last_seq: number | string;
		baton: End;
		ready_a: number;
		ready_b: number;
		open_visit: string | null;
		accepted: number;
	}>(
		`SELECT last_seq, baton, ready_a, ready_b, open_visit,
			EXISTS (SELECT 1 FROM acceptances x WHERE x.hop_id = hop_feeds.hop_id) AS accepted
		FROM hop_feeds WHERE hop_id = ? FOR UPDATE`,
		{ replacements: [hopId], type: QueryTypes.SELECT, transaction }
	);
	if (!row) throw new Error(`hop ${hopId} has no feed`);
	return {
		lastSeq: Number(row.last_seq),
		baton: row.baton,
		ready: { A: Boolean(row.ready_a), B: Boolean(row.ready_b) },
		openVisit: row.open_visit,
		accepted: Boolean(row.accepted)
	};
}

/** Locks the feed and tells only its last place. */
export async function lockLastSeq(hopId: string, transaction: Transaction): Promise<number> {
	return (await lockFeedRow(hopId, transaction)).lastSeq;
}

export async function updateFeedRow(
	hopId: string,
	{ lastSeq, baton, ready, openVisit }: Omit<FeedRow, 'accepted'>,
	transaction: Transaction
): Promise<void> {
	await db().query(
		`UPDATE hop_feeds SET last_seq = ?, baton = ?, ready_a = ?, ready_b = ?, open_visit = ?
		WHERE hop_id = ?`,
		{
			replacements: [lastSeq, baton, ready.A, ready.B, openVisit, hopId],
			transaction
		}
	);
}

/** One record as it is stored; `payload` is JSON. */
export interface StoredRecord {
	id: string;
	hopId: string;
	seq: number;
	revisionId: string;
	end: End;
	kind: RecordKind;
	payload: string;
	recordedAt: Date;
	receivedAt: Date;
	recordedBy: string;
}

/** Rows in one statement; the driver is never given more than this at once. */
const ROWS_AT_ONCE = 200;

export async function insertRecords(
	rows: readonly StoredRecord[],
	transaction: Transaction
): Promise<void> {
	for (let at = 0; at < rows.length; at += ROWS_AT_ONCE) {
		await db().query(
			`INSERT INTO field_records
			(id, hop_id, seq, revision_id, end, kind, payload, recorded_at, received_at, recorded_by) VALUES ?`,
			{
				replacements: [
					rows
						.slice(at, at + ROWS_AT_ONCE)
						.map((row) => [
							row.id,
							row.hopId,
							row.seq,
							row.revisionId,
							row.end,
							row.kind,
							row.payload,
							row.recordedAt,
							row.receivedAt,
							row.recordedBy
						])
				],
				transaction
			}
		);
	}
}
