import type { RecordPayloads } from '#core/record/records';
import { stopStateOf, type AnsweredCard, type StopCard } from '#core/safety/stopCards';
import type { DraftPlace } from '../form/draft.svelte';

/** The records that steps and their cards make. */
export type StepRecordKind = 'build-step' | 'step-skipped' | 'step-reopened' | 'stop-card';

/** Where steps are done: an end of a hop, or a unit or terminal of a hub. */
export interface StepPlace {
	/** What tells it from other places where something is kept on the device. */
	readonly key: string;
	/** Whether this person may record here now. */
	readonly mayRecord: boolean;
	readonly nowMs: number;
	/** The cards as they were last answered here. */
	readonly cards: Readonly<Partial<Record<StopCard, AnsweredCard>>>;
	/** Where what is typed into one of its forms is kept. */
	draftPlace(form: string): DraftPlace;
	add<K extends StepRecordKind>(kind: K, payload: RecordPayloads[K]): Promise<void>;
}

/** Whether a card stands before work at a place: not answered, too long ago, or saying stop. */
export const cardStands = ({ cards, nowMs }: StepPlace, card: StopCard): boolean =>
	stopStateOf(card, cards[card], nowMs).kind !== 'go';
