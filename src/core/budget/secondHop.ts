import { findDishAt } from '../catalogue/dishAt';
import type { FeederPart } from '../catalogue/parts';
import { farEnd, type End, type PerEnd } from '../ends';
import { carriersOf, runCarries, throughSecondDish, type Carrier } from './configuration';
import type { CarrierBudget, EndElectrical, HopPlan } from './hopPlan';
import { inventoryOf } from './inventory';
import type { EndPlanInput, HopPlanInput } from './planInput';

/** The second dish of an end with the far dish that it looks at, as a hop with one radio and one dish. */
export interface SecondHop {
	input: HopPlanInput;
	plan: HopPlan;
	/**
	 * End whose first dish it looks at, which is aligned already and stands; null where the second dishes of
	 * both ends look at each other.
	 */
	stands: End | null;
}

/**
 * What the second dishes of a hop are aligned on, for the dish of each end; null where there are none. A
 * diversity dish hears the first dish of the far end and sends nothing; of two bands the second dishes make
 * a hop of their own, which is the same object for both ends.
 *
 * @param plan of this input, also one that was frozen long ago
 */
export function secondHopsOf(input: HopPlanInput, plan: HopPlan): PerEnd<SecondHop> | null {
	const carrier = carriersOf(input).find(throughSecondDish);
	const budget = plan.carriers.find(({ number }) => number === carrier?.number);
	if (!carrier || !budget) return null;
	if (carrier.role === 'second-band') {
		const both = secondHop(input, plan, { carrier, budget, ends: ['A', 'B'] });
		return both && { A: both, B: both };
	}
	const A = secondHop(input, plan, { carrier, budget, ends: ['A'] });
	const B = secondHop(input, plan, { carrier, budget, ends: ['B'] });
	return A && B && { A, B };
}

/** @param ends whose second dishes take part; the first dish of the other */
function secondHop(
	input: HopPlanInput,
	plan: HopPlan,
	{ carrier, budget, ends }: { carrier: Carrier; budget: CarrierBudget; ends: readonly End[] }
): SecondHop | null {
	const per = <T>(make: (end: End) => T, first: (end: End) => T): PerEnd<T> => ({
		A: ends.includes('A') ? make('A') : first('A'),
		B: ends.includes('B') ? make('B') : first('B')
	});
	const dishAt = (end: End): EndElectrical | undefined => {
		const receiveFrequencyGhz = carrier.transmitFrequencyGhz[farEnd(end)];
		const found = findDishAt(carrier.receiveDish[end], receiveFrequencyGhz);
		return found && { ...found, receiveFrequencyGhz };
	};
	const dish = per<EndElectrical | undefined>(dishAt, (end) => plan.dish[end]);
	if (!dish.A || !dish.B) return null;
	const received = per(
		(end) => budget.received[end],
		(end) => plan.received[end]
	);
	const [own] = ends;
	return {
		stands: ends.length === 1 && own ? farEnd(own) : null,
		input: {
			...input,
			channelWidthMhz: carrier.channelWidthMhz,
			operatingModulation: carrier.modulation,
			configuration: { ...input.configuration, kind: 'single' },
			ends: per(
				(end) => endOfSecond(input, end, carrier),
				(end) => alone(input.ends[end])
			)
		},
		plan: {
			...plan,
			dish: { A: dish.A, B: dish.B },
			received,
			carriers: [{ ...budget, number: 1, received }],
			pointing: per(
				(end) => ({ ...plan.pointing[end], ...whereSecondLooks(input, plan, end) }),
				(end) => plan.pointing[end]
			)
		}
	};
}

/** An end with what stands beside its first dish taken away. */
const alone = (own: EndPlanInput): EndPlanInput => ({
	...own,
	coupling: null,
	secondDish: null,
	secondRadio: null,
	secondTransmitFrequencyGhz: null
});

/** An end as its second dish has it: its own height, radio, frequency, power and, where it is not carried by the guide, no guide. */
function endOfSecond(input: HopPlanInput, end: End, carrier: Carrier): EndPlanInput {
	const own = input.ends[end];
	const transmitFrequencyGhz = carrier.transmitFrequencyGhz[end];
	const radio = inventoryOf(input, end).radios.find(({ dish }) => dish === 2);
	return {
		...alone(own),
		dish: carrier.receiveDish[end],
		radio: carrier.radio[end],
		antennaHeightAglM: own.antennaHeightAglM + carrier.receiveHeightOffsetM[end],
		transmitFrequencyGhz,
		subBandUnit: radio?.subBandUnit ?? '',
		transmitPowerDbm: carrier.transmitPowerDbm[end],
		alignmentPowerDbm: carrier.alignmentPowerDbm[end],
		interferenceDbm: carrier.interferenceDbm[end],
		feeder: runCarries(own, transmitFrequencyGhz) ? own.feeder : direct(own.feeder)
	};
}

const direct = (feeder: FeederPart): FeederPart => ({ ...feeder, kind: 'direct' });

function whereSecondLooks(
	input: HopPlanInput,
	plan: HopPlan,
	end: End
): { tiltDeg: number; antennaHeightAmslM: number } | undefined {
	const { dishes } = inventoryOf(input, end);
	const second = dishes.find(({ number }) => number === 2);
	const first = dishes.find(({ number }) => number === 1);
	return (
		second &&
		first && {
			tiltDeg: second.tiltDeg,
			antennaHeightAmslM:
				plan.pointing[end].antennaHeightAmslM + second.heightAglM - first.heightAglM
		}
	);
}
