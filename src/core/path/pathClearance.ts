import { EARTH_RADIUS_M } from '../units/constants';
import { requireInRange } from '../units/errors';
import type { TerrainProfile } from './samplePath';
import { itemAt } from '../units/lists';
import { wavelengthM } from '../units/wavelength';

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
	/** In the near field of a dish its radius, m: so wide is the beam there; 0 beyond. */
	beamRadiusM: number;
	obstacle: string | null;
}

export interface PathClearance {
	kFactor: number;
	/** Heights of the antenna centres at both ends, m a.m.s.l. */
	antennaAmslM: { A: number; B: number };
	/** Every point of the profile and of what stands on it, worked out when first asked for. */
	readonly points: readonly ClearancePoint[];
	/** The point of least clearance in Fresnel radii, ends excluded; null on a path without points. */
	worst: ClearancePoint | null;
	/** What is missing of a share of F1 wanted everywhere, and of the dish's radius in its near field. */
	shortOf(wantedRatio: number): ClearanceShortfall;
	/** The surface that judges: the points of both ends, and all between but those at the masts. */
	judged(): { distancesM: number[]; surfacesAmslM: number[]; edges: number };
}

export interface ClearanceShortfall {
	/** By how much the ray must come up where most is missing, m; 0 where nothing is. */
	missingM: number;
	/** Where most of a dish is missing in its near field, beyond what F1 asks for there; null where nothing is. */
	beforeDish: ClearancePoint | null;
}

/** Nearer to an antenna than this stands the mast itself, with what carries it, m: nothing there is judged. */
const MAST_M = 2;
/** F1 = 17.32·√(d1·d2/(f·d)) with lengths in km, GHz and m. */
const FRESNEL = 17.32;
/** A top with less clearance than this, in F1, costs something: ν above −0.78. */
const REACHING_RATIO = 0.78 / Math.SQRT2;

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
	return FRESNEL * Math.sqrt((d1M * d2M) / 1000 / (frequencyGhz * total));
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
 * Length of the near field in front of a dish, m: 2·D²/λ. Within it the beam is as wide as the dish.
 *
 * @param diameterM above 0
 * @param frequencyGhz 0.1 to 1000
 * Source: the usual bound of the far field of an aperture, a phase error of λ/16 at its edge.
 */
export function nearFieldM(diameterM: number, frequencyGhz: number): number {
	return (2 * diameterM ** 2) / wavelengthM(frequencyGhz);
}

/** A path as it is judged at one k. */
export interface PathGeometry {
	profile: TerrainProfile;
	obstacles: readonly Obstacle[];
	/** Heights of the antenna centres at both ends, m a.m.s.l. */
	antennaAmslM: { A: number; B: number };
	frequencyGhz: number;
	/** Effective-earth factor, 0.3 to 10. */
	kFactor: number;
	/** Diameters of the dishes, m: what lies in their near field must be clear of the whole dish. */
	dishM?: { A: number; B: number } | undefined;
}

/**
 * Clearance of the ray at every point of a profile, and where it is least in Fresnel radii. Judged are all
 * points but those within 2 m of an antenna, where the mast itself stands.
 *
 * @throws OutOfRangeError for k or frequency outside their ranges
 * Source: ITU-R P.530-18, §2.2; geometry of ITU-R P.526.
 */
export function pathClearance(geometry: PathGeometry): PathClearance {
	return new Clearance(geometry);
}

class Clearance implements PathClearance {
	readonly kFactor: number;
	readonly antennaAmslM: { A: number; B: number };
	private readonly surface: Surface;
	private readonly lengthM: number;
	private readonly worstAt: number;
	/** Bulge of the earth over d1·d2, and rise of the ray over its length. */
	private readonly bulge: number;
	private readonly slope: number;
	private made: ClearancePoint[] | undefined;

