import { describe, expect, it } from 'vitest';
import { sourceOf } from '$lib/ui/build/source';
import { cardStands, type StepPlace } from '$lib/ui/build/stepPlace';

describe('a source typed off its plate', () => {
	it.each([
		['24', '12', { kind: 'poe-passive', voltageV: 24, powerW: 12 }],
		['47,5', '60', { kind: 'poe-passive', voltageV: 47.5, powerW: 60 }],
		['', '60', undefined],
		['24', '', undefined],
		['0.5', '60', undefined],
		['101', '60', undefined],
		['24', '0', undefined],
		['24', '6000', undefined],
		['about 24', '60', undefined]
	])('%s V and %s W', (volts, watts, source) => {
		expect(sourceOf({ kind: 'poe-passive', volts, watts })).toEqual(source);
	});
});

describe('a card before work at a place', () => {
	const at = '2026-05-04T08:00:00.000Z';
	const place = (cards: StepPlace['cards'], nowMs: number): StepPlace => ({
		...{ key: 'x', mayRecord: true, nowMs, cards },
		draftPlace: () => ({ hopId: 'x', end: 'y', form: 'z', userId: 'u' }),
		add: () => Promise.resolve()
	});
	const yes = Object.fromEntries(
		['wind', 'ice', 'lightning', 'light', 'rescue', 'harness'].map((key) => [key, 'yes' as const])
	);
	const hours = (h: number): number => Date.parse(at) + h * 3_600_000;

	it('stands until it is answered, says go, and is not too old', () => {
		expect(cardStands(place({}, hours(0)), 'climb')).toBe(true);
		const answered = { climb: { answers: yes, answeredAt: at } };
		expect(cardStands(place(answered, hours(1)), 'climb')).toBe(false);
		expect(cardStands(place(answered, hours(7)), 'climb')).toBe(true);
		const unsafe = { climb: { answers: { ...yes, wind: 'no' as const }, answeredAt: at } };
		expect(cardStands(place(unsafe, hours(1)), 'climb')).toBe(true);
		const taken = { climb: { ...unsafe.climb, override: { name: 'R. Ness', why: 'Sheltered' } } };
		expect(cardStands(place(taken, hours(1)), 'climb')).toBe(false);
	});
});
