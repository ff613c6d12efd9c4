/** Cards of short questions before what can hurt. */
export const STOP_CARDS = ['climb', 'lift', 'transmit'] as const;
export type StopCard = (typeof STOP_CARDS)[number];

export type StopAnswer = 'yes' | 'no' | 'not-here';

/** One card as somebody answered it. */
export interface AnsweredCard {
	answers: Record<string, StopAnswer>;
	/** Who takes it on that the work goes on against an answer, and why. */
	override?: { name: string; why: string };
	/** ISO 8601. */
	answeredAt: string;
}

export interface StopQuestion {
	key: string;
	/** Asked so that "yes" is safe. */
	ask: string;
	/** Whether it may be answered with "does not apply here". */
	optional: boolean;
}

/** Short questions before what can hurt. They remind; local rules and licensed people decide. */
export const STOP_CARD_WORDS: Record<StopCard, { title: string; questions: StopQuestion[] }> = {
	climb: {
		title: 'Before anyone climbs',
		questions: [
			question('wind', 'Wind under the limit for work up there, and staying so'),
			question('ice', 'No ice on the structure, none above that can fall'),
			question('lightning', 'No thunderstorm near or announced'),
			question('light', 'Light enough until everyone is down'),
			question('rescue', 'Rescue plan told, kit and a trained second person here'),
			question('harness', 'Harness, helmet and lanyards looked over today')
		]
	},
	lift: {
		title: 'Before anything is lifted',
		questions: [
			question('beneath', 'Nobody beneath, area closed off, and one person watching it'),
			question('rating', 'Rope, pulley, slings and anchor rated for this load, looked over'),
			question('lift-wind', 'Wind low enough for the area of the dish'),
			question('signals', 'Signals agreed; one person gives them'),
			question('tag-lines', 'Tag lines on and manned')
		]
	},
	transmit: {
		title: 'Before the transmitter goes on',
		questions: [
			question('front', 'Nobody in front of the dish, and nobody can step there'),
			question('open-guide', 'No open waveguide or flange that anyone could look into'),
			question('licence', 'Frequency, power and place as licensed'),
			question('others', 'Other antennas on this mast told, or off where people work', true)
		]
	}
};

function question(key: string, ask: string, optional = false): StopQuestion {
	return { key, ask, optional };
}

/** An answered card holds for a stretch of work, hours; then weather and people may have changed. */
export const CARD_HOLDS_H = 6;

export type StopState =
	| { kind: 'unanswered' }
	| { kind: 'out-of-date'; answeredAt: string }
	/** At least one question was answered with no: the work waits. */
	| { kind: 'stop'; answeredAt: string; asks: string[] }
	/** Every answer safe, or somebody has taken it on. */
	| { kind: 'go'; answeredAt: string; override?: { name: string; why: string; asks: string[] } };

/**
 * Where a card stands at a moment, from its latest answer; undefined: nobody has answered it.
 *
 * @param nowMs milliseconds since 1970: an answer grows old
 */
export function stopStateOf(
	card: StopCard,
	latest: AnsweredCard | undefined,
	nowMs: number
): StopState {
	if (!latest) return { kind: 'unanswered' };
	const { answeredAt } = latest;
	const asks = unsafeAnswers(card, latest.answers);
	if (asks.length && !latest.override) return { kind: 'stop', answeredAt, asks };
	if (nowMs - Date.parse(answeredAt) > CARD_HOLDS_H * 3_600_000) {
		return { kind: 'out-of-date', answeredAt };
	}
	return {
		kind: 'go',
		answeredAt,
		...(asks.length && latest.override ? { override: { ...latest.override, asks } } : {})
	};
}

/** What is not answered, or answered in a way that stops the work. */
export function unsafeAnswers(card: StopCard, answers: Record<string, StopAnswer>): string[] {
	return STOP_CARD_WORDS[card].questions
		.filter(({ key, optional }) => {
			const answer = answers[key];
			return answer !== 'yes' && !(optional && answer === 'not-here');
		})
		.map(({ ask }) => ask);
}
