import { dcSupply } from '#core/firstlook/dcSupply';
import { describe, expect, it } from 'vitest';
import { CLIMATE_DEFAULTS, climateOf, combineClimates } from '#core/budget/climate';
import { CONFIGURATION_RULES, carriersOf, radiosOf } from '#core/budget/configuration';
import { initialsOfFields, typedOf } from '#core/budget/fieldTable';
import { newerParts } from '#core/budget/newerParts';
import { clearanceOf, isStaleProfile, pathFiguresOf } from '#core/budget/pathFigures';
import { findInputProblems } from '#core/budget/planChecks';
import { END_FIELDS, PLAN_FIELDS } from '#core/budget/planFields';
import type { EndPlanInput, HopPlanInput, PlanFieldValues } from '#core/budget/planInput';
import { resultFindings } from '#core/budget/resultChecks';
import type { HopPlan } from '#core/budget/hopPlan';
import { usableBandGhz } from '#core/feeder/waveguide';
import { requiredHeightAtA, requiredHeightAtB } from '#core/path/antennaHeights';
import {
	KNOWN_CONDITIONS,
	catalogue,
	configured,
	hopInput,
	part,
	seaProfile,
	soundPlan
} from './planFixture';

type Ends = { A?: Partial<EndPlanInput>; B?: Partial<EndPlanInput> };
const both = (own: Partial<EndPlanInput>): Ends => ({ A: own, B: own });
const problems = (change: Partial<HopPlanInput> = {}, ends: Ends = {}): string[] =>
	findInputProblems(hopInput(change, ends)).map(({ code, field }) => `${code} ${field}`);
const words = (code: string, change: Partial<HopPlanInput> = {}, ends: Ends = {}): string =>
	findInputProblems(hopInput(change, ends)).find((one) => one.code === code)?.message ?? '';
const kind = (of: HopPlanInput['configuration']['kind']): Partial<HopPlanInput> => ({
	configuration: configured(of)
});
const dish = (code: string): EndPlanInput['dish'] => part(catalogue.dishes, code);
const coupling = (code: string): EndPlanInput['coupling'] => part(catalogue.couplings, code);

describe('a broad climate', () => {
	it.each([
		['temperate-maritime', 'temperate', 32, -220, 0.67],
		['temperate-continental', 'temperate', 35, -280, 0.67],
		['dry', 'temperate', 15, -450, 0.6],
		['cold', 'temperate', 16, -180, 0.75],
		['tropical', 'tropical', 95, -420, 0.6]
	] as const)('%s stands in until values are typed', (broad, of, rain, gradient, lowK) => {
		const unsaid = { broad, rainRate001MmH: null, gradientDn1: null, lowK: null, source: ' ' };
		const source = `default of a ${CLIMATE_DEFAULTS[broad].words} climate`;
		expect(climateOf(unsaid)).toEqual({
			kind: of,
			rainRate001MmH: rain,
			rainRateSource: source,
			gradientDn1: gradient,
			gradientSource: source,
			lowK,
			lowKSource: source,
			isDefault: true
		});
	});

	it('gives way to what is typed, value by value, with where it came from', () => {
		const typed = { broad: 'dry', rainRate001MmH: 0, gradientDn1: -1, lowK: 0.5 } as const;
		expect(climateOf({ ...typed, source: '  gauge ' })).toMatchObject({
			rainRate001MmH: 0,
			rainRateSource: 'gauge',
			gradientSource: 'gauge',
			lowKSource: 'gauge',
			isDefault: false
		});
		expect(climateOf({ ...typed, source: '  ' }).lowKSource).toBe(
			'typed for this place, source not given'
		);
		for (const none of ['rainRate001MmH', 'gradientDn1', 'lowK']) {
			expect(climateOf({ ...typed, source: '', [none]: null }).isDefault).toBe(true);
		}
	});

	it('of a hop is of each value the one that asks more, whichever site has it', () => {
		const site = (
			broad: 'dry' | 'tropical',
			rain: number,
			gradient: number,
			lowK: number | null,
			source: string
		): ReturnType<typeof climateOf> =>
			climateOf({ broad, rainRate001MmH: rain, gradientDn1: gradient, lowK, source });
		const a = site('dry', 20, -300, 0.7, 'at a');
		const b = site('tropical', 30, -200, 0.6, 'at b');
		const expected = {
			kind: 'tropical',
			rainRate001MmH: 30,
			rainRateSource: 'at b',
			gradientDn1: -300,
			gradientSource: 'at a',
			lowK: 0.6,
			lowKSource: 'at b',
			isDefault: false
		};
		expect(combineClimates(a, b)).toEqual(expected);
		expect(combineClimates(b, a)).toEqual(expected);
		expect(combineClimates(a, a).kind).toBe('temperate');
		expect(combineClimates(b, b).kind).toBe('tropical');
		const unsaid = site('dry', 20, -300, null, 'at a');
		expect(combineClimates(unsaid, b).isDefault).toBe(true);
		expect(combineClimates(b, unsaid).isDefault).toBe(true);
	});
});

