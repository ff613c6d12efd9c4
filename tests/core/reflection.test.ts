import { describe, expect, it } from 'vitest';
import { offAxisLossDb, peakEnvelopeDbi } from '#core/antenna/envelope';
import { reflectionFigures } from '#core/budget/reflectionFigures';
import type { HopPlanInput } from '#core/budget/planInput';
import {
	levelWithReflectionsDb,
	reflectionsOf,
	swingOf,
	type Reflection,
	type ReflectionPath
} from '#core/path/reflection';
import {
	divergenceFactor,
	reflectionCoefficient,
	roughnessFactor
} from '#core/path/reflectionCoefficient';
import { EARTH_RADIUS_M } from '#core/units/constants';
import { itemAt } from '#core/units/lists';
import { wavelengthM } from '#core/units/wavelength';
import { hopInput, seaProfile, soundPlan } from './planFixture';

const from = { latitudeDeg: -46.2, longitudeDeg: -118.4 };
const to = { latitudeDeg: -46.24, longitudeDeg: -118.2 };
const GHZ = 7.5;
const whole = (): number => 0;

function over(
	grounds: readonly number[],
	lengthM: number,
	heights: { A: number; B: number },
	change: Partial<ReflectionPath> = {}
): ReflectionPath {
	return {
		profile: {
			...{ source: 'typed', from, to, groundsAmslM: grounds },
			distancesM: grounds.map((_, i) => (lengthM * i) / (grounds.length - 1))
		},
		obstacles: [],
		water: [],
		groundRoughnessM: 0,
		antennaAmslM: heights,
		frequencyGhz: GHZ,
		polarization: 'horizontal',
		kFactor: 4 / 3,
		tide: 0,
		offAxisLossDb: { A: whole, B: whole },
		...change
	};
}
const level = (count: number): number[] => Array.from({ length: count }, () => 0);
const onSea = (
	lengthM: number,
	heights: { A: number; B: number },
	change: Partial<ReflectionPath> = {}
): ReflectionPath =>
	over(level(201), lengthM, heights, {
		water: [{ kind: 'sea', fromKm: 0, toKm: lengthM / 1000, tideM: 4 }],
		...change
	});
const only = (path: ReflectionPath): Reflection => {
	const found = reflectionsOf(path);
	expect(found).toHaveLength(1);
	return itemAt(found, 0);
};

