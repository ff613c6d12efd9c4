import { describe, expect, it } from 'vitest';
import { carriersOf, CONFIGURATION_RULES } from '#core/budget/configuration';
import { CONFIGURATIONS, type ConfigurationKind } from '#core/budget/configurationKinds';
import { climateOf, combineClimates, UNSAID_CLIMATE } from '#core/budget/climate';
import { planHop, type HopPlan } from '#core/budget/hopPlan';
import type { EndPlanInput, HopPlanInput } from '#core/budget/planInput';
import { gridConvergenceDeg, turnsOnRod } from '#core/budget/pointingPlan';
import { withPlanDefaults } from '#core/budget/planDefaults';
import { dcSupply } from '#core/firstlook/dcSupply';
import { hoistClass } from '#core/firstlook/hoist';
import { partsList } from '#core/tower/partsList';
import { cutOffGhz, usableBandGhz } from '#core/feeder/waveguide';
import { exposureDistance, nearFieldDensityWM2 } from '#core/firstlook/exposure';
import { pointingLossDb, swayVariationDb, windLook } from '#core/firstlook/wind';
import { siteConflicts, type NeighbourCarrier } from '#core/frequency/siteConflicts';
import { findSubBandUnit, holdsChannel, subBandUnits, unitForPair } from '#core/frequency/subBand';
import { comparePlans } from '#core/review/comparePlans';
import { fieldWords } from '#core/review/fieldWords';
import { acceptanceKey, reviewPlan } from '#core/review/reviewPlan';
import {
	KNOWN_CONDITIONS,
	catalogue,
	configured as ofKind,
	hopInput,
	part,
	soundPlan
} from './planFixture';

type Ends = Parameters<typeof hopInput>[1];

/** The hop of the fixture in a configuration, with the parts it needs. */
function configured(kind: ConfigurationKind, cancellerDb = 0): HopPlanInput {
	const coupling = {
		'hot-standby': 'CU-18',
		'frequency-diversity': 'CE-18',
		'dual-polarized': 'OT-18',
		'four-radios': 'DC-18'
	}[kind as string];
	const both: Partial<EndPlanInput> = {
		radio: part(catalogue.radios, 'RU-18'),
		dish: part(catalogue.dishes, 'DP-090-18'),
		mount: part(catalogue.mounts, 'MB-M'),
		coupling: coupling ? part(catalogue.couplings, coupling) : null,
		secondDish: part(catalogue.dishes, kind === 'two-bands' ? 'DP-060-80' : 'DP-060-18'),
		secondRadio: part(catalogue.radios, 'RU-80'),
		transmitPowerDbm: 16,
		alignmentPowerDbm: 14
	};
	const ends: Ends = {
		A: {
			...both,
			transmitFrequencyGhz: 17.85,
			subBandUnit: '1L',
			secondTransmitFrequencyGhz: kind === 'two-bands' ? 72.5 : 17.95
		},
		B: {
			...both,
			transmitFrequencyGhz: 18.86,
			subBandUnit: '1H',
			secondTransmitFrequencyGhz: kind === 'two-bands' ? 82.5 : 18.96
		}
	};
	const secondChannelWidthMhz = kind === 'two-bands' ? 250 : null;
	return hopInput({ configuration: { ...ofKind(kind, cancellerDb), secondChannelWidthMhz } }, ends);
}

const codesOf = (input: HopPlanInput): string[] => {
	const result = planHop(input);
	return (result.kind === 'plan' ? result.plan.findings : result.findings).map((f) => f.code);
};

