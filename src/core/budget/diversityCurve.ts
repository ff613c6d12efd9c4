import type { CountedAvailability } from './availability';
import { availabilityOf } from './hopPlan';
import type { HopPlanInput } from './planInput';

/** What a second dish does at one spacing below (or above) the main one. */
export interface DiversityPoint {
	/** Between the centres, m. */
	spacingM: number;
	/** Outage by flat fades without over with, at the end that gains less. */
	improvement: number;
	/** Of the hop. */
	available: CountedAvailability;
}

/** The nearest that two dishes are mounted, centre to centre, m. */
const LEAST_M = 1;
const STEP_M = 1;
/** Widest spacing shown, m. */
const MOST_M = 30;
/** A dish stands at least this far above the ground, m. */
const LOWEST_AGL_M = 1;

/**
 * What the second dishes of space diversity do at every spacing, on the side of the main dishes where they
 * are planned: further apart the fades differ more, and further down the ground comes into the second path.
 * Empty for other configurations.
 */
export function diversityCurve(input: HopPlanInput): DiversityPoint[] {
	const { A, B } = input.ends;
	if (input.configuration.kind !== 'space-diversity' || !A.secondDish || !B.secondDish) return [];
	const side = A.secondDishOffsetM > 0 ? 1 : -1;
	const lowest = Math.min(A.antennaHeightAglM, B.antennaHeightAglM) - LOWEST_AGL_M;
	const most = side > 0 ? MOST_M : Math.min(MOST_M, lowest);
	const points: DiversityPoint[] = [];
	for (let spacingM = LEAST_M; spacingM <= most; spacingM += STEP_M) {
		const secondDishOffsetM = side * spacingM;
		const availability = availabilityOf({
			...input,
			ends: { A: { ...A, secondDishOffsetM }, B: { ...B, secondDishOffsetM } }
		});
		if (!availability?.diversity) continue;
		points.push({
			spacingM,
			improvement: availability.diversity.factor,
			available: { percent: availability.achievedPercent, bound: availability.bound ?? null }
		});
	}
	return points;
}

/** Of spacings that are all but equally good the smallest, which is the easiest to mount; undefined without any. */
export function bestSpacing(points: readonly DiversityPoint[]): DiversityPoint | undefined {
	const most = Math.max(...points.map(({ improvement }) => improvement));
	return points.find(({ improvement }) => improvement >= ENOUGH * most);
}
/** So much of the best is as good as the best. */
const ENOUGH = 0.98;
