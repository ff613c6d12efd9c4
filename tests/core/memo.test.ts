import { describe, expect, it } from 'vitest';
import { inventoryOf } from '#core/budget/inventory';
import { buildSteps } from '#core/tower/buildSteps';
import { remembered } from '#core/units/memo';
import { builtHop } from './endFixture';
import { soundPlan } from './planFixture';

describe('what is remembered of an object', () => {
	it('is made once for each key, and anew for another object', () => {
		const of = remembered<number[]>();
		let made = 0;
		const make = (): number[] => [++made];
		const [one, two] = [{}, {}];
		expect(of(one, 'A', make)).toBe(of(one, 'A', make));
		expect(of(one, 'B', make)).not.toBe(of(one, 'A', make));
		expect(of(two, 'A', make)).not.toBe(of(one, 'A', make));
		expect(made).toBe(3);
	});

	it('of a hop is its inventory and its steps, by end, and steps of its own plan only', () => {
		const input = builtHop('single', 'direct');
		const plan = soundPlan(input);
		expect(inventoryOf(input, 'A')).toBe(inventoryOf(input, 'A'));
		expect(inventoryOf(input, 'A')).not.toBe(inventoryOf(input, 'B'));
		expect(buildSteps(input, plan, 'A')).toBe(buildSteps(input, plan, 'A'));
		const pointing = { ...plan.pointing, A: { ...plan.pointing.A, azimuthCompassDeg: 123 } };
		const other = { ...plan, pointing };
		const heading = (steps: ReturnType<typeof buildSteps>): number | null | undefined =>
			steps.find(({ key }) => key === 'heading')?.quantity?.expected;
		expect(heading(buildSteps(input, other, 'A'))).toBe(123);
		expect(heading(buildSteps(input, plan, 'A'))).not.toBe(123);
		expect(buildSteps(structuredClone(input), plan, 'A')).not.toBe(buildSteps(input, plan, 'A'));
	});
});
