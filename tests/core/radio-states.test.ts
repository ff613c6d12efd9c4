import { describe, expect, it } from 'vitest';
import { judgeAcceptance } from '#core/accept/judgeAcceptance';
import { radioKeys } from '#core/budget/inventory';
import { sayRecord } from '#core/record/kinds';
import { recordNamesOf } from '#core/tower/recordNames';
import type { HopState } from '#core/record/hopState';
import {
	ALIGNMENT_ROWS,
	alignmentStateOf,
	allInAlignment,
	operatingStateOf,
	radiosInAfter,
	radiosProblem,
	wholeAlignment,
	wholeOperation
} from '#core/record/radioStates';
import { builtHop } from './endFixture';
import { feed, stateAfter, type Made } from './feed';

const FOUR = ['radio-1', 'radio-2', 'radio-3', 'radio-4'];
const input = builtHop('four-radios', 'direct');
const stateOf = (...made: Made[]): HopState => stateAfter(input, feed(...made));
const whole: Made = ['A', 'alignment-state', wholeAlignment(FOUR)];
const without = (key: string): Made => [
	'A',
	'alignment-state',
	alignmentStateOf(
		wholeAlignment(FOUR).radios!.map((one) =>
			one.radio === key ? { ...one, powerControlOff: false } : one
		)
	)
];

describe('each radio of an end', () => {
	it('is one of the plan', () => {
		expect(radioKeys(input, 'A')).toEqual(FOUR);
	});

	it('is in the alignment state since it entered; one that leaves takes the end out, not the others', () => {
		const at = (i: number): string => new Date(i * 1000).toISOString();
		const entered = stateOf(whole).ends.A;
		expect(entered.alignmentStateConfirmed).toBe(true);
		expect(entered.radiosIn).toEqual(Object.fromEntries(FOUR.map((key) => [key, at(0)])));
		const left = stateOf(whole, without('radio-3')).ends.A;
		expect(left.alignmentStateConfirmed).toBe(false);
		expect(Object.keys(left.radiosIn)).toEqual(['radio-1', 'radio-2', 'radio-4']);
		const again = stateOf(whole, without('radio-3'), whole).ends.A;
		expect(again.alignmentStateConfirmed).toBe(true);
		expect([again.radiosIn['radio-1'], again.radiosIn['radio-3']]).toEqual([at(0), at(2)]);
	});

	it('enters with all of them only: no card is asked for a part', () => {
		const { ends } = stateOf(without('radio-3'));
		expect(ends.A.alignmentStateConfirmed).toBe(false);
		expect(ends.A.radiosIn).toEqual({});
	});

	it.each(ALIGNMENT_ROWS)('is not in it without its %s', (row) => {
		const list = wholeAlignment(FOUR).radios!.map((one, i) =>
			i === 3 ? { ...one, [row]: false } : one
		);
		expect(allInAlignment(alignmentStateOf(list))).toBe(false);
		// Nor where the sentence over all of them says so.
		expect(allInAlignment({ ...wholeAlignment(FOUR), radios: list })).toBe(false);
	});

	it('goes back into operation by itself, and the acceptance names the one forgotten', () => {
		const forgotten = operatingStateOf(
			wholeOperation(FOUR).radios!.map((one) =>
				one.radio === 'radio-4' ? { ...one, licensedPower: false } : one
			)
		);
		const line = (...made: Made[]): unknown =>
			judgeAcceptance(stateOf(...made)).lines.find(({ code }) => code === 'operating-A');
		expect(line(whole, ['A', 'operating-state', forgotten])).toMatchObject({
			verdict: 'deviation',
			reason: 'Left in the alignment state or not as planned: radio 4: the classic forgotten step.'
		});
		expect(stateOf(whole, ['A', 'operating-state', forgotten]).ends.A.radiosIn).not.toEqual({});
		const back = stateOf(whole, ['A', 'operating-state', wholeOperation(FOUR)]);
		expect(back.ends.A.radiosIn).toEqual({});
		expect(line(whole, ['A', 'operating-state', wholeOperation(FOUR)])).toMatchObject({
			verdict: 'pass'
		});
	});

	it('is said by name where it is not in its state', () => {
		const [record] = feed(without('radio-2'));
		expect(sayRecord(record!, recordNamesOf(stateOf()))).toBe(
			'Not in the alignment state: radio 2'
		);
	});

	it('is listed once and by the plan', () => {
		const of = (radios: string[]): string | undefined =>
			radiosProblem(FOUR, { kind: 'alignment-state', payload: wholeAlignment(radios) });
		expect(of(FOUR)).toBeUndefined();
		expect(of(['radio-1'])).toBe('This end has 4 radios: each is confirmed by itself.');
		expect(of(FOUR.slice(0, 3))).toBe('Missing: radio-4.');
		expect(of([...FOUR, 'radio-5'])).toBe('By the plan in force this end has no radio-5.');
		expect(of([...FOUR, 'radio-1'])).toBe('A radio is listed twice.');
		const off = { ...wholeAlignment(['radio-1']), transmitterOn: false };
		expect(radiosProblem(FOUR, { kind: 'alignment-state', payload: off })).toBeUndefined();
		expect(
			radiosProblem(['radio-1'], { kind: 'operating-state', payload: wholeOperation(['radio-1']) })
		).toBeUndefined();
	});

	it('keeps its time over a record that lists it again', () => {
		const before = { 'radio-1': '2026-11-28T08:00:00.000Z' };
		expect(radiosInAfter(before, wholeAlignment(['radio-1', 'radio-2']), 'later')).toEqual({
			'radio-1': '2026-11-28T08:00:00.000Z',
			'radio-2': 'later'
		});
	});
});
