import type { Axis } from '../ends';
import type { Location } from '../locate/locator';

export interface GuidanceReading {
	azimuthDeg: number;
	tiltDeg: number;
	levelDbm: number;
	elapsedS?: number | undefined;
}

/** What is known at one end while the far end stands still. Positions are the mount's own. */
export interface GuidanceInput {
	frequencyGhz: number;
	dishDiameterM: number;
	/** Half-power beamwidth of the catalogue; without it 70·λ/D. */
	beamwidthDeg?: number | undefined;
	plannedLevelDbm: number;
	floorDbm: number;
	toleranceDb: number;
	travel: { azimuthDeg: readonly [number, number]; tiltDeg: readonly [number, number] };
	/** Uncertainty of the first heading, one sigma about (0, 0). */
	prior: { azimuthSigmaDeg: number; tiltSigmaDeg: number };
	/** Those taken since the far end last moved, in order: the last is where the dish stands. */
	readings: readonly GuidanceReading[];
	/** As the last answer of this end gave it; absent at first. */
	memory?: GuidanceMemory | undefined;
}

/** What an end has learned in turns before this one; what a caller does not hand back is simply not known. */
export interface GuidanceMemory {
	/** Whole searches of this end in a row in which nothing was heard. */
	searches: number;
	/** Where this end found its main lobe, in degrees of the mount as it stands; null while it has not. */
	boresight: (Place & { sigmaDeg: number }) | null;
}

export interface Place {
	azimuthDeg: number;
	tiltDeg: number;
}

export interface Guidance {
	advice: 'sweep' | 'move' | 'hand-over' | 'lock' | 'check';
	/** The other axis stays where it stands. */
	sweep?: { axis: 'azimuth' | 'tilt'; fromDeg: number; toDeg: number; stepDeg: number };
	target?: Place;
	boresight: (Place & { sigmaDeg: number }) | null;
	probabilityOnMainLobe: number;
	/** With `check`, when the far end lies beyond an adjuster: by how much the whole mount must turn. */
	beyond?: { axis: 'azimuth' | 'tilt'; byDeg: number };
	/** With `check`: the search has had all its turns. */
	spent?: true;
	/** To be handed back with the next question of this end. */
	memory?: GuidanceMemory;
	reasons: string[];
}

/** A guidance without its map: what a step of the procedure says. */
export type Step = Pick<Guidance, 'advice' | 'target' | 'sweep' | 'reasons'>;

/** What an end knows when it asks: the question, its readings, and the map made of them. */
export interface Situation {
	input: GuidanceInput;
	readings: readonly GuidanceReading[];
	beamwidthDeg: number;
	location: Location;
	here: Place;
}

/** A place along one axis, degrees. */
export const at = (place: Place, axis: Axis): number =>
	axis === 'azimuth' ? place.azimuthDeg : place.tiltDeg;
/** The axis across. */
export const other = (axis: Axis): Axis => (axis === 'azimuth' ? 'tilt' : 'azimuth');

/** Least and most that the adjuster of an axis reaches, degrees. */
export function travelOf(input: GuidanceInput, axis: Axis): readonly [number, number] {
	return axis === 'azimuth' ? input.travel.azimuthDeg : input.travel.tiltDeg;
}

/**
 * A position held within the travel of its axis.
 *
 * @param deg any number, degrees of the mount
 */
export function clamped(input: GuidanceInput, axis: Axis, deg: number): number {
	const [least, most] = travelOf(input, axis);
	return Math.min(most, Math.max(least, deg));
}

/** Largest less smallest; 0 of none. */
export function range(values: readonly number[]): number {
	if (values.length === 0) return 0;
	return Math.max(...values) - Math.min(...values);
}
