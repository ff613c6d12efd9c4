import type { Axis } from '../ends';
import { itemAt } from '../units/lists';
import { at, other, travelOf, type Place, type Situation } from './situation';

/** What was read in this turn, and with what beam. */
type Read = Pick<Situation, 'readings' | 'beamwidthDeg'>;

/** So many cuts of seven readings along one axis, and the place is still not settled. */
const MOST_CUTS = 5;
/** Readings between these distances of the middle tell its flanks. */
const FLANK_BEAMWIDTHS = [0.2, 0.95] as const;

/**
 * Whether the middle of an axis has been read from both flanks: a width claimed from the readings of
 * one flank alone rests on the pattern being the assumed one.
 */
export function bracketed(
	{ input, readings, beamwidthDeg }: Situation,
	place: Place,
	axis: Axis
): boolean {
	const [least, most] = travelOf(input, axis);
	const flank = (side: 1 | -1): boolean =>
		// Where the adjuster ends short of the flank, one flank must do.
		side * (side > 0 ? most : least) < side * at(place, axis) + 0.3 * beamwidthDeg ||
		readings.some((r) => {
			const along = (side * (at(r, axis) - at(place, axis))) / beamwidthDeg;
			const across = Math.abs(at(r, other(axis)) - at(place, other(axis))) / beamwidthDeg;
			return along > FLANK_BEAMWIDTHS[0] && along < FLANK_BEAMWIDTHS[1] && across < 0.5;
		});
	return flank(1) && flank(-1);
}

/** Whether more sweeps of the same place would only repeat what has not settled it. */
export function leadsNowhere(situation: Read, place: Place): boolean {
	const cuts = (['azimuth', 'tilt'] as const).map((axis) => cutCount(situation, place, axis));
	return Math.min(...cuts) >= 1 && Math.max(...cuts) >= MOST_CUTS;
}

/** How many places in a row, up to now, were guesses that led on to another. */
export function trailingGuesses({ readings, beamwidthDeg }: Read): number {
	let count = 0;
	for (let i = readings.length - 1; i > 0; i--) {
		const [p, q] = [itemAt(readings, i), itemAt(readings, i - 1)];
		const jump =
			Math.abs(p.azimuthDeg - q.azimuthDeg) > beamwidthDeg ||
			Math.abs(p.tiltDeg - q.tiltDeg) > 0.3 * beamwidthDeg;
		if (!jump) break;
		count += 1;
	}
	return count;
}

/** Whether the best guess has been read already: going there again would teach little. */
export function readNear({ readings, beamwidthDeg }: Read, place: Place): boolean {
	return readings.some(
		(r) =>
			Math.hypot(r.azimuthDeg - place.azimuthDeg, r.tiltDeg - place.tiltDeg) < 0.12 * beamwidthDeg
	);
}

/** How many readings about a place lie on a cut of an axis through it, in cuts of seven. */
export function cutCount({ readings, beamwidthDeg }: Read, place: Place, axis: Axis): number {
	const cross = other(axis);
	const on = readings.filter(
		(r) =>
			Math.abs(at(r, cross) - at(place, cross)) < 0.25 * beamwidthDeg &&
			Math.abs(at(r, axis) - at(place, axis)) < 1.2 * beamwidthDeg
	);
	return Math.floor(on.length / 7);
}
