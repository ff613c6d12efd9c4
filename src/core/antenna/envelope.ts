import { requireInRange } from '../units/errors';
import { wavelengthM } from '../units/wavelength';

/** Off the axis, at and beyond this angle, the envelope no longer falls, degrees. */
const FLAT_FROM_DEG = 48;

/**
 * Peak envelope of a dish off its axis, dBi: what its side lobes reach and do not pass.
 *
 * @param gainDbi on the axis, 5 to 75
 * @param diameterM 0.05 to 15
 * @param frequencyGhz 1 to 120; the recommendation states it to 70
 * @param offAxisDeg 0 to 180
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R F.699-7, recommends 2.1 and 2.2.
 */
export function peakEnvelopeDbi(
	gainDbi: number,
	diameterM: number,
	frequencyGhz: number,
	offAxisDeg: number
): number {
	requireInRange('gainDbi', gainDbi, 5, 75);
	requireInRange('diameterM', diameterM, 0.05, 15);
	requireInRange('frequencyGhz', frequencyGhz, 1, 120);
	requireInRange('offAxisDeg', offAxisDeg, 0, 180);
	const size = diameterM / wavelengthM(frequencyGhz);
	const shoulderDbi = 2 + 15 * Math.log10(size);
	const shoulderDeg = (20 / size) * Math.sqrt(Math.max(0, gainDbi - shoulderDbi));
	if (offAxisDeg < shoulderDeg) return gainDbi - 2.5e-3 * (size * offAxisDeg) ** 2;
	const large = size > 100;
	const slopeDeg = large ? Math.max(shoulderDeg, 15.85 * size ** -0.6) : 100 / size;
	if (offAxisDeg < slopeDeg) return Math.min(gainDbi, shoulderDbi);
	const lowered = large ? 0 : 10 * Math.log10(size);
	if (offAxisDeg >= FLAT_FROM_DEG) return large ? -10 : 10 - lowered;
	return (large ? 32 : 52 - lowered) - 25 * Math.log10(offAxisDeg);
}

/**
 * How much weaker a dish is off its axis, by that envelope, dB, 0 or more.
 *
 * @param gainDbi, diameterM, frequencyGhz, offAxisDeg as for the envelope
 * @throws OutOfRangeError outside their ranges
 * Source: ITU-R F.699-7.
 */
export function offAxisLossDb(
	gainDbi: number,
	diameterM: number,
	frequencyGhz: number,
	offAxisDeg: number
): number {
	return Math.max(0, gainDbi - peakEnvelopeDbi(gainDbi, diameterM, frequencyGhz, offAxisDeg));
}
