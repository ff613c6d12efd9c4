import { describe, expect, it } from 'vitest';
import { NewestAnswer } from '$lib/ui/newestAnswer';

/** A worker that answers, or breaks, when the test says so. */
class HandWorker {
	readonly asked: unknown[] = [];
	onmessage: ((event: MessageEvent<string>) => void) | null = null;
	onerror: (() => void) | null = null;
	stopped = false;
	postMessage(question: unknown): void {
		this.asked.push(question);
	}
	terminate(): void {
		this.stopped = true;
	}
	answer(data: string): void {
		this.onmessage!({ data } as MessageEvent<string>);
	}
}

function made(): { worker: HandWorker; reader: NewestAnswer<string, string>; heard: string[] } {
	const worker = new HandWorker();
	const heard: string[] = [];
	const reader = new NewestAnswer<string, string>(worker as unknown as Worker, (answer) =>
		heard.push(answer)
	);
	return { worker, reader, heard };
}

describe('questions to a worker', () => {
	it('go one at a time, and of those that pile up only the newest', () => {
		const { worker, reader, heard } = made();
		for (const question of ['one', 'two', 'three', 'four']) reader.ask(question);
		expect(worker.asked).toEqual(['one']);
		worker.answer('1');
		expect(worker.asked).toEqual(['one', 'four']);
		worker.answer('4');
		expect([heard, worker.asked.length]).toEqual([['1', '4'], 2]);
	});

	it('that break it do not silence the next', () => {
		const { worker, reader, heard } = made();
		reader.ask('bad');
		reader.ask('good');
		worker.onerror!();
		expect(worker.asked).toEqual(['bad', 'good']);
		worker.answer('fine');
		reader.ask('later');
		expect([heard, worker.asked.at(-1)]).toEqual([['fine'], 'later']);
	});

	it('end with the worker', () => {
		const { worker, reader } = made();
		reader.stop();
		expect(worker.stopped).toBe(true);
	});
});
