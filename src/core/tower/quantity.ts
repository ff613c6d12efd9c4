import { bearingDifferenceDeg } from '../units/angle';
import { bearingText, numberText } from '../units/text';

/** What is measured or counted at a step, with what the plan or the part's sheet expects. */
export interface Quantity {
	label: string;
	unit: string;
	/** A bearing goes round: 359° and 1° are two degrees apart. A voltage below nothing is reversed. */
	kind: 'measure' | 'count' | 'bearing' | 'voltage';
	/** Null where only the limits are known. */
	expected: number | null;
	low: number;
	high: number;
	digits: number;
	/** Where the expected value comes from. */
	from: string;
}

export interface QuantityVerdict {
	/** `off` is kept as found, and stands as trouble until it is put right or explained. */
	verdict: 'good' | 'off';
	reason: string;
}

/**
 * A count that must be met exactly.
 *
 * @param expected a whole number, 0 or more
 */
export function counted(label: string, expected: number, from: string, unit = ''): Quantity {
	return { label, unit, kind: 'count', expected, low: expected, high: expected, digits: 0, from };
}

/**
 * At least so much; without a unit it is a count.
 *
 * @param low in `unit`
 */
export function atLeast(
	label: string,
	low: number,
	unit: string,
	from: string,
	digits = 0
): Quantity {
	const kind = unit === '' ? 'count' : 'measure';
	return { label, unit, kind, expected: low, low, high: Infinity, digits, from };
}

/**
 * A measure with a tolerance each way.
 *
 * @param expected in `unit`
 * @param tolerance each way, in `unit`, 0 or more
 */
export function measured(
	label: string,
	unit: string,
	expected: number,
	tolerance: number,
	from: string,
	digits = 1
): Quantity {
	return {
		label,
		unit,
		kind: 'measure',
		expected,
		low: expected - tolerance,
		high: expected + tolerance,
		digits,
		from
	};
}

/**
 * A bearing with a tolerance each way.
 *
 * @param expectedDeg 0 to below 360
 * @param toleranceDeg each way, 0 or more
 */
export function bearing(
	label: string,
	expectedDeg: number,
	toleranceDeg: number,
	from: string
): Quantity {
	return { ...measured(label, '°', expectedDeg, toleranceDeg, from), kind: 'bearing' };
}

/** A measure within limits that are not even about a middle. */
export function within(
	label: string,
	unit: string,
	[low, high]: readonly [number, number],
	from: string,
	digits = 1
): Quantity {
	return { label, unit, kind: 'measure', expected: null, low, high, digits, from };
}

/**
 * A voltage within limits, with what is computed for it where something is.
 *
 * @param expectedV inside the limits, or null
 */
export function voltage(
	[low, high]: readonly [number, number],
	expectedV: number | null,
	from: string
): Quantity {
	return {
		label: 'Voltage',
		unit: 'V',
		kind: 'voltage',
		expected: expectedV,
		low,
		high,
		digits: 1,
		from
	};
}

/** What is asked for, in words: "62 ± 2 mm", "3", "at least 1 m". */
export function expectedText({ kind, expected, low, high, unit, digits }: Quantity): string {
	const text = (value: number): string =>
		kind === 'bearing' && value === expected
			? bearingText(value, digits)
			: numberText(value, digits);
	const withUnit = (words: string): string => (unit ? `${words} ${unit}` : words);
	if (!Number.isFinite(high)) return withUnit(`at least ${text(low)}`);
	if (expected === null) return withUnit(`${text(low)} to ${text(high)}`);
	if (low === high) return withUnit(text(expected));
	// Limits that are not even about it are both said.
	return Math.abs(high - expected - (expected - low)) > 10 ** -digits
		? withUnit(`${text(expected)}, from ${text(low)} to ${text(high)}`)
		: withUnit(`${text(expected)} ± ${text(expected - low)}`);
}

/**
 * Judges what was found. Compared after rounding to the quantity's own digits.
 *
 * @param found in the quantity’s unit; a bearing of any turn
 */
export function judgeQuantity(quantity: Quantity, found: number): QuantityVerdict {
	const { low, high, unit, digits, label } = quantity;
	// A heading of 2° is 5.5° from one of 356.5°, not 354.5°.
	const value =
		quantity.kind === 'bearing' && quantity.expected !== null
			? quantity.expected + bearingDifferenceDeg(quantity.expected, found)
			: found;
	const round = (x: number): number => Number(x.toFixed(digits));
	const said = `${numberText(found, digits)}${unit ? ` ${unit}` : ''}`;
	if (round(value) >= round(low) && round(value) <= round(high)) {
		return { verdict: 'good', reason: `${said}: as expected.` };
	}
	const missing = round(low) - round(value);
	const off =
		quantity.kind === 'count'
			? missing > 0
				? `${missing} missing`
				: `${round(value) - round(high)} too many`
			: quantity.kind === 'bearing'
				? `${numberText(value < low ? low - value : value - high, digits)}° too far ${value < low ? 'left' : 'right'}`
				: quantity.kind === 'voltage' && value < 0
					? 'reversed, plus and minus are changed over'
					: value < low
						? 'too little'
						: 'too much';
	return {
		verdict: 'off',
		reason: `${label}: ${said} found, ${expectedText(quantity)} expected (${quantity.from}): ${off}.`
	};
}
