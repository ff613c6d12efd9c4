import { farEnd, type End } from '../ends';
import { numberText } from '../units/text';
import { inventoryOf, type RadioItem } from './inventory';
import type { HopPlanInput } from './planInput';

/** What a radio does while its end’s first one is aligned on; empty for that one itself, which sends. */
export function whileAligning({ number, role }: Pick<RadioItem, 'number' | 'role'>): string {
	if (number === 1) return '';
	switch (role) {
		case 'standby':
			return 'muted, stands by';
		case 'diversity':
			return 'only hears, its transmitter off';
		case 'second-band':
			return 'of the other band, read after the first';
		default:
			return 'muted while the first is aligned on';
	}
}

/**
 * Which transmitter of the far end sends while an end aligns, and what the others do, in sentences; empty
 * where there is only one.
 */
export function sendersWhileAligning(input: HopPlanInput, end: End): string {
	const far = farEnd(end);
	const [first, ...others] = inventoryOf(input, far).radios;
	if (!first || others.length === 0) return '';
	return [
		`At ${far} radio 1 sends: ${first.polarization}, ${numberText(first.transmitFrequencyGhz, 3)} GHz.`,
		...others.map((radio) => `Radio ${radio.number}: ${whileAligning(radio)}.`)
	].join(' ');
}
