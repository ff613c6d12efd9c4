import { describe, expect, it } from 'vitest';
import type { DirectionAvailability, HopAvailability } from '#core/budget/availability';
import type { HopPlanInput } from '#core/budget/planInput';
import { climateSensitivity } from '#core/budget/sensitivity';
import type { DishPart, RadioPart } from '#core/catalogue/parts';
import { ENDS } from '#core/ends';
import {
	meanEchoDelayNs,
	multipathActivity,
	outageWithDiversity,
	selectiveOutagePercent
} from '#core/propagation/selectiveFading';
import { present } from '#core/units/lists';
import { configured, hopInput, soundPlan } from './planFixture';

const MODULATION = '256 QAM';
const SIGNATURE = { widthMhz: 30, minimumPhaseDb: 20, nonMinimumPhaseDb: 18, delayNs: 6.3 };

describe('distortion within the channel', () => {
	// Origin: P.530-17 §5.1 and §6.2 worked out by hand in another language: 40 km, p0 = 8 %.
	it('follows the signature', () => {
		expect(meanEchoDelayNs(40)).toBeCloseTo(0.523739, 6);
		expect(multipathActivity(8)).toBeCloseTo(0.02963678, 8);
		expect(selectiveOutagePercent(SIGNATURE, 8, 40)).toBeCloseTo(0.0018801051, 9);
	});

	it('and flat fades are both bettered by a second receiver', () => {
		const flat = 8 * 10 ** -3.5;
		const left = outageWithDiversity(flat, selectiveOutagePercent(SIGNATURE, 8, 40), 30, 8);
		expect(left.flatPercent).toBeCloseTo(flat / 30, 12);
		expect(left.selectivePercent).toBeCloseTo(2.549798634781663e-5, 15);
		expect(left.totalPercent).toBeCloseTo(0.00013304734584157298, 14);
	});

	it('is never more with a second receiver than without, and no number is missing', () => {
		for (const flat of [0, 1e-6, 0.01, 3, 100]) {
			for (const selective of [0, 1e-7, 0.02, 5, 100]) {
				for (const improvement of [1, 3, 200, 1e6]) {
					for (const p0 of [0, 1e-3, 8, 900]) {
						const left = outageWithDiversity(flat, selective, improvement, p0);
						expect(left.flatPercent).toBeLessThanOrEqual(flat);
						expect(left.selectivePercent).toBeLessThanOrEqual(selective);
						expect(left.totalPercent).toBeGreaterThanOrEqual(left.flatPercent - 1e-12);
						expect(left.totalPercent).toBeLessThanOrEqual(100);
					}
				}
			}
		}
	});
});

/** A hop whose radios and dishes say more of themselves. */
function telling(
	radio: Partial<RadioPart>,
	dish: Partial<DishPart> = {},
	change: Partial<HopPlanInput> = {}
): HopPlanInput {
	const input = hopInput(change);
	return {
		...input,
		ends: {
			A: {
				...input.ends.A,
				radio: { ...input.ends.A.radio, ...radio },
				dish: { ...input.ends.A.dish, ...dish }
			},
			B: {
				...input.ends.B,
				radio: { ...input.ends.B.radio, ...radio },
				dish: { ...input.ends.B.dish, ...dish }
			}
		}
	};
}
const DISTORTION = {
	delayNs: 6.3,
	signatures: [
		{
			modulation: MODULATION,
			channelWidthMhz: 28,
			widthMhz: 30,
			minimumPhaseDb: 20,
			nonMinimumPhaseDb: 18
		}
	]
};
const wanted = (availability: HopAvailability): DirectionAvailability =>
	present(
		availability.directions.find((d) => d.modulation === MODULATION && d.receivingEnd === 'A'),
		'wanted direction'
	);

