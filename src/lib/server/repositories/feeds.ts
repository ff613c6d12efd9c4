import type { End, PerEnd } from '#core/ends';
import { clockAheadS } from '#core/record/deviceClock';
import type { OpenSnags } from '#core/record/hopTrouble';
import type { FieldRecord, RecordKind, RecordPayloads } from '#core/record/records';
import type { CardsStanding } from '#core/safety/cardRule';
import { itemAt } from '#core/units/lists';
import { run, select, selectOne, timeText } from '../db/sql';
import { sayTaken } from '../db/table';
import { feeds, fieldRecords, type FeedRow, type FieldRecordRow } from '../db/tables';
import { mayRunAgain, type Unit } from '../db/transaction';

/** What the feed of a hop remembers of itself between two records. */
export interface FeedStanding {
	lastSeq: number;
	baton: End;
	ready: PerEnd<boolean>;
	/** Id of the visit that is open; null while none is. */
	openVisit: string | null;
	/** The stop cards as they were last answered; null on feeds from before they were kept here. */
	cards: CardsStanding | null;
	/** The snags that are open. */
	openSnags: OpenSnags;
	/** Whether the acceptor has sent it back and not signed since. */
	sentBack: boolean;
	/** Digest of the last record. */
	digest: string;
	/** Whether an acceptance of the hop is signed. */
	accepted: boolean;
}

export interface StandingRow {
	lastSeq: number;
	baton: End;
	readyA: number;
	readyB: number;
	openVisit: string | null;
	cards: string | null;
	openSnags: string | null;
	sentBack: number;
	digest: string;
	accepted: number;
}

const IS_ACCEPTED = 'EXISTS (SELECT 1 FROM acceptances x WHERE x.hop_id = hop_feeds.hop_id)';

/** Columns of a {@link StandingRow}, of `hop_feeds`. */
export const STANDING_COLUMNS = `hop_feeds.last_seq AS lastSeq, hop_feeds.baton,
	hop_feeds.ready_a AS readyA, hop_feeds.ready_b AS readyB, hop_feeds.open_visit AS openVisit,
	hop_feeds.cards, hop_feeds.open_snags AS openSnags,
	hop_feeds.sent_back AS sentBack, hop_feeds.digest, ${IS_ACCEPTED} AS accepted`;

const STANDING = `SELECT ${STANDING_COLUMNS} FROM hop_feeds WHERE hop_id = ?`;

/** The feed of a hop that is there. */
export async function readFeed(hopId: string): Promise<FeedStanding> {
	return standingOf(hopId, await selectOne<StandingRow>(STANDING, [hopId]));
}

/** Locks the feed of a hop until the unit ends: places are given in the order of commit. */
export async function lockFeed(hopId: string, unit: Unit): Promise<FeedStanding> {
	return standingOf(hopId, await selectOne<StandingRow>(`${STANDING} FOR UPDATE`, [hopId], unit));
}

export function standingOf(hopId: string, row: StandingRow | undefined): FeedStanding {
	if (!row) throw new Error(`hop ${hopId} has no feed`);
	return {
		lastSeq: row.lastSeq,
		baton: row.baton,
		ready: { A: Boolean(row.readyA), B: Boolean(row.readyB) },
		openVisit: row.openVisit,
		cards: row.cards === null ? null : (JSON.parse(row.cards) as CardsStanding),
		openSnags: openSnagsIn(row.openSnags),
		sentBack: Boolean(row.sentBack),
		digest: row.digest,
		accepted: Boolean(row.accepted)
	};
}

/** As they are kept; feeds older than this have said nothing of any. */
export const openSnagsIn = (text: string | null): OpenSnags =>
	text === null ? {} : (JSON.parse(text) as OpenSnags);

/** What a feed remembers, as its table keeps it. */
const columnsOf = ({
	ready,
	cards,
	openSnags,
	...rest
}: Omit<FeedStanding, 'accepted'>): Omit<FeedRow, 'hopId'> => ({
	...rest,
	...{ readyA: ready.A, readyB: ready.B },
	cards: cards && JSON.stringify(cards),
	openSnags: JSON.stringify(openSnags)
});

