import { describe, expect, it } from 'vitest';
import { heightCurve } from '#core/path/antennaHeights';
import { clearanceRules, judgeClearance, type ClearanceRule } from '#core/path/clearanceSchool';
import { obstructionLoss, type ObstructionLoss } from '#core/path/obstructionLoss';
import { knifeEdgeLossDb } from '#core/propagation/diffraction';
import {
	earthBulgeM,
	fresnelRadiusM,
	innerPoints,
	pathClearance,
	type Obstacle,
	type PathClearance
} from '#core/path/pathClearance';
import { terrainRoughnessM } from '#core/path/roughness';
import { pointsAlongPath, sampleTerrain, type TerrainProfile } from '#core/path/samplePath';
import { terrainHeightM, type TerrainGrid } from '#core/path/terrainGrid';
import { inverseGeodesic } from '#core/geodesy/geodesic';
import type { HopAvailability } from '#core/budget/availability';
import { hopInput, soundPlan } from './planFixture';

const from = { latitudeDeg: -46.2, longitudeDeg: -118.4 };
const to = { latitudeDeg: -46.24, longitudeDeg: -118.2 };
const LENGTH_M = 20_000;
const K = 4 / 3;
const GHZ = 8;

/** A profile of heights at equal distances. */
function profileOf(grounds: readonly number[], lengthM = LENGTH_M): TerrainProfile {
	return {
		source: 'typed',
		from,
		to,
		distancesM: grounds.map((_, i) => (lengthM * i) / (grounds.length - 1)),
		groundsAmslM: grounds
	};
}

/** Level sea in 2 km steps with hills at some of the places. */
const hills = (at: Record<number, number>): number[] =>
	Array.from({ length: 11 }, (_, i) => at[i] ?? -500);

const clearanceOf = (
	grounds: readonly number[],
	antennaAmslM: { A: number; B: number },
	obstacles: readonly Obstacle[] = []
): PathClearance =>
	pathClearance({
		profile: profileOf(grounds),
		obstacles,
		antennaAmslM,
		frequencyGhz: GHZ,
		kFactor: K
	});
const lossOf = (grounds: readonly number[], a: number, b = a): ObstructionLoss =>
	obstructionLoss(clearanceOf(grounds, { A: a, B: b }), GHZ);

describe('one edge', () => {
	it('costs nothing from ν = −0.78 on, and a little just above', () => {
		expect(knifeEdgeLossDb(-5)).toBe(0);
		expect(knifeEdgeLossDb(-0.7)).toBeGreaterThan(0);
		// A clearance of 0.4 F1 still costs: the zone is judged to 0.55 of it.
		const middle = fresnelRadiusM(10_000, 10_000, GHZ);
		const bulge = earthBulgeM(10_000, 10_000, K);
		const at = (share: number): ObstructionLoss => lossOf(hills({ 5: 0 }), bulge + share * middle);
		expect(at(0.4).edges).toBe(1);
		expect(at(0.4).singleEdgeDb).toBeCloseTo(knifeEdgeLossDb(-Math.SQRT2 * 0.4), 6);
		expect(at(0.4).quickRuleDb).toBeCloseTo(2, 6);
		expect(at(0.6)).toMatchObject({ lossDb: 0, edges: 0, singleEdgeDb: 0 });
	});

	it('is judged by its highest point, wherever that lies in it', () => {
		const bulge = (i: number): number => earthBulgeM(i * 2000, LENGTH_M - i * 2000, K);
		for (const [p, q] of [
			[30, 60],
			[60, 30]
		] as const) {
			const { singleEdgeDb, edges } = lossOf(hills({ 4: p, 5: q }), 40);
			const ratios = [4, 5].map(
				(i, n) => (40 - [p, q][n]! - bulge(i)) / fresnelRadiusM(i * 2000, LENGTH_M - i * 2000, GHZ)
			);
			expect(edges).toBe(1);
			expect(singleEdgeDb).toBeCloseTo(knifeEdgeLossDb(-Math.SQRT2 * Math.min(...ratios)), 6);
		}
	});
});

