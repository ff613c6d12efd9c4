import { inventoryOf, type RadioItem } from '../budget/inventory';
import type { HopPlanInput } from '../budget/planInput';
import type { End } from '../ends';
import type { LinearPolarization } from '../propagation/rain';
import { itemAt } from '../units/lists';
import type { PairNumber } from './discrimination';

/** The radios of an end at whose level ports a discrimination is read. */
export interface DiscriminationPorts {
	/** Receives the polarization that is sent. */
	co: RadioItem;
	/** Receives the other one on the same frequency; the same radio where the hop has one plane only. */
	cross: RadioItem;
}

/**
 * At which level ports of an end a discrimination is read: each plane comes in by a radio of its own, with a
 * curve of its own.
 *
 * @param sent polarization that the far end sends
 * @param pair frequency pair on which it sends
 */
export function discriminationPorts(
	input: HopPlanInput,
	end: End,
	sent: LinearPolarization,
	pair: PairNumber
): DiscriminationPorts {
	const { radios } = inventoryOf(input, end);
	const first = itemAt(radios, 0);
	const onPair = radios.filter(
		({ receiveFrequencyGhz }) =>
			(receiveFrequencyGhz === first.receiveFrequencyGhz) === (pair === 1)
	);
	const co = onPair.find(({ polarization }) => polarization === sent) ?? first;
	return { co, cross: onPair.find(({ polarization }) => polarization !== sent) ?? co };
}
