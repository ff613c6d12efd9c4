import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { End } from '$core/ends';
import type { RecordKind, RecordPayloads } from '$core/record/records';

/** A record made on this device, before the server has given it a place in the feed. */
export interface OwnRecord {
	id: string;
	end: End;
	kind: RecordKind;
	payload: RecordPayloads[RecordKind];
	recordedAt: string;
}

interface Waiting {
	place?: number;
	hopId: string;
	record: OwnRecord;
}

interface OutboxSchema extends DBSchema {
	waiting: { key: number; value: Waiting; indexes: { hop: string } };
}

let opened: Promise<IDBPDatabase<OutboxSchema>> | undefined;

function database(): Promise<IDBPDatabase<OutboxSchema>> {
	opened ??= openDB<OutboxSchema>('skiaxis-outbox', 1, {
		upgrade(db) {
			const store = db.createObjectStore('waiting', { keyPath: 'place', autoIncrement: true });
			store.createIndex('hop', 'hopId');
		}
	});
	return opened;
}

/** Keeps a record on the device until the server has it. */
export async function keepWaiting(hopId: string, record: OwnRecord): Promise<void> {
	await (await database()).add('waiting', { hopId, record });
}

/** Records of a hop that wait to be sent, in the order in which they were made. */
export async function readWaiting(hopId: string): Promise<OwnRecord[]> {
	const rows = await (await database()).getAllFromIndex('waiting', 'hop', hopId);
	return rows.sort((p, q) => (p.place ?? 0) - (q.place ?? 0)).map((row) => row.record);
}

/** The server has these records, or has refused them. */
export async function forgetWaiting(hopId: string, ids: readonly string[]): Promise<void> {
	const db = await database();
	const transaction = db.transaction('waiting', 'readwrite');
	for await (const cursor of transaction.store.index('hop').iterate(hopId)) {
		if (ids.includes(cursor.value.record.id)) await cursor.delete();
	}
	await transaction.done;
}
