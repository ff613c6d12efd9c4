import { parentPort, workerData } from 'node:worker_threads';
import { workOutProject } from '#core/schedule/projectSchedule';
import { packBasis } from './basis';
import type { ScheduleProgress, ScheduleTask } from './scheduling';

const { question, forMs } = workerData as ScheduleTask;
const begunAt = Date.now();
const tell = (message: ScheduleProgress): void => parentPort!.postMessage(message);

/** Far more than there is time for: the clock ends it. */
const MOST_TRIES = 4000;
const SEED = 1;
/** Tasks placed to find chances, over all runs: so many take a few seconds. */
const TASKS_IN_ALL_RUNS = 400_000;
const FEWEST_RUNS = 50;
const MOST_RUNS = 400;

const tasks = question.hops.reduce((sum, hop) => sum + hop.tasks.length, 0);
const runs = Math.round(
	Math.min(MOST_RUNS, Math.max(FEWEST_RUNS, TASKS_IN_ALL_RUNS / Math.max(1, tasks)))
);
const { schedule, order } = workOutProject(
	question,
	{
		...{ tries: MOST_TRIES, seed: SEED },
		onward: (share) => {
			const passed = Date.now() - begunAt;
			tell({ kind: 'under-way', share: Math.max(share, passed / forMs) });
			return passed < forMs;
		}
	},
	runs
);
tell({ kind: 'done', schedule, basis: packBasis({ question, order }) });
