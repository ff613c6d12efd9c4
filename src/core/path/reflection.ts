import { knifeEdgeLossDb, knifeEdgeParameter } from '../propagation/diffraction';
import type { LinearPolarization } from '../propagation/rain';
import { EARTH_RADIUS_M } from '../units/constants';
import { requireInRange } from '../units/errors';
import { itemAt, lastOf } from '../units/lists';
import { wavelengthM } from '../units/wavelength';
import { fresnelRadiusM, type Obstacle } from './pathClearance';
import {
	divergenceFactor,
	reflectionCoefficient,
	roughnessFactor,
	type GroundKind
} from './reflectionCoefficient';
import type { TerrainProfile } from './samplePath';

/** Water under a path: smooth, at the height that the profile has there, and higher or lower with the tide. */
export interface WaterStretch {
	kind: Exclude<GroundKind, 'land'>;
	/** From end A, km. */
	fromKm: number;
	toKm: number;
	/** From low to high water, m. */
	tideM: number;
}

/** A path as its reflections are judged. */
export interface ReflectionPath {
	profile: TerrainProfile;
	obstacles: readonly Obstacle[];
	water: readonly WaterStretch[];
	/** Roughness of land that the raster is too coarse to show, m, 0 to 50. */
	groundRoughnessM: number;
	/** Antenna centres, m a.m.s.l. */
	antennaAmslM: { A: number; B: number };
	frequencyGhz: number;
	polarization: LinearPolarization;
	/** 0.3 to 1000: large values stand for an earth that is nearly flat to the ray. */
	kFactor: number;
	/** State of the tide, −1 low to 1 high. */
	tide: number;
	/** Loss of each dish at an angle off its axis, dB. */
	offAxisLossDb: { A: (offAxisDeg: number) => number; B: (offAxisDeg: number) => number };
}

/** A place from which the far end's signal comes a second time. */
export interface Reflection {
	distanceM: number;
	ground: GroundKind;
	grazingMrad: number;
	/** By how much the way over it is longer, m. */
	longerM: number;
	/** Roughness of what reflects, m. */
	roughnessM: number;
	/** Against the direct signal: everything counted, 0 to 1. */
	amplitude: number;
	/** Phase of the reflection itself, rad. */
	phaseRad: number;
	/** Angle between it and the direct ray, degrees. */
	offAxisDeg: { A: number; B: number };
	/** By how much an antenna is moved up for the whole swing of the level, m. */
	pitchM: { A: number; B: number };
}

/** Places between which a reflection is looked for: more say nothing more about a raster. */
const PLACES = 400;
/** Weaker than this beside the direct signal nobody sees it in the level: 0.2 dB. */
const LEAST_AMPLITUDE = 0.02;
/** A ray that grazes more than this is no longer forward. */
const STEEPEST_RAD = 0.5;

/** Straight line through ground in a window: what a ray meets there. */
interface Facet {
	heightM: number;
	slope: number;
	roughnessM: number;
}

/**
 * Every place at which ground or water sends the signal on to the other end: angle in is angle out, on the
 * effective earth, against the ground smoothed over the zone that reflects. Each with its coefficient,
 * roughness, divergence, what the dishes hear of it off their axes, and what shades it.
 *
 * @throws OutOfRangeError for k, frequency or roughness outside their ranges
 * Source: geometry of the effective earth; ITU-R P.530-17, §6.1, for coefficient, roughness and divergence.
 */
export function reflectionsOf(path: ReflectionPath): Reflection[] {
	requireInRange('kFactor', path.kFactor, 0.3, 1000);
	requireInRange('frequencyGhz', path.frequencyGhz, 0.1, 120);
	requireInRange('groundRoughnessM', path.groundRoughnessM, 0, 50);
	const lengthM = lastOf(path.profile.distancesM);
	if (!(lengthM > 0)) return [];
	const surface = new ReflectingSurface(path, lengthM);
	const found: Reflection[] = [];
	let last: { d: number; balance: number; ground: GroundKind } | undefined;
	for (let i = 1; i < PLACES; i++) {
		const d = (lengthM * i) / PLACES;
		const at = surface.at(d);
		// Where the ground under it changes, a crossing lies in neither.
		if (last && last.ground === at.ground && last.balance > 0 && at.balance <= 0) {
			const place = surface.between(last.d, d);
			const reflection = surface.reflectionAt(place);
			if (reflection && reflection.amplitude >= LEAST_AMPLITUDE) found.push(reflection);
		}
		last = { d, balance: at.balance, ground: at.ground };
	}
	return merged(found, path.frequencyGhz, lengthM);
}

