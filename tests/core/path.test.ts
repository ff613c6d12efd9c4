import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { heightCurve, requiredHeightAtA, requiredHeightAtB } from '#core/path/antennaHeights';
import { clearanceRules, judgeClearance } from '#core/path/clearanceSchool';
import { obstructionLoss } from '#core/path/obstructionLoss';
import { knifeEdgeLossDb, quickDiffractionLossDb } from '#core/propagation/diffraction';
import {
	earthBulgeM,
	fresnelRadiusM,
	pathClearance,
	type Obstacle
} from '#core/path/pathClearance';
import { terrainRoughnessM } from '#core/path/roughness';
import { pointsAlongPath, sampleTerrain, type TerrainProfile } from '#core/path/samplePath';
import { terrainHeightM, type TerrainGrid } from '#core/path/terrainGrid';
import { inverseGeodesic } from '#core/geodesy/geodesic';

const from = { latitudeDeg: -46.2, longitudeDeg: -118.4 };
const to = { latitudeDeg: -46.24, longitudeDeg: -118.2 };

function profileOf(grounds: readonly number[], lengthM: number): TerrainProfile {
	return {
		source: 'typed',
		from,
		to,
		distancesM: grounds.map((_, i) => (lengthM * i) / (grounds.length - 1)),
		groundsAmslM: grounds
	};
}

const flat = (lengthM: number, count = 101): TerrainProfile =>
	profileOf(
		Array.from({ length: count }, () => 0),
		lengthM
	);

describe('the geometry of a path', () => {
	// Origin: 17.32·√(5·5/(10·10)) and 5000²/(2·4/3·6 371 000), by hand.
	it.each([
		['Fresnel radius in the middle of 10 km at 10 GHz', fresnelRadiusM(5000, 5000, 10), 8.66],
		[
			'Fresnel radius 1 km from the end of 20 km at 7.5 GHz',
			fresnelRadiusM(1000, 19_000, 7.5),
			6.164
		],
		['bulge in the middle of 10 km at k = 4/3', earthBulgeM(5000, 5000, 4 / 3), 1.4715],
		['bulge in the middle of 50 km at k = 2/3', earthBulgeM(25_000, 25_000, 2 / 3), 73.58]
	])('%s', (_, value, wanted) => expect(value).toBeCloseTo(wanted, 2));

	it('a first Fresnel radius is half a wavelength of detour', () => {
		const [d1, d2, f] = [3000, 9000, 15];
		const r = fresnelRadiusM(d1, d2, f);
		const detour = Math.hypot(d1, r) + Math.hypot(d2, r) - d1 - d2;
		expect(detour).toBeCloseTo(0.299792458 / f / 2, 4);
	});

	it('a flat sea under level antennas is nearest in the middle', () => {
		const { worst } = pathClearance({
			profile: flat(20_000),
			obstacles: [],
			antennaAmslM: { A: 30, B: 30 },
			frequencyGhz: 10,
			kFactor: 4 / 3
		});
		expect(worst!.distanceM).toBeCloseTo(10_000, -2);
		expect(worst!.clearanceM).toBeCloseTo(30 - earthBulgeM(10_000, 10_000, 4 / 3), 6);
	});

	it('reversed, a profile gives the mirrored clearance', () => {
		fc.assert(
			fc.property(
				fc.array(fc.double({ min: 0, max: 300, noNaN: true }), { minLength: 4, maxLength: 40 }),
				fc.double({ min: 10, max: 500, noNaN: true }),
				fc.double({ min: 10, max: 500, noNaN: true }),
				(grounds, a, b) => {
					const base = { obstacles: [], frequencyGhz: 18, kFactor: 1.2 };
					const there = pathClearance({
						...base,
						profile: profileOf(grounds, 12_000),
						antennaAmslM: { A: a, B: b }
					});
					const back = pathClearance({
						...base,
						profile: profileOf([...grounds].reverse(), 12_000),
						antennaAmslM: { A: b, B: a }
					});
					there.points.forEach((point, i) => {
						const other = back.points[back.points.length - 1 - i]!;
						expect(other.clearanceM).toBeCloseTo(point.clearanceM, 6);
					});
				}
			),
			{ numRuns: 40 }
		);
	});
});