describe('the path of a plan', () => {
	it('is judged at the lower frequency, and says what each end alone would need', () => {
		const input = hopInput();
		const figures = pathFiguresOf(input)!;
		expect(figures.frequencyGhz).toBe(25.22);
		const other = hopInput(
			{},
			{ A: { transmitFrequencyGhz: 25.22 }, B: { transmitFrequencyGhz: 26.2 } }
		);
		expect(pathFiguresOf(other)!.frequencyGhz).toBe(25.22);
		const { A, B } = input.ends;
		const amsl = { A: A.groundAmslM + A.antennaHeightAglM, B: B.groundAmslM + B.antennaHeightAglM };
		expect(figures.neededAglM).toEqual({
			A: requiredHeightAtA(figures.verdict, amsl.B) - A.groundAmslM,
			B: requiredHeightAtB(figures.verdict, amsl.A) - B.groundAmslM
		});
		expect(figures.loss).toBeDefined();
		// The length decides the k that is judged: in kilometres, as for the plan itself.
		const { pathKm } = soundPlan(input);
		expect(figures.verdict.checks.map(({ kFactor }) => kFactor)).toEqual(
			clearanceOf(input, pathKm)!.checks.map(({ kFactor }) => kFactor)
		);
	});

	it.each([
		['no profile', { path: { ...hopInput().path, profile: null } }, {}],
		['a k too low', { kFactor: 0.29 }, {}],
		['a k too high', { kFactor: 10.1 }, {}],
		['a k that is none', { kFactor: Number.NaN }, {}],
		['a frequency that is none', {}, { A: { transmitFrequencyGhz: Number.NaN } }],
		['a frequency of nothing', {}, { B: { transmitFrequencyGhz: 0.05 } }]
	] as const)('is not judged with %s', (_, change, ends) => {
		expect(pathFiguresOf(hopInput(change, ends as Ends))).toBeUndefined();
	});

	it('is judged at the ends of what k may be', () => {
		for (const kFactor of [0.31, 9.9]) expect(pathFiguresOf(hopInput({ kFactor }))).toBeDefined();
	});

	it('has a stale profile once either end has moved by more than five metres', () => {
		const moved = (end: 'A' | 'B', metres: number): HopPlanInput => {
			const { position } = hopInput().ends[end];
			return hopInput(
				{},
				{
					[end]: { position: { ...position, latitudeDeg: position.latitudeDeg + metres / 111_150 } }
				}
			);
		};
		expect(isStaleProfile(hopInput())).toBe(false);
		for (const end of ['A', 'B'] as const) {
			expect(isStaleProfile(moved(end, 4.5))).toBe(false);
			expect(isStaleProfile(moved(end, 5.5))).toBe(true);
		}
		expect(isStaleProfile(hopInput({ path: { ...hopInput().path, profile: null } }))).toBe(false);
	});
});

