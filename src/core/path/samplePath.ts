import geodesicLibrary from 'geographiclib-geodesic';
import { requireInRange } from '../units/errors';
import { inverseGeodesic, requireGeoPoint, type GeoPoint } from '../geodesy/geodesic';
import { terrainHeightM, type TerrainGrid } from './terrainGrid';
import { itemAt } from '../units/lists';

/** Ground heights along a path, from one end to the other. */
export interface TerrainProfile {
	/** Where the heights come from, in words. */
	source: string;
	/** Positions between which it was taken: a profile between others is stale. */
	from: GeoPoint;
	to: GeoPoint;
	/** Distances from the first end, m, rising, the first 0. */
	distancesM: readonly number[];
	/** Ground above mean sea level at each distance, m. */
	groundsAmslM: readonly number[];
}

/** A profile taken between other places than those is stale from here on, m. */
export const STALE_PROFILE_M = 5;

/** Whether a profile was taken between these two places. */
export function isProfileBetween(profile: TerrainProfile, from: GeoPoint, to: GeoPoint): boolean {
	const isAt = (taken: GeoPoint, place: GeoPoint): boolean =>
		inverseGeodesic(taken, place).lengthM <= STALE_PROFILE_M;
	return isAt(profile.from, from) && isAt(profile.to, to);
}

export type SampledProfile =
	| { kind: 'profile'; profile: TerrainProfile; withoutData: number }
	| { kind: 'no-terrain'; withoutData: number; points: number };

/** More points than this say nothing more about a path. */
export const MOST_PROFILE_POINTS = 20_001;

/**
 * Points every `stepM` along the geodesic between two ends, both ends included.
 *
 * @param stepM 1 to 100 000; enlarged where it would give more than {@link MOST_PROFILE_POINTS}
 * @throws OutOfRangeError for a step or a place outside its range
 * Source: Karney's geodesic line; intermediate points lie on the ellipsoid's shortest line.
 */
export function pointsAlongPath(
	from: GeoPoint,
	to: GeoPoint,
	stepM: number
): { distanceM: number; point: GeoPoint }[] {
	requireGeoPoint(from);
	requireGeoPoint(to);
	requireInRange('stepM', stepM, 1, 100_000);
	const line = geodesicLibrary.Geodesic.WGS84.InverseLine(
		from.latitudeDeg,
		from.longitudeDeg,
		to.latitudeDeg,
		to.longitudeDeg
	);
	const lengthM = line.s13;
	const steps = Math.max(2, Math.min(MOST_PROFILE_POINTS - 1, Math.ceil(lengthM / stepM)));
	return Array.from({ length: steps + 1 }, (_, i) => {
		const distanceM = (lengthM * i) / steps;
		const at = line.Position(distanceM);
		return { distanceM, point: { latitudeDeg: at.lat2!, longitudeDeg: at.lon2! } };
	});
}

/**
 * The ground along a path from the first raster that knows each point. Points that none knows are
 * filled linearly from their neighbours and counted; a path without any is a typed result.
 *
 * @param stepM 1 to 100 000
 */
export function sampleTerrain(
	grids: readonly { name: string; grid: TerrainGrid }[],
	from: GeoPoint,
	to: GeoPoint,
	stepM: number
): SampledProfile {
	const points = pointsAlongPath(from, to, stepM);
	const used = new Set<string>();
	const heights = points.map(({ point }) => {
		for (const { name, grid } of grids) {
			const height = terrainHeightM(grid, point.latitudeDeg, point.longitudeDeg);
			if (height !== undefined) {
				used.add(name);
				return height;
			}
		}
		return undefined;
	});
	const withoutData = heights.filter((height) => height === undefined).length;
	if (withoutData === heights.length)
		return { kind: 'no-terrain', withoutData, points: withoutData };
	return {
		kind: 'profile',
		withoutData,
		profile: {
			source: [...used].join(', '),
			from,
			to,
			distancesM: points.map(({ distanceM }) => Number(distanceM.toFixed(2))),
			groundsAmslM: filled(heights).map((height) => Number(height.toFixed(2)))
		}
	};
}

/** Gaps filled linearly between known neighbours, held beyond the first and last known. */
function filled(heights: readonly (number | undefined)[]): number[] {
	const known = heights.flatMap((heightM, i) => (heightM === undefined ? [] : [{ i, heightM }]));
	let next = 0;
	return heights.map((height, i) => {
		if (height !== undefined) return height;
		while (next < known.length && itemAt(known, next).i < i) next++;
		const [before, after] = [known[next - 1], known[next]];
		if (!before) return itemAt(known, next).heightM;
		if (!after) return before.heightM;
		const share = (i - before.i) / (after.i - before.i);
		return before.heightM + share * (after.heightM - before.heightM);
	});
}

/**
 * A profile of no more points than are wanted: its ends stay, and of each stretch that is taken together its highest
 * ground, so that nothing that stands in the way is lost.
 *
 * @param most points, 2 or more
 */
export function thinnedProfile(profile: TerrainProfile, most: number): TerrainProfile {
	const { distancesM, groundsAmslM } = profile;
	const last = distancesM.length - 1;
	if (distancesM.length <= most) return profile;
	const stretches = most - 2;
	const kept = [0];
	for (let i = 0; i < stretches; i++) {
		const from = 1 + Math.floor((i * (last - 1)) / stretches);
		const to = 1 + Math.floor(((i + 1) * (last - 1)) / stretches);
		let highest = from;
		for (let at = from; at < to; at++) {
			if (itemAt(groundsAmslM, at) > itemAt(groundsAmslM, highest)) highest = at;
		}
		kept.push(highest);
	}
	kept.push(last);
	return {
		...profile,
		distancesM: kept.map((at) => itemAt(distancesM, at)),
		groundsAmslM: kept.map((at) => itemAt(groundsAmslM, at))
	};
}
