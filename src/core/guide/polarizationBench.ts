import { inventoryOf } from '../budget/inventory';
import { farEnd, type End } from '../ends';
import {
	adviseRotation,
	discriminationNeed,
	judgeDirections,
	type DirectionDiscrimination,
	type DiscriminationNeed,
	type RotationAdvice
} from '../polarization/discrimination';
import { polarizationStep, type PolarizationStep } from '../polarization/polarizationStep';
import {
	feedReadings,
	feedWasTurned,
	isFixed,
	settledDiscriminations,
	type HopState
} from '../record/hopState';

/** Everything the polarization bench of one end shows, from plan and record. */
export interface PolarizationBench {
	need: DiscriminationNeed;
	directions: DirectionDiscrimination[];
	advice: RotationAdvice;
	feedDeg: number;
	step: PolarizationStep;
}

/** One mark of what is turned at an end for the least cross-polar signal, degrees; undefined where nothing has one. */
function feedScaleDeg({ input }: HopState, end: End): number | undefined {
	const { coupling, dishes } = inventoryOf(input, end);
	const dish = dishes[0]?.part.installation?.polarization;
	const turned =
		coupling?.bothPlanes && dish?.how !== 'turn' ? coupling.part.installation?.polarization : dish;
	return turned?.scale?.stepDeg;
}

/** What the hop must show of discrimination, and what it shows as everything stands now. */
export function discriminationOf(state: HopState): Pick<PolarizationBench, 'need' | 'directions'> {
	const need = discriminationNeed(state.input, state.plan.dish);
	return {
		need,
		directions: judgeDirections(
			need,
			settledDiscriminations(state),
			state.input.ends.A.polarization
		)
	};
}

/** What the polarization bench of an end shows as plan and record stand. */
export function polarizationBench(state: HopState, end: End): PolarizationBench {
	const { need, directions } = discriminationOf(state);
	const aligned = state.ends.A.aim !== null && state.ends.B.aim !== null;
	const { feedDeg } = state.ends[end];
	const advice = adviseRotation(state.plan, need, feedReadings(state, end), {
		end,
		pointed: aligned,
		feedDeg
	});
	const step = polarizationStep({
		end,
		aligned,
		dual: need.dual,
		fixed: isFixed(state, 'A') && isFixed(state, 'B'),
		holdsBaton: state.baton === end,
		feedDeg,
		directions,
		advice,
		farFeedTurned: feedWasTurned(state, farEnd(end)),
		scaleDeg: feedScaleDeg(state, end)
	});
	return { need, directions, advice, feedDeg, step };
}
