import type { NumberSpec } from '#core/catalogue/fieldSpec';
import { shownText, unitOf, type Quantity } from '../units.svelte';

const QUANTITIES: readonly string[] = ['m', 'mm', 'kg'];

/** The plausible range of a field in words, in the units of the person. */
export function rangeHint({ min, max, unit }: Pick<NumberSpec, 'min' | 'max' | 'unit'>): string {
	if (QUANTITIES.includes(unit)) {
		const quantity = unit as Quantity;
		return `${shownText(String(min), quantity)} to ${shownText(String(max), quantity)} ${unitOf(quantity)}.`;
	}
	const text = (value: number): string => String(value).replace('-', '−');
	return `${text(min)} to ${text(max)}${unit ? ` ${unit}` : ''}.`;
}
