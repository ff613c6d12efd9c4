import type { Location, LocatorInput } from '$core/locate/locator';
import LocateWorker from '$lib/workers/locate.worker?worker';

/** Keeps the probability map off the main thread; of questions that pile up only the newest counts. */
export class LocateReader {
	readonly #worker = new LocateWorker();
	#busy = false;
	#waiting: LocatorInput | undefined;

	constructor(answer: (location: Location) => void) {
		this.#worker.onmessage = (event: MessageEvent<{ location: Location }>) => {
			this.#busy = false;
			const next = this.#waiting;
			this.#waiting = undefined;
			if (next) this.ask(next);
			answer(event.data.location);
		};
	}

	ask(input: LocatorInput): void {
		if (this.#busy) {
			this.#waiting = input;
			return;
		}
		this.#busy = true;
		this.#worker.postMessage({ id: 0, input });
	}

	stop(): void {
		this.#worker.terminate();
	}
}