/** The feeds that new hops begin with, or that come with a hop from elsewhere. */
export function insertFeeds(
	added: readonly (Omit<FeedStanding, 'accepted'> & { hopId: string })[],
	unit: Unit
): Promise<void> {
	return feeds.add(
		added.map(({ hopId, ...standing }) => ({ hopId, ...columnsOf(standing) })),
		unit
	);
}

export async function updateFeed(
	hopId: string,
	standing: Omit<FeedStanding, 'accepted'>,
	unit: Unit
): Promise<void> {
	await feeds.change({ hopId }, columnsOf(standing), unit);
}

/** An acceptance is signed: what it was sent back for is done with. */
export const noLongerSentBack = (hopId: string, unit: Unit): Promise<number> =>
	feeds.change({ hopId }, { sentBack: false }, unit);

/** One record as it is stored; `payload` is JSON. */
export type StoredRecord = FieldRecordRow;

export function insertRecords(rows: readonly StoredRecord[], unit: Unit): Promise<void> {
	return fieldRecords.add(rows, unit);
}

/** What a statement says that finds the feed further on than it was said to be. */
const MOVED_ON = 'the feed has moved on';

const RECORD_COLUMNS = `id, hop_id, seq, revision_id, end, kind, payload, recorded_at, received_at,
	recorded_by, digest`;

/**
 * Appends records in one statement, if the feed still stands where it was read: otherwise nothing is done, and
 * whoever asks locks the feed and looks again. Throws TakenError where an id is in a feed already.
 */
export async function appendUnlessMoved(
	rows: readonly StoredRecord[],
	before: Pick<FeedStanding, 'lastSeq' | 'digest' | 'accepted'>,
	after: Omit<FeedStanding, 'accepted'>
): Promise<boolean> {
	const values = rows.map((row) => [
		...[row.id, row.hopId, row.seq, row.revisionId, row.end, row.kind, row.payload],
		...[timeText(row.recordedAt), timeText(row.receivedAt), row.recordedBy, row.digest]
	]);
	return unlessMoved(() =>
		run(
			`BEGIN NOT ATOMIC
				DECLARE EXIT HANDLER FOR SQLEXCEPTION BEGIN ROLLBACK; RESIGNAL; END;
				START TRANSACTION;
				UPDATE hop_feeds SET last_seq = :lastSeq, baton = :baton, ready_a = :readyA,
					ready_b = :readyB, open_visit = :openVisit, cards = :cards,
					open_snags = :openSnags, sent_back = :sentBack, digest = :digest
				WHERE hop_id = :hopId AND last_seq = :fromSeq AND digest = :fromDigest
					AND ${IS_ACCEPTED} = :accepted;
				IF ROW_COUNT() = 0 THEN
					SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = :movedOn;
				END IF;
				INSERT INTO field_records (${RECORD_COLUMNS}) VALUES :values;
				COMMIT;
			END`,
			{
				...columnsOf(after),
				...{ values, hopId: itemAt(rows, 0).hopId, movedOn: MOVED_ON },
				...{ fromSeq: before.lastSeq, fromDigest: before.digest, accepted: before.accepted }
			}
		)
	);
}