describe('a reflection on the sea', () => {
	// Origin: P.530-17 §6.1 (m, b, c by the cosine) for place and angle, and the exact two rays
	// on a circle of k·a for the difference of length; worked out apart from this code.
	const CASES = [
		{
			A: 60,
			B: 35,
			lengthM: 25_000,
			k: 4 / 3,
			d1: 15_278.1,
			mrad: 3.0279,
			Dv: 0.827046,
			longer: 0.10894
		},
		{
			A: 120,
			B: 40,
			lengthM: 45_000,
			k: 4 / 3,
			d1: 31_029.5,
			mrad: 2.04087,
			Dv: 0.688212,
			longer: 0.0802463
		},
		{
			A: 80,
			B: 80,
			lengthM: 40_000,
			k: 0.8,
			d1: 20_000,
			mrad: 2.03798,
			Dv: 0.584661,
			longer: 0.0830641
		},
		{
			A: 30,
			B: 200,
			lengthM: 18_000,
			k: 4 / 3,
			d1: 18_000 - 15_523.8,
			mrad: 11.9697,
			Dv: 0.979636,
			longer: 0.611886
		}
	];
	it.each(CASES)(
		'lies where the recommendation puts it: $A m and $B m over $lengthM m',
		(given) => {
			const found = only(onSea(given.lengthM, { A: given.A, B: given.B }, { kFactor: given.k }));
			expect(found.distanceM).toBeCloseTo(given.d1, -1);
			expect(found.grazingMrad).toBeCloseTo(given.mrad, 3);
			expect(found.longerM).toBeCloseTo(given.longer, 4);
			const spread = divergenceFactor(
				found.distanceM,
				given.lengthM - found.distanceM,
				found.grazingMrad / 1000,
				given.k * EARTH_RADIUS_M
			);
			expect(spread).toBeCloseTo(given.Dv, 4);
			const sea = reflectionCoefficient('sea', GHZ, found.grazingMrad / 1000, 'horizontal');
			expect(found.amplitude).toBeCloseTo(sea.magnitude * spread, 6);
		}
	);

	it('swings the level once over its pitch of height, at either end', () => {
		const heights = { A: 60, B: 35 };
		const flat = { kFactor: 1000 };
		const { pitchM } = only(onSea(20_000, heights, flat));
		// Origin: two rays over a plane, λ·D/(2·h of the other end).
		expect(pitchM.A).toBeCloseTo((wavelengthM(GHZ) * 20_000) / (2 * 35), 0);
		for (const end of ['A', 'B'] as const) {
			const at = (raised: number): Reflection =>
				only(onSea(20_000, { ...heights, [end]: heights[end] + raised }, flat));
			expect(at(pitchM[end]).longerM - at(0).longerM).toBeCloseTo(wavelengthM(GHZ), 3);
		}
	});

	it('moves with the tide by the two heights it takes or gives', () => {
		const at = (tide: number): Reflection =>
			only(onSea(20_000, { A: 60, B: 35 }, { kFactor: 1000, tide }));
		// Origin: 2·h1·h2/D, each height 2 m less at high water of a tide of 4 m.
		expect(at(1).longerM).toBeCloseTo((2 * 58 * 33) / 20_000, 3);
		expect(at(-1).longerM).toBeCloseTo((2 * 62 * 37) / 20_000, 3);
	});

	it('is heard as little as the dishes hear off their axes, and hidden by what stands before it', () => {
		const heights = { A: 60, B: 35 };
		const bare = only(onSea(20_000, heights));
		const dish = (deg: number): number => offAxisLossDb(40, 1.8, GHZ, deg);
		const heard = only(onSea(20_000, heights, { offAxisLossDb: { A: dish, B: whole } }));
		expect(20 * Math.log10(bare.amplitude / heard.amplitude)).toBeCloseTo(
			dish(bare.offAxisDeg.A),
			6
		);
		expect(bare.offAxisDeg.A).toBeGreaterThan(0.1);
		const wall = { name: 'Wall', kind: 'building', distanceKm: 16, lengthM: 30 } as const;
		const hidden = only(onSea(20_000, heights, { obstacles: [{ ...wall, heightM: 24 }] }));
		expect(hidden.amplitude).toBeLessThan(0.5 * bare.amplitude);
		const low = only(onSea(20_000, heights, { obstacles: [{ ...wall, heightM: 2 }] }));
		expect(low.amplitude).toBeCloseTo(bare.amplitude, 9);
	});

	it('counts only as far as the water reaches under its zone', () => {
		const at = (toKm: number): Reflection[] =>
			reflectionsOf(
				over(
					Array.from({ length: 401 }, (_, i) => (i <= 200 ? 0 : (i % 2) * 30 - 60)),
					20_000,
					{ A: 60, B: 60 },
					{ kFactor: 1000, water: [{ kind: 'fresh', fromKm: 0, toKm, tideM: 0 }] }
				)
			);
		const half = at(10.01).filter(({ ground }) => ground === 'fresh');
		expect(half).toHaveLength(1);
		expect(half[0]?.amplitude).toBeGreaterThan(0.4);
		expect(half[0]?.amplitude).toBeLessThan(0.6);
		expect(at(4).filter(({ ground }) => ground === 'fresh')).toEqual([]);
	});
});

