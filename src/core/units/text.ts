import { wrapBearingDeg } from './angle';

/**
 * A number for people: fixed decimals, a true minus sign, a plus on request, no "−0".
 *
 * @param value any finite
 * @param digits decimals, 0 to 100
 */
export function numberText(value: number, digits: number, plus = false): string {
	const text = Math.abs(value).toFixed(digits);
	const zero = Number(text) === 0;
	if (value < 0 && !zero) return `−${text}`;
	return plus && !zero ? `+${text}` : text;
}

/** A change of level below this, dB, is the meter's own: it is called none. */
const LEAST_CHANGE_DB = 0.1;

/**
 * A change of level in words, one decimal; what a meter cannot tell from nothing is no change.
 *
 * @param changeDb any finite, dB
 */
export function levelChangeText(changeDb: number): string {
	return Math.abs(changeDb) < LEAST_CHANGE_DB ? 'no change' : `${numberText(changeDb, 1, true)} dB`;
}

/**
 * A level with its unit, one decimal.
 *
 * @param levelDbm any finite
 */
export function levelText(levelDbm: number): string {
	return `${numberText(levelDbm, 1)} dBm`;
}

/**
 * A bearing as it is written, degrees without their sign: never 360.
 *
 * @param bearingDeg any finite
 * @param digits decimals, 0 to 6
 */
export function bearingText(bearingDeg: number, digits: number): string {
	const text = wrapBearingDeg(bearingDeg).toFixed(digits);
	return Number(text) === 360 ? (0).toFixed(digits) : text;
}
