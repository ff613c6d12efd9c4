import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { End } from '#core/ends';
import type { HubRecord, HubRecordKind, HubRecordPayloads } from '#core/bringup/hubRecords';
import type { FieldRecord, RecordKind, RecordPayloads } from '#core/record/records';

/** Whose work something is: kept on the device until this person has sent it, whoever is signed in meanwhile. */
export interface Owner {
	id: string;
	name: string;
}

/** Why the server will not take something, as it said. */
export interface Refused {
	code: string;
	message: string;
}

/** What every record made on this device has, before the server has given it a place in a feed. */
export interface Own {
	id: string;
	kind: string;
	payload: object;
	/** The end of a hop that it is about; absent of a hub. */
	end?: End;
	/** The unit or terminal of a hub that it is about; absent of a hop. */
	station?: string;
	recordedAt: string;
	/** Plan revision it was measured against; absent in records of older versions of this page. */
	revisionNumber?: number;
}

/** A record of a hop. */
export interface OwnRecord extends Own {
	end: End;
	kind: RecordKind;
	payload: RecordPayloads[RecordKind];
}

/** A record of a hub. */
export interface OwnHubRecord extends Own {
	station: string;
	kind: HubRecordKind;
	payload: HubRecordPayloads[HubRecordKind];
}

/** A photo taken on this device, kept until the server has it. */
export interface OwnPhoto {
	id: string;
	hopId: string;
	end: End;
	bytes: Blob;
	/** Absent on what earlier versions of this page kept. */
	owner?: Owner;
	refused?: Refused | undefined;
}

/** A record that waits, with whose it is. */
export interface Waiting {
	place?: number;
	/** Of the hop, or of the hub. */
	hopId: string;
	record: Own;
	/** Absent on what earlier versions of this page kept. */
	owner?: Owner;
	/** Set once the server has said that it will not take it: it stays here until its owner has seen to it. */
	refused?: Refused | undefined;
}

/** A record with its place in a feed, of a hop or of a hub. */
type Placed = FieldRecord | HubRecord;

interface OutboxSchema extends DBSchema {
	waiting: { key: number; value: Waiting; indexes: { hop: string } };
	photos: { key: string; value: OwnPhoto; indexes: { hop: string } };
	/** What the server has sent, so that a visit without connection has it too. */
	feed: { key: [string, number]; value: { hopId: string; seq: number; record: Placed } };
}

let opened: Promise<IDBPDatabase<OutboxSchema>> | undefined;

function database(): Promise<IDBPDatabase<OutboxSchema>> {
	opened ??= openDB<OutboxSchema>('skiaxis-outbox', 2, {
		upgrade(db, from) {
			if (from < 1) {
				const store = db.createObjectStore('waiting', { keyPath: 'place', autoIncrement: true });
				store.createIndex('hop', 'hopId');
			}
			if (from < 2) {
				db.createObjectStore('photos', { keyPath: 'id' }).createIndex('hop', 'hopId');
				db.createObjectStore('feed', { keyPath: ['hopId', 'seq'] });
			}
		}
	});
	return opened;
}

/** Keeps a record on the device until the server has it. */
export async function keepWaiting(hopId: string, record: Own, owner: Owner): Promise<void> {
	await (await database()).add('waiting', { hopId, record, owner });
}

/** What waits of a hop, of whomever, in the order in which it was made. */
export async function readWaiting(hopId: string): Promise<Waiting[]> {
	const rows = await (await database()).getAllFromIndex('waiting', 'hop', hopId);
	return rows.sort((p, q) => (p.place ?? 0) - (q.place ?? 0));
}

/** Everything that waits on this device, of every hop and of whomever. */
export async function readAllWaiting(): Promise<{ records: Waiting[]; photos: OwnPhoto[] }> {
	const db = await database();
	return { records: await db.getAll('waiting'), photos: await db.getAll('photos') };
}

/** Notes that the server will not take a record, or that it is to be tried again. */
export async function markWaiting(
	hopId: string,
	id: string,
	refused: Refused | undefined
): Promise<void> {
	const transaction = (await database()).transaction('waiting', 'readwrite');
	for await (const cursor of transaction.store.index('hop').iterate(hopId)) {
		if (cursor.value.record.id !== id) continue;
		await cursor.update({ ...cursor.value, refused });
	}
	await transaction.done;
}

/** The server has these records, or their owner has taken them off this device. */
export async function forgetWaiting(hopId: string, ids: readonly string[]): Promise<void> {
	const db = await database();
	const transaction = db.transaction('waiting', 'readwrite');
	for await (const cursor of transaction.store.index('hop').iterate(hopId)) {
		if (ids.includes(cursor.value.record.id)) await cursor.delete();
	}
	await transaction.done;
}

export async function keepPhoto(photo: OwnPhoto): Promise<void> {
	await (await database()).put('photos', photo);
}

export async function readPhotos(hopId: string): Promise<OwnPhoto[]> {
	return (await database()).getAllFromIndex('photos', 'hop', hopId);
}

export async function forgetPhoto(id: string): Promise<void> {
	await (await database()).delete('photos', id);
}

/** Keeps what the server has sent. */
export async function keepFeed(hopId: string, records: readonly Placed[]): Promise<void> {
	const [first, last] = [records[0], records.at(-1)];
	if (!first || !last) return;
	const db = await database();
	// What was sent once never changes: writing the whole record anew at every visit held up the page.
	const range = IDBKeyRange.bound([hopId, first.seq], [hopId, last.seq]);
	const there = new Set((await db.getAllKeys('feed', range)).map(([, seq]) => seq));
	const transaction = db.transaction('feed', 'readwrite');
	for (const record of records) {
		if (!there.has(record.seq)) await transaction.store.put({ hopId, seq: record.seq, record });
	}
	await transaction.done;
}

/** What was kept of a hop's feed after a place in it, in order. */
export async function readFeed<R extends Placed = FieldRecord>(
	hopId: string,
	afterSeq: number
): Promise<R[]> {
	const range = IDBKeyRange.bound([hopId, afterSeq], [hopId, Infinity], true);
	return (await (await database()).getAll('feed', range)).map((row) => row.record as R);
}

/** Forgets what the server has sent of one hop. */
export async function forgetFeed(hopId: string): Promise<void> {
	await (await database()).delete('feed', IDBKeyRange.bound([hopId, 0], [hopId, Infinity]));
}

/** Forgets what the server has sent, when somebody signs out; what waits stays until its owner sends it. */
export async function forgetFeeds(): Promise<void> {
	await (await database()).clear('feed');
}
