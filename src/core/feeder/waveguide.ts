import { SPEED_OF_LIGHT_M_S } from '../units/constants';
import { requireInRange } from '../units/errors';

/**
 * TE10 cut-off, GHz: 299.792/(2a).
 *
 * @param broadWallMm a, 0.5 to 1000
 * @throws OutOfRangeError outside that range
 */
export function cutOffGhz(broadWallMm: number): number {
	requireInRange('broadWallMm', broadWallMm, 0.5, 1000);
	return SPEED_OF_LIGHT_M_S / 1e6 / (2 * broadWallMm);
}

/**
 * The band in which a guide carries one mode with fair loss: 1.25 to 1.9 times its cut-off, GHz.
 *
 * @param broadWallMm 0.5 to 1000
 * @throws OutOfRangeError outside that range
 * Source: usual practice for rectangular guide (IEC 60153-2 names such bands).
 */
export function usableBandGhz(broadWallMm: number): [number, number] {
	const cutOff = cutOffGhz(broadWallMm);
	return [1.25 * cutOff, 1.9 * cutOff];
}