describe('a reflection on land', () => {
	it('needs ground that is smooth over its zone', () => {
		const plain = only(over(level(401), 20_000, { A: 60, B: 60 }));
		expect(plain).toMatchObject({ ground: 'land', roughnessM: 0 });
		expect(plain.distanceM).toBeCloseTo(10_000, -1);
		const heath = only(over(level(401), 20_000, { A: 60, B: 60 }, { groundRoughnessM: 0.5 }));
		expect(heath.amplitude / plain.amplitude).toBeCloseTo(
			roughnessFactor(0.5, wavelengthM(GHZ), plain.grazingMrad / 1000),
			6
		);
		const dish = (deg: number): number => offAxisLossDb(40, 1.8, GHZ, Math.min(180, deg));
		const dishes = { A: dish, B: dish };
		const rough = Array.from({ length: 401 }, (_, i) => 20 * Math.sin(i * 1.7));
		expect(
			swingOf(reflectionsOf(over(rough, 20_000, { A: 90, B: 90 }, { offAxisLossDb: dishes }))).lowDb
		).toBeGreaterThan(-1.5);
	});

	it('follows a slope: the angle in is the angle out against the slope', () => {
		// A plane that rises by 30 m, antennas 60 m above it: the middle again, whatever the slope.
		const rising = Array.from({ length: 401 }, (_, i) => (30 * i) / 400);
		const found = only(over(rising, 20_000, { A: 60, B: 90 }, { kFactor: 1000 }));
		expect(found.distanceM).toBeCloseTo(10_000, -1);
		expect(found.longerM).toBeCloseTo((2 * 60 * 60) / 20_000, 3);
	});

	it('is no number for no ground, and always one for any', () => {
		let state = 7;
		const random = (): number => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647;
		for (let i = 0; i < 300; i++) {
			const grounds = Array.from(
				{ length: 2 + Math.floor(60 * random()) },
				() => 400 * random() - 50
			);
			const path = over(
				grounds,
				50 + 80_000 * random(),
				{ A: 500 * random(), B: 500 * random() },
				{
					kFactor: 0.3 + 3 * random(),
					frequencyGhz: 1 + 90 * random(),
					polarization: random() < 0.5 ? 'vertical' : 'horizontal',
					groundRoughnessM: random() < 0.5 ? 0 : 3 * random(),
					water:
						random() < 0.5
							? []
							: [{ kind: 'sea', fromKm: 30 * random(), toKm: 40 * random(), tideM: 12 * random() }],
					tide: 2 * random() - 1
				}
			);
			const found = reflectionsOf(path);
			for (const { amplitude, distanceM, longerM } of found) {
				expect(amplitude).toBeGreaterThan(0);
				expect(amplitude).toBeLessThanOrEqual(1);
				expect(distanceM).toBeGreaterThan(0);
				expect(longerM).toBeGreaterThan(0);
			}
			expect(Number.isFinite(levelWithReflectionsDb(found, path.frequencyGhz))).toBe(true);
		}
	});
});

describe('what ground does to a wave', () => {
	// Origin: Fresnel's equations with complex numbers of another language, sea at 15 °C.
	it('is Fresnel’s coefficient, in both planes', () => {
		const flat = reflectionCoefficient('sea', 7.5, 5e-3, 'horizontal');
		expect(flat.magnitude).toBeCloseTo(0.998907, 5);
		expect(Math.cos(flat.phaseRad)).toBeCloseTo(Math.cos(3.141274), 5);
		const up = reflectionCoefficient('sea', 7.5, 5e-3, 'vertical');
		expect(up.magnitude).toBeCloseTo(0.918117, 5);
		const steeper = reflectionCoefficient('sea', 2, 0.02, 'vertical');
		expect(steeper.magnitude).toBeCloseTo(0.684229, 5);
		expect(Math.cos(steeper.phaseRad)).toBeCloseTo(Math.cos(-3.033698), 5);
	});

	it('is whole where it is smooth and nothing where it is rough', () => {
		expect(roughnessFactor(0, 0.04, 0.01)).toBe(1);
		expect(roughnessFactor(20, 0.04, 0.02)).toBeLessThan(0.01);
		// Origin: P.530-17 §6.1 by hand, g = 1: √(1.5/(1 + 1.175 + 2π/4)).
		expect(roughnessFactor(1 / (4 * Math.PI), 1, Math.PI / 2)).toBeCloseTo(0.6328, 3);
	});
});

describe('the envelope of a dish', () => {
	// Origin: F.699-7 recommends 2.1 and 2.2 by hand.
	it.each([
		// D/λ = 120: large.
		[45, 3.6, 10, 0, 45],
		[45, 3.6, 10, 0.5, 45 - 2.5e-3 * (120.08 * 0.5) ** 2],
		[45, 3.6, 10, 10, 7],
		[45, 3.6, 10, 90, -10],
		// D/λ = 20: small.
		[34, 0.6, 10, 10, 52 - 13.01 - 25],
		[34, 0.6, 10, 120, 10 - 13.01]
	])('of %d dBi, %d m at %d GHz, %d° off is %d dBi', (gain, m, ghz, deg, dbi) => {
		expect(peakEnvelopeDbi(gain, m, ghz, deg)).toBeCloseTo(dbi, 1);
	});

	it('never rises with the angle', () => {
		for (const [gain, m, ghz] of [
			[45, 3.6, 10],
			[34, 0.6, 10],
			[43, 0.6, 38],
			[28, 0.3, 10]
		] as const) {
			let last: number = gain;
			for (let deg = 0; deg <= 180; deg += 0.05) {
				const now = peakEnvelopeDbi(gain, m, ghz, deg);
				expect(now).toBeLessThanOrEqual(last + 0.15);
				last = now;
			}
		}
	});
});