/** Two places within one zone are one reflection: the stronger stands for both. */
function merged(found: Reflection[], frequencyGhz: number, lengthM: number): Reflection[] {
	const byStrength = found.toSorted((p, q) => q.amplitude - p.amplitude);
	const kept: Reflection[] = [];
	for (const one of byStrength) {
		const zone = (of: Reflection): number =>
			fresnelRadiusM(of.distanceM, lengthM - of.distanceM, frequencyGhz) /
			Math.max(1e-4, of.grazingMrad / 1000);
		if (kept.every((other) => Math.abs(other.distanceM - one.distanceM) > zone(other))) {
			kept.push(one);
		}
	}
	return kept;
}

/** Water at one state of the tide. */
interface WaterLevel {
	kind: WaterStretch['kind'];
	/** From end A, m. */
	from: number;
	to: number;
	amslM: number;
}

class ReflectingSurface {
	private readonly curvature: number;
	private readonly sums: GroundSums;
	/** The water as it stands now, m. */
	private readonly levels: readonly WaterLevel[];
	/** F1 at the place of d1·d2 = 1 m². */
	private readonly zone: number;

	constructor(
		private readonly path: ReflectionPath,
		private readonly lengthM: number
	) {
		this.curvature = 1 / (2 * path.kFactor * EARTH_RADIUS_M);
		this.sums = groundSumsOf(path.profile);
		this.zone = fresnelRadiusM(lengthM / 2, lengthM / 2, path.frequencyGhz) / (lengthM / 2);
		this.levels = path.water.map(({ kind, fromKm, toKm, tideM }) => {
			const [from, to] = [1000 * fromKm, 1000 * toKm];
			const mean = this.sums.meanM(from, to, (from + to) / 2);
			return { kind, from, to, amslM: mean + (path.tide * tideM) / 2 };
		});
	}

	private waterAt(d: number): WaterLevel | undefined {
		for (const level of this.levels) if (d >= level.from && d <= level.to) return level;
		return undefined;
	}

	/** What reflects at a place: water, or the land smoothed over the zone. */
	private facetAt(d: number): Facet & { ground: GroundKind; share: number } {
		const water = this.waterAt(d);
		const half = this.halfZoneM(d, water);
		if (water) {
			const covered = Math.min(water.to, d + half) - Math.max(water.from, 0, d - half);
			return {
				...{ heightM: water.amslM, slope: 0, roughnessM: 0, ground: water.kind },
				share: Math.max(0, Math.min(1, covered / (2 * half)))
			};
		}
		const facet = this.sums.fit(d - half, d + half, d);
		const roughnessM = Math.hypot(facet.roughnessM, this.path.groundRoughnessM);
		return { ...facet, roughnessM, ground: 'land', share: 1 };
	}

	/** Half the length of the ground that reflects: the first Fresnel zone laid down at the grazing angle, m. */
	private halfZoneM(d: number, water: WaterLevel | undefined): number {
		const rest = this.lengthM - d;
		const y = (water ? water.amslM : this.sums.groundM(d)) + this.bulgeM(d);
		const { A, B } = this.path.antennaAmslM;
		const grazing = Math.max(1e-4, ((A - y) / d + (B - y) / rest) / 2);
		const zone = (this.zone * Math.sqrt(d * rest)) / Math.sin(Math.min(1, grazing));
		return Math.max(this.lengthM / PLACES, Math.min(zone, d, rest, this.lengthM / 6));
	}

	private bulgeM(d: number): number {
		return d * (this.lengthM - d) * this.curvature;
	}

	/** By how much the angle toward A is steeper than that toward B: 0 where a ray is reflected. */
	at(d: number): { balance: number; ground: GroundKind; grazing: { A: number; B: number } } {
		const facet = this.facetAt(d);
		const y = facet.heightM + this.bulgeM(d);
		const slope = facet.slope + (this.lengthM - 2 * d) * this.curvature;
		const { A, B } = this.path.antennaAmslM;
		const grazing = { A: (A - y) / d + slope, B: (B - y) / (this.lengthM - d) - slope };
		return { balance: grazing.A - grazing.B, ground: facet.ground, grazing };
	}

	between(from: number, to: number): number {
		let [low, high] = [from, to];
		for (let i = 0; i < 30; i++) {
			const middle = (low + high) / 2;
			if (this.at(middle).balance > 0) low = middle;
			else high = middle;
		}
		return (low + high) / 2;
	}

