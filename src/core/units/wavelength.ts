import { SPEED_OF_LIGHT_M_S } from './constants';
import { requireInRange } from './errors';

/**
 * Free-space wavelength in metres at a frequency of 0.1 to 1000 GHz.
 *
 * @param frequencyGhz 0.1 to 1000
 * @throws OutOfRangeError outside these ranges
 */
export function wavelengthM(frequencyGhz: number): number {
	requireInRange('frequencyGhz', frequencyGhz, 0.1, 1000);
	return SPEED_OF_LIGHT_M_S / (frequencyGhz * 1e9);
}
