import { farEnd, type End } from '../ends';
import { numberText } from '../units/text';
import { inventoryOf, type RadioItem } from './inventory';
import type { HopPlanInput } from './planInput';

/**
 * Which transmitter of the far end sends while an end aligns, and which are muted, in a sentence; empty
 * where there is only one.
 */
export function sendersWhileAligning(input: HopPlanInput, end: End): string {
	const far = farEnd(end);
	const { radios } = inventoryOf(input, far);
	const [first, ...others] = radios;
	if (!first || others.length === 0) return '';
	const sends = `At ${far} only radio 1 sends: ${first.polarization}, ${numberText(first.transmitFrequencyGhz, 3)} GHz.`;
	return [sends, ...others.map((radio) => besideIt(radio, first))].join(' ');
}

/** What another radio of that end does meanwhile. */
function besideIt(radio: RadioItem, first: RadioItem): string {
	const name = `Radio ${radio.number}`;
	switch (radio.role) {
		case 'standby':
			return `${name} stands by, muted.`;
		case 'diversity':
			return `${name} only hears.`;
		case 'second-band':
			return `${name} is of another band, and is not read here.`;
		default:
			return radio.transmitFrequencyGhz === first.transmitFrequencyGhz
				? `${name} is muted: on the same frequency it would be heard too.`
				: `${name}, on ${numberText(radio.transmitFrequencyGhz, 3)} GHz, is muted.`;
	}
}
