import type { End } from '../ends';
import type { HopState } from '../record/hopState';
import { STOP_CARD_WORDS, unsafeAnswers } from '../safety/stopCards';
import { buildSteps } from '../tower/buildSteps';

/** Something that could hurt or destroy and was gone over by the word of a named person. */
export interface Override {
	/** What was gone over: a step, or a card. */
	what: string;
	name: string;
	why: string;
	/** ISO 8601, by the device. */
	at: string;
}

/** Everything of one end that somebody took on, oldest first. */
export function overridesOf(state: HopState, end: End): Override[] {
	const { building, cardOverrides } = state.ends[end];
	const titles = new Map(
		buildSteps(state.input, state.plan, end).map(({ key, title }) => [key, title])
	);
	return [
		...building.skips.flatMap(({ step, cause, authorisedBy, at }) =>
			authorisedBy
				? [
						{
							what:
								step === '*'
									? 'All steps then left'
									: (titles.get(step) ?? 'A step of an earlier plan'),
							name: authorisedBy,
							why: cause,
							at
						}
					]
				: []
		),
		...cardOverrides.flatMap(({ card, answers, override, at }) => {
			const unsafe = unsafeAnswers(card, answers);
			if (!override || unsafe.length === 0) return [];
			return [{ what: `${STOP_CARD_WORDS[card].title}: ${unsafe.join('; ')}`, ...override, at }];
		})
	].sort((p, q) => p.at.localeCompare(q.at));
}