describe('obstacles', () => {
	const tree: Obstacle = {
		name: 'Grove',
		kind: 'trees',
		distanceKm: 4.03,
		lengthM: 120,
		heightM: 25
	};

	it('stand on the ground where they are and nowhere else', () => {
		const { points, worst } = pathClearance({
			profile: flat(10_000),
			obstacles: [tree],
			antennaAmslM: { A: 30, B: 30 },
			frequencyGhz: 23,
			kFactor: 4 / 3
		});
		expect(worst!.obstacle).toBe('Grove');
		const standing = points.filter((point) => point.obstacle === 'Grove').map((p) => p.distanceM);
		expect(Math.min(...standing)).toBeCloseTo(3970, 3);
		expect(Math.max(...standing)).toBeCloseTo(4090, 3);
		expect(points.find((point) => point.distanceM === 5000)!.surfaceAmslM).toBe(0);
	});

	it('between two points of the profile are not missed', () => {
		const { worst } = pathClearance({
			profile: flat(10_000, 3),
			obstacles: [{ ...tree, lengthM: 0 }],
			antennaAmslM: { A: 30, B: 30 },
			frequencyGhz: 23,
			kFactor: 4 / 3
		});
		expect(worst!.distanceM).toBeCloseTo(4030, 6);
	});
});

describe('clearance by school', () => {
	const base = {
		medianK: 4 / 3,
		lowK: 0.67,
		climate: 'temperate',
		obstruction: 'isolated',
		pathKm: 15
	} as const;
	it.each([
		[
			'P.530, isolated',
			{ school: 'p530' },
			[
				[4 / 3, 1],
				[0.67, 0]
			]
		],
		[
			'P.530, extended',
			{ school: 'p530', obstruction: 'extended' },
			[
				[4 / 3, 1],
				[0.67, 0.3]
			]
		],
		[
			'P.530, tropical and long',
			{ school: 'p530', climate: 'tropical', pathKm: 40 },
			[
				[4 / 3, 1],
				[0.67, 0.6]
			]
		],
		[
			'P.530, tropical and short',
			{ school: 'p530', climate: 'tropical' },
			[
				[4 / 3, 1],
				[0.67, 0]
			]
		],
		['practice, short', { school: 'practice' }, [[4 / 3, 0.6]]],
		[
			'practice, long',
			{ school: 'practice', pathKm: 40 },
			[
				[4 / 3, 1],
				[2 / 3, 0.6]
			]
		]
	] as const)('%s', (_, change, wanted) => {
		const rules = clearanceRules({ ...base, ...change });
		expect(rules.map((rule) => [rule.kFactor, rule.wantedRatio])).toEqual(wanted);
	});

	const verdictAt = (a: number, b: number): ReturnType<typeof judgeClearance> =>
		judgeClearance({
			profile: profileOf([50, 60, 95, 120, 80, 40, 30], 18_000),
			obstacles: [],
			antennaAmslM: { A: a, B: b },
			frequencyGhz: 13,
			rules: clearanceRules({ ...base, school: 'p530', pathKm: 18 }),
			school: 'p530'
		});

	it('the required height is exactly the one at which every rule just holds', () => {
		const needed = requiredHeightAtB(verdictAt(110, 0), 110);
		expect(verdictAt(110, needed + 0.01).holds).toBe(true);
		expect(verdictAt(110, needed - 0.01).holds).toBe(false);
		const back = requiredHeightAtA(verdictAt(0, needed), needed);
		expect(back).toBeCloseTo(110, 6);
	});

	it('more height at A asks for no more at B', () => {
		const curve = heightCurve(verdictAt(110, 60), 60, 300);
		curve.slice(1).forEach((pair, i) => expect(pair.bAmslM).toBeLessThanOrEqual(curve[i]!.bAmslM));
	});

	it('raising the ray by what is missing mends the worst point', () => {
		const short = verdictAt(90, 70);
		expect(short.holds).toBe(false);
		const missing = Math.max(...short.checks.map((check) => check.missingM));
		expect(verdictAt(90 + missing, 70 + missing).holds).toBe(true);
	});
});