describe('what a plan contradicts itself in', () => {
	it('is nothing for a sound one', () => {
		expect(problems()).toEqual([]);
	});

	it('is a frequency outside the radio, to send or to receive, at its very edges not', () => {
		const at = (end: 'A' | 'B', ghz: number): string[] =>
			problems({}, { [end]: { transmitFrequencyGhz: ghz } }).filter((one) =>
				/outside-radio/.test(one)
			);
		expect(at('A', 24.49)).toContain('frequency-outside-radio ends.A.transmitFrequencyGhz');
		expect(at('A', 24.49)).toContain('receive-frequency-outside-radio ends.B.radioCode');
		expect(at('B', 26.51)).toContain('frequency-outside-radio ends.B.transmitFrequencyGhz');
		expect(at('B', 26.51)).toContain('receive-frequency-outside-radio ends.A.radioCode');
		expect([...at('A', 24.5), ...at('A', 26.5), ...at('B', 24.5)]).toEqual([]);
	});

	it('is a path too short or too long, in metres and kilometres', () => {
		const apart = (deg: number): Ends => ({
			A: { position: { latitudeDeg: 0, longitudeDeg: 0 } },
			B: { position: { latitudeDeg: 0, longitudeDeg: deg } }
		});
		const degOf = (metres: number): number => metres / 111_319.49;
		expect(words('path-too-short', {}, apart(degOf(9.8)))).toContain('are 9.8 m apart');
		expect(words('path-too-short', {}, apart(degOf(10.2)))).toBe('');
		expect(words('path-too-long', {}, apart(degOf(299_900)))).toBe('');
		expect(words('path-too-long', {}, apart(degOf(301_000)))).toContain('are 301 km apart');
	});

	it('is a power that the radio does not give in its modulation', () => {
		const power = (own: Partial<EndPlanInput>): string[] =>
			problems({}, { A: own }).filter((one) => one.startsWith('power'));
		expect(power({ transmitPowerDbm: 16.1 })).toEqual([
			'power-outside-radio ends.A.transmitPowerDbm'
		]);
		expect(power({ transmitPowerDbm: -6.1 })).toEqual([
			'power-outside-radio ends.A.transmitPowerDbm'
		]);
		expect(power({ alignmentPowerDbm: 21.1 })).toEqual([
			'power-outside-radio ends.A.alignmentPowerDbm'
		]);
		expect(power({ transmitPowerDbm: -6, alignmentPowerDbm: 21 })).toEqual([]);
		expect(words('power-outside-radio', {}, { A: { alignmentPowerDbm: 22 } })).toContain(
			'−6 to 21 dBm in 4 QAM'.replace('−', '-')
		);
		const unknown = problems({ operatingModulation: '7 QAM' }, { A: { transmitPowerDbm: 99 } });
		expect(unknown).toEqual([
			'modulation-unknown operatingModulation',
			'modulation-unknown operatingModulation'
		]);
		const { alignmentState, ...radio } = hopInput().ends.A.radio;
		const odd = { ...radio, alignmentState: { ...alignmentState, modulation: 'none' } };
		expect(problems({}, { A: { radio: odd, alignmentPowerDbm: 90 } })).toEqual([]);
	});

	const run = (own: Partial<EndPlanInput>): string[] =>
		problems({}, { A: { feeder: part(catalogue.feeders, 'WR-26'), feederLengthM: 12, ...own } });

	it('is a feeder of another band, without a length, or bent too tightly', () => {
		expect(run({})).toEqual([]);
		expect(run({ feederLengthM: 0 })).toEqual(['feeder-length ends.A.feederLengthM']);
		expect(problems({}, { A: { feederLengthM: 0 } })).toEqual([]);
		expect(run({ bendEPlaneMm: 39 })).toEqual(['waveguide-bend ends.A.bendEPlaneMm']);
		expect(run({ bendHPlaneMm: 59 })).toEqual(['waveguide-bend ends.A.bendHPlaneMm']);
		expect(run({ bendEPlaneMm: 40, bendHPlaneMm: 60 })).toEqual([]);
		const feeder = part(catalogue.feeders, 'WR-26');
		// One of the two frequencies outside is enough.
		expect(run({ feeder: { ...feeder, rangeGhz: [25.3, 28] } })).toEqual([
			'feeder-band ends.A.feederCode'
		]);
		expect(run({ feeder: { ...feeder, rangeGhz: [22, 26.1] } })).toEqual([
			'feeder-band ends.A.feederCode'
		]);
		expect(run({ feeder: { ...feeder, rangeGhz: [25.22, 26.2] } })).toEqual([]);
	});

	it('is a waveguide that carries none of it, or more than one mode', () => {
		const feeder = part(catalogue.feeders, 'WR-26');
		const wall = (broadWallMm: number): string[] =>
			run({ feeder: { ...feeder, waveguide: { ...feeder.waveguide!, broadWallMm } } });
		const cut = ['waveguide-cut-off ends.A.feederCode'];
		const [low] = usableBandGhz(7.4);
		expect(low).toBeGreaterThan(25.22);
		expect(wall(7.4)).toEqual(cut);
		const [, high] = usableBandGhz(10.95);
		expect(high).toBeGreaterThan(25.22);
		expect(high).toBeLessThan(26.2);
		expect(wall(10.95)).toEqual(cut);
		expect(wall(13)).toEqual(cut);
	});

	it('is a channel the radio has not, crossed polarizations, or channels over each other', () => {
		expect(problems({ channelWidthMhz: 29 })).toEqual([
			'channel-width channelWidthMhz',
			'channel-width channelWidthMhz'
		]);
		expect(problems({}, { B: { polarization: 'horizontal' } })).toContain(
			'polarization-differs ends.B.polarization'
		);
		const apart = (mhz: number): string[] =>
			problems({}, { B: { transmitFrequencyGhz: 26.2 - mhz / 1000, subBandUnit: '' } }).filter(
				(one) => one.startsWith('duplex')
			);
		expect(apart(27)).toEqual(['duplex-overlap ends.B.transmitFrequencyGhz']);
		expect(apart(29)).toEqual(['duplex-spacing ends.B.transmitFrequencyGhz']);
		expect(apart(980.4)).toEqual([]);
		expect(apart(980.7)).toEqual(['duplex-spacing ends.B.transmitFrequencyGhz']);
		const { radio } = hopInput().ends.B;
		const other = { ...radio, duplexSpacingMhz: 1200 };
		expect(problems({}, { B: { radio: other } })).toEqual([
			'duplex-spacing ends.B.transmitFrequencyGhz'
		]);
	});

	it('is a sub-band unit that is unsaid, unknown, of another channel, or no pair', () => {
		const units = (A: string, B: string): string[] =>
			problems({}, { A: { subBandUnit: A }, B: { subBandUnit: B } });
		expect(units('', '2L')).toEqual(['sub-band-unsaid ends.A.subBandUnit']);
		expect(units('2H', '9L')).toEqual(['sub-band-unknown ends.B.subBandUnit']);
		expect(units('2H', '2H')).toContain('sub-bands-no-pair ends.B.subBandUnit');
		expect(units('2H', '1L')).toEqual([
			'sub-bands-no-pair ends.B.subBandUnit',
			'outside-sub-band ends.B.subBandUnit'
		]);
		expect(units('2L', '2H')).toEqual([
			'outside-sub-band ends.A.subBandUnit',
			'outside-sub-band ends.B.subBandUnit'
		]);
		const one = { ...hopInput().ends.A.radio, subBands: [] };
		expect(problems({}, both({ radio: one, subBandUnit: '' }))).toEqual([]);
	});

	const second = { secondTransmitFrequencyGhz: 26.4 };
	const low = { secondTransmitFrequencyGhz: 25.42 };

	it.each([
		['hot-standby', 'CE-26', []],
		['hot-standby', 'OT-26', ['coupling-kind']],
		['dual-polarized', 'OT-26', []],
		['dual-polarized', 'CE-26', ['coupling-kind']],
		['frequency-diversity', 'OT-26', []],
		['frequency-diversity', 'CU-26', []],
		['frequency-diversity', 'DC-26', ['coupling-kind']],
		['four-radios', 'DC-26', []],
		['four-radios', 'OT-26', ['coupling-kind']],
		['hot-standby', null, ['coupling-missing']],
		['hot-standby', 'CE-18', ['coupling-band']],
		['hot-standby', 'CE-38', ['coupling-band']]
	] as const)('in %s with coupling %s are %j', (of, code, codes) => {
		const parts = { coupling: code === null ? null : coupling(code) };
		const found = problems(kind(of), { A: { ...parts, ...second }, B: { ...parts, ...low } });
		expect(found).toEqual(
			(['A', 'B'] as const).flatMap((end) => codes.map((one) => `${one} ends.${end}.couplingCode`))
		);
	});

	it('says which couplings serve', () => {
		expect(words('coupling-missing', kind('hot-standby'))).toContain(
			'choose one of equal coupler, uneven coupler.'
		);
		expect(
			words('coupling-kind', kind('hot-standby'), both({ coupling: coupling('OT-26') }))
		).toContain('does not serve hot standby: it needs equal coupler or uneven coupler.');
	});

	it('is a second dish, radio or frequency that is missing, or of another band', () => {
		const space = (
			secondDish: EndPlanInput['dish'] | null,
			of = 'space-diversity' as const
		): string[] => problems(kind(of), both({ secondDish }));
		expect(space(null)).toEqual([
			'second-dish-missing ends.A.secondDishCode',
			'second-dish-missing ends.B.secondDishCode'
		]);
		expect(space(dish('DP-060-26'))).toEqual([]);
		expect(space(dish('DP-060-18'))).toEqual([
			'second-dish-band ends.A.secondDishCode',
			'second-dish-band ends.B.secondDishCode'
		]);
		// Where nothing is carried by it, its band is nobody's business.
		expect(problems({}, both({ secondDish: dish('DP-060-18') }))).toEqual([]);
		const bands = (own: Partial<EndPlanInput>, far: Partial<EndPlanInput> = own): string[] =>
			problems(
				{ configuration: { ...configured('two-bands'), secondChannelWidthMhz: 250 } },
				{ A: own, B: far }
			);
		const whole = {
			secondDish: dish('DP-060-80'),
			secondRadio: part(catalogue.radios, 'RU-80'),
			secondTransmitFrequencyGhz: 73
		};
		expect(bands(whole, { ...whole, secondTransmitFrequencyGhz: 83 })).toEqual([]);
		expect(bands({ ...whole, secondRadio: null }, whole)).toEqual([
			'second-radio-missing ends.A.secondRadioCode'
		]);
		expect(bands({ ...whole, secondTransmitFrequencyGhz: null }, whole)).toEqual([
			'second-frequency-missing ends.A.secondTransmitFrequencyGhz'
		]);
		// What the far end sends must be heard by it as well.
		expect(bands(whole, { ...whole, secondTransmitFrequencyGhz: 26 })).toEqual([
			'second-dish-band ends.A.secondDishCode',
			'second-dish-band ends.B.secondDishCode'
		]);
	});

	it('is a second channel over the first, or outside the dish', () => {
		const pair = (ghz: number): string[] =>
			problems(kind('frequency-diversity'), {
				A: { coupling: coupling('CE-26'), secondTransmitFrequencyGhz: ghz },
				B: { coupling: coupling('CE-26'), ...low }
			});
		expect(pair(26.227)).toEqual(['second-channel-overlap ends.A.secondTransmitFrequencyGhz']);
		expect(pair(26.229)).toEqual([]);
		expect(pair(40)).toEqual(['dish-band ends.A.dishCode']);
		// Without a second pair nobody looks at it.
		expect(problems({}, { A: { secondTransmitFrequencyGhz: 26.2 } })).toEqual([]);
	});
});

