import type { End, PerEnd } from '../ends';
import {
	CARD_HOLDS_H,
	STOP_CARD_WORDS,
	unsafeAnswers,
	type AnsweredCard,
	type StopCard
} from './stopCards';

/** How a card was last answered at an end, as far as the rules need it. */
export interface CardStanding {
	/** ISO 8601, by the device. */
	answeredAt: string;
	/** Every answer safe, or somebody has taken it on by name. */
	go: boolean;
}

/** The cards of either end as they were last answered. */
export type CardsStanding = PerEnd<Partial<Record<StopCard, CardStanding>>>;

export const NO_CARDS: CardsStanding = { A: {}, B: {} };

/** A record that was begun before its card grew old is not refused for a while, hours. */
const GRACE_H = 2;

/** What a card answered leaves of itself. */
export function standingOf(
	card: StopCard,
	{ answers, override, answeredAt }: AnsweredCard
): CardStanding {
	return { answeredAt, go: unsafeAnswers(card, answers).length === 0 || override !== undefined };
}

/** What the rule of the cards refuses. */
export const CARD_REFUSALS = ['card-not-answered', 'card-says-stop'] as const;

export interface CardRefusal {
	code: (typeof CARD_REFUSALS)[number];
	message: string;
}

/**
 * Whether work that a card stands before may be recorded: the card is answered at that end, says go, and
 * is not older than it holds.
 *
 * @param recordedAt of the work, ISO 8601
 */
export const cardRefusal = (
	cards: CardsStanding,
	end: End,
	card: StopCard,
	recordedAt: string
): CardRefusal | undefined => refusalOf(cards[end][card], { card, where: end }, recordedAt);

/**
 * The same of a card as it stands at one place.
 *
 * @param standing as it was last answered there; undefined where nobody has
 * @param where the place, as a person calls it
 * @param recordedAt of the work, ISO 8601
 */
export function refusalOf(
	standing: CardStanding | undefined,
	{ card, where }: { card: StopCard; where: string },
	recordedAt: string
): CardRefusal | undefined {
	const { title } = STOP_CARD_WORDS[card];
	if (!standing) {
		return { code: 'card-not-answered', message: `“${title}” is not answered at ${where}.` };
	}
	if (!standing.go) {
		return {
			code: 'card-says-stop',
			message: `“${title}” says stop at ${where}: answer it anew, or let a named person take it on.`
		};
	}
	const ageH = (Date.parse(recordedAt) - Date.parse(standing.answeredAt)) / 3_600_000;
	return ageH > CARD_HOLDS_H + GRACE_H
		? {
				code: 'card-not-answered',
				message: `“${title}” was answered at ${where} more than ${CARD_HOLDS_H} h before: ask again.`
			}
		: undefined;
}
