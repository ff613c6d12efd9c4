import { wavelengthM } from '../units/wavelength';
import { requireInRange } from '../units/errors';

/**
 * Basic free-space transmission loss between isotropic antennas, dB, positive.
 *
 * @param frequencyGhz 0.1 to 1000
 * @param pathKm 0.001 to 1000 (below a metre nothing is in the far field)
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R P.525-4, equation (4): 20·log10(4πd/λ).
 */
export function freeSpaceLossDb(frequencyGhz: number, pathKm: number): number {
	requireInRange('pathKm', pathKm, 0.001, 1000);
	return 20 * Math.log10((4 * Math.PI * pathKm * 1000) / wavelengthM(frequencyGhz));
}
