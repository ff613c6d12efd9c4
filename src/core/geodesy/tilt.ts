import { radToDeg } from '../units/angle';
import { EARTH_RADIUS_M } from '../units/constants';
import { requireInRange } from '../units/errors';

/** Median effective-earth factor of a temperate climate. */
export const STANDARD_K_FACTOR = 4 / 3;

/**
 * Tilt at one antenna toward the other, degrees above the horizontal.
 *
 * ε = atan((h₂ − h₁)/d) − d/(2kR). A "flat" hop tilts down by d/(2kR) at each end.
 *
 * @param ownHeightAmslM antenna centre here, −500 to 10 000
 * @param farHeightAmslM antenna centre there, same range
 * @param pathM 1 to 1 000 000
 * @param kFactor effective-earth factor, 0.3 to 10
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R P.530-18, §2.1 geometry with the effective Earth of ITU-R P.310.
 */
export function antennaTiltDeg(
	ownHeightAmslM: number,
	farHeightAmslM: number,
	pathM: number,
	kFactor: number = STANDARD_K_FACTOR
): number {
	requireInRange('ownHeightAmslM', ownHeightAmslM, -500, 10_000);
	requireInRange('farHeightAmslM', farHeightAmslM, -500, 10_000);
	requireInRange('pathM', pathM, 1, 1_000_000);
	requireInRange('kFactor', kFactor, 0.3, 10);
	const rise = Math.atan((farHeightAmslM - ownHeightAmslM) / pathM);
	return radToDeg(rise - pathM / (2 * kFactor * EARTH_RADIUS_M));
}
