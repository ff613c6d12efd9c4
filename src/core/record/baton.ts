import { farEnd, type End, type PerEnd } from '../ends';
import {
	cardRefusal,
	CARD_REFUSALS,
	NO_CARDS,
	standingOf,
	type CardRefusal,
	type CardsStanding
} from '../safety/cardRule';
import type { StopCard } from '../safety/stopCards';
import { cardBefore, changesOf, needsBaton } from './kinds';
import type { RecordKind, RecordPayloads } from './records';

/** An end that has recorded nothing for so long, s, may have its baton taken over. */
export const SILENCE_S = 180;

/** What the rules across the two ends depend on. */
export interface BatonState {
	baton: End;
	/** Each end in the alignment state, as it last confirmed. */
	ready: PerEnd<boolean>;
	/** When the baton was taken over, ISO 8601, if that is how it came where it is. */
	takenAt: string | null;
	/** The cards as they were last answered; null on hops from before they were kept beside the feed. */
	cards: CardsStanding | null;
}

/** What the rules across the two ends refuse. */
export const BATON_REFUSALS = [
	'not-in-alignment-state',
	'not-holding-baton',
	'baton-to-self',
	'not-silent',
	...CARD_REFUSALS
] as const;

export type BatonRefusal =
	| {
			code: Exclude<(typeof BATON_REFUSALS)[number], CardRefusal['code']>;
			message: string;
	  }
	| CardRefusal;

export type BatonOutcome =
	{ kind: 'state'; state: BatonState } | ({ kind: 'refused' } & BatonRefusal);

type Ruled = {
	end: End;
	kind: RecordKind;
	payload: RecordPayloads[RecordKind];
	recordedAt: string;
};

/** Whether the rules for this record look at how long the holder of the baton has been silent. */
export function dependsOnSilence({ kind, end, payload }: Ruled, baton: End): boolean {
	return (
		(kind === 'baton' && (payload as RecordPayloads['baton']).how === 'taken') ||
		(needsBaton(kind) && end !== baton)
	);
}

/**
 * What the cards refuse: nobody moves a dish, tightens or transmits at an end whose card is not answered.
 *
 * @param card that stands before the record beside what its kind asks for; undefined where none does
 */
function againstCards(
	{ cards }: BatonState,
	record: Ruled,
	card: StopCard | undefined
): CardRefusal | undefined {
	if (!cards) return undefined;
	const before = card ?? cardBefore(record);
	return before && cardRefusal(cards, record.end, before, record.recordedAt);
}

/** The cards as the records of a hop leave them. */
export function cardsOf(records: readonly Ruled[]): CardsStanding {
	return records.reduce<CardsStanding>(
		(cards, record) => cardsAfter(cards, record) ?? cards,
		NO_CARDS
	);
}

/** The cards after a record: the same object when it answers none. */
function cardsAfter(cards: CardsStanding | null, record: Ruled): CardsStanding | null {
	if (!cards || record.kind !== 'stop-card') return cards;
	const payload = record.payload as RecordPayloads['stop-card'];
	const standing = standingOf(payload.card, { ...payload, answeredAt: record.recordedAt });
	return { ...cards, [record.end]: { ...cards[record.end], [payload.card]: standing } };
}

/**
 * The rules that hold across the two ends: no dish moves before both have confirmed the alignment
 * state, only the holder of the baton moves, and it passes by being handed over or, after a silence,
 * by being taken. Gives the state after the record, or why it cannot be.
 *
 * @param silentS seconds since the holder of the baton was last heard of; Infinity if never
 * @param card that stands before this step of the building; undefined where none does
 */
export function underBaton(
	before: BatonState,
	record: Ruled,
	silentS: number,
	card?: StopCard
): BatonOutcome {
	const outcome = batonOutcome(before, record, silentS);
	if (outcome.kind === 'refused') return outcome;
	const stopped = againstCards(before, record, card);
	if (stopped) return { kind: 'refused', ...stopped };
	const cards = cardsAfter(before.cards, record);
	return cards === before.cards ? outcome : { kind: 'state', state: { ...outcome.state, cards } };
}

function batonOutcome(state: BatonState, record: Ruled, silentS: number): BatonOutcome {
	if (needsBaton(record.kind)) {
		const refusal = moverRefusal(state, record);
		return refusal ? { kind: 'refused', ...refusal } : { kind: 'state', state };
	}
	if (record.kind === 'baton') {
		return passed(state, record, record.payload as RecordPayloads['baton'], silentS);
	}
	const ready = readyAfter(state.ready, record);
	return { kind: 'state', state: ready === state.ready ? state : { ...state, ready } };
}

/** The ends in the alignment state after a record: the same object when it changes nothing. */
export function readyAfter(ready: PerEnd<boolean>, record: Ruled): PerEnd<boolean> {
	if (record.kind !== 'alignment-state' && record.kind !== 'operating-state') return ready;
	const changes = changesOf(record);
	const entered = changes.includes('state-entered');
	const left = changes.includes('state-left') || (record.kind === 'alignment-state' && !entered);
	if (!entered && !left) return ready;
	return { ...ready, [record.end]: entered };
}

function moverRefusal(state: BatonState, record: Ruled): BatonRefusal | undefined {
	if (!state.ready.A || !state.ready.B) {
		const missing = state.ready[record.end] ? farEnd(record.end) : record.end;
		return {
			code: 'not-in-alignment-state',
			message: `No dish moves until both ends have confirmed the alignment state; ${missing} is not in it.`
		};
	}
	// What was done before the baton was taken away arrives late, and is no less true.
	const late = state.takenAt !== null && Date.parse(record.recordedAt) < Date.parse(state.takenAt);
	if (state.baton === record.end || late) return undefined;
	return {
		code: 'not-holding-baton',
		message: `End ${state.baton} holds the baton; only it may move its dish.`
	};
}

/** Handed over by its holder, or taken by the other end after the holder's silence. */
function passed(
	state: BatonState,
	record: Ruled,
	{ to, how }: RecordPayloads['baton'],
	silentS: number
): BatonOutcome {
	const refused = (code: BatonRefusal['code'], message: string): BatonOutcome => ({
		kind: 'refused',
		code,
		message
	});
	if (!state.ready.A || !state.ready.B) {
		return refused(
			'not-in-alignment-state',
			'The baton passes once both ends have confirmed the alignment state.'
		);
	}
	if (how !== 'taken') {
		if (state.baton !== record.end) {
			return refused(
				'not-holding-baton',
				`End ${state.baton} holds the baton; only it can hand it over.`
			);
		}
		if (to === record.end) return refused('baton-to-self', `End ${to} holds the baton already.`);
		return { kind: 'state', state: { ...state, baton: to, takenAt: null } };
	}
	if (to !== record.end || state.baton === to) {
		return refused('baton-to-self', 'The baton is taken over by the end that does not hold it.');
	}
	if (silentS < SILENCE_S) {
		return refused(
			'not-silent',
			`End ${state.baton} was heard ${Math.round(silentS)} s ago; its baton may be taken over after ${SILENCE_S} s of silence.`
		);
	}
	return { kind: 'state', state: { ...state, baton: to, takenAt: record.recordedAt } };
}