describe('availability', () => {
	it('counts distortion where the radio states it, and says where it does not', () => {
		const without = soundPlan(hopInput()).availability;
		expect(wanted(without).selectivePercent).toBeNull();
		expect(without.notModelled.join()).toContain('states no signature for 256 QAM at 28 MHz');
		const counted = soundPlan(telling({ distortion: DISTORTION }));
		const own = wanted(counted.availability);
		expect(own.selectivePercent).toBeCloseTo(
			counted.availability.annualShare *
				selectiveOutagePercent(
					{ ...SIGNATURE },
					// Of the frequency that A receives.
					counted.availability.occurrencePercent * (25.22 / 26.2) ** 0.8,
					counted.pathKm
				),
			12
		);
		expect(own.totalPercent - wanted(without).totalPercent).toBeCloseTo(
			own.selectivePercent ?? 0,
			12
		);
		expect(counted.availability.notModelled.join()).not.toContain('signature');
		const wide = telling({
			distortion: {
				...DISTORTION,
				signatures: [{ ...DISTORTION.signatures[0]!, channelWidthMhz: 56 }]
			}
		});
		expect(wanted(soundPlan(wide).availability).selectivePercent).toBeNull();
	});

	it('of space diversity betters distortion too', () => {
		const input = telling({ distortion: DISTORTION });
		const second = (change: Partial<HopPlanInput>): HopPlanInput => ({
			...input,
			...change,
			ends: {
				A: { ...input.ends.A, secondDish: input.ends.A.dish, secondDishOffsetM: -8 },
				B: { ...input.ends.B, secondDish: input.ends.B.dish, secondDishOffsetM: -8 }
			}
		});
		const alone = wanted(soundPlan(input).availability);
		const both = wanted(
			soundPlan(second({ configuration: configured('space-diversity') })).availability
		);
		expect(both.multipathPercent).toBeLessThan(alone.multipathPercent);
		expect(both.multipathPercent + (both.selectivePercent ?? 0)).toBeLessThan(
			alone.multipathPercent + (alone.selectivePercent ?? 0)
		);
	});

	it('takes the wet covers of both dishes from the margin in rain, and from nothing else', () => {
		const { cover, ...uncovered } = hopInput().ends.A.dish;
		expect(cover).toBeDefined();
		const bare = (change: Partial<HopPlanInput> = {}): HopAvailability =>
			soundPlan(hopInput(change, { A: { dish: uncovered }, B: { dish: uncovered } })).availability;
		const dry = wanted(bare());
		const wet = soundPlan(telling({}, { cover: { wetLossDb: 1.5 } })).availability;
		expect(wanted(wet).rainPercent).toBeGreaterThan(dry.rainPercent);
		expect(wanted(wet).multipathPercent).toBe(dry.multipathPercent);
		expect(wanted(wet).marginDb).toBe(dry.marginDb);
		const less = wanted(bare({ additionalLossDb: 3 }));
		expect(wanted(wet).rainPercent).toBeCloseTo(less.rainPercent, 9);
		expect(wet.notModelled.join()).not.toContain('wet covers');
		expect(bare().notModelled.join()).toContain('wet covers');
		// More than is left: out whenever it rains, but not while it is dry.
		const soaked = wanted(soundPlan(telling({}, { cover: { wetLossDb: 20 } })).availability);
		expect([soaked.rainRange, soaked.rainPercent]).toEqual(['more', 1]);
	});

	it('may ask for both directions at once: rain meets both together, clear-air fades do not', () => {
		const worse = soundPlan(hopInput()).availability;
		const either = soundPlan(hopInput({ directionRule: 'either' })).availability;
		const own = worse.directions.filter((d) => d.modulation === MODULATION);
		const rain = Math.max(...own.map((d) => d.rainPercent));
		const clear = own.reduce((sum, d) => sum + d.multipathPercent, 0);
		expect(either.achievedPercent).toBeCloseTo(100 - rain - clear, 12);
		expect(either.achievedPercent).toBeLessThan(worse.achievedPercent);
		expect(worse.byDirection).toEqual({
			rule: 'worse',
			worse: { percent: worse.achievedPercent, bound: worse.bound },
			either: { percent: either.achievedPercent, bound: either.bound }
		});
	});
});

describe('what a value of the climate changes', () => {
	it('is told for 20 % less and more of each, the rest as planned', () => {
		const input = hopInput();
		const [rain, gradient, temperature] = climateSensitivity(input);
		expect(rain?.values).toEqual([24, 30, 36]);
		expect(rain?.available[1]?.percent).toBe(soundPlan(input).availability.achievedPercent);
		expect(rain?.available[2]?.percent).toBe(
			soundPlan({ ...input, climate: { ...input.climate, rainRate001MmH: 36 } }).availability
				.achievedPercent
		);
		const fall = (available: readonly ({ percent: number } | null)[] = []): boolean[] =>
			[0, 1].map((i) => (available[i]?.percent ?? 0) > (available[i + 1]?.percent ?? 0));
		expect(fall(rain?.available)).toEqual([true, true]);
		// More negative is worse: 20 % less of −200 is −240.
		expect(gradient?.values).toEqual([-240, -200, -160]);
		expect(fall(gradient?.available)).toEqual([false, false]);
		expect(temperature?.values.map((c) => Math.round(c))).toEqual([10, 15, 20]);
	});

	it('says so where a figure is a bound', () => {
		// So little rain that the method reaches no further: better than it says.
		const { climate } = hopInput();
		const dry = hopInput({ climate: { ...climate, rainRate001MmH: 1 } });
		expect(soundPlan(dry).availability.bound).toBe('better');
		expect(climateSensitivity(dry)[0]?.available.map((one) => one?.bound)).toEqual([
			...['better', 'better', 'better']
		]);
	});

	it('has no figure where a method does not reach', () => {
		const input = hopInput();
		const steep = { ...input, climate: { ...input.climate, gradientDn1: -1400 } };
		expect(climateSensitivity(steep)[1]?.available[0]).toBeNull();
		expect(climateSensitivity(steep)[1]?.available[1]).not.toBeNull();
	});
});

describe('power control', () => {
	it('lowers the level in clear air, not the margin, and not below what the radio can', () => {
		const without = soundPlan(hopInput());
		const with10 = soundPlan(hopInput({ powerControlDb: 10 }));
		for (const end of ENDS) {
			const [p, q] = [without.received[end], with10.received[end]];
			expect(q.operatingLevelDbm).toBeCloseTo(p.operatingLevelDbm - 10, 9);
			expect(q.margins).toEqual(p.margins);
			expect(q.plannedLevelDbm).toBe(p.plannedLevelDbm);
			expect(q.eirpDbm).toBe(p.eirpDbm);
		}
		const far = soundPlan(hopInput({ powerControlDb: 40 }));
		const { radio, transmitPowerDbm } = hopInput().ends.B;
		expect(far.received.A.operatingLevelDbm).toBeCloseTo(
			without.received.A.operatingLevelDbm - (transmitPowerDbm - radio.minPowerDbm),
			9
		);
	});

	it('that leaves too little above the threshold is said', () => {
		const codes = (powerControlDb: number): string[] =>
			soundPlan(hopInput({ powerControlDb })).findings.map(({ code }) => code);
		expect(codes(5)).not.toContain('power-control-deep');
		expect(codes(20)).toContain('power-control-deep');
	});
});
