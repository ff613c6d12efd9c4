import geodesicLibrary from 'geographiclib-geodesic';
import { requireInRange } from '../units/errors';
import { wrapBearingDeg } from '../units/angle';

/** A point on the WGS 84 ellipsoid, degrees, north and east positive. */
export interface GeoPoint {
	/** −90 to 90. */
	latitudeDeg: number;
	/** −180 to 180. */
	longitudeDeg: number;
}

export interface GeodesicLine {
	lengthM: number;
	/** True azimuth at the first point toward the second, [0, 360). */
	azimuthAtFirstDeg: number;
	/** True azimuth at the second point toward the first, [0, 360): not the reverse by 180°. */
	azimuthAtSecondDeg: number;
}

/** Throws OutOfRangeError when a coordinate is outside its range or not finite. */
export function requireGeoPoint(point: GeoPoint): void {
	requireInRange('latitudeDeg', point.latitudeDeg, -90, 90);
	requireInRange('longitudeDeg', point.longitudeDeg, -180, 180);
}

/**
 * Length and both forward azimuths of the shortest line between two points on WGS 84.
 *
 * Coincident points give length 0 and azimuths as the library defines them (0 and 180).
 *
 * @throws OutOfRangeError for a latitude or longitude that is none
 * Source: C. F. F. Karney, "Algorithms for geodesics", J. Geodesy 87 (2013), by its own library.
 */
export function inverseGeodesic(first: GeoPoint, second: GeoPoint): GeodesicLine {
	requireGeoPoint(first);
	requireGeoPoint(second);
	const line = geodesicLibrary.Geodesic.WGS84.Inverse(
		first.latitudeDeg,
		first.longitudeDeg,
		second.latitudeDeg,
		second.longitudeDeg
	);
	return {
		lengthM: line.s12!,
		azimuthAtFirstDeg: wrapBearingDeg(line.azi1!),
		azimuthAtSecondDeg: wrapBearingDeg(line.azi2! + 180)
	};
}

/**
 * The point reached from a start along a true azimuth, `lengthM` 0 to 20 000 km.
 *
 * @param azimuthDeg true, any finite
 * @param lengthM 0 to 20 000 000
 * @throws OutOfRangeError outside these ranges
 */
export function directGeodesic(start: GeoPoint, azimuthDeg: number, lengthM: number): GeoPoint {
	requireGeoPoint(start);
	requireInRange('lengthM', lengthM, 0, 2e7);
	const end = geodesicLibrary.Geodesic.WGS84.Direct(
		start.latitudeDeg,
		start.longitudeDeg,
		azimuthDeg,
		lengthM
	);
	return { latitudeDeg: end.lat2!, longitudeDeg: end.lon2! };
}
