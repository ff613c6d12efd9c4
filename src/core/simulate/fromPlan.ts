import type { HopPlan } from '../budget/hopPlan';
import type { HopPlanInput } from '../budget/planInput';
import type { End } from '../ends';
import type { SimulatedFault } from './faults';
import { makeSimulatedHop, type SimulatedEndInput, type SimulatedHop } from './simulatedHop';

/**
 * The simulated hop of a plan: the same seed always stands the dishes off in the same way.
 *
 * @param seed any whole number
 */
export function simulatedHopOf(
	input: HopPlanInput,
	plan: HopPlan,
	seed: number,
	faults: readonly SimulatedFault[] = []
): SimulatedHop {
	const end = (name: End): SimulatedEndInput => {
		const { radio, mount } = input.ends[name];
		return {
			alignedLevelDbm: plan.received[name].plannedLevelDbm,
			floorDbm: plan.received[name].floorDbm,
			beamwidthDeg: plan.dish[name].beamwidthDeg,
			maxInputDbm: radio.maxInputDbm,
			levelCurve: radio.levelPort.curve,
			meterResolutionV: radio.levelPort.resolutionV,
			firstAimSigmaDeg: {
				azimuth: input.search.compassSigmaDeg,
				tilt: input.search.levelSigmaDeg
			},
			crossPolarDiscriminationDb: plan.dish[name].crossPolarDiscriminationDb,
			azimuth: mount.azimuth,
			tilt: mount.tilt
		};
	};
	return makeSimulatedHop({ seed, ends: { A: end('A'), B: end('B') }, faults });
}
