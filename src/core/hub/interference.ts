import type { SteeredUnitPart } from '../catalogue/parts';
import { sumOfLevelsDb } from '../units/decibel';
import { itemAt } from '../units/lists';
import type { HubInput, HubUnitInput, TerminalInput } from './hubInput';
import { angleBetweenDeg, type Vector } from './scanWindow';
import { lookAlong, pathLossDb, powerWithinLimit, type TerminalPath } from './terminalLink';

/** A terminal that is served, with its unit and its path. */
export interface Served {
	terminal: TerminalInput;
	unit: HubUnitInput;
	path: TerminalPath;
	/** Loss of steering at the terminal, dB. */
	terminalScanDb: number;
}

/** Interference that a link gets from the other units of its hub, at worst, dBm; −Infinity of none. */
export interface HubInterference {
	downDbm: number;
	upDbm: number;
	/** Name of the unit that does most of it; null of none. */
	from: string | null;
}

/**
 * What a beam that is steered along one direction sends or takes along another, below its middle, dB.
 *
 * @param part whose beam it is
 * @param steered where the beam is steered
 * @param along the other direction
 * @param offFaceDeg of the other direction, off the face of the unit
 * Source: the parabolic main lobe 12·(θ/θ₃)² of ITU-R F.1336-5, §3, down to the highest lobe beside it.
 */
export function beamLossDb(
	part: SteeredUnitPart,
	steered: Vector,
	along: Vector,
	offFaceDeg: number
): number {
	if (offFaceDeg > 90) return part.backDb;
	const theta = angleBetweenDeg(steered, along);
	return Math.min(12 * (theta / part.beamwidthDeg) ** 2, part.sideLobeDb);
}

/**
 * What a receiver keeps off of a channel beside its own, dB; null of one two channels off, which does not reach it.
 *
 * @param ownGhz, otherGhz middles of both channels, above 0
 * @param widthMhz of both, above 0
 */
export function channelDistanceDb(
	receiver: SteeredUnitPart,
	ownGhz: number,
	otherGhz: number,
	widthMhz: number
): number | null {
	const apart = Math.round((Math.abs(ownGhz - otherGhz) * 1000) / widthMhz);
	if (apart === 0) return 0;
	return apart === 1 ? receiver.adjacentChannelDb : null;
}

/**
 * Interference of one served terminal and of its unit, each from every other unit of the hub with its beam
 * steered where it does most harm, all of them at once: the worst that can meet, not the mean.
 *
 * @param all every terminal that is served
 */
export function interferenceOf(
	hub: HubInput,
	one: Served,
	all: readonly Served[]
): HubInterference {
	const down: number[] = [];
	const up: number[] = [];
	let worst = { from: null as string | null, dbm: Number.NEGATIVE_INFINITY };
	for (const other of hub.units) {
		if (other.id === one.unit.id) continue;
		const served = all.filter(({ unit }) => unit.id === other.id);
		const atTerminal = channelDistanceDb(
			one.terminal.part,
			one.unit.frequencyGhz,
			other.frequencyGhz,
			hub.channelWidthMhz
		);
		const atUnit = channelDistanceDb(
			one.unit.part,
			one.unit.frequencyGhz,
			other.frequencyGhz,
			hub.channelWidthMhz
		);
		if (served.length === 0) continue;
		if (atTerminal !== null) {
			const most = Math.max(...served.map((to) => downDbm(hub, one, other, to) - atTerminal));
			down.push(most);
			if (most > worst.dbm) worst = { from: other.name, dbm: most };
		}
		if (atUnit !== null) {
			const most = Math.max(...served.map((by) => upDbm(hub, one, by) - atUnit));
			up.push(most);
			if (most > worst.dbm) worst = { from: other.name, dbm: most };
		}
	}
	return { downDbm: sumOfLevelsDb(down), upDbm: sumOfLevelsDb(up), from: worst.from };
}

/** What the other unit puts into this terminal while its beam serves another one. */
function downDbm(hub: HubInput, one: Served, other: HubUnitInput, to: Served): number {
	const { part } = other;
	const look = lookAlong(part, other, one.path.vector);
	const power = powerWithinLimit(part, itemAt(part.modulations, 0), hub);
	return (
		power +
		part.gainDbi -
		lookAlong(part, other, to.path.vector).scanLossDb -
		beamLossDb(part, to.path.vector, one.path.vector, look.offDeg) +
		one.terminal.part.gainDbi -
		one.terminalScanDb -
		pathLossDb(one.path)
	);
}

/** What another unit's terminal puts into this unit while that one listens to its own. */
function upDbm(hub: HubInput, one: Served, by: Served): number {
	const { part } = by.terminal;
	const own = one.unit.part;
	const look = lookAlong(own, one.unit, by.path.vector);
	const power = powerWithinLimit(part, itemAt(part.modulations, 0), hub);
	return (
		power +
		part.gainDbi -
		by.terminalScanDb -
		pathLossDb(by.path) +
		own.gainDbi -
		lookAlong(own, one.unit, one.path.vector).scanLossDb -
		beamLossDb(own, one.path.vector, by.path.vector, look.offDeg)
	);
}
