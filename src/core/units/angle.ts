import { RAD_PER_DEG } from './constants';

/**
 * Degrees to radians.
 *
 * @param angleDeg any finite
 */
export function degToRad(angleDeg: number): number {
	return angleDeg * RAD_PER_DEG;
}

/**
 * Radians to degrees.
 *
 * @param angleRad any finite
 */
export function radToDeg(angleRad: number): number {
	return angleRad / RAD_PER_DEG;
}

/**
 * A bearing brought into [0, 360) degrees.
 *
 * @param bearingDeg any finite
 */
export function wrapBearingDeg(bearingDeg: number): number {
	const wrapped = bearingDeg % 360;
	// Adding 0 turns −0 into 0.
	const positive = wrapped < 0 ? wrapped + 360 : wrapped + 0;
	// -1e-15 % 360 + 360 rounds to 360 itself.
	return positive === 360 ? 0 : positive;
}

/**
 * The signed smallest turn from one bearing to another, in (−180, 180] degrees, clockwise positive.
 *
 * @param fromDeg, toDeg any finite
 */
export function bearingDifferenceDeg(fromDeg: number, toDeg: number): number {
	const difference = wrapBearingDeg(toDeg - fromDeg);
	return difference > 180 ? difference - 360 : difference;
}