describe('several edges', () => {
	/** The construction with its correction, over the path of these tests. Source: P.526-15, (52). */
	const corrected = (knifeDb: number): number =>
		knifeDb + (1 - Math.exp(-knifeDb / 6)) * (10 + 0.02 * (LENGTH_M / 1000));
	const bulge = earthBulgeM(4000, 16_000, K);
	const wavelength = 0.299792458 / GHZ;

	it('of one height meet over the middle, as the two tangents from the antennas do', () => {
		// By hand: each tangent rises from 50 m to 90 m + bulge in 4 km, and they meet after 10 km.
		const heightM = ((90 + bulge - 50) / 4000) * 10_000;
		const nu = heightM * Math.sqrt((2 * LENGTH_M) / (wavelength * 10_000 * 10_000));
		const { profileDb, edges } = lossOf(hills({ 2: 90, 8: 90 }), 50);
		expect(edges).toBe(2);
		expect(profileDb).toBeCloseTo(corrected(knifeEdgeLossDb(nu)), 6);
	});

	it('of two heights meet where the tangents cross, above a ray that leans', () => {
		const [a, b] = [50, 80];
		const fromA = (90 + bulge - a) / 4000;
		const fromB = (120 + bulge - b) / 4000;
		// a + fromA·x = b + fromB·(L − x)
		const x = (b - a + fromB * LENGTH_M) / (fromA + fromB);
		const heightM = a + fromA * x - (a + ((b - a) * x) / LENGTH_M);
		const nu = heightM * Math.sqrt((2 * LENGTH_M) / (wavelength * x * (LENGTH_M - x)));
		expect(lossOf(hills({ 2: 90, 8: 120 }), a, b).profileDb).toBeCloseTo(
			corrected(knifeEdgeLossDb(nu)),
			6
		);
	});

	it('all below the ray are judged by the one that reaches highest into its zone', () => {
		const radius = fresnelRadiusM(4000, 16_000, GHZ);
		const ray = bulge + 100;
		const under = (share: number): number => ray - bulge - share * radius;
		const { profileDb, edges } = lossOf(hills({ 2: under(0.4), 8: under(0.2) }), ray);
		expect(edges).toBe(2);
		// The rule of thumb for F1 is 0.03 % more than the exact radius.
		expect(profileDb).toBeCloseTo(corrected(knifeEdgeLossDb(-Math.SQRT2 * 0.2)), 2);
		// The same under a ray that rises from 30 m to 90 m, and so by 12 m and 48 m at the hills.
		const leaning = lossOf(
			hills({ 2: 42 - bulge - 0.4 * radius, 8: 78 - bulge - 0.2 * radius }),
			30,
			90
		);
		expect(leaning.edges).toBe(2);
		expect(leaning.profileDb).toBeCloseTo(profileDb, 6);
	});
});

describe('the points that judge a path', () => {
	it('are all but those by the masts', () => {
		const fine = Array.from({ length: 1001 }, () => 0);
		const inner = innerPoints(clearanceOf(fine, { A: 30, B: 30 }).points);
		// The ends themselves are left out; the next point after 20 m is judged.
		expect(inner[0]!.distanceM).toBeCloseTo(20, 6);
		expect(inner.at(-1)!.distanceM).toBeCloseTo(LENGTH_M - 20, 6);
		expect(innerPoints([])).toEqual([]);
	});

	it('leave out the mast itself, and what stands within 2 m of the antennas', () => {
		const at = (distanceKm: number): Obstacle => ({
			...{ name: 'Hut', kind: 'building', distanceKm, lengthM: 0, heightM: 500 }
		});
		const worst = (...obstacles: Obstacle[]): string | null =>
			clearanceOf([0, 0, 0], { A: 60, B: 60 }, obstacles).worst!.obstacle;
		expect(worst(at(0.0019), at(LENGTH_M / 1000 - 0.0019))).toBeNull();
		expect(worst(at(0.0021))).toBe('Hut');
		expect(worst(at(LENGTH_M / 1000 - 0.0021))).toBe('Hut');
	});

	it('have no zone at the ends, and none at all on a path of no length', () => {
		const { points } = clearanceOf([0, 0, 0], { A: 30, B: 40 });
		expect(points[0]).toMatchObject({ fresnelM: 0, ratio: Infinity, rayAmslM: 30 });
		expect(points.at(-1)).toMatchObject({ fresnelM: 0, ratio: Infinity, rayAmslM: 40 });
		const none = pathClearance({
			profile: { source: '', from, to: from, distancesM: [0], groundsAmslM: [7] },
			obstacles: [],
			antennaAmslM: { A: 12, B: 99 },
			frequencyGhz: GHZ,
			kFactor: K
		});
		expect(none).toMatchObject({ worst: null, points: [{ rayAmslM: 12, clearanceM: 5 }] });
	});
});

