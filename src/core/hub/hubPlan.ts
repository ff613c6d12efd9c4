import { receiverFloorDbm } from '../radio/receiverFloor';
import { thresholdRiseDb } from '../radio/thresholdRise';
import { itemAt, present } from '../units/lists';
import { bearingDifferenceDeg } from '../units/angle';
import { aimHub, type HubAims } from './aimHub';
import type { BestAim } from './bestAim';
import type {
	HubDirection,
	HubPlan,
	NoService,
	ServedTerminal,
	TerminalPlan,
	UnitPlan
} from './hubFigures';
import { hubFindings } from './hubFindings';
import {
	limitsOf,
	MOST_UNITS,
	type HubInput,
	type HubUnitInput,
	type TerminalInput
} from './hubInput';
import { interferenceOf, type HubInterference, type Served } from './interference';
import {
	lookAlong,
	marginsOf,
	modulationInUse,
	pathLossDb,
	rainOf,
	terminalPathOf,
	type LookAlong,
	type SteeredMargin,
	type TerminalPath
} from './terminalLink';

/** Path of every terminal from every unit, by unit and then by terminal, in the order of the plan. */
export type HubPaths = readonly (readonly TerminalPath[])[];

/** Every path of a hub. Nothing of it changes while a unit is turned. */
export function hubPathsOf(hub: HubInput): HubPaths {
	return hub.units.map((unit) =>
		hub.terminals.map((terminal) => terminalPathOf(hub, unit, terminal))
	);
}

/**
 * Headings and tilts for the units of a hub as they are mounted: {@link aimHub} over the terminals that a unit
 * can reach at all.
 *
 * @param paths of {@link hubPathsOf}
 */
export function aimsOf(hub: HubInput, paths: HubPaths): HubAims {
	const wanted = hub.terminals.flatMap((terminal, at) =>
		hub.units.some((unit, place) => canReach(hub, unit, terminal, pathAt(paths, place, at)))
			? [at]
			: []
	);
	const aims = aimHub(
		hub.units.map((unit) => ({
			reach: unit.part.scan,
			limits: limitsOf(unit.part, unit),
			most: unit.part.mostTerminals,
			heightAglM: unit.heightAglM
		})),
		wanted.map((at) => {
			const place = hub.units.findIndex(({ id }) => id === itemAt(hub.terminals, at).unitId);
			return {
				vectors: hub.units.map((_, unit) => pathAt(paths, unit, at).vector),
				only: place < 0 ? null : place
			};
		})
	);
	const order = leastTurned(hub, aims.units);
	const unitOf = hub.terminals.map((_, at) => {
		const place = wanted.indexOf(at);
		const unit = place < 0 ? null : itemAt(aims.unitOf, place);
		return unit === null ? null : order.indexOf(unit);
	});
	return { ...aims, units: order.map((unit) => itemAt(aims.units, unit)), unitOf };
}

/**
 * Which of the aims each unit takes: units that are alike may change places, and do so that they are turned the
 * least from where they look now.
 */
function leastTurned(hub: HubInput, aims: readonly BestAim[]): number[] {
	const kinds = hub.units.map(({ id, part, heightAglM, how, wallBearingDeg }) =>
		hub.terminals.some(({ unitId }) => unitId === id)
			? id
			: JSON.stringify([part.code, heightAglM, how, wallBearingDeg])
	);
	const turnDeg = (unit: number, aim: number): number =>
		Math.abs(
			bearingDifferenceDeg(itemAt(hub.units, unit).headingDeg, itemAt(aims, aim).aim.headingDeg)
		);
	const total = (order: readonly number[]): number =>
		order.reduce((sum, aim, unit) => sum + turnDeg(unit, aim), 0);
	let best = aims.map((_, i) => i);
	const tryOrders = (chosen: readonly number[]): void => {
		const unit = chosen.length;
		if (unit === aims.length) {
			if (total(chosen) < total(best) - 1e-9) best = [...chosen];
			return;
		}
		aims.forEach((_, aim) => {
			if (!chosen.includes(aim) && kinds[aim] === kinds[unit]) tryOrders([...chosen, aim]);
		});
	};
	tryOrders([]);
	return best;
}

