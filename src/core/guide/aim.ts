import { inventoryOf } from '../budget/inventory';
import type { End } from '../ends';
import { makeLevelCurve } from '../radio/levelCurve';
import type { Aim } from '../record/findings';
import type { HopState } from '../record/hopState';
import { guide, type Guidance, type GuidanceInput } from './guidance';

/** A tilt that was set by the digital level, both ways round on a square face, is known to so much, degrees. */
const LEVELLED_SIGMA_DEG = 0.28;
/** Each end has searched so often in vain: what was believed of the tilt is believed no more. */
const VAIN_SEARCHES = 2;

/**
 * One sigma of where the tilt was set before anything was read, degrees: the plan’s own, or less where
 * the crew has levelled the dish since it hangs there.
 */
function tiltSigmaDeg({ input, ends }: HopState, end: End): number {
	const planned = input.search.levelSigmaDeg;
	const { building, changedAt, silentTurns } = ends[end];
	const levelled = building.steps['tilt-preset'];
	if (!levelled || levelled.value === null || silentTurns >= VAIN_SEARCHES) return planned;
	if (levelled.seq < Math.max(changedAt['dish-replaced'], changedAt['mount-turned']))
		return planned;
	const tiltDeg = inventoryOf(input, end).dishes[0]?.tiltDeg ?? 0;
	return Math.min(planned, Math.hypot(LEVELLED_SIGMA_DEG, levelled.value - tiltDeg));
}

/** The question of the guidance for an end as its record stands. */
export function guidanceInputOf(state: HopState, end: End): GuidanceInput {
	const { input, plan, ends } = state;
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
			tiltSigmaDeg: tiltSigmaDeg(state, end)
		},
		readings: ends[end].comparable.map(({ azimuthDeg, tiltDeg, levelDbm }) => ({
			azimuthDeg,
			tiltDeg,
			levelDbm
		})),
		memory: { searches: ends[end].silentTurns, boresight: ends[end].foundAt }
	};
}

/** dB that a parabola of 12·(x/θ)² loses at an uncertainty of one sigma on both axes. */
const LOSS_PER_BEAMWIDTH2_DB = 24;

/**
 * What a guidance says of how the end stands.
 *
 * @param beamwidthDeg half-power of this end’s dish, above 0
 */
export function aimOf(guidance: Guidance, beamwidthDeg: number): Aim {
	const { advice, boresight, probabilityOnMainLobe } = guidance;
	const sigma = boresight === null ? null : boresight.sigmaDeg / beamwidthDeg;
	return {
		onMainLobe: (advice === 'lock' || advice === 'hand-over') && boresight !== null,
		onPlan: advice === 'lock',
		probability: probabilityOnMainLobe,
		sigmaBeamwidths: sigma,
		expectedGainDb: sigma === null ? Infinity : LOSS_PER_BEAMWIDTH2_DB * sigma * sigma,
		place: boresight && { azimuthDeg: boresight.azimuthDeg, tiltDeg: boresight.tiltDeg }
	};
}

/** How an end stands by its readings alone. */
export function aimFrom(question: GuidanceInput): Aim {
	return aimOf(guide(question), question.beamwidthDeg ?? Infinity);
}
