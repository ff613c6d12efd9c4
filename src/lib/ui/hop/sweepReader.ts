import type { SweepAnalysis, SweepInput } from '$core/sweep/analyseSweep';
import AnalyseWorker from '$lib/workers/analyse.worker?worker';

/** Reads sweeps off the main thread, one after another. */
export class SweepReader {
	#worker: Worker | undefined;
	readonly #asked = new Map<string, (analysis: SweepAnalysis) => void>();

	read(id: string, input: SweepInput): Promise<SweepAnalysis> {
		this.#worker ??= this.#start();
		return new Promise((resolve) => {
			this.#asked.set(id, resolve);
			// Records may be reactive proxies, which cannot be posted.
			this.#worker!.postMessage({ id, input: JSON.parse(JSON.stringify(input)) as SweepInput });
		});
	}

	#start(): Worker {
		const worker = new AnalyseWorker();
		worker.onmessage = (event: MessageEvent<{ id: string; analysis: SweepAnalysis }>) => {
			this.#asked.get(event.data.id)?.(event.data.analysis);
			this.#asked.delete(event.data.id);
		};
		return worker;
	}

	stop(): void {
		this.#worker?.terminate();
		this.#worker = undefined;
	}
}
