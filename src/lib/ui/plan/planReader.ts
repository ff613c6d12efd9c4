import type { Catalogue } from '#core/catalogue/parts';
import PlanWorker from '$lib/workers/plan.worker?worker';
import { NewestAnswer } from '../newestAnswer';
import type { LivePlan, PlanQuestion } from './compute';

/** Computes plans off the main thread. */
export class PlanReader extends NewestAnswer<PlanQuestion, LivePlan> {
	constructor(parts: Catalogue, answer: (live: LivePlan) => void) {
		const worker = new PlanWorker();
		worker.postMessage({ parts: JSON.parse(JSON.stringify(parts)) as Catalogue });
		super(worker, answer);
	}
}
