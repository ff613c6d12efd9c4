import { CONFIGURATION_RULES } from '../budget/configuration';
import type { ConfigurationKind } from '../budget/configurationKinds';
import { ENDS, type End } from '../ends';
import { isSimulatedFault, PLACES, SIMULATED_FAULTS, type SimulatedFault } from './faults';

/** A fault of a simulated hop and where it is; at no end of its own where it is one of the whole hop. */
export interface PlantedFault {
	fault: SimulatedFault;
	/** Null: at both ends alike, or of the path. */
	end: End | null;
}

/** So many are planted at once. */
export const MOST_PLANTED = 2;

const BETWEEN = '+';

/** How planted faults are kept and sent: `film-left-in`, or `power-control-on@A+rain`. */
export function plantedText(planted: readonly PlantedFault[]): string {
	return planted.map(({ fault, end }) => (end ? `${fault}@${end}` : fault)).join(BETWEEN);
}

/** The faults that a text names; undefined where it names none, one twice, or an end that says nothing. */
export function readPlanted(text: string): PlantedFault[] | undefined {
	const parts = text.split(BETWEEN);
	const planted = parts.flatMap((part): PlantedFault[] => {
		const [fault = '', at, ...more] = part.split('@');
		const end = ENDS.find((one) => one === at);
		if (!isSimulatedFault(fault) || more.length > 0) return [];
		if (at === undefined) return [{ fault, end: null }];
		return end && PLACES[fault] === 'either-end' ? [{ fault, end }] : [];
	});
	const distinct = new Set(planted.map(({ fault }) => fault)).size === parts.length;
	return planted.length === parts.length && distinct && parts.length <= MOST_PLANTED
		? planted
		: undefined;
}

/** Every single fault with every place it can have. */
export const PLANTABLE: readonly PlantedFault[] = SIMULATED_FAULTS.flatMap((fault) => [
	{ fault, end: null },
	...(PLACES[fault] === 'either-end' ? ENDS.map((end) => ({ fault, end })) : [])
]);

/** Whether a hop of a configuration can have a fault at all. */
export function mayHaveFault(fault: SimulatedFault, kind: ConfigurationKind): boolean {
	const { couplings, radios } = CONFIGURATION_RULES[kind];
	if (fault === 'wrong-arm') return couplings.length > 0;
	// Radios of two bands cannot be taken for each other.
	if (fault === 'crossed-cables') return radios > 1 && kind !== 'two-bands';
	return true;
}
