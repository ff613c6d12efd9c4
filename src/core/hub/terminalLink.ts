import type { Modulation, SteeredUnitPart } from '../catalogue/parts';
import { inverseGeodesic } from '../geodesy/geodesic';
import { antennaTiltDeg, STANDARD_K_FACTOR } from '../geodesy/tilt';
import { obstructionLoss } from '../path/obstructionLoss';
import { pathClearance, type ClearancePoint } from '../path/pathClearance';
import { freeSpaceLossDb } from '../propagation/freeSpace';
import { gasAttenuation } from '../propagation/gas';
import { rainOutage, type RainOutage } from '../propagation/rainOutage';
import { receiverFloorDbm } from '../radio/receiverFloor';
import { itemAt } from '../units/lists';
import {
	amslOf,
	limitsOf,
	type HubInput,
	type HubUnitInput,
	type LinkConditions,
	type TerminalInput
} from './hubInput';
import { bestAim } from './bestAim';
import {
	marginInWindowDeg,
	offFaceOf,
	scanLossDb,
	vectorOf,
	type Direction,
	type FaceAim,
	type OffFace,
	type Vector
} from './scanWindow';

/** The path between the hub and a terminal, whatever the units look at. */
export interface TerminalPath {
	pathKm: number;
	/** From the hub to the terminal, and from the terminal to the hub, degrees true. */
	bearingDeg: number;
	backBearingDeg: number;
	/** Above the horizontal at the hub's unit, and at the terminal, degrees. */
	elevationDeg: number;
	backElevationDeg: number;
	vector: Vector;
	/** How the terminal is best set where it is put up, and how it then looks at the hub. */
	atTerminal: FaceAim & LookAlong;
	freeSpaceDb: number;
	oxygenDb: number;
	vapourDb: number;
	/** Loss of what stands in the way; 0 without a profile. */
	obstructionDb: number;
	/** Point of least clearance; null without a profile. */
	worst: ClearancePoint | null;
}

/** A unit or terminal as it looks along the path. */
export interface LookAlong extends OffFace {
	marginDeg: number;
	scanLossDb: number;
}

/** One direction of a link in one modulation. */
export interface SteeredMargin {
	modulation: Modulation;
	powerDbm: number;
	levelDbm: number;
	thresholdDbm: number;
	marginDb: number;
}

/**
 * The path from a unit to a terminal: as long, as steep and as obstructed as it is for that unit's height.
 *
 * @param terminal within 0.005 to 50 km of the hub
 * @throws OutOfRangeError outside the ranges of the laws it asks
 * Source: ITU-R P.525 free space, P.676-13 gases of the reference air, P.526-15 obstruction at k = 4/3.
 */
export function terminalPathOf(
	hub: Pick<HubInput, 'place'>,
	unit: Pick<HubUnitInput, 'heightAglM' | 'frequencyGhz'>,
	terminal: TerminalInput
): TerminalPath {
	const line = inverseGeodesic(hub.place, terminal);
	const pathM = Math.max(1, line.lengthM);
	const pathKm = pathM / 1000;
	const hubAmslM = hub.place.groundAmslM + unit.heightAglM;
	const elevationDeg = antennaTiltDeg(hubAmslM, amslOf(terminal), pathM);
	const gas = gasAttenuation(unit.frequencyGhz);
	const { profile, obstacles } = terminal;
	const clearance =
		profile &&
		pathClearance({
			profile,
			obstacles,
			antennaAmslM: { A: hubAmslM, B: amslOf(terminal) },
			frequencyGhz: unit.frequencyGhz,
			kFactor: STANDARD_K_FACTOR
		});
	const backElevationDeg = antennaTiltDeg(amslOf(terminal), hubAmslM, pathM);
	return {
		pathKm,
		bearingDeg: line.azimuthAtFirstDeg,
		backBearingDeg: line.azimuthAtSecondDeg,
		elevationDeg,
		backElevationDeg,
		atTerminal: terminalAim(terminal, {
			azimuthDeg: line.azimuthAtSecondDeg,
			elevationDeg: backElevationDeg
		}),
		vector: vectorOf({ azimuthDeg: line.azimuthAtFirstDeg, elevationDeg }),
		freeSpaceDb: freeSpaceLossDb(unit.frequencyGhz, pathKm),
		oxygenDb: gas.oxygenDbKm * pathKm,
		vapourDb: gas.waterVapourDbKm * pathKm,
		obstructionDb: clearance ? obstructionLoss(clearance, unit.frequencyGhz).lossDb : 0,
		worst: clearance ? clearance.worst : null
	};
}

