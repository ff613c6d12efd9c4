/**
 * An input outside the range in which a formula holds: a programming error or an unchecked input.
 * `quantity` is the name of the parameter, so that a form can put the message at its field.
 */
export class OutOfRangeError extends RangeError {
	override readonly name = 'OutOfRangeError';

	constructor(
		readonly quantity: string,
		readonly value: number,
		readonly range: string
	) {
		super(`${quantity} must be ${range}, got ${value}`);
	}
}

/**
 * Throws {@link OutOfRangeError} unless `min <= value <= max` and the value is finite.
 *
 * @param quantity name of the parameter, unit included
 * @param value what was given
 * @param min, max bounds that belong to the range
 */
export function requireInRange(quantity: string, value: number, min: number, max: number): void {
	if (!Number.isFinite(value) || value < min || value > max) {
		throw new OutOfRangeError(quantity, value, `from ${min} to ${max}`);
	}
}