/** Whether it was done; also the database's own word that others were in the way means that it was not. */
async function unlessMoved(work: () => Promise<void>): Promise<boolean> {
	try {
		await sayTaken(work);
		return true;
	} catch (error) {
		const message = (error as { parent?: { sqlMessage?: string } }).parent?.sqlMessage;
		if (message === MOVED_ON || mayRunAgain(error)) return false;
		throw error;
	}
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

/** The newest reading of one dish of an end. */
export async function newestReading(
	{ hopId, end, dish }: { hopId: string; end: End; dish: 1 | 2 },
	unit: Unit
): Promise<{ recordedAt: Date; payload: RecordPayloads['reading'] } | undefined> {
	const row = await selectOne<{ recordedAt: Date; payload: string }>(
		`SELECT recorded_at AS recordedAt, payload FROM field_records
		WHERE hop_id = ? AND \`end\` = ? AND kind = 'reading'
		AND COALESCE(JSON_VALUE(payload, '$.dish'), 1) = ?
		ORDER BY seq DESC LIMIT 1`,
		[hopId, end, dish],
		unit
	);
	return row && { ...row, payload: JSON.parse(row.payload) as RecordPayloads['reading'] };
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

interface ReadRow {
	id: string;
	seq: number;
	end: End;
	kind: RecordKind;
	payload: string;
	revisionNumber: number;
	recordedAt: Date;
	receivedAt: Date;
	recordedBy: string;
}

const READ = `f.id, f.seq, f.end, f.kind, f.payload, r.number AS revisionNumber,
		f.recorded_at AS recordedAt, f.received_at AS receivedAt, u.display_name AS recordedBy
	FROM field_records f
	JOIN plan_revisions r ON r.id = f.revision_id
	JOIN users u ON u.id = f.recorded_by`;

/** Records of a hop after a place in its feed, in order, as the core reads them. */
export async function recordsAfter(
	hopId: string,
	afterSeq: number,
	limit: number,
	unit?: Unit
): Promise<FieldRecord[]> {
	const rows = await select<ReadRow>(
		`SELECT ${READ} WHERE f.hop_id = ? AND f.seq > ? ORDER BY f.seq LIMIT ?`,
		[hopId, afterSeq, limit],
		unit
	);
	return rows.map(fieldRecordOf);
}

function fieldRecordOf({ receivedAt, ...row }: ReadRow): FieldRecord {
	const recordedAt = row.recordedAt.toISOString();
	const payload = JSON.parse(row.payload) as unknown;
	return { ...row, payload, recordedAt, ...clockOf(recordedAt, receivedAt) } as FieldRecord;
}

/** What is said of the clock of the device that made a record. */
export function clockOf(recordedAt: string, receivedAt: Date): Pick<FieldRecord, 'clockAheadS'> {
	const aheadS = clockAheadS(recordedAt, receivedAt.toISOString());
	return aheadS === undefined ? {} : { clockAheadS: aheadS };
}

/** Place of the latest record of some hops, by the id of the hop. */
export async function lastSeqsOf(hopIds: readonly string[]): Promise<Map<string, number>> {
	if (hopIds.length === 0) return new Map();
	const rows = await select<{ hopId: string; lastSeq: number }>(
		'SELECT hop_id AS hopId, last_seq AS lastSeq FROM hop_feeds WHERE hop_id IN (?)',
		[hopIds]
	);
	return new Map(rows.map(({ hopId, lastSeq }) => [hopId, lastSeq]));
}

/** Those of the hops whose feed goes on beyond the place given with each. */
export async function feedsBeyond(places: ReadonlyMap<string, number>): Promise<string[]> {
	const last = await lastSeqsOf([...places.keys()]);
	return [...last].flatMap(([hopId, seq]) => (seq > (places.get(hopId) ?? 0) ? [hopId] : []));
}

/**
 * Records of some hops, of each those after a place in its feed and in order.
 *
 * @returns `more` where the limit has cut some off
 */
export async function recordsBeyond(
	places: ReadonlyMap<string, number>,
	limit: number
): Promise<{ byFeed: Map<string, FieldRecord[]>; more: boolean }> {
	const byFeed = new Map<string, FieldRecord[]>();
	if (places.size === 0) return { byFeed, more: false };
	const each = [...places].map(() => '(f.hop_id = ? AND f.seq > ?)').join(' OR ');
	const rows = await select<ReadRow & { hopId: string }>(
		`SELECT f.hop_id AS hopId, ${READ} WHERE ${each} ORDER BY f.hop_id, f.seq LIMIT ?`,
		[...[...places].flat(), limit]
	);
	for (const { hopId, ...row } of rows) {
		const records = byFeed.get(hopId) ?? [];
		records.push(fieldRecordOf(row));
		byFeed.set(hopId, records);
	}
	return { byFeed, more: rows.length === limit };
}
