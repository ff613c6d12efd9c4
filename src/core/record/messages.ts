import type { End } from '../ends';
import { PHRASES, type FieldRecord, type MessagePayload, type Phrase } from './records';

export { PHRASES, type MessagePayload, type Phrase };

export const PHRASE_WORDS: Readonly<Record<Phrase, string>> = {
	ready: 'Ready',
	wait: 'Wait for me',
	'go-on': 'Go on',
	'going-up': 'Going up',
	'coming-down': 'Coming down',
	'on-the-ground': 'All on the ground',
	stop: 'Stop'
};

/** Longest text of a message: what is longer is a call. */
export const LONGEST_MESSAGE = 280;

/** A message in words. */
export const messageWords = ({ phrase, text }: MessagePayload): string =>
	[phrase === null ? '' : PHRASE_WORDS[phrase], text].filter(Boolean).join(': ');

/** A message as it is shown. */
export interface Message {
	seq: number;
	end: End;
	words: string;
	at: string;
	by: string;
}

/**
 * The last messages of a hop, the newest last.
 *
 * @param most how many are told, 0 or more
 */
export function messagesOf(records: readonly FieldRecord[], most: number): Message[] {
	const found: Message[] = [];
	for (let i = records.length - 1; i >= 0 && found.length < most; i--) {
		const record = records[i];
		if (record?.kind !== 'message') continue;
		const { seq, end, payload, recordedAt: at, recordedBy: by } = record;
		found.unshift({ seq, end, words: messageWords(payload), at, by });
	}
	return found;
}