describe('obstacles on a path', () => {
	const thing = (change: Partial<Obstacle>): Obstacle => ({
		name: 'Grove',
		kind: 'trees',
		distanceKm: 10,
		lengthM: 400,
		heightM: 20,
		...change
	});
	const standing = (...obstacles: Obstacle[]): [number, number, string | null][] =>
		clearanceOf([0, 10, 20], { A: 90, B: 90 }, obstacles).points.map(
			({ distanceM, surfaceAmslM, obstacle }) => [distanceM, surfaceAmslM, obstacle]
		);

	it('add a point where they begin, stand and end, on the slope where each of them is', () => {
		expect(standing(thing({ distanceKm: 5 }))).toEqual([
			[0, 0, null],
			[4800, 24.8, 'Grove'],
			[5000, 25, 'Grove'],
			[5200, 25.2, 'Grove'],
			[10_000, 10, null],
			[20_000, 20, null]
		]);
		expect(standing(thing({ distanceKm: 15 })).map(([, m]) => m)).toEqual([
			0, 10, 34.8, 35, 35.2, 20
		]);
	});

	it('add none beyond either end', () => {
		const places = (one: Obstacle): number[] => standing(one).map(([distance]) => distance);
		expect(places(thing({ distanceKm: 0.1 }))).toEqual([0, 100, 300, 10_000, 20_000]);
		expect(places(thing({ distanceKm: 19.9 }))).toEqual([0, 10_000, 19_700, 19_900, 20_000]);
	});

	it('where two overlap the higher one counts, in either order', () => {
		const low = thing({ name: 'Shed', heightM: 5 });
		const high = thing({ name: 'Silo', heightM: 30, lengthM: 0 });
		for (const both of [
			[low, high],
			[high, low]
		]) {
			const at = standing(...both);
			expect(at.find(([d]) => d === 10_000)).toEqual([10_000, 40, 'Silo']);
			expect(at.find(([d]) => d === 9800)).toEqual([9800, 14.8, 'Shed']);
		}
	});
});

describe('a school', () => {
	const rules = (change: Partial<Parameters<typeof clearanceRules>[0]>): ClearanceRule[] =>
		clearanceRules({
			school: 'p530',
			pathKm: 10,
			medianK: K,
			lowK: 0.7,
			climate: 'temperate',
			obstruction: 'isolated',
			...change
		});

	it('draws its lines at 20 km and beyond 30 km', () => {
		expect(rules({ school: 'practice', pathKm: 20 })).toHaveLength(1);
		expect(rules({ school: 'practice', pathKm: 20.1 })).toHaveLength(2);
		expect(rules({ climate: 'tropical', pathKm: 30 })[1]!.wantedRatio).toBe(0);
		expect(rules({ climate: 'tropical', pathKm: 30.1 })[1]!.wantedRatio).toBe(0.6);
		expect(rules({ climate: 'temperate', pathKm: 40 })[1]!.wantedRatio).toBe(0);
	});

	it('says its name and which of its rules has least room, wherever that stands in the list', () => {
		const judged = (ratios: number[], school: 'p530' | 'practice'): [string, number, boolean[]] => {
			const verdict = judgeClearance({
				profile: profileOf(hills({ 5: 0 })),
				obstacles: [],
				antennaAmslM: { A: 100, B: 100 },
				frequencyGhz: GHZ,
				rules: ratios.map((wantedRatio) => ({ kFactor: K, wantedRatio, why: '' })),
				school
			});
			return [
				verdict.schoolInWords,
				verdict.tightest.wantedRatio,
				verdict.checks.map(({ holds }) => holds)
			];
		};
		expect(judged([0.6, 9], 'p530')).toEqual(['ITU-R P.530', 9, [true, false]]);
		expect(judged([9, 0.6], 'practice')).toEqual(['common practice', 9, [false, true]]);
		expect(judged([0.1, 0.3, 0.2], 'practice')[1]).toBe(0.3);
	});

	it('of an empty profile finds nothing in the way', () => {
		const { checks, holds } = judgeClearance({
			profile: { source: '', from, to, distancesM: [], groundsAmslM: [] },
			obstacles: [],
			antennaAmslM: { A: 10, B: 10 },
			frequencyGhz: GHZ,
			rules: rules({}),
			school: 'p530'
		});
		expect(holds).toBe(true);
		expect(checks.map(({ worstRatio }) => worstRatio)).toEqual([Infinity, Infinity]);
	});

	it('trades height at one end for height at the other over the whole range asked for', () => {
		const verdict = judgeClearance({
			profile: profileOf(hills({ 5: 0 })),
			obstacles: [],
			antennaAmslM: { A: 100, B: 100 },
			frequencyGhz: GHZ,
			rules: rules({}),
			school: 'p530'
		});
		const curve = heightCurve(verdict, 60, 180, 5);
		expect(curve.map(({ aAmslM }) => aAmslM)).toEqual([60, 90, 120, 150, 180]);
		expect(heightCurve(verdict, 60, 180)).toHaveLength(25);
	});
});