/** What so many units of one kind would make of a spread of terminals. */
export interface UnitChoice {
	units: number;
	/** Terminals that lie in no window then, of those within reach. */
	left: number;
	/** Smallest margin of the others, degrees. */
	marginDeg: number;
	/** Whether nothing better is possible with so many. */
	proved: boolean;
}

/**
 * How far one to four units like the first one get, each turned as is best.
 *
 * @param paths of {@link hubPathsOf}
 */
export function unitChoices(hub: HubInput, paths: HubPaths): UnitChoice[] {
	const [first] = hub.units;
	const [own] = paths;
	if (!first || !own) return [];
	const terminals = hub.terminals.map((terminal) => ({ ...terminal, unitId: null }));
	const reached = terminals.filter((terminal, at) =>
		canReach(hub, first, terminal, itemAt(own, at))
	).length;
	return Array.from({ length: MOST_UNITS }, (_, i) => {
		const units = Array.from({ length: i + 1 }, (__, at) => ({ ...first, id: `${at}` }));
		const aims = aimsOf(
			{ ...hub, units, terminals },
			units.map(() => own)
		);
		const { marginDeg, proved, unitOf } = aims;
		const left = reached - unitOf.filter((unit) => unit !== null).length;
		return { units: i + 1, left, marginDeg, proved };
	});
}

const pathAt = (paths: HubPaths, unit: number, terminal: number): TerminalPath =>
	itemAt(itemAt(paths, unit), terminal);

/** Whether a unit that looked straight at a terminal would be heard there, and heard from there. */
function canReach(
	hub: HubInput,
	unit: HubUnitInput,
	terminal: TerminalInput,
	path: TerminalPath
): boolean {
	const { atTerminal } = path;
	const fixedDb = pathLossDb(path) + atTerminal.scanLossDb;
	return (
		atTerminal.marginDeg >= 0 &&
		isUsable(hub, marginsOf(hub, unit.part, terminal.part, fixedDb, 0)) &&
		isUsable(hub, marginsOf(hub, terminal.part, unit.part, fixedDb, 0))
	);
}

const isUsable = (hub: HubInput, margins: readonly SteeredMargin[]): boolean =>
	itemAt(margins, 0).marginDb >= hub.reserveDb;

/** What one unit could do for a terminal. */
interface Candidate {
	place: number;
	unit: HubUnitInput;
	path: TerminalPath;
	atUnit: LookAlong;
	/** Losses of path and steering together, the same both ways, dB. */
	fixedDb: number;
	down: SteeredMargin[];
	up: SteeredMargin[];
}

/**
 * A hub as it is aimed: which unit serves which terminal, level, rate, rain and interference of each in both
 * directions, what the promises take of the air time, and what is wrong with the plan.
 *
 * A terminal goes to the unit it is pinned to, otherwise to the one that gives it the better level; where that
 * one has no room, to the next that has.
 *
 * @param paths of {@link hubPathsOf}, for the same places, heights and channels
 */
export function planHub(hub: HubInput, paths: HubPaths): HubPlan {
	const candidates = hub.terminals.map((terminal, at) =>
		hub.units
			.filter(({ id }) => terminal.unitId === null || id === terminal.unitId)
			.map((unit) => candidateOf(hub, unit, terminal, paths, at))
	);
	const chosen = chosenOf(hub, candidates);
	const all = chosen.flatMap((candidate, at) =>
		candidate ? [servedOf(candidate, itemAt(hub.terminals, at))] : []
	);
	const terminals = hub.terminals.map((terminal, at): TerminalPlan => {
		const candidate = chosen[at];
		const possible = itemAt(candidates, at);
		if (candidate) {
			const others = possible
				.filter((other) => other !== candidate && isGood(hub, other))
				.map(({ unit }) => unit.name);
			const interference = interferenceOf(hub, servedOf(candidate, terminal), all);
			const served = serve(hub, candidate, terminal, interference, others);
			const why: NoService | null = served ? null : { code: 'drowned', byName: interference.from };
			return { terminal, path: candidate.path, served: served ?? null, why };
		}
		const nearest = nearestOf(possible);
		return {
			terminal,
			path: nearest ? nearest.path : terminalPathOf(hub, NO_UNIT, terminal),
			served: null,
			why: whyNot(hub, terminal, possible, nearest)
		};
	});
	const units = hub.units.map((unit): UnitPlan => {
		const own = terminals.flatMap(({ served }, at) =>
			served?.unit.id === unit.id ? [{ at, served }] : []
		);
		return {
			unit,
			terminals: own.map(({ at }) => at),
			marginDeg: own.length ? Math.min(...own.map(({ served }) => served.atUnit.marginDeg)) : null,
			airTime: own.reduce((sum, { served }) => sum + served.airTime, 0),
			airTimeThere: unit.part.airTimePercent / 100
		};
	});
	return { units, terminals, findings: hubFindings(hub, units, terminals) };
}

