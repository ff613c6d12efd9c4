import type { End } from '#core/ends';
import { guidanceInputOf } from '#core/guide/aim';
import type { Guidance, Weighed } from '#core/guide/guidance';
import { nextStep, type NextStep } from '#core/guide/nextStep';
import type { BenchHop } from '../hop/benchHop';
import { GuideReader, type GuideAnswer } from './guideReader';

/** What the readings of one end say, worked out anew as they come in. */
export class GuideAnswers {
	#answer: GuideAnswer | undefined = $state.raw();

	constructor(
		private readonly live: BenchHop,
		private readonly end: End
	) {}

	/**
	 * What the guidance is about: the place in the feed of the last record that changed what is known of
	 * this end. A reading more at the same place refines the answer, and does not make it void.
	 */
	readonly about: string = $derived.by(
		() => `${this.live.state.ends[this.end].guidanceSeq}/${this.live.state.unasked?.sinceSeq ?? 0}`
	);

	/** What the readings of this end say; undefined while it is being worked out. */
	readonly guidance: Guidance | undefined = $derived(
		this.#answer?.key === this.about ? this.#answer.guidance : undefined
	);
	/** The probability map last worked out, also while a newer one is on its way. */
	readonly location: Weighed['location'] | undefined = $derived(this.#answer?.location);

	readonly step: NextStep = $derived.by(() => nextStep(this.live.state, this.end, this.guidance));

	/** Asks whenever something is new; browser only. */
	start(): () => void {
		const reader = new GuideReader((answer) => {
			// A reading more at the same place sharpens the map; what was advised there stays advised.
			const same = this.#answer?.key === answer.key ? this.#answer.guidance : undefined;
			this.#answer = same ? { ...answer, guidance: same } : answer;
		});
		const stopAsking = $effect.root(() => {
			$effect(() => {
				reader.ask({
					key: this.about,
					input: JSON.parse(
						JSON.stringify(guidanceInputOf(this.live.state, this.end))
					) as ReturnType<typeof guidanceInputOf>
				});
			});
		});
		return () => {
			stopAsking();
			reader.stop();
		};
	}
}
