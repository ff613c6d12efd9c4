import { describe, expect, it } from 'vitest';
import { availabilityText } from '#core/budget/availability';
import { carriersOf } from '#core/budget/configuration';
import { secondPathsOf } from '#core/budget/pathFigures';
import { planHop, type HopPlan } from '#core/budget/hopPlan';
import type { EndPlanInput, HopPlanInput } from '#core/budget/planInput';
import { exposureDistance } from '#core/firstlook/exposure';
import { magneticDeclination } from '#core/geodesy/declination';
import { makeSiteSheet } from '#core/sheet/siteSheet';
import { bearing, expectedText, judgeQuantity } from '#core/tower/quantity';
import { clampPlan } from '#core/tower/towerArithmetic';
import { bearingText } from '#core/units/text';
import { catalogue, configured, hopInput, part, seaProfile, soundPlan } from './planFixture';

const codesOf = (plan: HopPlan): string[] => plan.findings.map(({ code }) => code);
const found = (input: HopPlanInput): string[] => codesOf(soundPlan(input));

describe('limits hold in every state', () => {
	const base = hopInput();
	const plan = soundPlan(base);
	const ends = (own: Partial<EndPlanInput>): HopPlanInput =>
		hopInput({ eirpLimitDbm: 50 }, { A: own, B: { transmitPowerDbm: 0, alignmentPowerDbm: 0 } });
	const gainDb = plan.received.B.eirpDbm - base.ends.A.transmitPowerDbm;

	it('the EIRP while aligning is judged as the one in operation', () => {
		const within = 50 - gainDb;
		expect(found(ends({ transmitPowerDbm: within, alignmentPowerDbm: within }))).not.toContain(
			'eirp-over-limit'
		);
		const aligning = found(ends({ transmitPowerDbm: within, alignmentPowerDbm: within + 1 }));
		expect(aligning).toContain('eirp-over-limit-aligning');
		expect(aligning).not.toContain('eirp-over-limit');
		const operating = found(ends({ transmitPowerDbm: within + 1, alignmentPowerDbm: within }));
		expect(operating).toContain('eirp-over-limit');
		expect(operating).not.toContain('eirp-over-limit-aligning');
	});

	it('a receiver that would be drowned in operation only is found', () => {
		// Eighty metres apart: 40 dB and more above a usual hop.
		const near = { ...base.ends.B.position, latitudeDeg: base.ends.A.position.latitudeDeg + 0.003 };
		const of = (operating: number, aligning: number): string[] =>
			found(
				hopInput(
					{ path: { ...base.path, profile: null } },
					{
						A: { transmitPowerDbm: operating, alignmentPowerDbm: aligning },
						B: {
							position: { ...near, longitudeDeg: base.ends.A.position.longitudeDeg },
							transmitPowerDbm: -9,
							alignmentPowerDbm: -9
						}
					}
				)
			);
		const strong = of(10, -9);
		expect(strong.some((code) => /^receiver-\w+-operating$/.test(code))).toBe(true);
		expect(strong).not.toContain('receiver-overload');
		expect(of(-9, 10)).toContain('receiver-overload');
	});

	it('exposure is that of the state which radiates more', () => {
		const at = (operating: number, aligning: number): number =>
			soundPlan(
				hopInput(
					{ publicExposureWM2: 0.05 },
					{ A: { transmitPowerDbm: operating, alignmentPowerDbm: aligning } }
				)
			).firstLook.A.exposure.public.distanceM;
		expect(at(5, 14)).toBeCloseTo(at(14, 5), 9);
		expect(at(5, 14)).toBeGreaterThan(at(5, 5));
	});

	it('exposure adds up what is sent at once', () => {
		const one = { eirpDbm: 52, powerDbm: 25, diameterM: 0.6 };
		// 4·0.316/(π·0.09) = 4.5 W/m² of one, 17.9 W/m² of four.
		expect(exposureDistance([one], 10).neverReached).toBe(true);
		const four = exposureDistance([one, one, one, one], 10);
		expect(four.neverReached).toBe(false);
		// Four times 158.5 W: √(634/(4π·10)) = 2.246 m.
		expect(four.distanceM).toBeCloseTo(2.246, 2);
		// Where the caps keep it below, it is nearer than the far field alone would say.
		const mixed = exposureDistance([one, { ...one, eirpDbm: 60, powerDbm: 33 }], 20);
		expect(mixed.distanceM).toBeLessThan(Math.sqrt((158.5 + 1000) / (4 * Math.PI * 20)));
		expect(mixed.distanceM).toBeGreaterThan(1.9);
	});

	it('of two units in hot standby one sends, and a diversity dish sends nothing', () => {
		const reach = (kind: Parameters<typeof configured>[0]): number => {
			const coupling = kind === 'hot-standby' ? part(catalogue.couplings, 'CU-18') : null;
			const own = { coupling, secondDish: part(catalogue.dishes, 'DP-060-26') };
			const input = hopInput(
				{ configuration: configured(kind), publicExposureWM2: 0.01 },
				{ A: own, B: own }
			);
			const result = planHop(input);
			return result.kind === 'plan' ? result.plan.firstLook.A.exposure.public.distanceM : NaN;
		};
		expect(reach('space-diversity')).toBeCloseTo(reach('single'), 9);
		expect(reach('hot-standby')).toBeLessThan(reach('single'));
	});
});

