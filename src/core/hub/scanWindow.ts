import { degToRad, radToDeg } from '../units/angle';
import { requireInRange } from '../units/errors';
import { valueOnCurve, type CurvePoint } from '../units/curve';

/** Where something lies, seen from a unit: true bearing, and angle above the horizontal, degrees. */
export interface Direction {
	azimuthDeg: number;
	elevationDeg: number;
}

/** How a unit is set: true bearing of its face, and its tilt above the horizontal, degrees. */
export interface FaceAim {
	headingDeg: number;
	tiltDeg: number;
}

/** How far a unit steers its beam off its face, each way, degrees. */
export interface ScanReach {
	azimuthDeg: number;
	elevationDeg: number;
}

/** A direction in the frame of a unit, degrees. */
export interface OffFace {
	/** To the right of the face, −180 to 180. */
	acrossDeg: number;
	/** Above the plane through the face that is level across, −90 to 90. */
	aboveDeg: number;
	/** The whole angle between face and direction, 0 to 180. */
	offDeg: number;
}

/** A unit vector: north, east, up. */
export type Vector = readonly [number, number, number];

/**
 * The unit vector of a direction: north, east, up.
 *
 * @param direction azimuth any finite, elevation −90 to 90
 * @throws OutOfRangeError for an elevation outside its range
 */
export function vectorOf({ azimuthDeg, elevationDeg }: Direction): Vector {
	requireInRange('elevationDeg', elevationDeg, -90, 90);
	const azimuth = degToRad(azimuthDeg);
	const elevation = degToRad(elevationDeg);
	const level = Math.cos(elevation);
	return [level * Math.cos(azimuth), level * Math.sin(azimuth), Math.sin(elevation)];
}

/**
 * A direction as a unit sees it that is turned and tilted as a whole, so that its window tilts with it.
 *
 * @param vector of {@link vectorOf}
 * @param aim heading any finite, tilt −90 to 90
 * Source: rotation about the vertical by the heading, then about the level axis of the face by the tilt.
 */
export function offFaceOf(vector: Vector, { headingDeg, tiltDeg }: FaceAim): OffFace {
	const heading = degToRad(headingDeg);
	const tilt = degToRad(tiltDeg);
	const [north, east, up] = vector;
	const ahead = north * Math.cos(heading) + east * Math.sin(heading);
	const right = east * Math.cos(heading) - north * Math.sin(heading);
	const forward = ahead * Math.cos(tilt) + up * Math.sin(tilt);
	const above = up * Math.cos(tilt) - ahead * Math.sin(tilt);
	return {
		acrossDeg: radToDeg(Math.atan2(right, forward)),
		aboveDeg: radToDeg(Math.asin(Math.max(-1, Math.min(1, above)))),
		offDeg: radToDeg(Math.acos(Math.max(-1, Math.min(1, forward))))
	};
}

/**
 * How far inside its window a direction lies, in the narrower of both angles, degrees; negative outside.
 *
 * @param off of {@link offFaceOf}
 */
export function marginInWindowDeg(off: OffFace, reach: ScanReach): number {
	return Math.min(
		reach.azimuthDeg - Math.abs(off.acrossDeg),
		reach.elevationDeg - Math.abs(off.aboveDeg)
	);
}

/** Loss of steering: the angle off the face and what it costs, the first point at 0°. */
export type ScanLoss = readonly CurvePoint[];

/**
 * What steering off the face costs, between the points that the part's sheet gives; the last holds beyond.
 *
 * @param curve at least one point, angles rising
 * @param offDeg 0 to 180
 * @throws RangeError for a curve without a point
 */
export function scanLossDb(curve: ScanLoss, offDeg: number): number {
	return valueOnCurve(
		curve,
		offDeg,
		([deg]) => deg,
		([, db]) => db
	);
}

/** The angle between two directions, 0 to 180 degrees. */
export function angleBetweenDeg(first: Vector, second: Vector): number {
	const along = first[0] * second[0] + first[1] * second[1] + first[2] * second[2];
	return radToDeg(Math.acos(Math.max(-1, Math.min(1, along))));
}
