import { inventoryOf } from '../budget/inventory';
import type { HopPlanInput } from '../budget/planInput';
import type { End } from '../ends';

/** A part whose label is read on receipt, with what the plan wants of it. */
export interface LabelledPart {
	/** Stable: `radio-1`, `dish`, `coupling`, `feeder`. */
	part: string;
	/** What the crew calls it, such as "Radio 2". */
	called: string;
	code: string;
	name: string;
	/** Frequencies it must carry, GHz. */
	frequenciesGhz: readonly number[];
	/** Sub-band unit of a radio; null where none is known. */
	subBandUnit: string | null;
	/** Flange by the catalogue; null where it is not known. */
	flange: string | null;
}

/** The parts of an end whose labels are read, each against its own plan. */
export function partsToLabel(input: HopPlanInput, end: End): LabelledPart[] {
	const { radios, dishes, coupling } = inventoryOf(input, end);
	const through = (dish: number): number[] => [
		...new Set(dishes.filter(({ number }) => number === dish).flatMap((d) => d.frequenciesGhz))
	];
	return [
		...radios.map((radio): LabelledPart => ({
			part: radio.key,
			called: radio.name,
			code: radio.part.code,
			name: radio.part.name,
			frequenciesGhz: [radio.transmitFrequencyGhz, radio.receiveFrequencyGhz],
			subBandUnit: radio.subBandUnit,
			flange: radio.part.installation?.flange ?? null
		})),
		...[...dishes, ...(coupling ? [coupling] : [])].map((item): LabelledPart => ({
			part: item.key,
			called: item.name,
			code: item.part.code,
			name: item.part.name,
			frequenciesGhz: item.kind === 'dish' ? item.frequenciesGhz : through(item.dish),
			subBandUnit: null,
			flange: item.part.installation?.flange ?? null
		}))
	];
}
