import { describe, expect, it } from 'vitest';
import { alertOf, type Alert } from '#core/record/alerts';
import { STOP_CARD_WORDS } from '#core/safety/stopCards';
import { feed, reading, ready, type Made } from './feed';

const at = (made: Made, end: 'A' | 'B'): Alert | null => alertOf(feed(made)[0]!, end);
const answers = (last: 'yes' | 'no'): Record<string, 'yes' | 'no'> => {
	const keys = STOP_CARD_WORDS.climb.questions.map(({ key }) => key);
	return Object.fromEntries(keys.map((key, i) => [key, i === keys.length - 1 ? last : 'yes']));
};

describe('what calls somebody who waits', () => {
	it('is the baton that arrives, and not the one that leaves', () => {
		expect(at(['A', 'baton', { to: 'B' }], 'B')).toEqual({
			kind: 'baton',
			words: 'Your move: B holds the baton.'
		});
		expect(at(['A', 'baton', { to: 'B' }], 'A')).toBeNull();
	});

	it('is stop where the far end takes the baton over, leaves its state or stops for its safety', () => {
		const stops: Made[] = [
			['B', 'baton', { to: 'B', how: 'taken' }],
			['B', 'alignment-state', { ...ready, transmitterOn: false }],
			['B', 'stop-card', { card: 'climb', answers: answers('no'), note: '' }]
		];
		for (const made of stops) expect(at(made, 'A')?.kind, made[1]).toBe('stop');
		const goes: Made[] = [
			['B', 'alignment-state', ready],
			['B', 'stop-card', { card: 'climb', answers: answers('yes'), note: '' }]
		];
		for (const made of goes) expect(at(made, 'A'), made[1]).toBeNull();
	});

	it('is the far end that asks, and the one that is done and needs a level', () => {
		expect(at(['B', 'baton-request', {}], 'A')?.kind).toBe('asked');
		expect(at(['B', 'aimed', {}], 'A')?.words).toBe('B is on its main lobe: read the level at A.');
		expect(at(['B', 'level-request', {}], 'A')).toEqual({
			kind: 'level-wanted',
			words: 'B asks for the level at A.'
		});
		expect(at(['B', 'level-request', {}], 'B')).toBeNull();
		expect(at(['B', 'aimed', {}], 'B')).toBeNull();
		expect(at(['B', 'reading', reading(-50)], 'A')).toBeNull();
	});

	it('is what the far end says; its word “stop” means stop', () => {
		expect(at(['B', 'message', { phrase: 'ready', text: '' }], 'A')).toEqual({
			...{ kind: 'message', words: 'B says: Ready' }
		});
		expect(at(['B', 'message', { phrase: 'stop', text: '' }], 'A')?.kind).toBe('stop');
		expect(at(['A', 'message', { phrase: 'stop', text: '' }], 'A')).toBeNull();
	});
});
