import { parentPort, workerData } from 'node:worker_threads';
import { scheduleProject } from '#core/schedule/projectDays';
import type { ScheduleProgress, ScheduleTask } from './scheduling';

const { question, forMs } = workerData as ScheduleTask;
const begunAt = Date.now();
const tell = (message: ScheduleProgress): void => parentPort!.postMessage(message);

/** Far more than there is time for: the clock ends it. */
const MOST_TRIES = 4000;
const SEED = 1;

const schedule = scheduleProject(question, {
	...{ tries: MOST_TRIES, seed: SEED },
	onward: (share) => {
		const passed = Date.now() - begunAt;
		tell({ kind: 'under-way', share: Math.max(share, passed / forMs) });
		return passed < forMs;
	}
});
tell({ kind: 'done', schedule });
