import { change, select } from '../db/sql';
import { jobs, type JobRow } from '../db/tables';
import { mayRunAgain, type Unit } from '../db/transaction';

export type { JobRow };

/** What is told of a job in a list. */
export type JobHead = Pick<JobRow, 'id' | 'kind' | 'status' | 'total' | 'done' | 'startedAt'>;

/** Throws TakenError where the id is there, or the person has one of the kind running. */
export function insertJob(
	job: Pick<JobRow, 'id' | 'kind' | 'input' | 'total' | 'startedBy'>,
	at: Date
): Promise<void> {
	return jobs.add({
		...job,
		...{ state: null, status: 'running', done: 0, cancelRequested: false, result: null },
		...{ trouble: null, startedAt: at, touchedAt: at, holder: null, leasedUntil: null, tries: 0 },
		runningFor: job.startedBy
	});
}

/** A job of somebody; of others' nothing is told. */
export function findJob(id: string, startedBy: string): Promise<JobRow | undefined> {
	return jobs.one({ id, startedBy });
}

/** The newest jobs of somebody. */
export function newestJobs(startedBy: string, limit: number): Promise<JobHead[]> {
	return jobs.some(
		['id', 'kind', 'status', 'total', 'done', 'startedAt'],
		{ startedBy },
		{
			order: [
				['startedAt', 'DESC'],
				['id', 'DESC']
			],
			limit
		}
	);
}

export async function requestCancel(id: string): Promise<void> {
	await jobs.change({ id }, { cancelRequested: true });
}

/**
 * Takes up the oldest job that nobody works on, or whose holder has let its lease run out. The database's own
 * clock counts, and of several that reach for one job at a time one gets it.
 *
 * @param holder token of this one try
 * @param kinds what this process can do: a newer version's work waits for one of that version
 */
export async function takeJob(
	holder: string,
	leaseS: number,
	kinds: readonly string[]
): Promise<JobRow | undefined> {
	try {
		const found = await change(
			`UPDATE jobs SET holder = ?, leased_until = NOW(3) + INTERVAL ? SECOND, tries = tries + 1
			WHERE status = 'running' AND (leased_until IS NULL OR leased_until < NOW(3)) AND kind IN (?)
			ORDER BY started_at LIMIT 1`,
			[holder, leaseS, kinds]
		);
		if (found === 0) return undefined;
	} catch (error) {
		if (mayRunAgain(error)) return undefined;
		throw error;
	}
	return jobs.one({ holder });
}

/** Holds on to a job; whether it is still held, and whether it shall stop. */
export async function renewLease(
	holder: string,
	leaseS: number
): Promise<{ held: boolean; stop: boolean }> {
	await change(
		`UPDATE jobs SET leased_until = NOW(3) + INTERVAL ? SECOND WHERE holder = ? AND status = 'running'`,
		[leaseS, holder]
	);
	const [row] = await select<{ cancelRequested: number }>(
		`SELECT cancel_requested AS cancelRequested FROM jobs WHERE holder = ? AND status = 'running'`,
		[holder]
	);
	return { held: row !== undefined, stop: Boolean(row?.cancelRequested) };
}

/** Says how far a job is, as long as it is held; with `state`, where to go on from. */
export async function keepProgress(
	holder: string,
	progress: { done: number; total: number; state?: object },
	at: Date
): Promise<void> {
	const { done, total, state } = progress;
	await jobs.change(
		{ holder, status: 'running' },
		{ done, total, touchedAt: at, ...(state ? { state: JSON.stringify(state) } : {}) }
	);
}

/** Ends a job that is still held; whether it was. */
export async function endJob(
	holder: string,
	ended: {
		status: Exclude<JobRow['status'], 'running'>;
		result: object | null;
		trouble?: string;
		/** How far it came; as it was said last where this is left out. */
		done?: number;
	},
	at: Date,
	unit?: Unit
): Promise<boolean> {
	const { status, result, trouble = null, done } = ended;
	const values = {
		...{ status, trouble, touchedAt: at, runningFor: null },
		result: result && JSON.stringify(result),
		...(done === undefined ? {} : { done })
	};
	return (await jobs.change({ holder, status: 'running' }, values, unit)) > 0;
}

/** Lets go of a job that is to be gone on with elsewhere: a try that ends in order counts for none. */
export async function releaseJob(holder: string): Promise<void> {
	await change(
		`UPDATE jobs SET holder = NULL, leased_until = NULL, tries = GREATEST(tries, 1) - 1
		WHERE holder = ? AND status = 'running'`,
		[holder]
	);
}