describe('configurations', () => {
	it.each([...CONFIGURATIONS])('%s has its carriers, each with a budget both ways', (kind) => {
		const plan = soundPlan(configured(kind));
		expect(plan.carriers).toHaveLength(kind === 'single' ? 1 : CONFIGURATION_RULES[kind].radios);
		expect(plan.carriers[0]!.received).toEqual(plan.received);
		expect(plan.findings.filter((f) => f.severity === 'error')).toEqual([]);
	});

	const single = soundPlan(configured('single')).received.A.plannedLevelDbm;
	const levels = (kind: ConfigurationKind): number[] =>
		soundPlan(configured(kind)).carriers.map((c) => c.received.A.plannedLevelDbm);

	it('lose what their arms lose, at both ends', () => {
		// Origin: arms of the catalogue, CU-18 1.6 and 6.6 dB, OT-18 0.5 and 0.6 dB, DC-18 4.0 dB.
		expect(levels('hot-standby').map((l) => single - l)).toEqual([
			expect.closeTo(3.2, 6),
			// The far main unit sends: its arm, and the standby unit's own.
			expect.closeTo(1.6 + 6.6, 6)
		]);
		expect(levels('dual-polarized').map((l) => single - l)).toEqual([
			expect.closeTo(1, 6),
			expect.closeTo(1.2, 6)
		]);
		expect(single - levels('four-radios')[0]!).toBeCloseTo(8, 6);
	});

	it('turn the polarization where the arm does', () => {
		const polarizations = (kind: ConfigurationKind): string[] =>
			carriersOf(configured(kind)).map((c) => c.polarization);
		expect(polarizations('dual-polarized')).toEqual(['vertical', 'horizontal']);
		expect(polarizations('four-radios')).toEqual([
			'vertical',
			'vertical',
			'horizontal',
			'horizontal'
		]);
	});

	it('space diversity hears the main transmitter through the second dish, lower and weaker', () => {
		const [main, second] = soundPlan(configured('space-diversity')).carriers;
		const difference = main!.received.B.plannedLevelDbm - second!.received.B.plannedLevelDbm;
		// DP-090-18 42.6 dBi against DP-060-18 39.0 dBi.
		expect(difference).toBeCloseTo(3.6, 6);
	});

	it('two bands plan the second on its own frequency with its own dish', () => {
		const [, second] = soundPlan(configured('two-bands')).carriers;
		expect(second!.received.A.frequencyGhz).toBe(82.5);
	});

	it('diversity helps and a canceller helps', () => {
		const outage = (plan: HopPlan): number =>
			plan.availability.directions.find((d) => d.modulation === '256 QAM')!.multipathPercent;
		expect(outage(soundPlan(configured('space-diversity')))).toBeLessThan(
			outage(soundPlan(configured('single')))
		);
		const dual = (cancellerDb: number): number =>
			soundPlan(configured('dual-polarized', cancellerDb)).availability.achievedPercent;
		expect(dual(20)).toBeGreaterThan(dual(0));
	});

	it('diversity helps a denser modulation less, by its own smaller margin, and each end by its own dish', () => {
		const of = (plan: HopPlan, end: 'A' | 'B', modulation: string): number =>
			plan.availability.directions.find(
				(d) => d.receivingEnd === end && d.modulation === modulation && d.carrierNumber === 1
			)!.multipathPercent;
		const alone = soundPlan(configured('single'));
		const apart = configured('space-diversity');
		const both = soundPlan(apart);
		const gain = (plan: HopPlan, end: 'A' | 'B', modulation: string): number =>
			of(alone, end, modulation) / of(plan, end, modulation);
		const [first, last] = [alone.received.A.margins[0]!, alone.received.A.margins.at(-1)!];
		expect(first.marginDb - last.marginDb).toBeGreaterThan(5);
		// Origin: P.530-18 equation (39), I grows by 10 dB with 10 dB of margin.
		expect(gain(both, 'A', first.modulation) / gain(both, 'A', last.modulation)).toBeCloseTo(
			10 ** ((first.marginDb - last.marginDb) / 10),
			3
		);
		// The other dish of B grows to the size of the first: 42.6 against 39.0 dBi.
		const larger = { ...apart.ends.B, secondDish: part(catalogue.dishes, 'DP-090-18') };
		const uneven = soundPlan({ ...apart, ends: { ...apart.ends, B: larger } });
		expect(gain(uneven, 'B', first.modulation) / gain(both, 'B', first.modulation)).toBeCloseTo(
			10 ** 0.36,
			3
		);
		expect(gain(uneven, 'A', first.modulation)).toBeCloseTo(gain(both, 'A', first.modulation), 6);
		// What is told of the hop is what the weaker end gains.
		expect(uneven.availability.diversity!.factor).toBeCloseTo(gain(uneven, 'A', '256 QAM'), 3);
	});

	it('frequency diversity gains by the lesser margin of its two carriers', () => {
		const small = configured('frequency-diversity');
		// Larger dishes and arms of 1 dB, for enough margin that the second carrier helps at all.
		const stronger = (end: 'A' | 'B'): EndPlanInput => ({
			...small.ends[end],
			dish: part(catalogue.dishes, 'DP-120-18'),
			coupling: {
				...small.ends[end].coupling!,
				arms: small.ends[end].coupling!.arms.map((arm) => ({ ...arm, lossDb: 1 }))
			}
		});
		const apart = { ...small, ends: { A: stronger('A'), B: stronger('B') } };
		/** Outage of the first carrier at A, with the second arm there losing more. */
		const outage = (moreDb: number): { percent: number; marginDb: number } => {
			const coupling = structuredClone(apart.ends.A.coupling!);
			coupling.arms[1]!.lossDb += moreDb;
			const plan = soundPlan({
				...apart,
				ends: { A: { ...apart.ends.A, coupling }, B: apart.ends.B }
			});
			const { modulation, marginDb } = plan.carriers[1]!.received.A.margins[0]!;
			const { multipathPercent } = plan.availability.directions.find(
				(d) => d.receivingEnd === 'A' && d.modulation === modulation && d.carrierNumber === 1
			)!;
			return { percent: multipathPercent, marginDb };
		};
		const first = soundPlan(apart).received.A.margins[0]!.marginDb;
		const [three, five] = [outage(3), outage(5)];
		expect(three.marginDb).toBeLessThan(first);
		// Origin: P.530-18 §6.2.5, I grows by 10 dB with 10 dB of margin; here the second has less.
		expect(five.percent / three.percent).toBeCloseTo(10 ** 0.2, 6);
		// A second carrier with more to spare than the first gains nothing more.
		const [even, spare] = [outage(-0.4), outage(-0.8)];
		if (even.marginDb <= first) throw new Error('The second arm was to lose less than the first.');
		expect(spare.percent).toBeCloseTo(even.percent, 12);
	});

	it('are hoisted with every radio they have', () => {
		const total = (kind: ConfigurationKind): number =>
			soundPlan(configured(kind)).firstLook.A.hoist.totalKg;
		const radioKg = part(catalogue.radios, 'RU-18').weightKg;
		const couplingKg = part(catalogue.couplings, 'DC-18').weightKg;
		expect(total('four-radios') - total('single')).toBeCloseTo(3 * radioKg + couplingKg, 9);
	});

	it.each([
		['coupling-missing', 'hot-standby', { coupling: null }],
		['coupling-kind', 'hot-standby', { coupling: part(catalogue.couplings, 'OT-18') }],
		['coupling-band', 'hot-standby', { coupling: part(catalogue.couplings, 'CU-26') }],
		['second-dish-missing', 'space-diversity', { secondDish: null }],
		['second-dish-band', 'space-diversity', { secondDish: part(catalogue.dishes, 'DP-060-26') }],
		['second-frequency-missing', 'frequency-diversity', { secondTransmitFrequencyGhz: null }],
		['second-channel-overlap', 'frequency-diversity', { secondTransmitFrequencyGhz: 17.86 }],
		['second-radio-missing', 'two-bands', { secondRadio: null }]
	] as const)('finds %s', (code, kind, change) => {
		const input = configured(kind);
		expect(
			codesOf({ ...input, ends: { ...input.ends, A: { ...input.ends.A, ...change } } })
		).toContain(code);
	});

	it('count their parts', () => {
		const count = (kind: ConfigurationKind, code: string): number =>
			partsList(configured(kind), 'A').find((line) => line.code === code)?.count ?? 0;
		expect(count('four-radios', 'RU-18')).toBe(4);
		expect(count('two-bands', 'RU-18')).toBe(1);
		expect(count('two-bands', 'RU-80')).toBe(1);
		expect(count('hot-standby', 'CU-18')).toBe(1);
		expect(count('single', 'CU-18')).toBe(0);
		expect(count('space-diversity', 'MB-M')).toBe(2);
		expect(count('dual-polarized', 'DC-25')).toBe(2 * Math.ceil(43));
	});
});

