import { requireInRange } from '../units/errors';
import { wavelengthM } from '../units/wavelength';

/**
 * Gain of a circular aperture, dBi: 10·log10(η(πD/λ)²).
 *
 * @param diameterM 0.05 to 15
 * @param efficiency 0.1 to 1
 * @param frequencyGhz 0.1 to 1000
 * @throws OutOfRangeError outside these ranges
 * Source: aperture theory, as in ITU-R F.699-8, recommends 2.
 */
export function apertureGainDbi(
	frequencyGhz: number,
	diameterM: number,
	efficiency: number
): number {
	requireInRange('diameterM', diameterM, 0.05, 15);
	requireInRange('efficiency', efficiency, 0.1, 1);
	return 10 * Math.log10(efficiency * ((Math.PI * diameterM) / wavelengthM(frequencyGhz)) ** 2);
}

/**
 * Half-power beamwidth of a parabolic dish, degrees: 70·λ/D, the value used where the catalogue
 * gives none. Full width between the −3 dB points.
 *
 * @param diameterM 0.05 to 15
 * @param frequencyGhz 0.1 to 1000
 * @throws OutOfRangeError outside these ranges
 * Source: rule of ITU-R F.699-8 annex (θ3dB ≈ 70·λ/D).
 */
export function halfPowerBeamwidthDeg(frequencyGhz: number, diameterM: number): number {
	requireInRange('diameterM', diameterM, 0.05, 15);
	return (70 * wavelengthM(frequencyGhz)) / diameterM;
}
