import { onDestroy } from 'svelte';
import { callApi, troubleOf } from '../api';

/** Long work that goes on at the server, whichever process does it. */
export interface LongWork<Result> {
	id: string;
	kind: string;
	status: 'running' | 'done' | 'cancelled' | 'failed';
	total: number;
	done: number;
	/** ISO 8601. */
	startedAt: string;
	/** Why it failed, in words. */
	trouble: string | null;
	result: Result | null;
}

const ASK_AGAIN_MS = 400;
/** What was begun so long ago is no news any more, unless it still runs. */
const LATELY_MS = 15 * 60_000;
/** How long to wait before asking again while the server does not answer. */
const UNANSWERED_MS = 3000;

/** Begins long work of one kind, follows it, stops it, and finds it again after the page was left. */
export class FollowedWork<Result> {
	current: LongWork<Result> | undefined = $state.raw();
	problem: string | undefined = $state();
	#timer: ReturnType<typeof setTimeout> | undefined;
	/** Only the answer to what was asked last counts: a late one brings nothing back. */
	#turn = 0;

	constructor(private readonly kind: string) {
		onDestroy(() => clearTimeout(this.#timer));
	}

	readonly running: boolean = $derived(this.current?.status === 'running');

	/** Takes up what of this kind was begun lately and the page was left over. Browser only. */
	async takeUp(): Promise<void> {
		const turn = ++this.#turn;
		try {
			const { jobs } = await callApi<{ jobs: LongWork<never>[] }>('GET', '/jobs');
			const last = jobs.find(({ kind }) => kind === this.kind);
			if (!last || turn !== this.#turn) return;
			const isLate = Date.now() - Date.parse(last.startedAt) > LATELY_MS;
			if (last.status === 'running' || !isLate) await this.#ask('GET', `/jobs/${last.id}`);
		} catch {
			// The page can be used without.
		}
	}

	/** Begins anew; the same id asked for twice is begun once. */
	start(path: string, body: object = {}): Promise<void> {
		return this.#ask('POST', path, { id: crypto.randomUUID(), ...body });
	}

	async stop(): Promise<void> {
		if (this.current) await this.#ask('POST', `/jobs/${this.current.id}/cancel`);
	}

	forget(): void {
		clearTimeout(this.#timer);
		this.#turn++;
		this.current = undefined;
		this.problem = undefined;
	}

	async #ask(method: 'GET' | 'POST', path: string, body?: object): Promise<void> {
		clearTimeout(this.#timer);
		const turn = ++this.#turn;
		try {
			const answer = await callApi<LongWork<Result>>(method, path, body);
			if (turn !== this.#turn) return;
			this.current = answer;
			this.problem = undefined;
			if (this.running) this.#askAgain(this.current.id, ASK_AGAIN_MS);
		} catch (error) {
			if (turn !== this.#turn) return;
			this.problem = troubleOf(error);
			// What was begun goes on; it is asked for until it answers.
			if (this.current && this.running) this.#askAgain(this.current.id, UNANSWERED_MS);
		}
	}

	#askAgain(id: string, afterMs: number): void {
		this.#timer = setTimeout(() => void this.#ask('GET', `/jobs/${id}`), afterMs);
	}
}
