import type {
	HubUnitPart,
	SteeredMounting,
	SteeredUnitPart,
	TerminalPart
} from '../catalogue/parts';
import type { GeoPoint } from '../geodesy/geodesic';
import type { Obstacle } from '../path/pathClearance';
import type { TerrainProfile } from '../path/samplePath';
import type { LinearPolarization } from '../propagation/rain';
import type { AimLimits } from './bestAim';
import type { FaceAim } from './scanWindow';

/** How a unit or a terminal is put up. */
export interface Mounted {
	how: SteeredMounting['how'];
	/** Bearing that the wall faces, degrees true; null where it is on no wall. */
	wallBearingDeg: number | null;
	/** Diameter of the pole, mm; null where it is on none, or nobody has measured it. */
	poleMm: number | null;
}

/** What is planned of a sector unit, without its part. */
export interface HubUnitValues extends Mounted, FaceAim {
	id: string;
	name: string;
	heightAglM: number;
	/** Middle of its channel, GHz; both directions share it in turns. */
	frequencyGhz: number;
}

/** What is planned of a terminal, without its part. */
export interface TerminalValues extends Mounted, GeoPoint {
	id: string;
	name: string;
	groundAmslM: number;
	heightAglM: number;
	/** The unit that is to serve it; null where the plan chooses. */
	unitId: string | null;
	/** Promised to it at any time, towards the terminal and from it, Mbit/s. */
	downMbitS: number;
	upMbitS: number;
	/** What stands on the ground between, from the hub on. */
	obstacles: readonly Obstacle[];
	/** Ground from the hub to the terminal; null where nobody has taken it. */
	profile: TerrainProfile | null;
}

/** Channel, limit and climate that a link of small units is judged by. */
export interface LinkConditions {
	channelWidthMhz: number;
	/** Highest power radiated in any direction that holds there, dBm EIRP; null where nobody has looked it up. */
	eirpLimitDbm: number | null;
	polarization: LinearPolarization;
	/** Rain exceeded for 0.01 % of an average year, mm/h. */
	rainRateMmH: number;
	/** Share of the year in which a terminal is to be linked, percent. */
	targetPercent: number;
	/** What is kept above a threshold in clear air before a modulation counts, dB. */
	reserveDb: number;
}

/** What is planned of a hub as a whole. */
export interface HubValues extends LinkConditions {
	/** Where the limit of the place stands. */
	limitSource: string;
}

/** Where the hub stands. */
export interface HubPlace extends GeoPoint {
	name: string;
	groundAmslM: number;
}

export type HubUnitInput = HubUnitValues & { part: HubUnitPart };
export type TerminalInput = TerminalValues & { part: TerminalPart };

/** A hub with its parts. */
export interface HubInput extends HubValues {
	place: HubPlace;
	units: readonly HubUnitInput[];
	terminals: readonly TerminalInput[];
}

/** Most units of a hub, and most terminals of one. */
export const MOST_UNITS = 4;
export const MOST_TERMINALS = 256;

/** The mounting of a part that is planned, if the part has such a one. */
export function mountingOf(part: SteeredUnitPart, { how }: Mounted): SteeredMounting | undefined {
	return part.mountings.find((mounting) => mounting.how === how);
}

/**
 * What a unit can be set to where it is put up: on a wall nothing pans, and some mountings do not tilt.
 *
 * @param part whose mounting it is; with a mounting that it has not, it does not tilt
 */
export function limitsOf(part: SteeredUnitPart, mounted: Mounted): AimLimits {
	const mounting = mountingOf(part, mounted);
	return {
		headingDeg: mounted.how === 'wall' ? (mounted.wallBearingDeg ?? 0) : null,
		tiltDeg: mounting ? [mounting.lowestTiltDeg, mounting.highestTiltDeg] : [0, 0]
	};
}

/** Antenna centre above mean sea level, m. */
export const amslOf = (at: { groundAmslM: number; heightAglM: number }): number =>
	at.groundAmslM + at.heightAglM;
