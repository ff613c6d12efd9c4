import { describe, expect, it } from 'vitest';
import {
	judgeDirections,
	type DiscriminationReading,
	type RotationAdvice
} from '#core/polarization/discrimination';
import {
	polarizationStep,
	type PolarizationState,
	type PolarizationStep
} from '#core/polarization/polarizationStep';
import { need } from './feedFollow';

/** A look at both polarizations of this discrimination, dB. */
const look = (
	end: 'A' | 'B',
	sent: 'vertical' | 'horizontal',
	db: number
): DiscriminationReading => ({
	end,
	sent,
	turned: end,
	feedDeg: 0,
	coDbm: -40,
	crossDbm: -40 - db
});
const good = need.neededDb + 15;
const poor = need.neededDb - 5;
const both = (end: 'A' | 'B', db: number): DiscriminationReading[] => [
	look(end, 'vertical', db),
	look(end, 'horizontal', db)
];
const stands: RotationAdvice = { kind: 'stands', why: ['It stands.'] };
const turn: RotationAdvice = {
	kind: 'turn',
	feedDeg: 2.4,
	byDeg: 2.4,
	sigmaDeg: 0.1,
	floorDb: 34,
	why: ['Least there.']
};

const stepAfter = (
	readings: DiscriminationReading[],
	over: Partial<PolarizationState> = {}
): PolarizationStep =>
	polarizationStep({
		end: 'A',
		aligned: true,
		dual: true,
		fixed: false,
		holdsBaton: true,
		feedDeg: 0,
		directions: judgeDirections(need, readings, 'vertical'),
		advice: { kind: 'read', feedDeg: 0, why: ['As it stands.'] },
		farFeedTurned: false,
		...over
	});

describe('the next step about polarization', () => {
	it('points first, and reads its own two polarizations then', () => {
		expect(stepAfter([], { aligned: false }).kind).toBe('align-first');
		expect(stepAfter([])).toMatchObject({ kind: 'read', sent: 'vertical' });
		expect(stepAfter([look('A', 'vertical', good)])).toMatchObject({
			kind: 'read',
			sent: 'horizontal'
		});
	});

	it('asks for nothing with one polarization, but turns a feed that was read too far round', () => {
		expect(stepAfter([], { dual: false }).kind).toBe('not-asked');
		expect(stepAfter(both('A', good), { dual: false }).kind).toBe('not-asked');
		expect(stepAfter(both('B', poor), { dual: false }).kind).toBe('not-asked');
		const read = both('A', poor);
		expect(stepAfter(read, { dual: false, advice: turn }).kind).toBe('turn');
		expect(stepAfter(read, { dual: false, advice: turn, fixed: true }).kind).toBe('not-asked');
		expect(stepAfter(read, { dual: true, advice: turn, fixed: true }).kind).toBe('turn');
		expect(stepAfter([], { dual: false, aligned: false }).kind).toBe('align-first');
	});

	it('hands over once its own are read and good, and never asks to read them for ever', () => {
		const step = stepAfter(both('A', good));
		expect(step.kind).toBe('hand-over');
		expect(step.why.join(' ')).toContain('B has its own readings left');
		expect(stepAfter(both('A', good), { holdsBaton: false }).kind).toBe('wait');
		// The far end reads without the baton: nothing moves.
		expect(stepAfter(both('A', good), { end: 'B', holdsBaton: false }).kind).toBe('read');
	});

	it('does not turn a feed that shows 15 dB more than needed, whatever the finder would like', () => {
		expect(stepAfter(both('A', good), { advice: turn }).kind).toBe('hand-over');
	});

	it('is done when all four are reached', () => {
		const all = [...both('A', good), ...both('B', good)];
		expect(stepAfter(all, { advice: turn }).kind).toBe('reached');
	});

	it('turns with the baton, asks for it without, and reads where the feed stands already', () => {
		expect(stepAfter(both('A', poor), { advice: turn })).toMatchObject({
			kind: 'turn',
			feedDeg: 2.4,
			headline: 'Turn the feed to +2.4°'
		});
		expect(stepAfter(both('A', poor), { advice: turn, holdsBaton: false }).kind).toBe('ask-baton');
		expect(stepAfter(both('A', poor), { advice: turn, feedDeg: 2.4 }).kind).toBe('read');
	});

	it('turns in marks of its scale, and leaves a feed that stands at the nearest one', () => {
		const on = (scaleDeg: number, feedDeg = 0): PolarizationStep =>
			stepAfter(both('A', poor), { advice: turn, scaleDeg, feedDeg });
		expect(on(0.5)).toMatchObject({
			kind: 'turn',
			feedDeg: 2.5,
			headline: 'Turn the feed to +2.5°'
		});
		expect(on(1)).toMatchObject({ kind: 'turn', feedDeg: 2 });
		// 2.4° is wanted, 2.5° is the nearest mark: it has done what it can, and reads no more.
		expect(on(0.5, 2.5).kind).toBe('hand-over');
		expect(
			stepAfter(both('A', poor), { advice: turn, scaleDeg: 0.5, feedDeg: 2.5, farFeedTurned: true })
				.kind
		).toBe('not-rotation');
		// Between two marks as an earlier hand left it, it is read there first.
		const here: RotationAdvice = { kind: 'read', feedDeg: 0.3, why: ['As it stands.'] };
		expect(stepAfter(both('A', poor), { advice: here, scaleDeg: 0.5, feedDeg: 0.3 }).kind).toBe(
			'read'
		);
		// A look from another side is a look all the same.
		const aside: RotationAdvice = { kind: 'read', feedDeg: 1.2, why: ['From aside.'] };
		expect(stepAfter(both('A', poor), { advice: aside, scaleDeg: 0.5 })).toMatchObject({
			kind: 'turn',
			feedDeg: 1
		});
	});

	it('gives a feed that stands at its least to the far end once, and stops when both do', () => {
		expect(stepAfter(both('A', poor), { advice: stands }).kind).toBe('hand-over');
		expect(stepAfter(both('A', poor), { advice: stands, farFeedTurned: true }).kind).toBe(
			'not-rotation'
		);
	});

	it('names the pointing and what no turn will mend', () => {
		for (const kind of ['pointing-first', 'not-rotation'] as const) {
			expect(stepAfter(both('A', poor), { advice: { kind, why: [] } }).kind).toBe(kind);
		}
	});
});