	constructor(private readonly geometry: PathGeometry) {
		requireInRange('kFactor', geometry.kFactor, 0.3, 10);
		requireInRange('frequencyGhz', geometry.frequencyGhz, 0.1, 1000);
		this.kFactor = geometry.kFactor;
		this.antennaAmslM = geometry.antennaAmslM;
		this.surface = surfaceOf(geometry.profile, geometry.obstacles);
		this.lengthM = this.surface.distancesM[this.surface.distancesM.length - 1] ?? 0;
		this.bulge = 1 / (2 * geometry.kFactor * EARTH_RADIUS_M);
		const { A, B } = geometry.antennaAmslM;
		this.slope = this.lengthM > 0 ? (B - A) / this.lengthM : 0;
		this.worstAt = this.findWorst();
	}

	/** Ray above the surface of a point, m; `across` is d1·d2. */
	private clearanceAt(i: number, d: number, across: number): number {
		const surface = this.surface.surfacesAmslM[i] as number;
		return this.antennaAmslM.A + this.slope * d - surface - this.bulge * across;
	}

	/** One plain pass: ratios are compared by clearance over √(d1·d2), which is F1 but for a constant. */
	private findWorst(): number {
		const { distancesM } = this.surface;
		let least = Number.POSITIVE_INFINITY;
		let worst = -1;
		for (let i = 0; i < distancesM.length; i++) {
			const d = distancesM[i] as number;
			const rest = this.lengthM - d;
			if (d <= MAST_M || rest <= MAST_M) continue;
			const across = d * rest;
			const clearance = this.clearanceAt(i, d, across);
			const ratio = clearance / Math.sqrt(across);
			if (ratio < least) {
				least = ratio;
				worst = i;
			}
		}
		return worst;
	}

	shortOf(wantedRatio: number): ClearanceShortfall {
		const { distancesM } = this.surface;
		const { dishM, frequencyGhz } = this.geometry;
		const zone = wantedRatio * FRESNEL * Math.sqrt(1 / (1000 * frequencyGhz * this.lengthM));
		const near = dishM
			? { A: nearFieldM(dishM.A, frequencyGhz), B: nearFieldM(dishM.B, frequencyGhz) }
			: { A: -1, B: -1 };
		let missingM = 0;
		let missingOfDishM = 1e-9;
		let before = -1;
		for (let i = 0; i < distancesM.length; i++) {
			const d = distancesM[i] as number;
			const rest = this.lengthM - d;
			if (d <= MAST_M || rest <= MAST_M) continue;
			const across = d * rest;
			const clearance = this.clearanceAt(i, d, across);
			const wanted = zone * Math.sqrt(across);
			if (wanted - clearance > missingM) missingM = wanted - clearance;
			if (d > near.A && rest > near.B) continue;
			const radius = this.beamRadiusM(d, rest);
			if (radius > wanted && radius - clearance > missingOfDishM) {
				missingOfDishM = radius - clearance;
				before = i;
			}
		}
		const beforeDish = before < 0 ? null : this.pointAt(before);
		return { missingM: beforeDish ? Math.max(missingM, missingOfDishM) : missingM, beforeDish };
	}

	judged(): { distancesM: number[]; surfacesAmslM: number[]; edges: number } {
		const { distancesM, surfacesAmslM } = this.surface;
		const { frequencyGhz } = this.geometry;
		const f1 = FRESNEL * Math.sqrt(1 / (1000 * frequencyGhz * this.lengthM));
		const kept: { distancesM: number[]; surfacesAmslM: number[]; edges: number } = {
			...{ distancesM: [], surfacesAmslM: [], edges: 0 }
		};
		const last = distancesM.length - 1;
		let inside = false;
		for (let i = 0; i <= last; i++) {
			const d = distancesM[i] as number;
			const rest = this.lengthM - d;
			const atMast = d <= MAST_M || rest <= MAST_M;
			if (atMast && i !== 0 && i !== last) continue;
			const surface = surfacesAmslM[i] as number;
			kept.distancesM.push(d);
			kept.surfacesAmslM.push(surface);
			if (atMast) continue;
			const across = d * rest;
			const clearance = this.clearanceAt(i, d, across);
			const reaches = clearance < REACHING_RATIO * f1 * Math.sqrt(across);
			if (reaches && !inside) kept.edges += 1;
			inside = reaches;
		}
		return kept;
	}

