import { describe, expect, it } from 'vitest';
import { inventoryOf } from '#core/budget/inventory';
import { guidanceInputOf } from '#core/guide/aim';
import { planSearch } from '#core/guide/searchPlan';
import { feed, ready, stateAfter, type Made } from './feed';
import { hopInput, soundPlan } from './planFixture';

const input = hopInput({ search: { compassSigmaDeg: 3, levelSigmaDeg: 1.5 } });
const { tiltDeg } = inventoryOf(input, 'A').dishes[0]!;
const levelled = (offDeg: number): Made => [
	'A',
	'build-step',
	{ step: 'tilt-preset', value: tiltDeg + offDeg, note: '', photoIds: [] }
];
const sigma = (...made: Made[]): number =>
	guidanceInputOf(stateAfter(input, feed(...made)), 'A').prior.tiltSigmaDeg;

describe('a tilt that was set by the digital level', () => {
	it('is searched less far than one that was set by eye', () => {
		expect(sigma()).toBe(1.5);
		expect(sigma(levelled(0))).toBeCloseTo(0.28, 9);
		const samples = (...made: Made[]): number =>
			planSearch({
				beamwidthDeg: soundPlan(input).dish.A.beamwidthDeg,
				...guidanceInputOf(stateAfter(input, feed(...made)), 'A')
			}).samples;
		expect(samples(levelled(0))).toBeLessThan(samples());
	});

	it('is believed as far as it was found from the plan, and never less than the plan itself', () => {
		expect(sigma(levelled(0.4))).toBeCloseTo(Math.hypot(0.28, 0.4), 9);
		expect(sigma(levelled(-0.4))).toBeCloseTo(Math.hypot(0.28, 0.4), 9);
		expect(sigma(levelled(9))).toBe(1.5);
	});

	it('of the far end says nothing here', () => {
		const [, kind, payload] = levelled(0);
		expect(sigma(['B', kind, payload] as Made)).toBe(1.5);
	});

	it('says nothing any more once the dish was changed or turned with its mount', () => {
		const state: Made[] = [
			['A', 'alignment-state', ready],
			['B', 'alignment-state', ready]
		];
		const turned: Made = ['A', 'mount-turn', { byDeg: 2, compassDeg: null, source: 'hand' }];
		expect(sigma(...state, levelled(0), turned)).toBe(1.5);
		expect(sigma(...state, turned, levelled(0))).toBeCloseTo(0.28, 9);
		const replaced: Made = [
			'A',
			'part-replaced',
			{ part: 'dish', code: 'X', serial: '1', reason: 'bent', photoIds: [] }
		];
		expect(sigma(levelled(0), replaced)).toBe(1.5);
	});

	it('is believed no more once both ends have searched it in vain', () => {
		const after = stateAfter(input, feed(levelled(0)));
		const vain = {
			...after,
			ends: { ...after.ends, A: { ...after.ends.A, silentTurns: 2 } }
		};
		expect(guidanceInputOf(vain, 'A').prior.tiltSigmaDeg).toBe(1.5);
	});
});
