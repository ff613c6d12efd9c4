import { describe, expect, it } from 'vitest';
import { doubtAfter, entropyBits, worthOf } from '#core/diagnose/bits';

describe('doubt among hypotheses', () => {
	// Source: Shannon, A Mathematical Theory of Communication (1948), section 6.
	it('is a bit for a fair coin, two for four alike, none for what is certain', () => {
		expect(entropyBits([0.5, 0.5])).toBeCloseTo(1, 12);
		expect(entropyBits([0.25, 0.25, 0.25, 0.25])).toBeCloseTo(2, 12);
		expect(entropyBits([1, 0, 0])).toBe(0);
	});

	it('is all gone after an answer that tells each apart, and as before after one that tells nothing', () => {
		expect(doubtAfter([0.5, 0.5], (yes, place) => Number(yes === (place === 0)))).toBeCloseTo(0, 6);
		expect(doubtAfter([0.3, 0.7], (yes) => (yes ? 0.9 : 0.1))).toBeCloseTo(
			entropyBits([0.3, 0.7]),
			9
		);
	});

	it('never grows on the average', () => {
		const weights = [0.5, 0.3, 0.15, 0.05];
		for (const chances of [
			[0.9, 0.5, 0.2, 0.1],
			[0.1, 0.1, 0.9, 0.5],
			[0.99, 0.98, 0.97, 0.02]
		]) {
			const left = doubtAfter(weights, (yes, place) =>
				yes ? chances[place]! : 1 - chances[place]!
			);
			expect(left).toBeLessThanOrEqual(entropyBits(weights) + 1e-9);
		}
	});

	it('a test is worth more the more it tells and the less it takes', () => {
		expect(worthOf(0.5, 2)).toBeGreaterThan(worthOf(0.4, 2));
		expect(worthOf(0.5, 2)).toBeGreaterThan(worthOf(0.5, 8));
	});
});