describe('a plan over water', () => {
	const low = (change: Partial<HopPlanInput> = {}): HopPlanInput => {
		const input = hopInput(change, { A: { groundAmslM: 12 }, B: { groundAmslM: 8 } });
		const { A, B } = input.ends;
		return {
			...input,
			path: {
				...input.path,
				profile: seaProfile(A.position, B.position, 12, 8),
				...change.path
			}
		};
	};
	const sea = { kind: 'sea', fromKm: 1.2, toKm: 8, tideM: 3 } as const;
	const withSea = (): HopPlanInput => {
		const input = low();
		return { ...input, path: { ...input.path, water: [sea] } };
	};
	const codes = (input: HopPlanInput): string[] =>
		soundPlan(input).findings.map(({ code }) => code);

	it('says that the window means little, and how far a second dish would help', () => {
		const plan = soundPlan(withSea());
		const finding = plan.findings.find(({ code }) => code === 'reflection-swings');
		expect(finding?.message).toMatch(/^The sea \d\.\d km from A reflects/);
		expect(plan.reflections?.map(({ receivingEnd }) => receivingEnd)).toEqual(['A', 'B']);
		const rough = withSea();
		expect(
			codes({ ...rough, path: { ...rough.path, water: [], groundRoughnessM: 5 } })
		).not.toContain('reflection-swings');
	});

	it('that has its shores the wrong way round, or beyond the path, is called so at the field', () => {
		const at = (fromKm: number, toKm: number): string[] => {
			const input = low();
			const water = [{ ...sea, fromKm, toKm }];
			return soundPlan({ ...input, path: { ...input.path, water } })
				.findings.filter(({ severity }) => severity === 'error')
				.map(({ code, field }) => `${code} ${field}`);
		};
		expect(at(5, 2)).toContain('water-reversed path.water.0.toKm');
		expect(at(50, 60)).toContain('water-beyond path.water.0.fromKm');
		expect(at(1, 60)).toEqual([]);
	});

	it('is drawn against k and against each height, by tide', () => {
		const input = withSea();
		const figures = reflectionFigures(input, 1, 'B');
		expect(figures?.againstInverseK.map(({ tide }) => tide)).toEqual([-1, 0, 1]);
		const swing = soundPlan(input).reflections?.find(({ receivingEnd }) => receivingEnd === 'B');
		for (const { points } of figures?.againstInverseK ?? []) {
			for (const [, db] of points) {
				expect(db).toBeLessThanOrEqual((swing?.highDb ?? 0) + 0.7);
				expect(db).toBeGreaterThanOrEqual((swing?.lowDb ?? 0) - 1e-9);
			}
		}
		const levels = figures?.againstHeight.B[1]?.points.map(([, db]) => db) ?? [];
		expect(Math.max(...levels)).toBeGreaterThan(1);
		expect(Math.min(...levels)).toBeLessThan(-1);
		expect(figures?.spacingM.A).toBeGreaterThan(0.5);
		expect(
			reflectionFigures({ ...input, path: { ...input.path, profile: null } }, 1, 'B')
		).toBeUndefined();
	});

	it('long over the sea, or in a climate of ducts, is said to have outages that no figure holds', () => {
		expect(codes(withSea())).not.toContain('ducting');
		const far = { latitudeDeg: -46.24, longitudeDeg: -118.1 };
		const input = hopInput({}, { B: { position: far } });
		const long: HopPlanInput = {
			...input,
			path: {
				...input.path,
				profile: seaProfile(input.ends.A.position, far, 212, 160),
				water: [{ kind: 'sea', fromKm: 4, toKm: 20, tideM: 0 }]
			}
		};
		expect(codes(long)).toContain('ducting');
		const dry = { ...long, path: { ...long.path, water: [] } };
		expect(codes(dry)).not.toContain('ducting');
		expect(codes({ ...dry, climate: { ...dry.climate, gradientDn1: -420 } })).toContain('ducting');
	});

	it('that the ground takes out at the low k says so', () => {
		const input = low({ kFactor: 4 / 3 });
		const grounds = [12, -48, -8, 21, -8, -52, 8];
		const hill: HopPlanInput = {
			...input,
			ends: {
				A: { ...input.ends.A, antennaHeightAglM: 12 },
				B: { ...input.ends.B, antennaHeightAglM: 15 }
			},
			path: {
				...input.path,
				profile: input.path.profile && { ...input.path.profile, groundsAmslM: grounds }
			}
		};
		expect(codes(hill)).not.toContain('low-k-fading');
		const bent = { ...hill, climate: { ...hill.climate, lowK: 0.4 }, additionalLossDb: 12 };
		expect(codes(bent)).toContain('low-k-fading');
		expect(codes({ ...bent, climate: { ...bent.climate, lowK: 1 } })).not.toContain('low-k-fading');
	});
});
