import { numberText } from './text';

/** Units of lengths, weights, speeds and torques, per person; what is stored is always metric. */
export type UnitSystem = 'metric' | 'imperial';

/** Quantities that have an imperial unit, by their metric one. */
export type Quantity = 'm' | 'km' | 'mm' | 'm/s' | 'kg' | 'N·m';

/** Exact by definition (international yard and pound, 1959; standard gravity 9.80665 m/s²). */
const IMPERIAL: Record<Quantity, { unit: string; per: number; moreDigits: number }> = {
	m: { unit: 'ft', per: 1 / 0.3048, moreDigits: 0 },
	km: { unit: 'mi', per: 1 / 1.609344, moreDigits: 0 },
	mm: { unit: 'in', per: 1 / 25.4, moreDigits: 2 },
	'm/s': { unit: 'mph', per: 3600 / 1609.344, moreDigits: 0 },
	kg: { unit: 'lb', per: 1 / 0.45359237, moreDigits: 0 },
	'N·m': { unit: 'lbf·ft', per: 1 / (0.3048 * 0.45359237 * 9.80665), moreDigits: 0 }
};

/** The unit in which a quantity is shown. */
export function unitIn(system: UnitSystem, quantity: Quantity): string {
	return system === 'metric' ? quantity : IMPERIAL[quantity].unit;
}

/**
 * A metric value in the unit of a system.
 *
 * @param value any finite, in the metric unit
 */
export function toSystem(system: UnitSystem, value: number, quantity: Quantity): number {
	return system === 'metric' ? value : value * IMPERIAL[quantity].per;
}

/**
 * A value in the unit of a system, in metric.
 *
 * @param shown any finite, in the unit of the system
 */
export function fromSystem(system: UnitSystem, shown: number, quantity: Quantity): number {
	return system === 'metric' ? shown : shown / IMPERIAL[quantity].per;
}

const NUMBER = '[−-]?\\d+(?:\\.\\d+)?';
/** Two or three numbers that share the unit behind the last: a range, a tolerance, the sides of something. */
const METRIC = new RegExp(
	`(?<![\\d.,\\w])(${NUMBER}(?:(?: to | ± | × |–)${NUMBER}){0,2}) (km|mm|m/s|m|kg|N·m)(?![\\w/·²³^])`,
	'g'
);

/**
 * A text of the core as a person of a system reads it. Of an imperial one every length, weight, speed and
 * torque is said in their unit with the metric figure, which is what the plan and the record hold, behind it.
 *
 * @param text with its quantities as `<number> <unit>`, as `numberText` writes numbers
 */
export function spokenIn(system: UnitSystem, text: string): string {
	if (system === 'metric') return text;
	return text.replace(METRIC, (all, numbers: string, quantity: Quantity) => {
		const { unit, per, moreDigits } = IMPERIAL[quantity];
		const theirs = numbers.replace(new RegExp(NUMBER, 'g'), (number) => {
			const decimals = number.split('.')[1]?.length ?? 0;
			return numberText(Number(number.replace('−', '-')) * per, decimals + moreDigits);
		});
		return `${theirs} ${unit} (${all})`;
	});
}
