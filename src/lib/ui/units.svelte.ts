import { browser } from '$app/environment';

/** Units of lengths, per person and device; what is stored is always metric. */
export type UnitSystem = 'metric' | 'imperial';

const KEY = 'skiaxis-units';

function kept(): UnitSystem {
	try {
		return browser && localStorage.getItem(KEY) === 'imperial' ? 'imperial' : 'metric';
	} catch {
		return 'metric';
	}
}

class Units {
	system: UnitSystem = $state(kept());

	choose(system: UnitSystem): void {
		this.system = system;
		try {
			localStorage.setItem(KEY, system);
		} catch {
			// Then it holds for this page.
		}
	}
}

export const units = new Units();

/** Quantities that have an imperial unit, by their metric one. */
export type Quantity = 'm' | 'km' | 'mm' | 'm/s' | 'kg';

const IMPERIAL: Record<Quantity, { unit: string; per: number }> = {
	m: { unit: 'ft', per: 1 / 0.3048 },
	km: { unit: 'mi', per: 1 / 1.609344 },
	mm: { unit: 'in', per: 1 / 25.4 },
	'm/s': { unit: 'mph', per: 3600 / 1609.344 },
	kg: { unit: 'lb', per: 1 / 0.45359237 }
};

export function unitOf(quantity: Quantity, system: UnitSystem = units.system): string {
	return system === 'metric' ? quantity : IMPERIAL[quantity].unit;
}

/** A metric value in the unit of the person. */
export function toShown(
	value: number,
	quantity: Quantity,
	system: UnitSystem = units.system
): number {
	return system === 'metric' ? value : value * IMPERIAL[quantity].per;
}

/** A value as the person typed it, in metric. */
export function toMetric(
	shown: number,
	quantity: Quantity,
	system: UnitSystem = units.system
): number {
	return system === 'metric' ? shown : shown / IMPERIAL[quantity].per;
}

/** A metric value with its unit, in the system of the person. */
export function measure(
	value: number | null | undefined,
	quantity: Quantity,
	digits: number
): string {
	if (value === null || value === undefined || !Number.isFinite(value)) return '—';
	const number = toShown(value, quantity);
	const text = number.toFixed(digits).replace('-', '−');
	return `${text} ${unitOf(quantity)}`;
}

/** Text of a field in the person's unit; what is no number is shown as typed. */
export function shownText(stored: string, quantity: Quantity): string {
	if (units.system === 'metric' || stored.trim() === '') return stored;
	const value = Number(stored);
	return Number.isFinite(value) ? String(Number(toShown(value, quantity).toFixed(3))) : stored;
}

/** What is stored of a text typed in the person's unit. */
export function storedText(typed: string, quantity: Quantity): string {
	if (units.system === 'metric' || typed.trim() === '') return typed;
	const value = Number(typed);
	return Number.isFinite(value) ? String(Number(toMetric(value, quantity).toFixed(4))) : typed;
}
