import type { Adjuster } from '../catalogue/parts';
import { adjusterTurns } from '../sweep/adjusterScale';

/** How far a hand turns past the target before coming back, turns: more than any thread's play. */
export const APPROACH_TURNS = 0.5;

/**
 * Nut positions that bring the dish to a target always from the same side, from lower turns upward
 * as a sweep runs, so that the play of the thread falls out.
 *
 * @param targetTurns from the adjuster’s centre, either way
 */
export function approachTurns(targetTurns: number): number[] {
	return [targetTurns - APPROACH_TURNS, targetTurns];
}

/** Nut positions of a sweep, first to last, evenly spaced in angle and in one direction. */
export function sweepTurns(
	adjuster: Adjuster,
	sweep: { fromDeg: number; toDeg: number; stepDeg: number }
): number[] {
	const count = Math.max(2, Math.round((sweep.toDeg - sweep.fromDeg) / sweep.stepDeg) + 1);
	return Array.from({ length: count }, (_, i) =>
		adjusterTurns(adjuster, sweep.fromDeg + ((sweep.toDeg - sweep.fromDeg) * i) / (count - 1))
	);
}
