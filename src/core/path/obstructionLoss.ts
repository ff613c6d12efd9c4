import {
	deltaBullingtonLoss,
	knifeEdgeLossDb,
	knifeEdgeParameter,
	quickDiffractionLossDb,
	type DiffractionLoss
} from '../propagation/diffraction';
import type { PathClearance } from './pathClearance';

/** Loss of what stands in the way, with the quick rules beside it for comparison. */
export interface ObstructionLoss extends DiffractionLoss {
	/** How many separate tops reach into 0.55 of the first Fresnel zone. */
	edges: number;
	/** What a single knife edge at the worst point would cost, dB. */
	singleEdgeDb: number;
	/** The quick rule 10 − 20·h/F1 at the worst point, dB. */
	quickRuleDb: number;
}

/**
 * Loss of a profile by the complete delta-Bullington method.
 *
 * @param frequencyGhz 0.1 to 1000
 * Source: ITU-R P.526-15, §4.5; the comparisons §4.1, and ITU-R P.530-18, §2.2.1.
 */
export function obstructionLoss(clearance: PathClearance, frequencyGhz: number): ObstructionLoss {
	const { worst, kFactor, antennaAmslM } = clearance;
	const { edges, distancesM, surfacesAmslM } = clearance.judged();
	const worstRatio = worst?.ratio ?? Number.POSITIVE_INFINITY;
	const compared = {
		edges,
		singleEdgeDb: knifeEdgeLossDb(knifeEdgeParameter(worstRatio)),
		quickRuleDb: quickDiffractionLossDb(worstRatio)
	};
	if (distancesM.length < 2) {
		return { lossDb: 0, profileDb: 0, smoothDb: 0, sphericalDb: 0, ...compared };
	}
	return {
		...deltaBullingtonLoss({ distancesM, surfacesAmslM, antennaAmslM, kFactor, frequencyGhz }),
		...compared
	};
}
