import { describe, expect, it } from 'vitest';
import { levelsWhenSwitched, senderOf } from '#core/budget/standby';
import type { HopPlanInput } from '#core/budget/planInput';
import { makeLevelCurve } from '#core/radio/levelCurve';
import { makeSiteSheet } from '#core/sheet/siteSheet';
import { catalogue, configured, hopInput, part, soundPlan } from './planFixture';

const uneven = part(catalogue.couplings, 'CU-26');
const [mainArm, standbyArm] = [uneven.arms[0]!.lossDb, uneven.arms[1]!.lossDb];

function standby(change: Partial<HopPlanInput['ends']['A']> = {}): HopPlanInput {
	return hopInput(
		{ configuration: configured('hot-standby') },
		{ A: { coupling: uneven, ...change }, B: { coupling: uneven } }
	);
}

describe('hot standby', () => {
	const input = standby();
	const plan = soundPlan(input);
	const [main, spare] = plan.carriers;

	it('plans each unit with the far main unit sending, as in service', () => {
		for (const end of ['A', 'B'] as const) {
			expect(
				main!.received[end].plannedLevelDbm - spare!.received[end].plannedLevelDbm
			).toBeCloseTo(standbyArm - mainArm, 9);
			expect(spare!.received[end].transmitBranchLossDb).toBe(mainArm);
			expect(spare!.received[end].eirpDbm).toBe(main!.received[end].eirpDbm);
			expect(senderOf(plan, spare!, end)).toBe('main');
			expect(senderOf(plan, main!, end)).toBeNull();
		}
	});

	it('says what both units hear once the far end is switched over', () => {
		const { main: one, standby: two } = levelsWhenSwitched(input, plan, 'A')!;
		const difference = standbyArm - mainArm;
		expect(plan.received.A.plannedLevelDbm - one.levelDbm).toBeCloseTo(difference, 9);
		expect(plan.received.A.plannedLevelDbm - two.levelDbm).toBeCloseTo(2 * difference, 9);
		const curve = makeLevelCurve(input.ends.A.radio.levelPort.curve);
		expect(two.volts).toBeCloseTo(curve.voltsAt(two.levelDbm), 9);
	});

	it('takes the arm of the end that sends, where the couplers differ', () => {
		const mixed = standby({ coupling: part(catalogue.couplings, 'CE-26') });
		const mixedPlan = soundPlan(mixed);
		// At A the uneven coupler of B sends, at B the even one of A.
		expect(
			mixedPlan.received.A.plannedLevelDbm -
				levelsWhenSwitched(mixed, mixedPlan, 'A')!.main.levelDbm
		).toBeCloseTo(standbyArm - mainArm, 9);
		const even = part(catalogue.couplings, 'CE-26').arms;
		expect(
			mixedPlan.received.B.plannedLevelDbm -
				levelsWhenSwitched(mixed, mixedPlan, 'B')!.main.levelDbm
		).toBeCloseTo(even[1]!.lossDb - even[0]!.lossDb, 9);
	});

	it('is no matter of other configurations', () => {
		const single = hopInput();
		expect(levelsWhenSwitched(single, soundPlan(single), 'A')).toBeNull();
	});

	it('of a plan frozen earlier is read as it was planned: standby to standby', () => {
		const frozen = structuredClone(spare!);
		frozen.received.A.transmitBranchLossDb = standbyArm;
		expect(senderOf(plan, frozen, 'A')).toBe('standby');
		expect(senderOf(plan, frozen, 'B')).toBe('main');
	});

	it('stands on the site sheet, with how to switch', () => {
		const text = JSON.stringify(makeSiteSheet(input, plan, 'A', 1));
		expect(text).toContain('the far main unit sends');
		expect(text).toContain('With the far standby sending');
		expect(text).toContain('switch it back before leaving');
	});
});