describe('a raster', () => {
	// Heights 0 … 5 of three columns and two rows, cells of 0.5° × 0.25°.
	const grid: TerrainGrid = {
		westDeg: 10,
		northDeg: 50,
		stepLongitudeDeg: 0.5,
		stepLatitudeDeg: 0.25,
		columns: 3,
		rows: 2,
		heightsM: Float32Array.from([0, 10, 20, 100, 110, 120])
	};

	it('reaches half a cell beyond its outer middles, edges included, and no further', () => {
		const at = (latitude: number, longitude: number): number | undefined =>
			terrainHeightM(grid, latitude, longitude);
		expect(at(50, 9.75)).toBe(0);
		expect(at(50.125, 10)).toBe(0);
		expect(at(50, 11.25)).toBe(20);
		expect(at(49.625, 11)).toBe(120);
		expect(at(50, 9.749)).toBeUndefined();
		expect(at(50.126, 10)).toBeUndefined();
		expect(at(50, 11.251)).toBeUndefined();
		expect(at(49.624, 11)).toBeUndefined();
	});

	it('is interpolated in both directions, also in its last cells', () => {
		expect(terrainHeightM(grid, 50, 10.75)).toBe(15);
		expect(terrainHeightM(grid, 49.9375, 11)).toBe(45);
		expect(terrainHeightM(grid, 49.75, 10.9)).toBeCloseTo(118, 4);
		const narrow = { ...grid, rows: 3, heightsM: Float32Array.from([0, 0, 0, 4, 4, 4, 9, 9, 9]) };
		expect(terrainHeightM(narrow, 49.625, 10.2)).toBeCloseTo(6.5, 5);
	});

	it('is found from any turn of the longitude, wide as it may be', () => {
		const wide: TerrainGrid = {
			westDeg: -170,
			northDeg: 10,
			stepLongitudeDeg: 10,
			stepLatitudeDeg: 10,
			columns: 35,
			rows: 2,
			heightsM: Float32Array.from({ length: 70 }, (_, i) => i % 35)
		};
		for (const turn of [-720, -360, 0, 360]) {
			expect(terrainHeightM(wide, 10, -170 + turn)).toBe(0);
			expect(terrainHeightM(wide, 10, 170 + turn)).toBe(34);
			expect(terrainHeightM(wide, 10, 0 + turn)).toBe(17);
		}
	});

	it('is unknown beside a cell without data, but known in the middle of one with', () => {
		const holed = { ...grid, heightsM: Float32Array.from([0, 10, 20, 100, 110, Number.NaN]) };
		expect(terrainHeightM(holed, 49.75, 10.5)).toBe(110);
		expect(terrainHeightM(holed, 50, 11)).toBe(20);
		expect(terrainHeightM(holed, 49.75, 10.6)).toBeUndefined();
		expect(terrainHeightM(holed, 49.9, 11)).toBeUndefined();
	});
});