describe('the carriers of a configuration', () => {
	const names = (change: Partial<HopPlanInput>, ends: Ends = {}): string[] =>
		carriersOf(hopInput(change, ends)).map(
			({ number, role, name, polarization, transmitFrequencyGhz }) =>
				`${number} ${role} ${name} ${polarization} ${transmitFrequencyGhz.A}/${transmitFrequencyGhz.B}`
		);
	const second = {
		A: { secondTransmitFrequencyGhz: 26.4, coupling: coupling('DC-26') },
		B: { secondTransmitFrequencyGhz: 25.42, coupling: coupling('DC-26') }
	};

	it('are one, or one for each radio, in the order of their arms', () => {
		expect(names({})).toEqual(['1 main Main vertical 26.2/25.22']);
		expect(names(kind('hot-standby'), both({ coupling: coupling('CE-26') }))).toEqual([
			'1 main Main vertical 26.2/25.22',
			'2 standby Standby vertical 26.2/25.22'
		]);
		expect(names(kind('frequency-diversity'), second)[1]).toMatch(
			/^2 second Second frequency .* 26.4\/25.42$/
		);
		expect(names(kind('dual-polarized'), both({ coupling: coupling('OT-26') }))).toEqual([
			'1 main Main vertical 26.2/25.22',
			'2 crossed Other polarization horizontal 26.2/25.22'
		]);
		const crossedFirst = both({ coupling: coupling('OT-26'), polarization: 'horizontal' });
		expect(names(kind('dual-polarized'), crossedFirst)[1]).toContain(
			'crossed Other polarization vertical'
		);
		const four = names(kind('four-radios'), second).map((line) =>
			line.split(' ').filter((_, i) => i !== 4)
		);
		expect(four.map(([number, role, , name]) => [number, role, name])).toEqual([
			['1', 'main', '1'],
			['2', 'second', '2'],
			['3', 'crossed', '3'],
			['4', 'second', '4']
		]);
		expect(
			carriersOf(hopInput(kind('four-radios'), second)).map((one) => one.transmitFrequencyGhz.A)
		).toEqual([26.2, 26.4, 26.2, 26.4]);
	});

	it('leave out what lacks its part', () => {
		const whole = {
			secondDish: dish('DP-060-80'),
			secondRadio: part(catalogue.radios, 'RU-80'),
			secondTransmitFrequencyGhz: 73
		};
		const count = (of: 'space-diversity' | 'two-bands', A: Partial<EndPlanInput>, B = A): number =>
			carriersOf(hopInput(kind(of), { A, B })).length;
		expect(count('two-bands', whole)).toBe(2);
		for (const none of ['secondDish', 'secondRadio', 'secondTransmitFrequencyGhz']) {
			const lacking = { ...whole, [none]: null };
			expect([count('two-bands', lacking, whole), count('two-bands', whole, lacking)]).toEqual([
				1, 1
			]);
		}
		const dishes = { secondDish: dish('DP-060-26') };
		expect(count('space-diversity', dishes)).toBe(2);
		expect([count('space-diversity', dishes, {}), count('space-diversity', {}, dishes)]).toEqual([
			1, 1
		]);
	});

	it('are radios of one kind, but for the second of two bands', () => {
		const other = part(catalogue.radios, 'RU-80');
		const codes = (
			of: HopPlanInput['configuration']['kind'],
			own: Partial<EndPlanInput> = {}
		): string[] => radiosOf(hopInput(kind(of), { A: own }), 'A').map(({ code }) => code);
		expect(codes('single')).toEqual(['RU-26']);
		expect(codes('hot-standby', { secondRadio: other })).toEqual(['RU-26', 'RU-26']);
		expect(codes('four-radios')).toHaveLength(4);
		expect(codes('two-bands', { secondRadio: other })).toEqual(['RU-26', 'RU-80']);
		expect(codes('two-bands')).toEqual(['RU-26', 'RU-26']);
	});

	it('follow from rules that say what is needed', () => {
		const table = Object.entries(CONFIGURATION_RULES).map(([name, rule]) =>
			[name, rule.radios, rule.dishes, rule.secondPair, rule.coChannelDual].join(' ')
		);
		expect(table).toEqual([
			'single 1 1 false false',
			'hot-standby 2 1 false false',
			'frequency-diversity 2 1 true false',
			'space-diversity 2 2 false false',
			'dual-polarized 2 1 false true',
			'four-radios 4 1 true true',
			'two-bands 2 2 true false'
		]);
	});
});

