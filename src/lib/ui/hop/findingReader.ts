import type { Finding, FindingQuestion } from '#core/guide/weigh';
import FindingWorker from '$lib/workers/finding.worker?worker';

/** Weighs sweeps and closed turns off the main thread, one after another. */
export class FindingReader {
	#worker: Worker | undefined;
	readonly #asked = new Map<string, (finding: Finding) => void>();

	ask(question: FindingQuestion): Promise<Finding> {
		this.#worker ??= this.#start();
		return new Promise((resolve) => {
			this.#asked.set(question.id, resolve);
			// Records may be reactive proxies, which cannot be posted.
			this.#worker!.postMessage(JSON.parse(JSON.stringify(question)) as FindingQuestion);
		});
	}

	#start(): Worker {
		const worker = new FindingWorker();
		worker.onmessage = ({ data }: MessageEvent<Finding>) => {
			this.#asked.get(data.id)?.(data);
			this.#asked.delete(data.id);
		};
		return worker;
	}

	stop(): void {
		this.#worker?.terminate();
		this.#worker = undefined;
	}
}