	reflectionAt(d: number): Reflection | undefined {
		const { A, B } = this.path.antennaAmslM;
		const { grazing, ground } = this.at(d);
		const facet = this.facetAt(d);
		const rest = this.lengthM - d;
		const grazingRad = (grazing.A + grazing.B) / 2;
		if (!(grazingRad > 1e-5) || grazingRad > STEEPEST_RAD) return undefined;
		const y = facet.heightM + this.bulgeM(d);
		const rise = (B - A) / this.lengthM;
		const offAxisDeg = {
			A: degrees(Math.atan(rise) - Math.atan((y - A) / d)),
			B: degrees(Math.atan(-rise) - Math.atan((y - B) / rest))
		};
		const wave = wavelengthM(this.path.frequencyGhz);
		const bare = reflectionCoefficient(
			ground,
			this.path.frequencyGhz,
			grazingRad,
			this.path.polarization
		);
		const { offAxisLossDb } = this.path;
		const lossDb =
			offAxisLossDb.A(Math.abs(offAxisDeg.A)) +
			offAxisLossDb.B(Math.abs(offAxisDeg.B)) +
			this.shadeDb(d, y, 'A') +
			this.shadeDb(d, y, 'B');
		const amplitude =
			bare.magnitude *
			roughnessFactor(facet.roughnessM, wave, grazingRad) *
			divergenceFactor(d, rest, grazingRad, this.path.kFactor * EARTH_RADIUS_M) *
			facet.share *
			10 ** (-lossDb / 20);
		// Heights of the antennas over the plane that reflects.
		const over = { A: grazing.A * d, B: grazing.B * rest };
		return {
			...{ distanceM: d, ground, grazingMrad: 1000 * grazingRad, offAxisDeg, amplitude },
			longerM: Math.hypot(d, y - A) + Math.hypot(rest, y - B) - Math.hypot(this.lengthM, B - A),
			roughnessM: facet.roughnessM,
			phaseRad: bare.phaseRad,
			pitchM: {
				A: (wave * this.lengthM) / (2 * over.B),
				B: (wave * this.lengthM) / (2 * over.A)
			}
		};
	}

	/** What stands between an antenna and the place of reflection takes from the ray, dB. */
	private shadeDb(d: number, y: number, end: 'A' | 'B'): number {
		const { distancesM, groundsAmslM } = this.path.profile;
		const half = this.halfZoneM(d, this.waterAt(d)) / 2;
		const antenna = this.path.antennaAmslM[end];
		const long = end === 'A' ? d : this.lengthM - d;
		let worst = Number.POSITIVE_INFINITY;
		const look = (at: number, surface: number): void => {
			const along = end === 'A' ? at : this.lengthM - at;
			// The zone that reflects shades nothing, nor does the mast.
			if (along <= 2 || along >= long - half) return;
			const ray = antenna + ((y - antenna) * along) / long;
			const f1 = fresnelRadiusM(along, long - along, this.path.frequencyGhz);
			worst = Math.min(worst, (ray - surface - this.bulgeM(at)) / f1);
		};
		for (let i = 0; i < distancesM.length; i++) {
			const at = itemAt(distancesM, i);
			const water = this.waterAt(at);
			look(at, water ? water.amslM : itemAt(groundsAmslM, i));
		}
		for (const { distanceKm, lengthM, heightM } of this.path.obstacles) {
			for (const at of [-0.5, 0, 0.5].map((share) => distanceKm * 1000 + share * lengthM)) {
				if (at > 0 && at < this.lengthM) look(at, this.sums.groundM(at) + heightM);
			}
		}
		// A ray that only just passes over what carries it loses nothing that the coefficient does not count.
		return worst > 0.3 ? 0 : knifeEdgeLossDb(knifeEdgeParameter(worst));
	}
}

const degrees = (rad: number): number => (rad * 180) / Math.PI;

/** Sums of the ground of a profile, so that a line through any window of it costs nothing. */
class GroundSums {
	private readonly places: readonly number[];
	private readonly n: Float64Array;
	private readonly x: Float64Array;
	private readonly y: Float64Array;
	private readonly xx: Float64Array;
	private readonly xy: Float64Array;
	private readonly yy: Float64Array;

