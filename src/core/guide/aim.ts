import type { HopPlan } from '../budget/hopPlan';
import type { HopPlanInput } from '../budget/planInput';
import type { End } from '../ends';
import { makeLevelCurve } from '../radio/levelCurve';
import type { FieldRecord } from '../record/records';
import { endReadings } from './endReadings';
import { guide, type Guidance, type GuidanceInput } from './guidance';

/** How an end stood when it gave up the baton or closed its alignment. */
export interface Aim {
	/** On its main lobe on both axes, near enough to the middle. */
	onMainLobe: boolean;
	/** Whether the level was then inside the window of the plan. */
	onPlan: boolean;
	probability: number;
	/** One-sigma uncertainty of either axis, beamwidths; null while nothing is known. */
	sigmaBeamwidths: number | null;
	/** What one more round at this end may be expected to gain, dB. */
	expectedGainDb: number;
}

/**
 * The question of the guidance for an end as its record stands.
 *
 * @param sinceSeq place in the feed since which levels belong together, see UnaskedMovement
 */
export function guidanceInputOf(
	input: HopPlanInput,
	plan: HopPlan,
	records: readonly FieldRecord[],
	end: End,
	sinceSeq = 0
): GuidanceInput {
	const { mount, radio, dish } = input.ends[end];
	const budget = plan.received[end];
	const { azimuth, tilt } = mount;
	return {
		frequencyGhz: plan.dish[end].receiveFrequencyGhz,
		dishDiameterM: dish.diameterM,
		beamwidthDeg: plan.dish[end].beamwidthDeg,
		plannedLevelDbm: budget.plannedLevelDbm,
		floorDbm: Math.max(budget.floorDbm, makeLevelCurve(radio.levelPort.curve).lowestLevelDbm),
		toleranceDb: budget.toleranceDb,
		travel: {
			azimuthDeg: [-azimuth.travelDeg, azimuth.travelDeg],
			tiltDeg: [-tilt.travelDeg, tilt.travelDeg]
		},
		prior: {
			azimuthSigmaDeg: input.search.compassSigmaDeg,
			tiltSigmaDeg: input.search.levelSigmaDeg
		},
		readings: endReadings(input, records, end, sinceSeq).readings
	};
}

/** dB that a parabola of 12·(x/θ)² loses at an uncertainty of one sigma on both axes. */
const LOSS_PER_BEAMWIDTH2_DB = 24;

/** What a guidance says of how the end stands. */
export function aimOf(guidance: Guidance, beamwidthDeg: number): Aim {
	const { advice, boresight, probabilityOnMainLobe } = guidance;
	const sigma = boresight === null ? null : boresight.sigmaDeg / beamwidthDeg;
	return {
		onMainLobe: (advice === 'lock' || advice === 'hand-over') && boresight !== null,
		onPlan: advice === 'lock',
		probability: probabilityOnMainLobe,
		sigmaBeamwidths: sigma,
		expectedGainDb: sigma === null ? Infinity : LOSS_PER_BEAMWIDTH2_DB * sigma * sigma
	};
}

/** How an end stands by its readings alone. */
export function aimFrom(question: GuidanceInput): Aim {
	return aimOf(guide(question), question.beamwidthDeg ?? Infinity);
}
