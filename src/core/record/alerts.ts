import { farEnd, type End } from '../ends';
import { STOP_CARD_WORDS, unsafeAnswers } from '../safety/stopCards';
import { messageWords } from './messages';
import type { FieldRecord } from './records';
import { allInAlignment } from './radioStates';

/** Why somebody who waits at an end is called back to the screen. */
export type AlertKind = 'baton' | 'asked' | 'level-wanted' | 'message' | 'stop';

export interface Alert {
	kind: AlertKind;
	/** One sentence: what happened at the far end, and what it means here. */
	words: string;
}

/**
 * Whether a record calls somebody who waits at an end: the baton arrives, the far end asks for it or has closed
 * its alignment and needs a level from here, says something, or something there means stop.
 *
 * @param record a record that has just come in
 * @param end where one waits; what was recorded at this end calls nobody here
 * @returns the alert, or null where nothing is to be done
 */
export function alertOf(record: FieldRecord, end: End): Alert | null {
	const far = farEnd(end);
	if (record.end !== far) return null;
	switch (record.kind) {
		case 'baton':
			if (record.payload.to === end) {
				return { kind: 'baton', words: `Your move: ${end} holds the baton.` };
			}
			return { kind: 'stop', words: `Hands off the dish: ${far} took the baton over.` };
		case 'baton-request':
			return { kind: 'asked', words: `${far} asks for the baton.` };
		case 'level-request':
			return { kind: 'level-wanted', words: `${far} asks for the level at ${end}.` };
		case 'aimed':
			return {
				kind: 'level-wanted',
				words: `${far} is on its main lobe: read the level at ${end}.`
			};
		case 'message': {
			const { phrase } = record.payload;
			const kind = phrase === 'stop' ? 'stop' : 'message';
			return { kind, words: `${far} says: ${messageWords(record.payload)}` };
		}
		case 'alignment-state':
			return allInAlignment(record.payload)
				? null
				: {
						kind: 'stop',
						words: `Stop: ${far} has left the alignment state. What is read now does not count.`
					};
		case 'stop-card': {
			const { card, answers, override } = record.payload;
			if (override || unsafeAnswers(card, answers).length === 0) return null;
			return { kind: 'stop', words: `Stop: ${far} does not go on. ${STOP_CARD_WORDS[card].title}` };
		}
		default:
			return null;
	}
}