describe('an availability', () => {
	it('is rounded down, has as many nines as there are, and says when it is a bound', () => {
		expect(availabilityText(99.98999)).toBe('99.9899 %');
		expect(availabilityText(99.99)).toBe('99.9900 %');
		expect(availabilityText(99.999_128)).toBe('99.99912 %');
		expect(availabilityText(99.999_96)).toBe('99.999960 %');
		expect(availabilityText(99.999_999_9)).toBe('99.999999 %');
		expect(availabilityText(99.999_99, 'better')).toBe('better than 99.999990 %');
		expect(availabilityText(98, 'worse')).toBe('worse than 98.0000 %');
	});

	it('of five nines can be met, and says that the method is followed beyond what it states', () => {
		const strong = hopInput({
			requiredAvailabilityPercent: 99.9995,
			operatingModulation: hopInput().ends.A.radio.modulations[0]!.name,
			climate: { ...hopInput().climate, rainRate001MmH: 8 }
		});
		const { availability } = soundPlan(strong);
		expect(availability.achievedPercent).toBeGreaterThan(99.9995);
		expect(availability.holds).toBe(true);
		expect(availability.notModelled.join()).toContain('its own law is followed beyond');
		expect(new Set(availability.directions.map((d) => d.rainRange))).toContain('extrapolated');
	});

	it('worse than the method says is a bound from above, and never holds', () => {
		const wet = (additionalLossDb: number): HopPlan =>
			soundPlan(
				hopInput({
					...{ requiredAvailabilityPercent: 90, additionalLossDb },
					climate: { ...hopInput().climate, rainRate001MmH: 250 }
				})
			);
		// Just so much margin that rain takes it for more than one per cent of the year.
		const { margins } = wet(0).received.A;
		const margin = margins.find(({ modulation }) => modulation === hopInput().operatingModulation)!;
		const { availability } = wet(margin.marginDb - 1);
		expect(availability.directions.some((d) => d.rainRange === 'more')).toBe(true);
		expect([availability.bound, availability.holds]).toEqual(['worse', false]);
		expect(availability.achievedPercent).toBeGreaterThan(90);
	});

	const twoBands = (change: Partial<HopPlanInput['configuration']> = {}): HopPlan => {
		const own = {
			secondDish: part(catalogue.dishes, 'DP-060-80'),
			secondRadio: part(catalogue.radios, 'RU-80')
		};
		return soundPlan(
			hopInput(
				{
					configuration: {
						...configured('two-bands'),
						...{ secondChannelWidthMhz: 250, ...change }
					}
				},
				{
					A: { ...own, secondTransmitFrequencyGhz: 73 },
					B: { ...own, secondTransmitFrequencyGhz: 83 }
				}
			)
		);
	};

	it('counts every carrier with traffic: all, any, or by what each carries', () => {
		const of = (combine: HopPlanInput['configuration']['combine']): HopPlan['availability'] =>
			twoBands({ combine }).availability;
		const all = of('all');
		const { combined } = all;
		// The second band fades far more in rain.
		expect(all.achievedPercent).toBe(combined!.all);
		expect(of('any').achievedPercent).toBe(combined!.any);
		expect(of('capacity').achievedPercent).toBe(combined!.capacity);
		expect(combined!.all).toBeLessThan(combined!.capacity);
		expect(combined!.capacity).toBeLessThan(combined!.any);
		expect(soundPlan(hopInput()).availability.combined).toBeNull();
	});

	it('comes with what is carried for so much of the year, never more for more', () => {
		const shares = twoBands().availability.capacity!;
		shares.slice(1).forEach((share, i) => {
			expect(share.mbitS).toBeLessThan(shares[i]!.mbitS);
			expect(share.availabilityPercent).toBeGreaterThan(shares[i]!.availabilityPercent);
		});
		expect(shares[0]!.mbitS).toBeGreaterThan(shares.at(-1)!.mbitS);
	});

	it('of a second band is that of its own channel and modulation', () => {
		const [wide, narrow] = [twoBands({ secondChannelWidthMhz: 500 }), twoBands()];
		const floor = (plan: HopPlan): number => plan.carriers[1]!.received.A.floorDbm;
		expect(floor(wide) - floor(narrow)).toBeCloseTo(10 * Math.log10(2), 9);
		expect(wide.carriers[0]!.received.A.floorDbm).toBe(narrow.carriers[0]!.received.A.floorDbm);
		const fast = twoBands({
			secondModulation: part(catalogue.radios, 'RU-80').modulations[0]!.name
		});
		expect(fast.availability.combined!.all).toBeGreaterThan(narrow.availability.combined!.all);
	});
});

