import { selectOne } from '../db/sql';
import { replans, type ReplanRow } from '../db/tables';

export type { ReplanRow };

/** Whether somebody has a run that was touched since a moment. */
export async function isReplanRunning(userId: string, since: Date): Promise<boolean> {
	const row = await selectOne<{ id: string }>(
		"SELECT id FROM replans WHERE started_by = ? AND status = 'running' AND touched_at > ? LIMIT 1",
		[userId, since]
	);
	return row !== undefined;
}

export function insertReplan(
	id: string,
	total: number,
	startedBy: string,
	at: Date
): Promise<void> {
	return replans.add({
		id,
		status: 'running',
		total,
		done: 0,
		cancelRequested: false,
		result: null,
		startedBy,
		startedAt: at,
		touchedAt: at
	});
}

/** A run of somebody; of others' runs nothing is told. */
export function findReplan(id: string, startedBy: string): Promise<ReplanRow | undefined> {
	return replans.one({ id, startedBy });
}

export async function requestCancel(id: string): Promise<void> {
	await replans.change({ id }, { cancelRequested: true });
}

/** Says how far a run is, and learns whether it shall stop. */
export async function touchReplan(id: string, done: number, at: Date): Promise<boolean> {
	await replans.change({ id }, { done, touchedAt: at });
	const [row] = await replans.some(['cancelRequested'], { id });
	return row?.cancelRequested ?? false;
}

export async function endReplan(
	id: string,
	status: Exclude<ReplanRow['status'], 'running'>,
	result: object | null,
	at: Date
): Promise<void> {
	await replans.change({ id }, { status, result: result && JSON.stringify(result), touchedAt: at });
}
