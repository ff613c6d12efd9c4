import {
	deltaBullingtonLoss,
	knifeEdgeLossDb,
	knifeEdgeParameter,
	quickDiffractionLossDb,
	type DiffractionLoss
} from '../propagation/diffraction';
import { innerPoints, type ClearancePoint, type PathClearance } from './pathClearance';

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
	const { points, worst, kFactor } = clearance;
	const inner = innerPoints(points);
	const [first, last] = [points[0], points[points.length - 1]];
	const worstRatio = worst?.ratio ?? Number.POSITIVE_INFINITY;
	const compared = {
		edges: countEdges(inner),
		singleEdgeDb: knifeEdgeLossDb(knifeEdgeParameter(worstRatio)),
		quickRuleDb: quickDiffractionLossDb(worstRatio)
	};
	if (!first || !last) {
		return { lossDb: 0, profileDb: 0, smoothDb: 0, sphericalDb: 0, ...compared };
	}
	const judged = [first, ...inner, last];
	return {
		...deltaBullingtonLoss({
			distancesM: judged.map((point) => point.distanceM),
			surfacesAmslM: judged.map((point) => point.surfaceAmslM),
			antennaAmslM: { A: first.rayAmslM, B: last.rayAmslM },
			kFactor,
			frequencyGhz
		}),
		...compared
	};
}

/** Separate tops that reach into the zone: runs of points above it. */
function countEdges(points: readonly ClearancePoint[]): number {
	let edges = 0;
	let inside = false;
	for (const point of points) {
		const reaches = knifeEdgeParameter(point.ratio) > -0.78;
		if (reaches && !inside) edges += 1;
		inside = reaches;
	}
	return edges;
}
