import type { Adjuster } from '../catalogue/parts';
import { degToRad, radToDeg } from '../units/angle';

/**
 * Angle of the dish from the adjuster's centre after a number of turns: atan(turns·pitch/arm).
 *
 * @param turns of the nut, positive to the right (azimuth) or up (tilt)
 * @returns degrees, odd in `turns`, below 90 in magnitude
 */
export function adjusterAngleDeg(adjuster: Adjuster, turns: number): number {
	return radToDeg(Math.atan((turns * adjuster.threadPitchMm) / adjuster.armMm));
}

/**
 * Turns of the nut that bring the dish to an angle from the adjuster's centre; |angle| < 90°.
 *
 * @param angleDeg from the adjuster’s centre, within ±89
 */
export function adjusterTurns(adjuster: Adjuster, angleDeg: number): number {
	return (Math.tan(degToRad(angleDeg)) * adjuster.armMm) / adjuster.threadPitchMm;
}