describe('a profile from rasters', () => {
	/** Columns along the path; each cell of it as wide as an eighth of the path's longitudes. */
	const raster = (heights: readonly number[]): TerrainGrid => ({
		westDeg: from.longitudeDeg,
		northDeg: -46,
		stepLongitudeDeg: (to.longitudeDeg - from.longitudeDeg) / (heights.length - 1),
		stepLatitudeDeg: 0.5,
		columns: heights.length,
		rows: 2,
		heightsM: Float32Array.from([...heights, ...heights])
	});
	const { lengthM } = inverseGeodesic(from, to);
	const heightsOf = (heights: readonly number[], stepM = lengthM / 8): readonly number[] => {
		const sampled = sampleTerrain([{ name: 'One', grid: raster(heights) }], from, to, stepM);
		if (sampled.kind !== 'profile') throw new Error('no profile');
		return sampled.profile.groundsAmslM;
	};

	it('names every raster it used, each once, the first that knows a point before the others', () => {
		const [u] = [Number.NaN];
		const left = { name: 'Left', grid: raster([1, 1, 1, 1, 1, u, u, u, u]) };
		const all = { name: 'All', grid: raster([2, 2, 2, 2, 2, 2, 2, 2, 2]) };
		const sampled = sampleTerrain([left, all], from, to, lengthM / 8);
		if (sampled.kind !== 'profile') throw new Error('no profile');
		expect(sampled).toMatchObject({ withoutData: 0, profile: { source: 'Left, All', from, to } });
		const { groundsAmslM, distancesM } = sampled.profile;
		expect(groundsAmslM[0]).toBe(1);
		expect(groundsAmslM.at(-1)).toBe(2);
		expect(distancesM[0]).toBe(0);
		expect(distancesM.at(-1)).toBeCloseTo(lengthM, 1);
		expect(sampleTerrain([all, left], from, to, lengthM / 8)).toMatchObject({
			profile: { source: 'All' }
		});
	});

	it('holds the first and last known height beyond them', () => {
		const u = Number.NaN;
		const heights = heightsOf([u, u, 30, 30, 30, 30, 80, u, u]);
		expect(heights[0]).toBe(30);
		expect(heights[1]).toBe(30);
		expect(heights.at(-1)).toBe(heights.at(-2));
		expect(heights.at(-1)!).toBeGreaterThan(30);
	});

	it('fills a gap along the line between its neighbours', () => {
		const u = Number.NaN;
		const fine = heightsOf([0, 10, 20, 30, u, 50, 60, 70, 80], lengthM / 80);
		const rising = fine.map((height, i) => height - fine[0]! - i * ((fine[80]! - fine[0]!) / 80));
		expect(Math.max(...rising.map(Math.abs))).toBeLessThan(0.05);
		expect(fine[80]! - fine[0]!).toBeCloseTo(80, 0);
	});

	it('takes as many steps as the length asks for, at least two and never too many', () => {
		expect(pointsAlongPath(from, to, lengthM / 7.5)).toHaveLength(9);
		expect(pointsAlongPath(from, to, 100_000)).toHaveLength(3);
		expect(pointsAlongPath({ latitudeDeg: 0, longitudeDeg: 0 }, to, 1)).toHaveLength(20_001);
	});
});

it('no ground has no roughness', () => {
	expect(terrainRoughnessM({ source: '', from, to, distancesM: [], groundsAmslM: [] })).toBe(0);
});

it('the roughness of a path is told by either multipath method, and used by the detailed one', () => {
	const of = (multipathMethod: 'quick' | 'detailed'): HopAvailability =>
		soundPlan(hopInput({ multipathMethod })).availability;
	const [quick, detailed] = [of('quick'), of('detailed')];
	expect(quick.roughnessM).toBeGreaterThan(0);
	expect(detailed.roughnessM).toBe(quick.roughnessM);
	expect([quick.method, detailed.method]).toEqual(['quick', 'detailed']);
	expect(detailed.occurrencePercent).not.toBe(quick.occurrencePercent);
});