describe('the frequency plan', () => {
	const radio = part(catalogue.radios, 'RU-18');

	it('knows the units of a radio and which one holds a pair', () => {
		expect(subBandUnits(radio).map((unit) => unit.unit)).toEqual(['1L', '1H', '2L', '2H']);
		expect(unitForPair(radio, 17.85, 18.86, 56)?.unit).toBe('1L');
		expect(unitForPair(radio, 19.4, 18.39, 56)?.unit).toBe('2H');
		expect(unitForPair(radio, 18.19, 19.2, 56)).toBeUndefined();
		expect(findSubBandUnit(radio, '9L')).toBeUndefined();
	});

	it('takes a channel only whole', () => {
		expect(holdsChannel([17.7, 18.2], 17.728, 56)).toBe(true);
		expect(holdsChannel([17.7, 18.2], 17.727, 56)).toBe(false);
	});

	it('every pair of every radio is its duplex spacing apart and inside its range', () => {
		for (const own of catalogue.radios) {
			for (const band of own.subBands) {
				expect((band.highGhz[0] - band.lowGhz[0]) * 1000).toBeCloseTo(own.duplexSpacingMhz, 3);
				expect(band.lowGhz[0]).toBeGreaterThanOrEqual(own.rangeGhz[0]);
				expect(band.highGhz[1]).toBeLessThanOrEqual(own.rangeGhz[1]);
			}
		}
	});

	it('finds the swapped, the foreign and the unsaid unit', () => {
		const units = (A: string, B: string): string[] =>
			codesOf(hopInput({}, { A: { subBandUnit: A }, B: { subBandUnit: B } })).filter((c) =>
				c.includes('sub-band')
			);
		expect(units('2H', '2L')).toEqual([]);
		expect(units('2L', '2H')).toEqual(['outside-sub-band', 'outside-sub-band']);
		expect(units('2H', '2H')).toContain('sub-bands-no-pair');
		expect(units('', '2L')).toEqual(['sub-band-unsaid']);
		expect(units('7H', '2L')).toContain('sub-band-unknown');
	});

	const own = {
		transmitGhz: 26.2,
		receiveGhz: 25.22,
		channelWidthMhz: 28,
		polarization: 'vertical',
		azimuthTrueDeg: 115
	} as const;
	const far = { ...own, transmitGhz: 25.22, receiveGhz: 26.2, azimuthTrueDeg: 295 };
	const conflict = (change: Partial<NeighbourCarrier>): string[] =>
		siteConflicts({ A: own, B: far }, [{ hopName: 'Other', at: 'A', ...own, ...change }], {
			A: 'West',
			B: 'East'
		}).map((f) => f.code);

	it.each([
		[
			'high and low in one band',
			{ transmitGhz: 25.2, receiveGhz: 26.18, azimuthTrueDeg: 300 },
			['site-high-and-low']
		],
		['high and low in different bands', { transmitGhz: 17.8, receiveGhz: 18.81 }, []],
		['the same channel at a small angle', { azimuthTrueDeg: 160 }, ['same-channel-small-angle']],
		['the same channel far apart in angle', { azimuthTrueDeg: 290 }, []],
		['the same channel crossed', { azimuthTrueDeg: 160, polarization: 'horizontal' }, []],
		['the next channel', { azimuthTrueDeg: 120, transmitGhz: 26.228, receiveGhz: 25.248 }, []],
		[
			'overlapping channels',
			{ azimuthTrueDeg: 120, transmitGhz: 26.22, receiveGhz: 25.24 },
			['same-channel-small-angle']
		]
	] as const)('at a site: %s', (_, change, wanted) => expect(conflict(change)).toEqual(wanted));
});