/** What the path takes together, dB. */
export const pathLossDb = (path: TerminalPath): number =>
	path.freeSpaceDb + path.oxygenDb + path.vapourDb + path.obstructionDb;

/** How something that is set to an aim looks along a direction. */
export function lookAlong(part: SteeredUnitPart, aim: FaceAim, vector: Vector): LookAlong {
	const off = offFaceOf(vector, aim);
	return {
		...off,
		marginDeg: marginInWindowDeg(off, part.scan),
		scanLossDb: scanLossDb(part.scan.loss, off.offDeg)
	};
}

function terminalAim(terminal: TerminalInput, hub: Direction): FaceAim & LookAlong {
	const { headingDeg, tiltDeg } = limitsOf(terminal.part, terminal);
	const vector = vectorOf(hub);
	const limits = { headingDeg: headingDeg ?? hub.azimuthDeg, tiltDeg };
	const { aim } = bestAim([vector], terminal.part.scan, limits);
	return { ...aim, ...lookAlong(terminal.part, aim, vector) };
}

/** Power of a sender in one modulation that keeps the limit of the place in every direction it can look, dBm. */
export function powerWithinLimit(
	sender: SteeredUnitPart,
	modulation: Modulation,
	{ eirpLimitDbm }: LinkConditions
): number {
	const most = modulation.maxPowerDbm;
	return eirpLimitDbm === null ? most : Math.min(most, eirpLimitDbm - sender.gainDbi);
}

/**
 * What each modulation has in hand in one direction, in clear air, dB.
 *
 * @param fixedDb losses of the path and of steering at both ends together
 * @param riseDb what interference adds to the noise of the receiver, 0 or more
 */
export function marginsOf(
	conditions: LinkConditions,
	sender: SteeredUnitPart,
	receiver: SteeredUnitPart,
	fixedDb: number,
	riseDb: number
): SteeredMargin[] {
	const floorDbm = receiverFloorDbm(conditions.channelWidthMhz, receiver.noiseFigureDb);
	return sender.modulations.map((modulation) => {
		const powerDbm = powerWithinLimit(sender, modulation, conditions);
		const levelDbm = powerDbm + sender.gainDbi + receiver.gainDbi - fixedDb;
		const thresholdDbm = floorDbm + riseDb + modulation.requiredSnrDb;
		return { modulation, powerDbm, levelDbm, thresholdDbm, marginDb: levelDbm - thresholdDbm };
	});
}

/**
 * The fastest modulation that keeps the reserve in clear air; undefined where none does.
 *
 * @param reserveDb 0 or more
 */
export function modulationInUse(
	margins: readonly SteeredMargin[],
	reserveDb: number
): SteeredMargin | undefined {
	return margins.filter(({ marginDb }) => marginDb >= reserveDb).at(-1);
}

/** Rain that takes the most robust modulation away. */
export function rainOf(
	conditions: LinkConditions,
	unit: Pick<HubUnitInput, 'frequencyGhz'>,
	path: Pick<TerminalPath, 'pathKm'>,
	margins: readonly SteeredMargin[]
): RainOutage {
	return rainOutage({
		frequencyGhz: unit.frequencyGhz,
		pathKm: path.pathKm,
		polarization: conditions.polarization,
		rainRate001MmH: conditions.rainRateMmH,
		marginDb: itemAt(margins, 0).marginDb
	});
}
