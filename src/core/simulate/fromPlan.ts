import type { HopPlan } from '../budget/hopPlan';
import type { HopPlanInput } from '../budget/planInput';
import { armDifferenceDb, crossedCablesLossDb } from '../budget/radioMixUps';
import { secondHopsOf, type SecondHop } from '../budget/secondHop';
import type { End, PerEnd } from '../ends';
import type { FaultsAtWork } from './faults';
import { makeSimulatedHop, type SimulatedEndInput, type SimulatedHop } from './simulatedHop';

/**
 * The simulated hop of a plan: the same seed always stands the dishes off in the same way.
 *
 * @param seed any whole number
 * @param sameAs the end whose dish is that of another simulated hop
 */
export function simulatedHopOf(
	input: HopPlanInput,
	plan: HopPlan,
	seed: number,
	faults: FaultsAtWork = [],
	sameAs: { end: End; of: SimulatedHop } | null = null
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
			tilt: mount.tilt,
			armDifferenceDb: armDifferenceDb(input, name),
			crossedCablesLossDb: crossedCablesLossDb(input, plan, name),
			...(sameAs?.end === name
				? {
						sameAs: {
							dishSeed: sameAs.of.dishSeeds[name],
							boresightDeg: sameAs.of.boresightDeg[name]
						}
					}
				: {})
		};
	};
	return makeSimulatedHop({ seed, ends: { A: end('A'), B: end('B') }, faults });
}

export interface SimulatedSecond extends SecondHop {
	sim: SimulatedHop;
}

/** Added to the seed of a hop for those of its second dishes. */
const SECOND_SEED: PerEnd<number> = { A: 1_000_003, B: 2_000_003 };

/**
 * The hops of the second dishes of a plan, as {@link secondHopsOf} has them, each with its simulation: the
 * far dish that a diversity dish looks at is the one of the hop itself. Null where there are no second dishes.
 *
 * @param seed of the hop, any whole number
 */
export function simulatedSecondsOf(
	{ input, plan, main }: { input: HopPlanInput; plan: HopPlan; main: SimulatedHop },
	seed: number,
	faults: FaultsAtWork = []
): PerEnd<SimulatedSecond> | null {
	const hops = secondHopsOf(input, plan);
	if (!hops) return null;
	const made = (end: End): SimulatedSecond => {
		const { input, plan, stands } = hops[end];
		const sameAs = stands && { end: stands, of: main };
		const sim = simulatedHopOf(input, plan, seed + SECOND_SEED[end], faults, sameAs);
		return { ...hops[end], sim };
	};
	const A = made('A');
	return { A, B: hops.A === hops.B ? A : made('B') };
}
