/**
 * Puts questions to a worker one at a time; of those that pile up meanwhile only the newest is asked.
 * A question that breaks the worker goes unanswered, and the next is asked all the same.
 */
export class NewestAnswer<Question, Answer> {
	readonly #worker: Worker;
	#busy = false;
	#waiting: Question | undefined;

	constructor(worker: Worker, answer: (answer: Answer) => void) {
		this.#worker = worker;
		worker.onmessage = (event: MessageEvent<Answer>) => {
			this.#next();
			answer(event.data);
		};
		worker.onerror = () => this.#next();
	}

	ask(question: Question): void {
		if (this.#busy) {
			this.#waiting = question;
			return;
		}
		this.#busy = true;
		this.#worker.postMessage(question);
	}

	stop(): void {
		this.#worker.terminate();
	}

	#next(): void {
		const next = this.#waiting;
		this.#busy = false;
		this.#waiting = undefined;
		if (next !== undefined) this.ask(next);
	}
}