describe('the review', () => {
	const input = hopInput({}, { A: { conditions: { ...KNOWN_CONDITIONS, pipeDiameterMm: null } } });
	const result = planHop(input);

	it('waits for a written acceptance of each warning, and of that end alone', () => {
		const open = reviewPlan(input, result, [], {});
		expect(open.findings.map((f) => f.code)).toEqual(['pipe-unknown']);
		expect([open.mayIssue, open.openWarnings, open.errors]).toEqual([false, 1, 0]);
		const key = acceptanceKey(open.findings[0]!);
		expect(reviewPlan(input, result, [], { [key]: 'Measured by phone.' }).mayIssue).toBe(true);
		expect(reviewPlan(input, result, [], { [key]: '   ' }).mayIssue).toBe(false);
		expect(reviewPlan(input, result, [], { 'pipe-unknown sites.B': 'x' }).mayIssue).toBe(false);
	});

	it('lets no acceptance outweigh an error, and no note block', () => {
		const drowned = hopInput({ eirpLimitDbm: 40 });
		const planned = planHop(drowned);
		const open = reviewPlan(drowned, planned, [], {});
		const all = Object.fromEntries(open.findings.map((f) => [acceptanceKey(f), 'I say so']));
		expect(reviewPlan(drowned, planned, [], all).mayIssue).toBe(false);
		const noted = hopInput({ climate: climateOf(UNSAID_CLIMATE) });
		const review = reviewPlan(noted, planHop(noted), [], {});
		expect(review.findings.map((f) => [f.code, f.severity])).toEqual([['climate-default', 'note']]);
		expect(review.mayIssue).toBe(true);
	});

	it('counts what stands at the sites', () => {
		const review = reviewPlan(
			input,
			result,
			[
				{
					hopName: 'Other',
					at: 'B',
					transmitGhz: 26.1,
					receiveGhz: 25.12,
					channelWidthMhz: 28,
					polarization: 'vertical',
					azimuthTrueDeg: 10
				}
			],
			{}
		);
		expect(review.findings.map((f) => f.code)).toContain('site-high-and-low');
	});

	const profile = hopInput().path.profile!;
	const moved = { ...profile, to: { ...profile.to, latitudeDeg: profile.to.latitudeDeg + 0.001 } };
	const wall = {
		...profile,
		groundsAmslM: profile.groundsAmslM.map((g, i) => (i === 3 ? 400 : g))
	};
	const grazing = {
		...profile,
		groundsAmslM: profile.groundsAmslM.map((g, i) => (i === 3 ? 206 : g))
	};
	const sunk = {
		...profile,
		groundsAmslM: profile.groundsAmslM.map((g, i) => (i === 0 ? 300 : g))
	};
	it.each([
		['no-profile', 'warning', { path: { ...hopInput().path, profile: null } }, {}],
		['profile-stale', 'error', { path: { ...hopInput().path, profile: moved } }, {}],
		['path-blocked', 'error', { path: { ...hopInput().path, profile: wall } }, {}],
		['clearance-short', 'warning', { path: { ...hopInput().path, profile: grazing } }, {}],
		['antenna-below-ground', 'error', { path: { ...hopInput().path, profile: sunk } }, {}],
		['ground-differs', 'warning', {}, { A: { groundAmslM: 240 } }],
		['eirp-over-limit', 'error', { eirpLimitDbm: 50 }, {}],
		['availability-short', 'warning', { requiredAvailabilityPercent: 99.9999 }, {}],
		['tilt-beyond-adjuster', 'error', {}, { A: { groundAmslM: 4200 } }],
		[
			'search-beyond-adjuster',
			'warning',
			{ search: { compassSigmaDeg: 12, levelSigmaDeg: 0.5 } },
			{}
		],
		['sway-loss', 'warning', { wind: { operatingMS: 30, survivalMS: 55, mastSwayDeg: 0.8 } }, {}],
		[
			'pipe-diameter',
			'error',
			{},
			{ A: { conditions: { ...KNOWN_CONDITIONS, pipeDiameterMm: 200 } } }
		],
		['pipe-leans', 'warning', {}, { A: { conditions: { ...KNOWN_CONDITIONS, pipeLeanDeg: 2.5 } } }],
		['supply-unplanned', 'warning', {}, { A: { cable: null } }],
		[
			'supply-too-low',
			'error',
			{},
			{ A: { cable: part(catalogue.cables, 'DC-15'), cableLengthM: 330 } }
		],
		[
			'supply-collapses',
			'error',
			{},
			{ A: { cable: part(catalogue.cables, 'DC-15'), cableLengthM: 900 } }
		],
		[
			'waveguide-bend',
			'error',
			{},
			{ A: { feeder: part(catalogue.feeders, 'WR-26'), feederLengthM: 3, bendEPlaneMm: 20 } }
		]
	] as const)('finds %s as %s', (code, severity, change, ends) => {
		const odd = hopInput(change, ends);
		const review = reviewPlan(odd, planHop(odd), [], {});
		expect(review.findings.find((f) => f.code === code)?.severity).toBe(severity);
	});
});

