// The set below is bookkeeping that no screen reads; what screens read is $state.
/* eslint-disable svelte/prefer-svelte-reactivity */
import { keepFinding, openQuestions } from '#core/guide/weigh';
import { noFindings, type Findings } from '#core/record/findings';
import type { HopState } from '#core/record/hopState';
import type { FieldRecord } from '#core/record/records';
import { FindingReader } from './findingReader';

/** What has been found out of sweeps and readings, and is being found out in a worker. */
export class Weighing {
	/** All that was found out so far; another object with each finding. */
	findings: Findings = $state.raw(noFindings());
	readonly #reader = new FindingReader();
	#asking = new Set<string>();

	constructor(findings: Findings) {
		this.findings = findings;
	}

	/** Asks what is still to be found out of records, each question once. */
	ask(state: HopState, rest: readonly FieldRecord[]): void {
		for (const question of openQuestions(state, rest, this.findings)) {
			if (this.#asking.has(question.id)) continue;
			this.#asking.add(question.id);
			void this.#reader.ask(question).then((finding) => {
				keepFinding(this.findings, finding);
				this.findings = { ...this.findings };
				this.#asking.delete(question.id);
			});
		}
	}

	stop(): void {
		this.#reader.stop();
	}
}
