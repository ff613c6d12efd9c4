import type { Actor } from '../auth/actor';
import { unlessTaken } from '../db/taken';
import { notFound, refusal } from '../errors';
import { findJob, insertJob, newestJobs, requestCancel, type JobHead } from '../repositories/jobs';
import { lookForJobs } from './jobRunner';

/** Long work that goes on beside the requests, on whichever process. */
export interface JobOf<Kind extends string, Result> {
	id: string;
	kind: Kind;
	status: 'running' | 'done' | 'cancelled' | 'failed';
	total: number;
	done: number;
	startedAt: Date;
	/** Why it failed, in words; null unless it has. */
	trouble: string | null;
	result: Result | null;
}

type SomeJob = JobOf<string, object>;

export type { JobHead };

const MOST_LISTED = 20;

/** Begins long work; goes on after the answer. A repeat does nothing twice. */
export async function startJob(
	actor: Actor,
	kind: string,
	job: { id: string; input: object; total: number }
): Promise<SomeJob> {
	const row = {
		...{ id: job.id, kind, input: JSON.stringify(job.input), total: job.total },
		startedBy: actor.userId
	};
	await unlessTaken(
		() => insertJob(row, new Date()),
		async () => {
			if (!(await findJob(job.id, actor.userId))) throw refusal('job-running');
		}
	);
	lookForJobs();
	return getJob(actor, job.id);
}

/** How far it is, with its result once there is one. */
export async function getJob(actor: Actor, id: string): Promise<SomeJob> {
	const row = await findJob(id, actor.userId);
	if (!row) throw notFound('work');
	const { kind, status, total, done, startedAt, trouble } = row;
	const result = row.result ? (JSON.parse(row.result) as object) : null;
	return { id, kind, status, total, done, startedAt, trouble, result };
}

/** Long work of one's own, the newest first. */
export function listJobs(actor: Actor): Promise<JobHead[]> {
	return newestJobs(actor.userId, MOST_LISTED);
}

/** Asks it to stop; it does so after what is under way, on whichever process. */
export async function cancelJob(actor: Actor, id: string): Promise<SomeJob> {
	await getJob(actor, id);
	await requestCancel(id);
	return getJob(actor, id);
}
