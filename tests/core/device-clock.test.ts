import { describe, expect, it } from 'vitest';
import { clockAheadS, clockWords } from '#core/record/deviceClock';

describe('the clock of a device', () => {
	it.each([
		['2026-11-27T10:00:00.000Z', '2026-11-27T10:00:01.000Z', undefined],
		// A record that waited for hours says nothing of the clock.
		['2026-11-27T04:00:00.000Z', '2026-11-27T10:00:00.000Z', undefined],
		['2026-11-27T10:02:00.000Z', '2026-11-27T10:00:00.000Z', undefined],
		['2026-11-27T10:02:01.000Z', '2026-11-27T10:00:00.000Z', 121],
		['2026-11-27T10:10:00.400Z', '2026-11-27T10:00:00.000Z', 600]
	])('made %s, received %s: ahead by %s', (made, received, aheadS) => {
		expect(clockAheadS(made, received)).toBe(aheadS);
	});

	it.each([
		[121, '2 min ahead'],
		[-600, '10 min behind'],
		[5399, '90 min ahead'],
		[5401, '2 h ahead'],
		[-7200, '2 h behind'],
		[48 * 3600 - 1, '48 h ahead'],
		[3 * 86_400, '3 days ahead']
	])('a difference of %s s reads %s', (aheadS, words) => expect(clockWords(aheadS)).toBe(words));
});