describe('two revisions side by side', () => {
	it('name what was changed and what it did', () => {
		const before = hopInput();
		const after = hopInput(
			{ toleranceDb: 1.5 },
			{ A: { antennaHeightAglM: 30, dish: part(catalogue.dishes, 'DP-090-26') } }
		);
		const comparison = comparePlans(
			{ input: before, plan: soundPlan(before) },
			{ input: after, plan: soundPlan(after) }
		);
		const byField = [...comparison.changed].sort((p, q) => p.field.localeCompare(q.field));
		expect(byField).toEqual([
			{
				field: 'ends.A.antennaHeightAglM',
				words: 'A: Antenna height, m',
				before: '24',
				after: '30'
			},
			{ field: 'ends.A.dish', words: 'A: Dish', before: 'DP-060-26', after: 'DP-090-26' },
			{ field: 'toleranceDb', words: 'Tolerance, dB', before: '2', after: '1.5' }
		]);
		const level = comparison.effects.find((effect) => effect.name === 'Planned level at A')!;
		expect(level.after - level.before).toBeCloseTo(45.3 - 41.7, 1);
		expect(
			comparePlans(
				{ input: before, plan: soundPlan(before) },
				{ input: structuredClone(before), plan: soundPlan(before) }
			).changed
		).toEqual([]);
	});

	it('say every value of a plan in words with its unit, never by its key', () => {
		const paths = (value: unknown, path: string): string[] =>
			typeof value === 'object' &&
			value !== null &&
			!Array.isArray(value) &&
			!(value instanceof Date) &&
			!('code' in value)
				? Object.entries(value).flatMap(([key, inner]) =>
						paths(inner, path ? `${path}.${key}` : key)
					)
				: [path];
		const profile = {
			source: 'walked',
			from: { latitudeDeg: 1, longitudeDeg: 2 },
			to: { latitudeDeg: 1, longitudeDeg: 3 },
			distancesM: [0, 1],
			groundsAmslM: [3, 4]
		};
		const all = paths(hopInput({ path: { ...hopInput().path, profile } }), '');
		expect(all.length).toBeGreaterThan(90);
		expect(all.filter((path) => fieldWords(path) === path)).toEqual([]);
		expect(
			[
				'ends.B.position.latitudeDeg',
				'ends.A.conditions.supplyV',
				'ends.A.transmitPowerDbm',
				'configuration.cancellerDb',
				'wind.survivalMS',
				'climate.rainRate001MmH',
				'climate.gradientDn1',
				'air.temperatureK',
				'path.profile.groundsAmslM',
				'publicExposureWM2',
				'channelWidthMhz',
				'ends.C.dish'
			].map(fieldWords)
		).toEqual([
			'B: Latitude, °',
			'A: Supply of the site, V',
			'A: Operating power, dBm',
			'XPIC improvement, dB',
			'Survival wind, m/s',
			'Rain rate for 0.01 %, mm/h',
			'Refractivity gradient for 1 %, N/km',
			'Temperature, K',
			'Terrain profile, ground, m',
			'Reference level, public, W/m²',
			'Channel width, MHz',
			'ends.C.dish'
		]);
	});

	it('read a list by the names in it', () => {
		const marks = (...names: string[]): HopPlanInput['landmarks'] =>
			names.map((name) => ({ name, latitudeDeg: 1, longitudeDeg: 2 }));
		const [before, after] = [marks('Tall chimney'), marks('Tall chimney', 'Silo')].map(
			(landmarks) => hopInput({ landmarks })
		) as [HopPlanInput, HopPlanInput];
		const plan = soundPlan(before);
		expect(comparePlans({ input: before, plan }, { input: after, plan }).changed).toEqual([
			{
				field: 'landmarks',
				words: 'Landmarks',
				before: 'Tall chimney',
				after: 'Tall chimney, Silo'
			}
		]);
	});

	it('miss no change in a long list, nor in a part that kept its code', () => {
		const trees = (heightM: number): HopPlanInput['path'] => ({
			...hopInput().path,
			obstacles: Array.from({ length: 20 }, (_, i) => ({
				name: `Tree ${i}`,
				kind: 'trees' as const,
				distanceKm: 1 + i / 10,
				lengthM: 5,
				heightM: i === 7 ? heightM : 4
			}))
		});
		const dish = hopInput().ends.A.dish;
		const before = hopInput({ path: trees(4) });
		const after = hopInput({ path: trees(9) }, { A: { dish: { ...dish, diameterM: 0.65 } } });
		const plan = soundPlan(before);
		expect(comparePlans({ input: before, plan }, { input: after, plan }).changed).toEqual([
			{
				field: 'path.obstacles',
				words: 'Obstacles',
				before: '20 values',
				after: '20 values, other values'
			},
			{
				field: 'ends.A.dish',
				words: 'A: Dish',
				before: dish.code,
				after: `${dish.code}, other values`
			}
		]);
	});

	it('an input stored before a field existed gets the field’s default', () => {
		const stored = JSON.parse(JSON.stringify(hopInput())) as HopPlanInput;
		delete (stored as Partial<HopPlanInput>).climate;
		delete (stored.ends.A as Partial<EndPlanInput>).coupling;
		const filled = withPlanDefaults({ ...stored, workDate: new Date(stored.workDate) });
		expect(filled.climate.isDefault).toBe(true);
		expect(filled.ends.A.coupling).toBeNull();
		expect(planHop(filled).kind).toBe('plan');
	});
});