	get worst(): ClearancePoint | null {
		return this.worstAt < 0 ? null : this.pointAt(this.worstAt);
	}

	get points(): readonly ClearancePoint[] {
		this.made ??= Array.from(this.surface.distancesM, (_, i) => this.pointAt(i));
		return this.made;
	}

	private pointAt(i: number): ClearancePoint {
		const { antennaAmslM, frequencyGhz, kFactor } = this.geometry;
		const distanceM = itemAt(this.surface.distancesM, i);
		const rest = Math.max(0, this.lengthM - distanceM);
		const bulgeM = earthBulgeM(distanceM, rest, kFactor);
		const rayAmslM =
			this.lengthM === 0
				? antennaAmslM.A
				: antennaAmslM.A + ((antennaAmslM.B - antennaAmslM.A) * distanceM) / this.lengthM;
		const fresnelM = fresnelRadiusM(distanceM, rest, frequencyGhz);
		const surfaceAmslM = itemAt(this.surface.surfacesAmslM, i);
		const clearanceM = rayAmslM - surfaceAmslM - bulgeM;
		return {
			...{ distanceM, groundAmslM: itemAt(this.surface.groundsAmslM, i), surfaceAmslM, bulgeM },
			...{ rayAmslM, fresnelM, clearanceM },
			ratio: fresnelM > 0 ? clearanceM / fresnelM : Number.POSITIVE_INFINITY,
			beamRadiusM: this.beamRadiusM(distanceM, rest),
			obstacle: this.surface.obstacles[i] ?? null
		};
	}

	private beamRadiusM(fromA: number, fromB: number): number {
		const { dishM, frequencyGhz } = this.geometry;
		if (!dishM) return 0;
		const nearA = fromA <= nearFieldM(dishM.A, frequencyGhz) ? dishM.A / 2 : 0;
		const nearB = fromB <= nearFieldM(dishM.B, frequencyGhz) ? dishM.B / 2 : 0;
		return Math.max(nearA, nearB);
	}
}

/** The points that judge a path: all but those at the mast itself. */
export function innerPoints(points: readonly ClearancePoint[]): ClearancePoint[] {
	const lengthM = points[points.length - 1]?.distanceM ?? 0;
	return points.filter(({ distanceM }) => distanceM > MAST_M && lengthM - distanceM > MAST_M);
}

/**
 * Clearance that a rule wants at a point, m: its share of the Fresnel radius, and in the near field of a
 * dish no less than the dish's own radius.
 *
 * @param wantedRatio share of F1, 0 or more
 */
export function wantedClearanceM(point: ClearancePoint, wantedRatio: number): number {
	return Math.max(wantedRatio * point.fresnelM, point.beamRadiusM);
}

/** A profile with what stands on it. */
interface Surface {
	distancesM: readonly number[];
	groundsAmslM: readonly number[];
	surfacesAmslM: readonly number[];
	obstacles: readonly (string | null)[];
}

/** The surface of a profile is the same at every k and height: kept while its obstacles are the same. */
const surfaces = new WeakMap<
	TerrainProfile,
	{ obstacles: readonly Obstacle[]; surface: Surface }
>();

function surfaceOf(profile: TerrainProfile, obstacles: readonly Obstacle[]): Surface {
	if (obstacles.length === 0) {
		const { distancesM, groundsAmslM } = profile;
		return { distancesM, groundsAmslM, surfacesAmslM: groundsAmslM, obstacles: [] };
	}
	const known = surfaces.get(profile);
	if (known?.obstacles === obstacles) return known.surface;
	const points = withObstacles(profile, obstacles);
	const surface = {
		distancesM: points.map(({ distanceM }) => distanceM),
		groundsAmslM: points.map(({ groundAmslM }) => groundAmslM),
		surfacesAmslM: points.map(({ groundAmslM, heightM }) => groundAmslM + heightM),
		obstacles: points.map(({ obstacle }) => obstacle)
	};
	surfaces.set(profile, { obstacles, surface });
	return surface;
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
