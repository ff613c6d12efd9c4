import { randomUUID } from 'node:crypto';
import type { Actor } from '../auth/actor';
import { inTransaction, type Unit } from '../db/transaction';
import { AppError, isDatabaseGone } from '../errors';
import { log } from '../log';
import { gauge } from '../metrics';
import {
	endJob,
	keepProgress,
	releaseJob,
	renewLease,
	takeJob,
	type JobRow
} from '../repositories/jobs';
import { findPerson } from '../repositories/users';

/** For how long a job is held without a word: then another process takes it up. */
const LEASE_S = 15;
const RENEW_MS = 4000;
/** How often a process looks for a job that nobody works on. */
const LOOK_MS = 3000;
/** Progress is written at most so often. */
const SAY_MS = 300;
const MOST_AT_ONCE = 2;
/** A job that was left so often, by processes that died over it, is given up. */
const MOST_TRIES = 3;

/** What a kind of job works with. */
export interface JobContext<Input, State> {
	actor: Actor;
	input: Input;
	/** Where an earlier try left it; undefined at the beginning. */
	state: State | undefined;
	/** How far it was then. */
	done: number;
	/** Says how far it is and where to go on from. False once it shall stop. */
	keep: (progress: { done: number; total?: number; state?: object }) => Promise<boolean>;
	/** Does work and ends in one unit: what it writes, and that it is done, are one. */
	endWith: (work: (unit: Unit) => Promise<object>) => Promise<void>;
}

/** Does a job; gives its result, or undefined where it has ended itself. */
export type JobKind<Input = never, State = never> = (
	context: JobContext<Input, State>
) => Promise<object | undefined>;

/** Somebody else has the job by now, or nobody may: what was under way counts for nothing. */
class LostJob extends Error {}

let kinds: Readonly<Record<string, JobKind>> = {};
let timer: ReturnType<typeof setInterval> | undefined;
const held = new Map<string, Promise<void>>();
let stopping = false;

gauge('skiaxis_jobs_held', 'Long work that this process holds', () => held.size);

/** Has this process take up jobs that nobody works on, as they come and as others leave them. */
export function runJobs(known: Readonly<Record<string, JobKind>>): void {
	kinds = known;
	stopping = false;
	timer ??= setInterval(lookForJobs, LOOK_MS);
	lookForJobs();
}

/** Lets go of what is under way, so that another process goes on with it at once. */
export async function stopJobs(): Promise<void> {
	stopping = true;
	clearInterval(timer);
	timer = undefined;
	await Promise.all([...held.keys()].map((holder) => releaseJob(holder).catch(() => undefined)));
	await Promise.all(held.values());
}

/** Looks now: a job has just been added. */
export function lookForJobs(): void {
	if (stopping || held.size >= MOST_AT_ONCE || Object.keys(kinds).length === 0) return;
	const holder = randomUUID();
	const work = (async (): Promise<void> => {
		try {
			const job = await takeJob(holder, LEASE_S, Object.keys(kinds));
			if (job) await workOn(job, holder);
		} catch (error) {
			// While the database is away there is nothing to do here, and requests say so.
			if (!isDatabaseGone(error)) log.error({ err: error }, 'a job was left');
		}
	})();
	held.set(
		holder,
		work.finally(() => held.delete(holder))
	);
}

async function workOn(job: JobRow, holder: string): Promise<void> {
	const kind = kinds[job.kind];
	const person = await findPerson(job.startedBy);
	const refused =
		!person || person.disabled
			? 'The account that began it is blocked.'
			: job.tries > MOST_TRIES
				? `It was broken off ${MOST_TRIES} times.`
				: undefined;
	if (refused || !kind || !person) {
		const ended = { status: 'failed', result: null, trouble: refused ?? '' } as const;
		await endJob(holder, ended, new Date());
		return;
	}
	const lease = leaseOf(holder, job.done);
	try {
		const { displayName, role, id: userId } = person;
		const result = await kind(contextOf(job, holder, { userId, displayName, role }, lease));
		if (!result) return;
		const status = lease.stop ? 'cancelled' : 'done';
		await endJob(holder, { status, result, done: lease.done }, new Date());
	} catch (error) {
		if (error instanceof LostJob || lease.lost || stopping) return;
		// It is left as it is: once the database is there again, or elsewhere, somebody goes on with it.
		if (isDatabaseGone(error)) return;
		const told = error instanceof AppError ? error : undefined;
		if (!told) log.error({ err: error, job: job.id }, 'a job failed');
		const trouble = (told?.message ?? 'Something went wrong here.').slice(0, 400);
		await endJob(holder, { status: 'failed', result: null, trouble }, new Date());
	} finally {
		lease.end();
	}
	// There may be more.
	queueMicrotask(lookForJobs);
}

interface Lease {
	/** How far the job has come, also where that was not written yet. */
	done: number;
	stop: boolean;
	lost: boolean;
	check(): Promise<void>;
	end(): void;
}

/** Holds on to a job while it is worked on, also during a long piece of it. */
function leaseOf(holder: string, done: number): Lease {
	const lease: Lease = {
		done,
		stop: false,
		lost: false,
		async check() {
			const { held: isHeld, stop } = await renewLease(holder, LEASE_S);
			lease.lost ||= !isHeld;
			lease.stop ||= stop;
		},
		end: () => clearInterval(renewal)
	};
	const renewal = setInterval(() => void lease.check().catch(() => undefined), RENEW_MS);
	return lease;
}

function contextOf(
	job: JobRow,
	holder: string,
	actor: Actor,
	lease: Lease
): JobContext<never, never> {
	let { total } = job;
	let saidAt = 0;
	const requireHeld = (): void => {
		if (lease.lost || stopping) throw new LostJob();
	};
	return {
		actor,
		input: JSON.parse(job.input) as never,
		state: (job.state ? JSON.parse(job.state) : undefined) as never,
		done: job.done,
		async keep(progress) {
			requireHeld();
			total = progress.total ?? total;
			lease.done = progress.done;
			if (Date.now() - saidAt >= SAY_MS || progress.total !== undefined) {
				saidAt = Date.now();
				await keepProgress(holder, { ...progress, total }, new Date());
				await lease.check();
				requireHeld();
			}
			return !lease.stop;
		},
		async endWith(work) {
			await inTransaction(async (unit) => {
				requireHeld();
				const result = await work(unit);
				const ended = { status: 'done', result, done: lease.done } as const;
				const isEnded = await endJob(holder, ended, new Date(), unit);
				if (!isEnded) throw new LostJob();
			});
		}
	};
}