/** A hub without any unit still has a path to its terminals. */
const NO_UNIT = { heightAglM: 0, frequencyGhz: 60 };

function candidateOf(
	hub: HubInput,
	unit: HubUnitInput,
	terminal: TerminalInput,
	paths: HubPaths,
	at: number
): Candidate {
	const place = hub.units.indexOf(unit);
	const path = pathAt(paths, place, at);
	const atUnit = lookAlong(unit.part, unit, path.vector);
	const fixedDb = pathLossDb(path) + atUnit.scanLossDb + path.atTerminal.scanLossDb;
	return {
		...{ place, unit, path, atUnit, fixedDb },
		down: marginsOf(hub, unit.part, terminal.part, fixedDb, 0),
		up: marginsOf(hub, terminal.part, unit.part, fixedDb, 0)
	};
}

const worseMarginDb = ({ down, up }: Candidate): number =>
	Math.min(itemAt(down, 0).marginDb, itemAt(up, 0).marginDb);

const inWindows = ({ atUnit, path }: Candidate): boolean =>
	atUnit.marginDeg >= 0 && path.atTerminal.marginDeg >= 0;

const isGood = (hub: HubInput, candidate: Candidate): boolean =>
	inWindows(candidate) && worseMarginDb(candidate) >= hub.reserveDb;

/** The unit of each terminal: those with the fewest choices first, each to the best level that has room. */
function chosenOf(
	hub: HubInput,
	candidates: readonly (readonly Candidate[])[]
): (Candidate | null)[] {
	const chosen: (Candidate | null)[] = candidates.map(() => null);
	const load = hub.units.map(() => ({ count: 0, airTime: 0 }));
	const turns = candidates
		.map((possible, at) => ({ at, good: possible.filter((one) => isGood(hub, one)) }))
		.sort((a, b) => a.good.length - b.good.length || a.at - b.at);
	for (const { at, good } of turns) {
		const terminal = itemAt(hub.terminals, at);
		const open = good
			.filter(({ place, unit }) => itemAt(load, place).count < unit.part.mostTerminals)
			.map((candidate) => {
				const takes = airTimeOf(hub, terminal, candidate.down, candidate.up) ?? 0;
				const after = itemAt(load, candidate.place).airTime + takes;
				const fits = after <= candidate.unit.part.airTimePercent / 100;
				return { candidate, takes, fits };
			})
			.sort(
				(a, b) =>
					Number(b.fits) - Number(a.fits) || worseMarginDb(b.candidate) - worseMarginDb(a.candidate)
			);
		const [first] = open;
		if (!first) continue;
		chosen[at] = first.candidate;
		const own = itemAt(load, first.candidate.place);
		own.count++;
		own.airTime += first.takes;
	}
	return chosen;
}

/** Share of the air time that a promise takes; undefined where a direction has no modulation. */
function airTimeOf(
	hub: HubInput,
	{ downMbitS, upMbitS }: TerminalInput,
	down: readonly SteeredMargin[],
	up: readonly SteeredMargin[]
): number | undefined {
	const [downUsed, upUsed] = [
		modulationInUse(down, hub.reserveDb),
		modulationInUse(up, hub.reserveDb)
	];
	if (!downUsed || !upUsed) return undefined;
	return downMbitS / rateOf(hub, downUsed) + upMbitS / rateOf(hub, upUsed);
}

