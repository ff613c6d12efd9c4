import type { MountPart } from '../catalogue/parts';
import type { Axis } from '../ends';

/** A move of the dish as the hand at the nut makes it. */
export interface NutMove {
	/** Fasteners that hold this axis: loosened just enough. */
	loosen: string[];
	/** Which way the nut turns, and from where that is seen; null where the mount's sheet does not say. */
	way: 'clockwise' | 'anticlockwise' | null;
	seenFrom: string | null;
	/** Whole turns, and flats of the nut beyond them. */
	turns: number;
	flats: number;
	/** Flats that the nut has: a turn. */
	ofFlats: number;
	/** Thread that passes the nut, mm. */
	rodMm: number;
	/** Free length of the rod after it, mm; null where it is not known. */
	standsMm: number | null;
}

/**
 * A move of one adjuster in the terms of its nut and rod.
 *
 * @param fromTurns, toTurns position of the nut from the middle, positive to the right or up
 * @param centred whether the middle was the rod’s own: false once the dish was set by other means
 */
export function nutMove(
	mount: MountPart,
	axis: Axis,
	fromTurns: number,
	toTurns: number,
	centred: boolean
): NutMove {
	const { nut, threadPitchMm, nutFlats } = mount[axis];
	const change = toTurns - fromTurns;
	const flatsInAll = Math.round(Math.abs(change) * nutFlats);
	const clockwise = nut && change > 0 === (nut.clockwise === 'right-or-up');
	const middleMm = mount.installation?.centredRodMm[axis];
	// Turned clockwise by the sign of the position, the rod is longer or shorter by as much thread.
	const longer = nut && (nut.rod === 'longer') === (nut.clockwise === 'right-or-up') ? 1 : -1;
	return {
		loosen: mount.fasteners.filter(({ locks }) => locks === axis).map(({ name }) => name),
		way: change === 0 || clockwise === undefined ? null : clockwise ? 'clockwise' : 'anticlockwise',
		seenFrom: nut?.seenFrom ?? null,
		turns: Math.floor(flatsInAll / nutFlats),
		flats: flatsInAll % nutFlats,
		ofFlats: nutFlats,
		rodMm: Math.abs(change) * threadPitchMm,
		standsMm:
			centred && nut && middleMm !== undefined ? middleMm + longer * toTurns * threadPitchMm : null
	};
}