describe('the path of a second dish', () => {
	const second = part(catalogue.dishes, 'DP-060-26');
	const diverse = (offsetM: number, heightM = 0): HopPlanInput => {
		const base = hopInput();
		const own = { secondDish: second, secondDishOffsetM: offsetM };
		const obstacles = heightM
			? [{ name: 'Mill', kind: 'building' as const, distanceKm: 4, lengthM: 0, heightM }]
			: [];
		const { A, B } = base.ends;
		const profile = seaProfile(A.position, B.position, 0, 0);
		return hopInput(
			{
				configuration: configured('space-diversity'),
				path: { ...base.path, obstacles, profile }
			},
			{ A: { ...own, groundAmslM: 0 }, B: { ...own, groundAmslM: 0 } }
		);
	};

	it('is judged for itself, by what a diversity dish wants', () => {
		const input = diverse(-12);
		const paths = secondPathsOf(input, carriersOf(input));
		expect(paths.map(({ end }) => end)).toEqual(['A', 'B']);
		expect(paths[0]!.check.wantedRatio).toBe(0.3);
		const high = Math.floor(
			Math.min(...['A', 'B'].map((end) => input.ends[end as 'A'].antennaHeightAglM))
		);
		const behind = diverse(-12, high - 4);
		expect(codesOf(soundPlan(behind))).toContain('second-path-blocked');
		expect(codesOf(soundPlan(diverse(-1, 0)))).not.toContain('second-path-blocked');
	});

	it('behind an obstruction improves nothing like a free one', () => {
		const factor = (input: HopPlanInput): number => soundPlan(input).availability.diversity!.factor;
		const high = Math.floor(hopInput().ends.A.antennaHeightAglM);
		const free = diverse(-12);
		const behind = diverse(-12, high - 2);
		const level = (input: HopPlanInput, n: number): number =>
			soundPlan(input).carriers[n]!.received.A.operatingLevelDbm;
		const weaker = level(behind, 0) - level(behind, 1);
		expect(weaker).toBeGreaterThan(10);
		expect(factor(behind)).toBeLessThan(Math.max(1.01, factor(free) / 10 ** (weaker / 20)));
	});
});

