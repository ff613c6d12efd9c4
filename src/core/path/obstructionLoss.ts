import { wavelengthM } from '../units/wavelength';
import { innerPoints, type ClearancePoint, type PathClearance } from './pathClearance';
import { itemAt, lastOf } from '../units/lists';

/**
 * Loss of a single knife edge, dB: 6.9 + 20·log10(√((ν−0.1)²+1) + ν − 0.1), 0 for ν ≤ −0.78.
 *
 * @param nu Fresnel–Kirchhoff parameter, any finite
 * Source: ITU-R P.526-15, equation (31).
 */
export function knifeEdgeLossDb(nu: number): number {
	if (nu <= -0.78) return 0;
	return 6.9 + 20 * Math.log10(Math.sqrt((nu - 0.1) ** 2 + 1) + nu - 0.1);
}

/**
 * ν of an edge: −√2 · h/F1 with the clearance h positive below the ray. Source: P.526-15, §4.1.
 *
 * @param clearanceRatio h/F1, any finite
 */
export function knifeEdgeParameter(clearanceRatio: number): number {
	return -Math.SQRT2 * clearanceRatio;
}

/**
 * Quick value of the diffraction loss over average terrain, dB: 10 − 20·h/F1, never below 0.
 * Holds for losses above about 15 dB; nearer grazing it is an estimate.
 *
 * @param clearanceRatio h/F1, any finite
 * Source: ITU-R P.530-18, §2.2.1, equation (2).
 */
export function quickDiffractionLossDb(clearanceRatio: number): number {
	return Math.max(0, 10 - 20 * clearanceRatio);
}

export interface ObstructionLoss {
	lossDb: number;
	/** How many edges reach into 0.6 of the first Fresnel zone. */
	edges: number;
	method: 'clear' | 'single knife edge' | 'Bullington';
}

/**
 * Diffraction loss of a profile: nothing when all is clear of 0.55 F1 (ν ≤ −0.78), the single knife
 * edge when one edge reaches in, the Bullington construction for several.
 *
 * @param frequencyGhz 0.1 to 1000
 * Source: ITU-R P.526-15, §4.1 and §4.5.1 (Bullington part, steps of equations (46) to (52)).
 */
export function obstructionLoss(clearance: PathClearance, frequencyGhz: number): ObstructionLoss {
	const inner = innerPoints(clearance.points);
	const reaching = inner.filter((point) => knifeEdgeParameter(point.ratio) > -0.78);
	if (reaching.length === 0) return { lossDb: 0, edges: 0, method: 'clear' };
	const edges = countEdges(inner);
	if (edges === 1) {
		const worst = reaching.reduce((p, q) => (q.ratio < p.ratio ? q : p));
		return {
			lossDb: knifeEdgeLossDb(knifeEdgeParameter(worst.ratio)),
			edges,
			method: 'single knife edge'
		};
	}
	return {
		lossDb: bullingtonLossDb(clearance, inner, frequencyGhz),
		edges,
		method: 'Bullington'
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

function bullingtonLossDb(
	{ points }: PathClearance,
	inner: readonly ClearancePoint[],
	frequencyGhz: number
): number {
	const first = itemAt(points, 0);
	const last = lastOf(points);
	const lengthM = last.distanceM;
	const lambda = wavelengthM(frequencyGhz);
	const top = (point: ClearancePoint): number => point.surfaceAmslM + point.bulgeM;
	const txM = first.rayAmslM;
	const rxM = last.rayAmslM;
	const slopeFromTx = Math.max(...inner.map((p) => (top(p) - txM) / p.distanceM));
	const slopeOfRay = (rxM - txM) / lengthM;
	let nu: number;
	if (slopeFromTx < slopeOfRay) {
		// Line of sight: the point of largest ν decides.
		nu = Math.max(...inner.map((p) => knifeEdgeParameter(p.ratio)));
	} else {
		const slopeFromRx = Math.max(...inner.map((p) => (top(p) - rxM) / (lengthM - p.distanceM)));
		const bullingtonM = (rxM - txM + slopeFromRx * lengthM) / (slopeFromTx + slopeFromRx);
		const heightM =
			txM +
			slopeFromTx * bullingtonM -
			(txM * (lengthM - bullingtonM) + rxM * bullingtonM) / lengthM;
		nu = heightM * Math.sqrt((2 * lengthM) / (lambda * bullingtonM * (lengthM - bullingtonM)));
	}
	const knifeDb = knifeEdgeLossDb(nu);
	// The empirical correction of the construction, with the path in km.
	return knifeDb + (1 - Math.exp(-knifeDb / 6)) * (10 + (0.02 * lengthM) / 1000);
}
