import type { SteeredUnitPart } from '../catalogue/parts';
import { overlapShare } from '../interference/interference';
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
 * What a receiver does not take in of another channel, dB: what does not overlap, or what it keeps off of the next
 * one; null of one two channels off, which does not reach it.
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
	const [ownMhz, otherMhz] = [ownGhz * 1000, otherGhz * 1000];
	const share = overlapShare(otherMhz, widthMhz, ownMhz, widthMhz);
	if (share > 0) return -10 * Math.log10(share);
	return Math.abs(ownMhz - otherMhz) < 1.5 * widthMhz ? receiver.adjacentChannelDb : null;
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
		const served = all.filter(({ unit }) => unit.id === other.id);
		if (other.id === one.unit.id || served.length === 0) continue;
		const keptOffDb = (receiver: SteeredUnitPart): number =>
			channelDistanceDb(receiver, one.unit.frequencyGhz, other.frequencyGhz, hub.channelWidthMhz) ??
			Number.POSITIVE_INFINITY;
		const downMost =
			Math.max(...served.map((to) => downDbm(hub, one, other, to))) - keptOffDb(one.terminal.part);
		const upMost = Math.max(...served.map((by) => upDbm(hub, one, by))) - keptOffDb(one.unit.part);
		down.push(downMost);
		up.push(upMost);
		const dbm = Math.max(downMost, upMost);
		if (dbm > worst.dbm) worst = { from: other.name, dbm };
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
		one.path.atTerminal.scanLossDb -
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
		by.path.atTerminal.scanLossDb -
		pathLossDb(by.path) +
		own.gainDbi -
		lookAlong(own, one.unit, one.path.vector).scanLossDb -
		beamLossDb(own, one.path.vector, by.path.vector, look.offDeg)
	);
}