	constructor(private readonly profile: TerrainProfile) {
		this.places = profile.distancesM;
		const count = this.places.length + 1;
		const sum = (of: (x: number, y: number) => number): Float64Array => {
			const sums = new Float64Array(count);
			for (let i = 0; i + 1 < count; i++) {
				// In km, so that squares keep their digits.
				const value = of(itemAt(this.places, i) / 1000, itemAt(profile.groundsAmslM, i));
				sums[i + 1] = itemAt(sums, i) + value;
			}
			return sums;
		};
		this.n = sum(() => 1);
		this.x = sum((x) => x);
		this.y = sum((_, y) => y);
		this.xx = sum((x) => x * x);
		this.xy = sum((x, y) => x * y);
		this.yy = sum((_, y) => y * y);
	}

	groundM(d: number): number {
		const i = Math.max(1, Math.min(this.places.length - 1, this.firstFrom(d)));
		const [d0, d1] = [itemAt(this.places, i - 1), itemAt(this.places, i)];
		const [g0, g1] = [
			itemAt(this.profile.groundsAmslM, i - 1),
			itemAt(this.profile.groundsAmslM, i)
		];
		return d1 === d0 ? g0 : g0 + ((d - d0) / (d1 - d0)) * (g1 - g0);
	}

	meanM(from: number, to: number, otherwise: number): number {
		const [i, j] = [this.firstFrom(from), this.firstFrom(to + 1e-9)];
		return j > i ? (itemAt(this.y, j) - itemAt(this.y, i)) / (j - i) : this.groundM(otherwise);
	}

	/** The line through the ground of a window, at a place of it. */
	fit(from: number, to: number, d: number): Facet {
		const [i, j] = [this.firstFrom(from), this.firstFrom(to + 1e-9)];
		const between = (sums: Float64Array): number => itemAt(sums, j) - itemAt(sums, i);
		const n = between(this.n);
		if (n < 3) {
			const [a, b] = [this.groundM(from), this.groundM(to)];
			return { heightM: this.groundM(d), slope: (b - a) / (to - from), roughnessM: 0 };
		}
		const [mx, my] = [between(this.x) / n, between(this.y) / n];
		const sxx = Math.max(1e-12, between(this.xx) - n * mx * mx);
		const sxy = between(this.xy) - n * mx * my;
		const syy = Math.max(0, between(this.yy) - n * my * my);
		const perKm = sxy / sxx;
		return {
			heightM: my + perKm * (d / 1000 - mx),
			slope: perKm / 1000,
			roughnessM: Math.sqrt(Math.max(0, syy - perKm * sxy) / n)
		};
	}

	private firstFrom(d: number): number {
		let [low, high] = [0, this.places.length];
		while (low < high) {
			const middle = (low + high) >> 1;
			if (itemAt(this.places, middle) < d) low = middle + 1;
			else high = middle;
		}
		return low;
	}
}

const kept = new WeakMap<TerrainProfile, GroundSums>();

function groundSumsOf(profile: TerrainProfile): GroundSums {
	const known = kept.get(profile);
	if (known) return known;
	const sums = new GroundSums(profile);
	kept.set(profile, sums);
	return sums;
}

/**
 * Level with the reflections against that of the direct ray alone, dB.
 *
 * @param frequencyGhz of the signal, 0.1 to 120
 * Source: sum of the rays as phasors.
 */
export function levelWithReflectionsDb(
	reflections: readonly Reflection[],
	frequencyGhz: number
): number {
	const wave = wavelengthM(frequencyGhz);
	let [re, im] = [1, 0];
	for (const { amplitude, phaseRad, longerM } of reflections) {
		const phase = phaseRad - (2 * Math.PI * longerM) / wave;
		re += amplitude * Math.cos(phase);
		im += amplitude * Math.sin(phase);
	}
	return 20 * Math.log10(Math.max(1e-4, Math.hypot(re, im)));
}

/** Two rays are never for long so equal that less than this is left, dB. */
export const DEEPEST_DB = -40;

/**
 * Highest and lowest level that reflections make, with whatever phase of the strongest, dB; the others add
 * as powers.
 *
 * @returns `lowDb` from {@link DEEPEST_DB} to 0; `highDb` 0 or above
 * Source: sum of the rays as phasors.
 */
export function swingOf(reflections: readonly Reflection[]): { highDb: number; lowDb: number } {
	const [strongest = 0, ...others] = reflections
		.map(({ amplitude }) => amplitude)
		.toSorted((p, q) => q - p);
	// Several weaker ones are hardly ever in step.
	const sum = strongest + Math.sqrt(others.reduce((squares, a) => squares + a * a, 0));
	return {
		highDb: 20 * Math.log10(1 + sum),
		lowDb: 20 * Math.log10(Math.max(10 ** (DEEPEST_DB / 20), 1 - sum))
	};
}
