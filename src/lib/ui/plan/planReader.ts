import type { Catalogue } from '$core/catalogue/parts';
import PlanWorker from '$lib/workers/plan.worker?worker';
import type { LivePlan, PlanQuestion } from './compute';

/** Computes plans off the main thread; while one is under way only the newest question waits. */
export class PlanReader {
	readonly #worker: Worker;
	readonly #answer: (live: LivePlan) => void;
	#busy = false;
	#waiting: PlanQuestion | undefined;

	constructor(parts: Catalogue, answer: (live: LivePlan) => void) {
		this.#answer = answer;
		this.#worker = new PlanWorker();
		this.#worker.postMessage({ parts: JSON.parse(JSON.stringify(parts)) as Catalogue });
		this.#worker.onmessage = (event: MessageEvent<{ live: LivePlan }>) => {
			this.#busy = false;
			const next = this.#waiting;
			this.#waiting = undefined;
			if (next) this.ask(next);
			this.#answer(event.data.live);
		};
	}

	ask(question: PlanQuestion): void {
		if (this.#busy) {
			this.#waiting = question;
			return;
		}
		this.#busy = true;
		this.#worker.postMessage({ id: 0, question });
	}

	stop(): void {
		this.#worker.terminate();
	}
}