const rateOf = (hub: HubInput, { modulation }: SteeredMargin): number =>
	modulation.mbitSPerMhz * hub.channelWidthMhz;

const servedOf = (candidate: Candidate, terminal: TerminalInput): Served => ({
	terminal,
	unit: candidate.unit,
	path: candidate.path
});

/** A chosen terminal with the interference it has; undefined where that leaves it no modulation. */
function serve(
	hub: HubInput,
	candidate: Candidate,
	terminal: TerminalInput,
	interference: HubInterference,
	others: string[]
): ServedTerminal | undefined {
	const { unit, path, atUnit, fixedDb } = candidate;
	const floorOf = (part: { noiseFigureDb: number }): number =>
		receiverFloorDbm(hub.channelWidthMhz, part.noiseFigureDb);
	const downRise = thresholdRiseDb(interference.downDbm, floorOf(terminal.part));
	const upRise = thresholdRiseDb(interference.upDbm, floorOf(unit.part));
	const down = directionOf(
		hub,
		unit,
		path,
		marginsOf(hub, unit.part, terminal.part, fixedDb, downRise)
	);
	const up = directionOf(
		hub,
		unit,
		path,
		marginsOf(hub, terminal.part, unit.part, fixedDb, upRise)
	);
	if (!down || !up) return undefined;
	const airTime = present(airTimeOf(hub, terminal, down.margins, up.margins), 'modulation in use');
	const rain = down.rain.percent >= up.rain.percent ? down.rain : up.rain;
	const [low, high] = terminal.part.rangeGhz;
	const half = hub.channelWidthMhz / 2000;
	return {
		...{ unit, path, atUnit, down, up, interference, airTime, rain, others },
		terminalChannelFits:
			terminal.part.channelWidthsMhz.includes(hub.channelWidthMhz) &&
			unit.frequencyGhz - half >= low - 1e-9 &&
			unit.frequencyGhz + half <= high + 1e-9
	};
}

function directionOf(
	hub: HubInput,
	unit: HubUnitInput,
	path: TerminalPath,
	margins: SteeredMargin[]
): HubDirection | undefined {
	const used = modulationInUse(margins, hub.reserveDb);
	if (!used) return undefined;
	return { margins, used, rateMbitS: rateOf(hub, used), rain: rainOf(hub, unit, path, margins) };
}

/** The unit whose window is the least far away. */
const nearestOf = (possible: readonly Candidate[]): Candidate | undefined =>
	possible.reduce<Candidate | undefined>(
		(best, one) => (best && best.atUnit.marginDeg >= one.atUnit.marginDeg ? best : one),
		undefined
	);

function whyNot(
	hub: HubInput,
	terminal: TerminalInput,
	possible: readonly Candidate[],
	nearest: Candidate | undefined
): NoService {
	if (!nearest) return { code: 'no-window', unitName: null, outsideDeg: 0 };
	if (nearest.path.atTerminal.marginDeg < 0) {
		return { code: 'terminal-window', outsideDeg: -nearest.path.atTerminal.marginDeg };
	}
	const good = possible.filter((one) => isGood(hub, one));
	const [full] = good;
	if (full) return { code: 'full', unitName: full.unit.name };
	const missingDb = hub.reserveDb - worseMarginDb(nearest);
	const straightDb = missingDb - nearest.atUnit.scanLossDb;
	const { obstructionDb } = nearest.path;
	if (straightDb > 0 && straightDb <= obstructionDb) {
		return { code: 'blocked', obstructionDb, missingDb: straightDb };
	}
	if (straightDb > 0) return { code: 'too-weak', missingDb: straightDb };
	if (nearest.atUnit.marginDeg < 0) {
		return {
			code: 'no-window',
			unitName: nearest.unit.name,
			outsideDeg: -nearest.atUnit.marginDeg
		};
	}
	return { code: 'too-weak', missingDb };
}
