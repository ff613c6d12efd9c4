import { EARTH_RADIUS_M } from '../units/constants';
import { requireInRange } from '../units/errors';
import type { TerrainProfile } from './samplePath';
import { itemAt } from '../units/lists';

export type ObstacleKind = 'trees' | 'building' | 'other';

/** Something on the ground that the terrain raster does not know. */
export interface Obstacle {
	name: string;
	kind: ObstacleKind;
	/** From end A, km. */
	distanceKm: number;
	/** Length along the path, m; 0 for a single thing. */
	lengthM: number;
	/** Height above ground, m. */
	heightM: number;
}

export interface ClearancePoint {
	distanceM: number;
	groundAmslM: number;
	/** Ground and what stands on it, without the earth's bulge, m a.m.s.l. */
	surfaceAmslM: number;
	/** Bulge of the effective earth here, m. */
	bulgeM: number;
	/** Ray above mean sea level at this k: the straight line between the antennas less nothing. */
	rayAmslM: number;
	/** Radius of the first Fresnel zone, m. */
	fresnelM: number;
	/** Ray above surface and bulge, m; negative is blocked. */
	clearanceM: number;
	/** Clearance over Fresnel radius. */
	ratio: number;
	obstacle: string | null;
}

export interface PathClearance {
	kFactor: number;
	points: ClearancePoint[];
	/** The point of least clearance in Fresnel radii, ends excluded; null on a path without points. */
	worst: ClearancePoint | null;
}

/** Points nearer to an end than this share of the path say nothing: the mast itself stands there. */
const END_SHARE = 0.005;

/**
 * Radius of the first Fresnel zone, m: 17.32·√(d1·d2/(f·d)).
 *
 * @param d1M, d2M distances to the ends, m, 0 or more
 * @param frequencyGhz 0.1 to 1000
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R P.530-18, §2.2.1 (F1 with d in km and f in GHz).
 */
export function fresnelRadiusM(d1M: number, d2M: number, frequencyGhz: number): number {
	requireInRange('frequencyGhz', frequencyGhz, 0.1, 1000);
	requireInRange('d1M', d1M, 0, 1e7);
	requireInRange('d2M', d2M, 0, 1e7);
	const total = d1M + d2M;
	if (total === 0) return 0;
	return 17.32 * Math.sqrt((d1M * d2M) / 1000 / (frequencyGhz * total));
}

/**
 * Height of the earth's bulge above the chord, m: d1·d2/(2kR).
 *
 * @param d1M, d2M distances to the ends, m, 0 or more
 * @param kFactor 0.3 to 10
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R P.526, geometry of the effective earth.
 */
export function earthBulgeM(d1M: number, d2M: number, kFactor: number): number {
	requireInRange('kFactor', kFactor, 0.3, 10);
	return (d1M * d2M) / (2 * kFactor * EARTH_RADIUS_M);
}

/**
 * Clearance of the ray at every point of a profile.
 *
 * @param antennaAmslM heights of the antenna centres at both ends, m
 * @param kFactor effective-earth factor, 0.3 to 10
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R P.530-18, §2.2; geometry of ITU-R P.526.
 */
export function pathClearance(input: {
	profile: TerrainProfile;
	obstacles: readonly Obstacle[];
	antennaAmslM: { A: number; B: number };
	frequencyGhz: number;
	kFactor: number;
}): PathClearance {
	const { profile, antennaAmslM, frequencyGhz, kFactor } = input;
	requireInRange('kFactor', kFactor, 0.3, 10);
	const lengthM = profile.distancesM[profile.distancesM.length - 1] ?? 0;
	const points = withObstacles(profile, input.obstacles).map(
		({ distanceM, groundAmslM, heightM, obstacle }): ClearancePoint => {
			const rest = lengthM - distanceM;
			const bulgeM = earthBulgeM(distanceM, rest, kFactor);
			const rayAmslM =
				lengthM === 0
					? antennaAmslM.A
					: antennaAmslM.A + ((antennaAmslM.B - antennaAmslM.A) * distanceM) / lengthM;
			const fresnelM = fresnelRadiusM(distanceM, Math.max(0, rest), frequencyGhz);
			const surfaceAmslM = groundAmslM + heightM;
			const clearanceM = rayAmslM - surfaceAmslM - bulgeM;
			return {
				distanceM,
				groundAmslM,
				surfaceAmslM,
				bulgeM,
				rayAmslM,
				fresnelM,
				clearanceM,
				ratio: fresnelM > 0 ? clearanceM / fresnelM : Number.POSITIVE_INFINITY,
				obstacle
			};
		}
	);
	const worst = innerPoints(points).reduce<ClearancePoint | null>(
		(least, point) => (least === null || point.ratio < least.ratio ? point : least),
		null
	);
	return { kFactor, points, worst };
}

/** The points that judge a path: all but those so near to an end that the mast itself stands there. */
export function innerPoints(points: readonly ClearancePoint[]): ClearancePoint[] {
	const lengthM = points[points.length - 1]?.distanceM ?? 0;
	return points.filter(
		(point) => point.distanceM > END_SHARE * lengthM && point.distanceM < (1 - END_SHARE) * lengthM
	);
}

interface SurfacePoint {
	distanceM: number;
	groundAmslM: number;
	heightM: number;
	obstacle: string | null;
}

/** The points of the profile and those where obstacles begin, stand and end. */
function withObstacles(profile: TerrainProfile, obstacles: readonly Obstacle[]): SurfacePoint[] {
	const lengthM = profile.distancesM[profile.distancesM.length - 1] ?? 0;
	const added = obstacles.flatMap(({ distanceKm, lengthM: long }) => {
		const middle = distanceKm * 1000;
		return [middle - long / 2, middle, middle + long / 2].filter((d) => d >= 0 && d <= lengthM);
	});
	const distances = [...new Set([...profile.distancesM, ...added])].sort((p, q) => p - q);
	let i = 0;
	return distances.map((distanceM) => {
		while (i < profile.distancesM.length - 2 && itemAt(profile.distancesM, i + 1) < distanceM) i++;
		const standing = obstacles.reduce<Obstacle | null>((highest, obstacle) => {
			const half = Math.max(obstacle.lengthM / 2, 1e-6);
			const here = Math.abs(distanceM - obstacle.distanceKm * 1000) <= half + 1e-6;
			return here && (highest === null || obstacle.heightM > highest.heightM) ? obstacle : highest;
		}, null);
		return {
			distanceM,
			groundAmslM: groundAt(profile, i, distanceM),
			heightM: standing?.heightM ?? 0,
			obstacle: standing?.name ?? null
		};
	});
}

function groundAt(profile: TerrainProfile, i: number, distanceM: number): number {
	const d0 = itemAt(profile.distancesM, i);
	const d1 = profile.distancesM[i + 1] ?? d0;
	const g0 = itemAt(profile.groundsAmslM, i);
	const g1 = profile.groundsAmslM[i + 1] ?? g0;
	return d1 === d0 ? g0 : g0 + ((distanceM - d0) / (d1 - d0)) * (g1 - g0);
}