describe('what an availability leaves out', () => {
	const left = (change: Partial<HopPlanInput> = {}, ends: Ends = {}): string[] =>
		soundPlan(hopInput(change, ends)).availability.notModelled.map((line) => line.split(':')[0]!);
	const always = [
		'wet snow and ice on the dish',
		'failures of equipment',
		'ducting',
		'selective fading'
	];
	const bare = { path: { ...hopInput().path, profile: null } };

	it('is said, with what stands in for a missing profile', () => {
		expect(left()).toEqual(always);
		expect(left(bare)).toEqual([...always, 'obstruction', 'terrain roughness']);
		expect(left({ ...bare, multipathMethod: 'quick' })).toEqual([...always, 'obstruction']);
		const { method, roughnessM } = soundPlan(hopInput()).availability;
		expect([method, roughnessM === null]).toEqual(['detailed', false]);
		expect(soundPlan(hopInput(bare)).availability.method).toBe('quick');
		expect(soundPlan(hopInput({ multipathMethod: 'quick' })).availability.method).toBe('quick');
	});

	it('is rain beyond 60 km, and discrimination in rain outside 8 to 35 GHz', () => {
		const far = { latitudeDeg: -46.2, longitudeDeg: -117.5 };
		expect(left(bare, { B: { position: far } })).toContain('rain beyond 60 km of path');
		const band = (radio: string, of: string, dishCode: string, ghz: [number, number]): string[] => {
			const own = {
				radio: part(catalogue.radios, radio),
				dish: dish(dishCode),
				coupling: coupling(of),
				subBandUnit: ''
			};
			return left(
				{ ...bare, ...kind('dual-polarized') },
				{
					A: { ...own, transmitFrequencyGhz: ghz[0] },
					B: { ...own, transmitFrequencyGhz: ghz[1] }
				}
			).filter((line) => line.startsWith('loss of XPD'));
		};
		expect(band('RU-07', 'OT-07', 'DP-120-07', [7.7, 7.504])).toHaveLength(1);
		expect(band('RU-38', 'OT-38', 'DP-060-38', [37.5, 38.74])).toHaveLength(1);
		expect(band('RU-26', 'OT-26', 'DP-060-26', [26.2, 25.22])).toHaveLength(0);
		expect(left({ ...bare }, {}).some((line) => line.startsWith('loss of'))).toBe(false);
	});

	it('counts the worse direction of the operating modulation on the main carrier', () => {
		const plan = soundPlan(hopInput());
		const of = (modulation: string): number[] =>
			plan.availability.directions
				.filter((one) => one.carrierNumber === 1 && one.modulation === modulation)
				.map((one) => one.availabilityPercent);
		expect(of('256 QAM')).toHaveLength(2);
		expect(plan.availability.achievedPercent).toBe(Math.min(...of('256 QAM')));
		expect(Math.min(...of('1024 QAM'))).toBeLessThan(plan.availability.achievedPercent);
		for (const { totalPercent, outageMinutesPerYear } of plan.availability.directions) {
			expect(outageMinutesPerYear).toBeCloseTo((totalPercent / 100) * 365.25 * 24 * 60, 6);
		}
	});
});

