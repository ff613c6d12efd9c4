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
