import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { ProjectQuestion } from '#core/schedule/projectDays';
import type { ProjectSchedule } from '#core/schedule/projectSchedule';

/** What a worker is given. */
export interface ScheduleTask {
	question: ProjectQuestion;
	/** How long it may search, ms. */
	forMs: number;
}

/** What it says on its way. */
export type ScheduleProgress =
	| { kind: 'under-way'; share: number }
	| { kind: 'done'; schedule: ProjectSchedule; basis: Uint8Array };

/** The worker as the build leaves it. */
const WORKER_FILE = join(process.cwd(), 'build', 'workers', 'schedule.js');

const MOST_MEMORY_MB = 512;

export const scheduleWorkerBuilt = (): boolean => existsSync(WORKER_FILE);

/**
 * A project's schedule from a worker thread of its own.
 *
 * @param goesOn is told the share of the time that is over; false ends it without a schedule
 */
export function scheduleBeside(
	task: ScheduleTask,
	goesOn: (share: number) => Promise<boolean>
): Promise<{ schedule: ProjectSchedule; basis: Buffer } | undefined> {
	const worker = new Worker(WORKER_FILE, {
		workerData: task,
		resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB }
	});
	let asking = false;
	return new Promise<{ schedule: ProjectSchedule; basis: Buffer } | undefined>(
		(resolve, reject) => {
			worker.on('error', reject);
			worker.on('message', (message: ScheduleProgress) => {
				if (message.kind === 'done') {
					resolve({ schedule: message.schedule, basis: Buffer.from(message.basis) });
					return;
				}
				if (asking) return;
				asking = true;
				goesOn(message.share).then(
					(on) => {
						asking = false;
						if (!on) resolve(undefined);
					},
					(error: unknown) => reject(error as Error)
				);
			});
		}
	).finally(() => void worker.terminate());
}