describe('what the result of a plan tells', () => {
	const plain = hopInput();
	const plan = soundPlan(plain);
	const findings = (
		input: HopPlanInput,
		change: (plan: HopPlan) => HopPlan = (same) => same
	): string[] =>
		resultFindings(input, change(structuredClone(plan))).map(
			({ code, field }) => `${code} ${field}`
		);

	it('is nothing for a sound one', () => {
		expect(findings(plain)).toEqual([]);
	});

	it('is a level that damages, overloads or drowns, with the power to set', () => {
		const level =
			(
				change: object,
				role: 'main' | 'second-band' = 'main',
				more = false
			): ((p: HopPlan) => HopPlan) =>
			(p) => {
				const [main] = p.carriers;
				const changed = {
					...main!,
					role,
					received: { ...main!.received, A: { ...main!.received.A, ...change } }
				};
				return { ...p, carriers: more ? [changed, { ...changed, number: 2 }] : [changed] };
			};
		const message = (change: object, more = false): string =>
			resultFindings(plain, level(change, 'main', more)(structuredClone(plan)))[0]!.message;
		const overload = { kind: 'overload', powerToSetDbm: 3 };
		expect(findings(plain, level({ overload }))).toEqual([
			'receiver-overload ends.B.alignmentPowerDbm'
		]);
		expect(findings(plain, level({ overload }, 'second-band'))).toEqual([
			'receiver-overload ends.B.secondPowerDbm'
		]);
		expect(message({ overload })).toMatch(
			/level at A \(−.*would overload its receiver: set B to 3 dBm while aligning/
		);
		const damage = { kind: 'damage', powerToSetDbm: null };
		expect(findings(plain, level({ overload: damage }))).toEqual([
			'receiver-damage ends.B.alignmentPowerDbm'
		]);
		expect(message({ overload: damage })).toMatch(
			/would damage its receiver: even the lowest power of B/
		);
		expect(message({ overload }, true)).toContain('level at A (main) (');
		const { floorDbm } = plan.received.A;
		const near = (db: number): string[] =>
			findings(plain, level({ plannedLevelDbm: floorDbm + db }));
		expect(near(9.9)).toEqual(['level-near-floor ends.B.alignmentPowerDbm']);
		expect(near(10.1)).toEqual([]);
		expect(message({ plannedLevelDbm: floorDbm + 9.9 })).toContain(
			'only 9.9 dB above the receiver floor'
		);
		expect(message({ plannedLevelDbm: floorDbm - 5.8 })).toContain(
			'is 5.8 dB below the receiver floor'
		);
	});

	it('is radiation over its licence, of the strongest carrier', () => {
		const sent = plan.received.B.eirpDbm;
		const limit = (eirpLimitDbm: number | null): string[] => findings({ ...plain, eirpLimitDbm });
		expect(limit(null)).toEqual([]);
		const most = Math.max(sent, plan.received.A.eirpDbm);
		expect(limit(most)).toEqual([]);
		expect(limit(most - 0.1).length).toBeGreaterThan(0);
		const over = resultFindings({ ...plain, eirpLimitDbm: sent - 2 }, plan).find(
			({ field }) => field === 'ends.A.transmitPowerDbm'
		)!;
		expect(over.message).toContain('2.0 dB over the licensed');
	});

	it('is a tilt or a search beyond the adjuster', () => {
		const pointing = (change: (own: HopPlan['pointing']['A']) => object): string[] =>
			findings(plain, (p) => ({
				...p,
				pointing: { ...p.pointing, A: { ...p.pointing.A, ...change(p.pointing.A) } }
			}));
		expect(pointing(() => ({ tiltDeg: 12.1 }))).toEqual(['tilt-beyond-adjuster ends.A.mountCode']);
		expect(pointing(() => ({ tiltDeg: -12.1 }))).toEqual(['tilt-beyond-adjuster ends.A.mountCode']);
		expect(pointing(() => ({ tiltDeg: 11.9 }))).toEqual([]);
		const short = (axis: 'tilt' | 'azimuth', turns: number): string => {
			const { A } = plan.pointing;
			const window = { ...A.window, [axis]: { ...A.window[axis], turnsRemaining: turns } };
			const changed = { ...plan, pointing: { ...plan.pointing, A: { ...A, window } } };
			return resultFindings(plain, changed)[0]?.message ?? '';
		};
		expect(short('tilt', -1.5)).toContain('The tilt adjuster at A is 1.5 turns short');
		expect(short('azimuth', -2.5)).toContain('The azimuth adjuster at A is 2.5 turns short');
		expect(short('azimuth', 0.5)).toBe('');
	});

	const site = (
		conditions: Partial<typeof KNOWN_CONDITIONS>,
		own: Partial<EndPlanInput> = {}
	): string[] => {
		const input = hopInput(
			{},
			{ A: { conditions: { ...KNOWN_CONDITIONS, ...conditions }, ...own } }
		);
		return resultFindings(input, soundPlan(input)).map(({ code, field }) => `${code} ${field}`);
	};

	it('is a pipe that does not fit, leans, or is not known', () => {
		const [least, most] = plain.ends.A.mount.pipeDiameterMm;
		expect(site({ pipeDiameterMm: null })).toEqual(['pipe-unknown sites.A']);
		expect(site({ pipeDiameterMm: least - 1 })).toEqual(['pipe-diameter ends.A.mountCode']);
		expect(site({ pipeDiameterMm: most + 1 })).toEqual(['pipe-diameter ends.A.mountCode']);
		expect([...site({ pipeDiameterMm: least }), ...site({ pipeDiameterMm: most })]).toEqual([]);
		expect(site({ pipeLeanDeg: null })).toEqual([]);
		expect(site({ pipeLeanDeg: 45 })).toEqual(['pipe-leans sites.A']);
	});

	it('is a dish that its bracket is not made for, or that hangs above its mast', () => {
		const { mount, antennaHeightAglM: height } = plain.ends.A;
		const made = (least: number, most: number): string[] =>
			site({}, { mount: { ...mount, carries: { dishDiameterM: [least, most] } } });
		const { diameterM } = plain.ends.A.dish;
		expect([...made(diameterM, diameterM + 1), ...made(0.1, diameterM)]).toEqual([]);
		expect(made(diameterM + 0.1, 3)).toEqual(['mount-not-for-dish ends.A.mountCode']);
		expect(made(0.1, diameterM - 0.1)).toEqual(['mount-not-for-dish ends.A.mountCode']);
		expect(site({ mastHeightM: height })).toEqual([]);
		expect(site({ mastHeightM: null })).toEqual([]);
		expect(site({ mastHeightM: height - 0.1 })).toEqual([
			'antenna-above-mast ends.A.antennaHeightAglM'
		]);
	});

	it('is a cable or a guide shorter than the way down', () => {
		const { antennaHeightAglM: height } = plain.ends.A;
		expect(site({}, { cableLengthM: height })).toEqual([]);
		expect(site({}, { cableLengthM: height - 1 })).toEqual(['cable-short ends.A.cableLengthM']);
		const guide = part(catalogue.feeders, 'WE-07');
		const codes = (lengthM: number): string[] =>
			site(
				{},
				{ feeder: { ...guide, rangeGhz: [5, 60] }, feederLengthM: lengthM, cableLengthM: 4 }
			);
		// The radio stands at the foot then: its cable is short by itself, the guide has to reach down.
		expect(codes(height)).not.toContain('feeder-short ends.A.feederLengthM');
		expect(codes(height - 4)).toContain('feeder-short ends.A.feederLengthM');
		expect(codes(height - 4)).not.toContain('cable-short ends.A.cableLengthM');
	});

	it('is a supply that is not planned, too low or of the wrong kind', () => {
		expect(site({ supplyV: null })).toEqual(['supply-unplanned sites.A']);
		expect(site({}, { cable: null })).toEqual(['supply-unplanned ends.A.cableCode']);
		expect(site({ supplyV: 40.1 })).toEqual(['supply-too-low ends.A.cableCode']);
		const source = (code: string, change: object = {}): Partial<EndPlanInput> => ({
			powerSource: { ...part(catalogue.powerSources, code), ...change }
		});
		const indoorUnit = part(catalogue.indoorUnits, 'IU-2');
		expect(site({}, source('PS-48'))).toEqual([]);
		expect(site({}, source('PS-48', { powerW: 41 }))).toEqual([
			'supply-power ends.A.powerSourceCode'
		]);
		// The radio takes 42 W, and its cable turns some of what it carries into heat.
		const { cable, cableLengthM } = plain.ends.A;
		const { outputV } = part(catalogue.powerSources, 'PS-48');
		const fed = dcSupply(outputV, 42, cable!, cableLengthM);
		const lostW = fed.kind === 'fed' ? fed.dropV * fed.currentA : NaN;
		expect(lostW).toBeGreaterThan(0.3);
		expect(site({}, source('PS-48', { powerW: 42 + lostW - 0.01 }))).toEqual([
			'supply-power ends.A.powerSourceCode'
		]);
		expect(site({}, source('PS-48', { powerW: 42 + lostW + 0.01 }))).toEqual([]);
		// The indoor unit takes 38 W of its own.
		const both = (powerW: number): string[] =>
			site({}, { ...source('PS-48', { powerW }), indoorUnit });
		const outside = indoorUnit.feedsRadios ? 0 : lostW;
		expect(both(80 + outside - 0.01)).toEqual(['supply-power ends.A.powerSourceCode']);
		expect(both(80 + outside + 0.01)).toEqual([]);
		const volts = (outputV: number): string[] =>
			site({}, { ...source('PS-48', { outputV }), indoorUnit }).filter((one) =>
				one.startsWith('indoor')
			);
		expect([volts(40), volts(57)]).toEqual([[], []]);
		expect(volts(39.9)).toEqual(['indoor-supply ends.A.powerSourceCode']);
		expect(volts(57.1)).toEqual(['indoor-supply ends.A.powerSourceCode']);
		expect(site({}, { indoorUnit: { ...indoorUnit, radioPorts: 0 } })).toEqual([
			'indoor-ports ends.A.indoorUnitCode'
		]);
		expect(site({}, { indoorUnit: { ...indoorUnit, radioPorts: 1 } })).toEqual([]);
	});

	it('is ground that differs, an antenna below it, and a profile taken elsewhere', () => {
		const profile = (groundA: number): string[] => {
			const { A, B } = plain.ends;
			const input = hopInput({
				path: { ...plain.path, profile: seaProfile(A.position, B.position, groundA, 160) }
			});
			return resultFindings(input, { ...plan, clearance: null }).map(
				({ code, field }) => `${code} ${field}`
			);
		};
		expect(profile(212)).toEqual([]);
		expect(profile(237)).toEqual(['antenna-below-ground ends.A.antennaHeightAglM']);
		expect(profile(100)).toEqual(['ground-differs sites.A']);
		expect(findings(hopInput({ path: { ...plain.path, profile: null } }))).toEqual([
			'no-profile path.profile'
		]);
	});

	it('is a path that is blocked at the planned k, and clearance that is short otherwise', () => {
		const check = (change: object): string => {
			const { clearance } = plan;
			const one = {
				...clearance!.checks[0]!,
				holds: false,
				worstObstacle: null,
				worstDistanceKm: 4,
				...change
			};
			const [found] = resultFindings(plain, {
				...plan,
				clearance: { ...clearance!, checks: [one] }
			});
			return `${found!.code} ${found!.severity} ${found!.message}`;
		};
		expect(check({ worstRatio: -0.1, kFactor: plain.kFactor })).toMatch(
			/^path-blocked error The path is blocked: -0.10 F1 at 4.00 km from A, /
		);
		expect(check({ worstRatio: 0.1, kFactor: plain.kFactor })).toMatch(/^clearance-short warning/);
		expect(check({ worstRatio: -0.1, kFactor: 0.6 })).toMatch(/^clearance-short warning/);
		expect(check({ worstRatio: 0.1, worstObstacle: 'Silo' })).toContain('4.00 km from A (Silo),');
	});
});

describe('the first looks of a plan', () => {
	it('lift what hangs together, and count the strongest carrier for exposure', () => {
		const weights = (change: Partial<HopPlanInput>, ends: Ends = {}): number =>
			soundPlan(hopInput({ ...change }, ends)).firstLook.A.hoist.totalKg;
		const { dish: own, mount, radio } = hopInput().ends.A;
		const one = own.weightKg + mount.weightKg + radio.weightKg;
		expect(weights({})).toBeCloseTo(one, 9);
		const dual = coupling('OT-26')!;
		expect(weights(kind('dual-polarized'), both({ coupling: dual }))).toBeCloseTo(
			one + radio.weightKg + dual.weightKg,
			9
		);
		// A coupling or a second dish that the configuration does not use stays on the ground.
		expect(weights({}, both({ coupling: dual, secondDish: dish('DP-090-26') }))).toBeCloseTo(
			one,
			9
		);
		const large = dish('DP-090-26');
		expect(weights(kind('space-diversity'), both({ secondDish: large }))).toBeCloseTo(
			one + radio.weightKg + large.weightKg + mount.weightKg,
			9
		);
	});
});

describe('parts that are newer', () => {
	it('are found in every place of an end', () => {
		const input = hopInput(
			{},
			{
				A: {
					secondRadio: part(catalogue.radios, 'RU-80'),
					secondDish: dish('DP-060-80'),
					coupling: coupling('OT-26'),
					indoorUnit: part(catalogue.indoorUnits, 'IU-2'),
					powerSource: part(catalogue.powerSources, 'PS-48')
				}
			}
		);
		const next = Object.fromEntries(
			Object.entries(catalogue).map(([list, parts]) => [
				list,
				(parts as { code: string }[]).map((one) => ({ ...one, version: 2 }))
			])
		) as unknown as typeof catalogue;
		const found = newerParts(input, next).filter(({ end }) => end === 'A');
		expect(found.map(({ kind: of, code }) => `${of} ${code}`)).toEqual([
			'radio RU-26',
			'radio RU-80',
			'dish DP-060-26',
			'dish DP-060-80',
			'mount MB-S',
			'coupling OT-26',
			'feeder FD-0',
			'cable DC-25',
			'indoor-unit IU-2',
			'power-source PS-48'
		]);
		expect(newerParts(input, { ...next, radios: [] }).some(({ kind: of }) => of === 'radio')).toBe(
			false
		);
	});
});

describe('a table of fields', () => {
	it('gives what is taken where nothing is said, groups and lists too', () => {
		expect(initialsOfFields(PLAN_FIELDS)).toMatchObject({
			toleranceDb: 2,
			landmarks: [],
			eirpLimitDbm: null,
			wind: { operatingMS: 30, survivalMS: 55, mastSwayDeg: 0.1 }
		});
		expect(initialsOfFields(PLAN_FIELDS)).not.toHaveProperty('workDate');
	});

	it('turns values into what is typed, and leaves out what it does not name', () => {
		const input = hopInput({ landmarks: [{ name: 'Silo', latitudeDeg: 1.5, longitudeDeg: -2 }] });
		const values: PlanFieldValues & { hopName: string } = {
			...input,
			kFactor: 4 / 3,
			eirpLimitDbm: null,
			polarization: 'vertical',
			dryAirPressureHpa: 1013.25,
			temperatureC: 15,
			waterVapourGM3: 7.5,
			workDate: '2026-11-24T00:00:00.000Z'
		};
		const typed = typedOf<PlanFieldValues>(PLAN_FIELDS, values);
		expect(typed).toMatchObject({
			kFactor: '1.3333',
			eirpLimitDbm: '',
			workDate: '2026-11-24',
			polarization: 'vertical',
			wind: { operatingMS: String(input.wind.operatingMS) },
			landmarks: [{ name: 'Silo', latitudeDeg: '1.5', longitudeDeg: '-2' }]
		});
		expect(typed).not.toHaveProperty('hopName');
		expect(Object.keys(initialsOfFields(END_FIELDS))).not.toContain('radioCode');
	});
});
