import { browser } from '$app/environment';
import {
	fromSystem,
	spokenIn,
	toSystem,
	unitIn,
	type Quantity,
	type UnitSystem
} from '#core/units/systems';

export type { Quantity, UnitSystem };

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

export function unitOf(quantity: Quantity): string {
	return unitIn(units.system, quantity);
}

/** A metric value in the unit of the person. */
export function toShown(value: number, quantity: Quantity): number {
	return toSystem(units.system, value, quantity);
}

/** A value as the person typed it, in metric. */
export function toMetric(shown: number, quantity: Quantity): number {
	return fromSystem(units.system, shown, quantity);
}

/** A text of the core as this person reads it. */
export function spoken(text: string): string {
	return spokenIn(units.system, text);
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