describe('climate', () => {
	it('labels every value with where it came from', () => {
		const mixed = climateOf({ ...UNSAID_CLIMATE, rainRate001MmH: 41, source: 'harbour gauge' });
		expect([mixed.rainRateSource, mixed.lowKSource]).toEqual([
			'harbour gauge',
			'default of a temperate, by the sea climate'
		]);
		expect(mixed.isDefault).toBe(true);
	});

	it('of a hop takes of each value the harder one of its ends', () => {
		const a = climateOf({
			...UNSAID_CLIMATE,
			rainRate001MmH: 50,
			lowK: 0.8,
			gradientDn1: -100,
			source: 'a'
		});
		const b = climateOf({
			...UNSAID_CLIMATE,
			rainRate001MmH: 20,
			lowK: 0.6,
			gradientDn1: -300,
			source: 'b'
		});
		expect(combineClimates(a, b)).toMatchObject({
			rainRate001MmH: 50,
			rainRateSource: 'a',
			lowK: 0.6,
			lowKSource: 'b',
			gradientDn1: -300
		});
	});
});

describe('pointing', () => {
	it('by the grid turns by the convergence', () => {
		// By hand: atan(tan 3°·sin 60°) = 2.599°.
		expect(gridConvergenceDeg({ latitudeDeg: 60, longitudeDeg: 18 }, 15)).toBeCloseTo(2.599, 2);
		expect(gridConvergenceDeg({ latitudeDeg: -46, longitudeDeg: -118 }, -118)).toBeCloseTo(0, 9);
		const own = soundPlan(
			hopInput({}, { A: { conditions: { ...KNOWN_CONDITIONS, gridCentralMeridianDeg: -117 } } })
		).pointing.A;
		expect(own.azimuthGridDeg).toBeCloseTo(own.azimuthTrueDeg - own.gridConvergenceDeg!, 9);
	});

	it('names landmarks near the line, the nearest first, and says which side', () => {
		const landmarks = [
			{ name: 'On it', latitudeDeg: -46.2204, longitudeDeg: -118.342 },
			{ name: 'Right of it', latitudeDeg: -46.222, longitudeDeg: -118.3428 },
			{ name: 'Behind', latitudeDeg: -46.19, longitudeDeg: -118.43 }
		];
		const { A } = soundPlan(hopInput({ landmarks })).pointing;
		expect(A.landmarks.map((l) => l.name)).toEqual(['On it', 'Right of it']);
		expect(A.landmarks[1]!.besideDeg).toBeGreaterThan(0.5);
	});

	it('tells how many turns the search takes and how many remain', () => {
		const { azimuth } = soundPlan(hopInput()).pointing.A.window;
		const { armMm, threadPitchMm, travelDeg } = hopInput().ends.A.mount.azimuth;
		const turns = (deg: number): number =>
			(Math.tan((deg * Math.PI) / 180) * armMm) / threadPitchMm;
		expect(azimuth.halfWidthDeg).toBeCloseTo(7.728, 3);
		expect(azimuth.turnsAcross).toBeCloseTo(2 * turns(7.728), 6);
		// A rod has no more turns than it has, whatever the search would take.
		expect(turnsOnRod(azimuth)).toBe(Math.min(azimuth.turnsAcross, 2 * azimuth.travelTurns));
		expect(turnsOnRod({ ...azimuth, turnsAcross: 43.4, travelTurns: 16.75 })).toBe(33.5);
		expect(azimuth.turnsRemaining).toBeCloseTo(turns(travelDeg) - turns(7.728), 6);
	});
});

