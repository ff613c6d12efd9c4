import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import Tinypool from 'tinypool';
import { refusal, refusedAgain } from '../errors';
import { log } from '../log';
import { gauge } from '../metrics';
import { TASKS, type TaskInput, type TaskName, type TaskOutput } from './tasks';
import type { Job, Outcome } from './worker';

/** The worker as the build leaves it. */
const WORKER_FILE = join(process.cwd(), 'build', 'workers', 'work.js');
const MOST_THREADS = 4;
/** Jobs that wait for a thread; whoever comes after them is asked to come again. */
const MOST_WAITING = 64;
/** A thread that needs more memory than this is ended, MB: the process goes on. */
const MOST_MEMORY_MB = 768;
/** A job that takes longer is given up, ms. */
const LONGEST_MS = 30_000;
/** A thread without work for so long is ended, ms. */
const IDLE_MS = 60_000;

let pool: Tinypool | undefined;

gauge('skiaxis_worker_queue', 'Work that waits for a worker thread', () => pool?.queueSize ?? 0);

function threads(): Tinypool | undefined {
	// While developing, what was built last may be older than what is being written.
	if (import.meta.env.MODE === 'development') return undefined;
	if (!pool && existsSync(WORKER_FILE)) {
		pool = new Tinypool({
			filename: pathToFileURL(WORKER_FILE).href,
			runtime: 'worker_threads',
			minThreads: 1,
			maxThreads: Math.min(MOST_THREADS, Math.max(1, availableParallelism() - 1)),
			maxQueue: MOST_WAITING,
			idleTimeout: IDLE_MS,
			resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB }
		});
	}
	return pool;
}

/**
 * Has a long piece of work done beside the event loop. Throws the refusal of the work itself, `busy` where
 * too much waits already, and `too-much-work` where it takes too long or too much memory.
 */
export async function inWorker<N extends TaskName>(
	name: N,
	input: TaskInput<N>
): Promise<TaskOutput<N>> {
	const there = threads();
	// Without a build, as while developing, the work is done here.
	if (!there) return (await (TASKS[name] as (input: unknown) => unknown)(input)) as TaskOutput<N>;
	const outcome = await done(there, { name, input });
	if ('refused' in outcome) throw refusedAgain(outcome.refused);
	return outcome.value as TaskOutput<N>;
}

async function done(there: Tinypool, job: Job): Promise<Outcome> {
	try {
		return (await there.run(job, { signal: AbortSignal.timeout(LONGEST_MS) })) as Outcome;
	} catch (error) {
		const { name, code, message } = error as { name?: string; code?: string; message?: string };
		if (message?.includes('queue is at limit')) throw refusal('busy');
		if (name === 'AbortError' || code === 'ERR_WORKER_OUT_OF_MEMORY') {
			log.warn({ job: job.name, reason: code ?? name }, 'a job was given up');
			throw refusal('too-much-work');
		}
		throw error;
	}
}

/** Ends the threads; what is under way is given up. */
export async function stopWorkers(): Promise<void> {
	await pool?.destroy();
	pool = undefined;
}
