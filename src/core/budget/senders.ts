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
 * Which transmitter of the far end sends while a dish of an end is aligned, and what the others do, in
 * sentences; empty where there is only one.
 *
 * @param dish that is aligned, 1 or 2
 */
export function sendersWhileAligning(input: HopPlanInput, end: End, dish: 1 | 2 = 1): string {
	const far = farEnd(end);
	const { radios } = inventoryOf(input, far);
	const [first, ...others] = radios;
	if (!first || others.length === 0) return '';
	const heard = dish === 2 ? (radios.find(({ role }) => role === 'second-band') ?? first) : first;
	const through = dish === 2 && heard === first ? ' through the first dish' : '';
	return [
		`At ${far} radio ${heard.number} sends${through}: ${heard.polarization}, ${numberText(heard.transmitFrequencyGhz, 3)} GHz.`,
		...radios
			.filter((radio) => radio !== heard)
			.map((radio) =>
				radio === first
					? `Radio ${radio.number}: of the other band, not read here.`
					: `Radio ${radio.number}: ${whileAligning(radio)}.`
			)
	].join(' ');
}
