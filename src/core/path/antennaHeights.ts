import { innerPoints, wantedClearanceM } from './pathClearance';
import type { ClearanceCheck, ClearanceVerdict } from './clearanceSchool';

export interface HeightPair {
	/** Antenna centre at A above mean sea level, m. */
	aAmslM: number;
	/** Least antenna centre at B with it, m. */
	bAmslM: number;
}

/**
 * The least height at B that satisfies every rule when A stands at a height; −Infinity if any does.
 *
 * @param aAmslM antenna centre at A, m
 */
export function requiredHeightAtB(verdict: ClearanceVerdict, aAmslM: number): number {
	return Math.max(...verdict.checks.map((check) => heightAtB(check, aAmslM)));
}

/**
 * The same for A, given B.
 *
 * @param bAmslM antenna centre at B, m
 */
export function requiredHeightAtA(verdict: ClearanceVerdict, bAmslM: number): number {
	return Math.max(...verdict.checks.map((check) => heightAtA(check, bAmslM)));
}

/**
 * The curve of least heights: for each height at A the least at B. Both may be traded along it.
 *
 * @param fromM, toM range of heights at A, m a.m.s.l.
 */
export function heightCurve(
	verdict: ClearanceVerdict,
	fromM: number,
	toM: number,
	count = 25
): HeightPair[] {
	return Array.from({ length: count }, (_, i) => {
		const aAmslM = fromM + ((toM - fromM) * i) / (count - 1);
		return { aAmslM, bAmslM: requiredHeightAtB(verdict, aAmslM) };
	});
}

/** Ray wanted at each point: surface, bulge and the share of the Fresnel zone. */
function wantedAt(check: ClearanceCheck): { share: number; heightM: number }[] {
	const { points } = check.clearance;
	const lengthM = points[points.length - 1]?.distanceM ?? 0;
	return innerPoints(points).map((point) => ({
		share: point.distanceM / lengthM,
		heightM: point.surfaceAmslM + point.bulgeM + wantedClearanceM(point, check.wantedRatio)
	}));
}

function heightAtB(check: ClearanceCheck, aAmslM: number): number {
	return wantedAt(check).reduce(
		(most, { share, heightM }) => Math.max(most, (heightM - aAmslM * (1 - share)) / share),
		Number.NEGATIVE_INFINITY
	);
}

function heightAtA(check: ClearanceCheck, bAmslM: number): number {
	return wantedAt(check).reduce(
		(most, { share, heightM }) => Math.max(most, (heightM - bAmslM * share) / (1 - share)),
		Number.NEGATIVE_INFINITY
	);
}