describe('first looks', () => {
	it('exposure: far field by hand, never reached where the near field stays below', () => {
		// 60 dBm = 1000 W EIRP: √(1000/(4π·10)) = 2.82 m.
		const near = exposureDistance([{ eirpDbm: 60, powerDbm: 30, diameterM: 0.3 }], 10);
		expect(near.distanceM).toBeCloseTo(2.821, 2);
		expect(exposureDistance([{ eirpDbm: 55, powerDbm: 14, diameterM: 0.6 }], 10).neverReached).toBe(
			true
		);
		// 1 W on a dish of 0.3 m: 4/(π·0.15²) = 56.6 W/m².
		expect(nearFieldDensityWM2(30, 0.3)).toBeCloseTo(56.59, 1);
	});

	it('wind: 50 m/s on a dish of 1.2 m', () => {
		const look = windLook(50, 1.2);
		expect(look.pressurePa).toBeCloseTo(1531.25, 2);
		expect(look.forceN).toBeCloseTo(1531.25 * 1.3 * Math.PI * 0.36, 3);
		expect(windLook(0, 1.2).forceN).toBe(0);
	});

	it('pointing off makes sway a swing of many dB, on the axis almost none', () => {
		expect(pointingLossDb(0.5, 1)).toBe(3);
		expect(swayVariationDb(0, 0.1, 1)).toBeCloseTo(0.12, 6);
		expect(swayVariationDb(0.5, 0.1, 1)).toBeCloseTo(12 * (0.36 - 0.16), 6);
	});

	it('supply: the voltage satisfies the circuit, and collapses where no current can', () => {
		const cable = { ohmPerKm: 13.3 };
		const fed = dcSupply(48, 55, cable, 100, 20);
		if (fed.kind !== 'fed') throw new Error('fed');
		expect(fed.loopOhm).toBeCloseTo(2.66, 6);
		expect(fed.voltageAtUnitV * fed.currentA).toBeCloseTo(55, 6);
		expect(48 - fed.currentA * fed.loopOhm).toBeCloseTo(fed.voltageAtUnitV, 9);
		const gone = dcSupply(48, 300, cable, 100, 20);
		expect(gone).toMatchObject({ kind: 'collapses' });
		if (gone.kind === 'collapses') expect(gone.mostPowerW).toBeCloseTo(48 ** 2 / (4 * 2.66), 6);
	});

	it.each([
		[[9, 4], 'by hand', 1],
		[[42, 4], 'by pulley', 1],
		[[117], 'by winch', 2]
	] as const)('hoist of %j kg is %s', (pieces, how, tagLines) =>
		expect(hoistClass(pieces)).toMatchObject({ how, tagLines })
	);

	it('waveguide: cut-off and band by hand', () => {
		// WR-90: a = 22.86 mm, 6.557 GHz; 8.2 to 12.4 GHz in the tables.
		expect(cutOffGhz(22.86)).toBeCloseTo(6.557, 3);
		const [low, high] = usableBandGhz(22.86);
		expect([low, high]).toEqual([expect.closeTo(8.196, 2), expect.closeTo(12.458, 2)]);
		for (const feeder of catalogue.feeders.filter((f) => f.waveguide)) {
			const [from, to] = usableBandGhz(feeder.waveguide!.broadWallMm);
			expect(feeder.rangeGhz[0]).toBeGreaterThanOrEqual(Number((from * 0.98).toFixed(3)));
			expect(feeder.rangeGhz[1]).toBeLessThanOrEqual(to * 1.02);
		}
	});
});

