import type { HubAims } from '#core/hub/aimHub';
import type { HubDraft } from '#core/hub/hubDraft';
import type { HubPlan } from '#core/hub/hubFigures';
import type { UnitChoice } from '#core/hub/hubPlan';
import HubWorker from '$lib/workers/hub.worker?worker';
import { NewestAnswer } from '../newestAnswer';
import type { HubAnswer, HubQuestion } from './hubWork';

/** What is known of a hub as it is typed, and as it was saved; worked out off the main thread. */
export class HubReader {
	plan: HubPlan | undefined = $state.raw();
	/** As it was saved: what a change takes from whom is told against it. */
	saved: HubPlan | undefined = $state.raw();
	choices: UnitChoice[] | undefined = $state.raw();
	/** Why there is no plan of what is typed. */
	notYet: string | undefined = $state();
	/** Aims or choices are being worked out. */
	busy = $state(false);
	/** One follows the typing; what takes seconds has one of its own, so that dragging goes on meanwhile. */
	readonly #live: NewestAnswer<HubQuestion, HubAnswer>;
	readonly #slow: NewestAnswer<HubQuestion, HubAnswer>;
	readonly #past: NewestAnswer<HubQuestion, HubAnswer>;

	constructor(onaimed: (aims: HubAims, of: HubDraft) => void) {
		this.#live = new NewestAnswer(new HubWorker(), (answer: HubAnswer) => {
			if (answer.kind === 'plan') [this.plan, this.notYet] = [answer.plan, undefined];
			else if (answer.kind === 'not-yet') this.notYet = answer.what;
		});
		this.#slow = new NewestAnswer(new HubWorker(), (answer: HubAnswer) => {
			this.busy = false;
			if (answer.kind === 'aims') onaimed(answer.aims, answer.draft);
			else if (answer.kind === 'choices') this.choices = answer.choices;
			else if (answer.kind === 'not-yet') this.notYet = answer.what;
		});
		this.#past = new NewestAnswer(new HubWorker(), (answer: HubAnswer) => {
			if (answer.kind === 'plan') this.saved = answer.plan;
		});
	}

	follow(question: HubQuestion): void {
		this.#live.ask(question);
	}

	/** What is saved from here on. */
	rememberSaved(question: HubQuestion): void {
		this.#past.ask(question);
	}

	askFor(question: HubQuestion): void {
		this.busy = true;
		this.#slow.ask(question);
	}

	stop(): void {
		for (const worker of [this.#live, this.#slow, this.#past]) worker.stop();
	}
}
