import { existsSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { Catalogue } from '#core/catalogue/parts';
import type { ReplanOutcome, ReplanTask } from './replanHop';

/** The worker as the build leaves it. */
const WORKER_FILE = join(process.cwd(), 'build', 'workers', 'replan.js');
const MOST_WORKERS = 4;

export function replanWorkersBuilt(): boolean {
	return existsSync(WORKER_FILE);
}

/** Worker threads that plan hops; one core is left to answer requests. */
export class ReplanPool {
	readonly size: number;
	readonly #workers: Worker[];

	constructor(
		parts: Catalogue,
		size = Math.min(MOST_WORKERS, Math.max(1, availableParallelism() - 1))
	) {
		this.size = size;
		this.#workers = Array.from(
			{ length: size },
			() => new Worker(WORKER_FILE, { workerData: { parts } })
		);
	}

	/**
	 * Has every batch planned: each worker takes the next when it is done with its own. `next` gives
	 * undefined when there are no more; what is under way is still handed to `done`.
	 */
	async run(
		next: () => Promise<ReplanTask[] | undefined>,
		done: (outcomes: ReplanOutcome[]) => Promise<void>
	): Promise<void> {
		await Promise.all(
			this.#workers.map(async (worker) => {
				for (;;) {
					const tasks = await next();
					if (!tasks) return;
					await done(await ask(worker, tasks));
				}
			})
		);
	}

	async stop(): Promise<void> {
		await Promise.all(this.#workers.map((worker) => worker.terminate()));
	}
}

function ask(worker: Worker, tasks: ReplanTask[]): Promise<ReplanOutcome[]> {
	return new Promise((resolve, reject) => {
		const answered = (outcomes: ReplanOutcome[]): void => {
			worker.off('error', failed);
			resolve(outcomes);
		};
		const failed = (error: Error): void => {
			worker.off('message', answered);
			reject(error);
		};
		worker.once('message', answered);
		worker.once('error', failed);
		worker.postMessage(tasks);
	});
}
