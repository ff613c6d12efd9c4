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
