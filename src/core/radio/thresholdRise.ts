/**
 * By how much noise and thresholds rise, dB: 10·log10(1 + I/N).
 *
 * @param interferenceDbm any, −Infinity of none
 * @param floorDbm noise of the receiver in its channel
 * Source: sum of powers.
 */
export function thresholdRiseDb(interferenceDbm: number, floorDbm: number): number {
	return 10 * Math.log10(1 + 10 ** ((interferenceDbm - floorDbm) / 10));
}