describe('obstruction loss', () => {
	// Origin: ITU-R P.526 figure for one edge: 6.0 dB grazing, about 13.0 at ν = 1, 19 at 2.4.
	it.each([
		[-0.78, 0],
		[0, 6.03],
		[1, 13.93],
		[2.4, 20.54]
	])('of one edge at ν = %s', (nu, wanted) => expect(knifeEdgeLossDb(nu)).toBeCloseTo(wanted, 1));

	it('of one edge follows Fresnel’s integrals within 0.1 dB', () => {
		// Computed another way: |F(ν)|² by summing ∫ cos, sin(πt²/2) from ν on.
		for (const nu of [0, 0.5, 1, 1.8]) {
			let [c, s] = [0, 0];
			const step = 1e-4;
			for (let t = 0; t < nu; t += step) {
				const mid = t + step / 2;
				c += Math.cos((Math.PI * mid * mid) / 2) * step;
				s += Math.sin((Math.PI * mid * mid) / 2) * step;
			}
			const power = ((0.5 - c) ** 2 + (0.5 - s) ** 2) / 2;
			expect(Math.abs(knifeEdgeLossDb(nu) + 10 * Math.log10(power))).toBeLessThan(0.1);
		}
	});

	const lossOf = (
		grounds: readonly number[],
		antennaM: number
	): ReturnType<typeof obstructionLoss> =>
		obstructionLoss(
			pathClearance({
				profile: profileOf(grounds, 20_000),
				obstacles: [],
				antennaAmslM: { A: antennaM, B: antennaM },
				frequencyGhz: 8,
				kFactor: 4 / 3
			}),
			8
		);

	it('is none high above, and grows from one hill to two', () => {
		expect(lossOf([0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0], 120)).toMatchObject({ lossDb: 0, edges: 0 });
		const one = lossOf([0, 0, 0, 0, 0, 120, 0, 0, 0, 0, 0], 110);
		expect(one.edges).toBe(1);
		expect(one.lossDb).toBeGreaterThan(15);
		const two = lossOf([0, 0, 0, 130, 0, 0, 0, 140, 0, 0, 0], 110);
		expect(two.edges).toBe(2);
		expect(two.lossDb).toBeGreaterThan(one.lossDb);
	});

	it('grows as the antennas come down', () => {
		const grounds = [0, 20, 60, 100, 40, 80, 60, 20, 0];
		const losses = [200, 140, 110, 90, 60].map((height) => lossOf(grounds, height).lossDb);
		losses.slice(1).forEach((loss, i) => expect(loss).toBeGreaterThanOrEqual(losses[i]!));
	});

	it('by the quick rule is 10 dB grazing and 30 dB one radius below', () => {
		expect(quickDiffractionLossDb(0)).toBe(10);
		expect(quickDiffractionLossDb(-1)).toBe(30);
		expect(quickDiffractionLossDb(2)).toBe(0);
	});
});

describe('terrain', () => {
	const grid: TerrainGrid = {
		westDeg: 10,
		northDeg: 50,
		stepLongitudeDeg: 0.5,
		stepLatitudeDeg: 0.25,
		columns: 3,
		rows: 2,
		heightsM: Float32Array.from([0, 10, 20, 100, 110, Number.NaN])
	};

	it('is interpolated between cell middles and unknown where data are missing', () => {
		expect(terrainHeightM(grid, 50, 10)).toBe(0);
		expect(terrainHeightM(grid, 49.875, 10.25)).toBeCloseTo(55, 6);
		expect(terrainHeightM(grid, 49.8, 10.9)).toBeUndefined();
		expect(terrainHeightM(grid, 51, 10)).toBeUndefined();
		expect(terrainHeightM(grid, 50, 370)).toBe(0);
	});

	it('across the antimeridian is found from either side', () => {
		const across = { ...grid, westDeg: 179.5 };
		expect(terrainHeightM(across, 50, -180)).toBe(10);
		expect(terrainHeightM(across, 50, 180)).toBe(10);
		expect(terrainHeightM(across, 50, -179.5)).toBe(20);
	});

	it('is sampled every step along the geodesic, ends included, also across the antimeridian', () => {
		const a = { latitudeDeg: -17, longitudeDeg: 179.8 };
		const b = { latitudeDeg: -17.1, longitudeDeg: -179.9 };
		const points = pointsAlongPath(a, b, 200);
		const { lengthM } = inverseGeodesic(a, b);
		expect(points[points.length - 1]!.distanceM).toBeCloseTo(lengthM, 6);
		expect(points[1]!.distanceM).toBeLessThanOrEqual(200);
		const middle = points[Math.round(points.length / 2)]!;
		expect(inverseGeodesic(a, middle.point).lengthM).toBeCloseTo(middle.distanceM, 3);
	});

	it('fills points without data from their neighbours and counts them', () => {
		const wide: TerrainGrid = {
			westDeg: -118.5,
			northDeg: -46,
			stepLongitudeDeg: 0.05,
			stepLatitudeDeg: 0.4,
			columns: 8,
			rows: 2,
			heightsM: Float32Array.from([
				5,
				5,
				5,
				Number.NaN,
				5,
				5,
				5,
				5,
				5,
				5,
				5,
				Number.NaN,
				5,
				5,
				5,
				5
			])
		};
		const sampled = sampleTerrain([{ name: 'Test', grid: wide }], from, to, 100);
		expect(sampled.kind).toBe('profile');
		if (sampled.kind !== 'profile') return;
		expect(sampled.withoutData).toBeGreaterThan(0);
		expect(sampled.profile.groundsAmslM.every((height) => height === 5)).toBe(true);
		expect(sampleTerrain([], from, to, 100).kind).toBe('no-terrain');
	});

	it('of a sine has the roughness of a sine', () => {
		const sine = Array.from(
			{ length: 1001 },
			(_, i) => 100 + 40 * Math.sin((i / 1000) * 20 * Math.PI)
		);
		expect(terrainRoughnessM(profileOf(sine, 30_000))).toBeCloseTo(40 / Math.SQRT2, 1);
	});
});
