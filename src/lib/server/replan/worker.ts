import { parentPort, workerData } from 'node:worker_threads';
import type { Catalogue } from '#core/catalogue/parts';
import type { PlanDraftValues } from '../../plan/resolve';
import { planDraftSchema } from '../schemas/inputs';
import { validate } from '../schemas/joi';
import { replanHop, type ReplanTask } from './replanHop';

const { parts } = workerData as { parts: Catalogue };

parentPort!.on('message', (tasks: ReplanTask[]) => {
	parentPort!.postMessage(
		tasks.map((task) =>
			replanHop(task, parts, (draft) => validate<PlanDraftValues>(planDraftSchema, draft))
		)
	);
});