describe('headings', () => {
	it('go round: 2° is within 356.5° ± 9.2°', () => {
		const heading = bearing('Compass heading', 356.5, 9.2, 'plan');
		expect(judgeQuantity(heading, 2).verdict).toBe('good');
		expect(judgeQuantity(heading, 347.4).verdict).toBe('good');
		expect(judgeQuantity(heading, 6).reason).toContain('0.3° too far right');
		expect(judgeQuantity(heading, 340).reason).toContain('7.3° too far left');
		expect(judgeQuantity(heading, 340).reason).toContain('340.0 ° found');
		expect(expectedText(heading)).toBe('356.5 ± 9.2 °');
	});

	it('are never written as 360', () => {
		expect(bearingText(359.97, 1)).toBe('0.0');
		expect(bearingText(359.94, 1)).toBe('359.9');
		expect(bearingText(-0.001, 2)).toBe('0.00');
		const input = hopInput();
		const plan = soundPlan(input);
		const turned = {
			...plan,
			pointing: {
				...plan.pointing,
				A: { ...plan.pointing.A, azimuthCompassDeg: 359.98, azimuthTrueDeg: 359.998 }
			}
		};
		expect(JSON.stringify(makeSiteSheet(input, turned, 'A', 1))).not.toContain('360.0');
	});

	it('name the model of their date, and say where a compass is of no use', () => {
		const at = (latitudeDeg: number, year: number): ReturnType<typeof magneticDeclination> =>
			magneticDeclination({ latitudeDeg, longitudeDeg: -118 }, 100, new Date(`${year}-06-01`));
		expect(at(-46, 2022).modelName).toBe('World Magnetic Model 2020');
		expect(at(-46, 2027).modelName).toBe('World Magnetic Model 2025');
		expect(at(-46, 2027).horizontalNt).toBeGreaterThan(6000);
		const north = hopInput();
		const moved = (latitudeDeg: number): HopPlanInput =>
			hopInput(
				{ path: { ...north.path, profile: null } },
				{
					A: { position: { latitudeDeg, longitudeDeg: -118.4 } },
					B: { position: { latitudeDeg: latitudeDeg + 0.05, longitudeDeg: -118.3 } }
				}
			);
		expect(found(moved(83))).toContain('compass-weak');
		expect(found(north)).not.toContain('compass-weak');
	});
});

describe('what lies near', () => {
	it('is length along the ray: slant counts', () => {
		const base = hopInput({ path: { ...hopInput().path, profile: null } });
		const level = soundPlan(base).pathKm;
		const steep = soundPlan(
			hopInput({ path: { ...base.path, profile: null } }, { B: { groundAmslM: 4000 } })
		).pathKm;
		expect(steep).toBeCloseTo(Math.hypot(level, (4000 - base.ends.B.groundAmslM) / 1000), 1);
	});

	it('ends in each other’s near field are told so', () => {
		const { A } = hopInput().ends;
		const at = (metres: number): string[] =>
			found(
				hopInput(
					{ path: { ...hopInput().path, profile: null } },
					{
						B: {
							...{ groundAmslM: A.groundAmslM, antennaHeightAglM: A.antennaHeightAglM },
							position: {
								latitudeDeg: A.position.latitudeDeg + metres / 111_200,
								longitudeDeg: A.position.longitudeDeg
							}
						}
					}
				)
			);
		// 2·0.6²·26.2/0.2998 = 62.9 m.
		expect(at(60)).toContain('within-near-field');
		expect(at(70)).not.toContain('within-near-field');
	});

	it('clamps of a short run do not share one place', () => {
		expect(clampPlan(0.5, 0.3, 1)).toEqual({ count: 1, positionsM: [0.25] });
		const { positionsM } = clampPlan(0.7, 0.3, 1);
		expect(new Set(positionsM).size).toBe(positionsM.length);
	});
});