describe('edges of what is planned', () => {
	it.each([
		['1 m apart', { latitudeDeg: -46.200009, longitudeDeg: -118.4 }, 'path-too-short'],
		['400 km apart', { latitudeDeg: -49.8, longitudeDeg: -118.4 }, 'path-too-long']
	])('%s', (_, position, code) => {
		const result = planHop(hopInput({}, { B: { position } }));
		expect(result.kind).toBe('impossible');
		if (result.kind === 'impossible') expect(result.findings.map((f) => f.code)).toContain(code);
	});

	it('across the antimeridian is as on this side of it', () => {
		const at = (west: number): HopPlan => {
			const wrap = (deg: number): number => (deg > 180 ? deg - 360 : deg);
			const a = { latitudeDeg: -17, longitudeDeg: wrap(west) };
			const b = { latitudeDeg: -17.05, longitudeDeg: wrap(west + 0.1) };
			return soundPlan(
				hopInput(
					{ path: { ...hopInput().path, profile: null } },
					{ A: { position: a }, B: { position: b } }
				)
			);
		};
		expect(at(179.95).pathKm).toBeCloseTo(at(120).pathKm, 6);
		expect(at(179.95).pointing.A.azimuthTrueDeg).toBeCloseTo(at(120).pointing.A.azimuthTrueDeg, 6);
	});

	it('no rain is no outage by rain', () => {
		const dry = soundPlan(
			hopInput({ climate: climateOf({ ...UNSAID_CLIMATE, rainRate001MmH: 0 }) })
		);
		expect(dry.availability.directions.every((d) => d.marginDb <= 0 || d.rainPercent === 0)).toBe(
			true
		);
	});
});
