import { stationState, type HubState, type StationState } from '../bringup/foldHub';
import type { HubWork } from '../bringup/bringUp';
import type { LinkCause } from '../bringup/linkCauses';
import type { LinkTest } from '../bringup/linkTests';
import type { HubRecordPayloads } from '../bringup/hubRecords';
import type { Station, TerminalStation } from '../bringup/stations';
import type { LampSeen } from '../catalogue/installation';
import { hubPathsOf, planHub, type HubPaths } from '../hub/hubPlan';
import type { ServedTerminal } from '../hub/hubFigures';
import type { HubInput } from '../hub/hubInput';
import { vectorOf, type FaceAim } from '../hub/scanWindow';
import { lookAlong } from '../hub/terminalLink';
import { judgeStep } from '../tower/judgeStep';
import { stepStateOf } from '../tower/buildState';
import type { BuildStep } from '../tower/buildStep';
import { bearingDifferenceDeg } from '../units/angle';
import { itemAt } from '../units/lists';
import { makeRandomStream, normalDeviate, type RandomStream } from './random';

/** A trouble that stands at a terminal, or in its unit, until it is set right. */
export interface PlantedTrouble {
	/** Id of the terminal. */
	terminal: string;
	cause: LinkCause;
}

/** What stands in for the radios and the air of a hub for practice. */
export interface HubStandIn {
	/** A whole number of 32 bits. */
	seed: number;
	planted: readonly PlantedTrouble[];
}

/** Further out of a window than this, whatever it is, is out, degrees. */
const OUT_BY_DEG = 12;
/** What a wall or a crown in the line takes at these frequencies, and a downpour, dB. */
const BLOCKED_DB = 45;
const DOWNPOUR_DB = 40;
/** Scatter of a level from look to look, dB. */
const SCATTER_DB = 0.6;
/** What rates on a page are above or below those of the modulation, share. */
const RATE_SCATTER = 0.03;
/** Below the plan by this much a lamp says weak, dB. */
const WEAK_DB = 6;

/** What stands there in truth. */
interface Truth {
	work: HubWork;
	state: HubState;
	standIn: HubStandIn;
	random: RandomStream;
}

/** The hub as it truly stands, by what was recorded and what is planted. */
export function truthOf(work: HubWork, state: HubState, standIn: HubStandIn): Truth {
	return { work, state, standIn, random: makeRandomStream(standIn.seed + 7919 * state.lastSeq) };
}

/** Whether a trouble is at work at a terminal, planted and not set right. */
function atWork({ work, state, standIn }: Truth, terminal: string, cause: LinkCause): boolean {
	const unit = truthUnit(work, terminal);
	const remedied = [terminal, ...(cause === 'unit-off' && unit ? [unit] : [])].some((id) =>
		stationState(state, id).remedies.some((remedy) => remedy.cause === cause)
	);
	return (
		!remedied && standIn.planted.some((one) => one.terminal === terminal && one.cause === cause)
	);
}

function truthUnit(work: HubWork, terminal: string): string | null {
	const station = work.stations.find(({ id }) => id === terminal);
	return station?.kind === 'terminal' ? station.unitId : null;
}

/** Whether one that takes the unit along stands at any of its terminals. */
function unitTurned(truth: Truth, unitId: string): boolean {
	return truth.work.stations.some(
		(one) => one.kind === 'terminal' && one.unitId === unitId && atWork(truth, one.id, 'unit-off')
	);
}

function isPowered(
	{ work }: Truth,
	station: Station,
	own: StationState
): 'dark' | 'starting' | 'on' {
	const stepOf = (base: string): BuildStep | undefined =>
		work.stepsOf(station).find((step) => step.base === base);
	const power = stepOf('station-power');
	const done = power && own.steps[power.key];
	if (!power || !done || judgeStep(power, done).verdict !== 'good') return 'dark';
	const boot = stepOf('station-boot');
	return boot && stepStateOf(boot, own).state === 'open' ? 'starting' : 'on';
}

/** How a station is set in truth: as it was measured when it was put up, and by what is planted. */
function aimOf(truth: Truth, station: Station, turnedDeg: number): FaceAim {
	const own = stationState(truth.state, station.id);
	const pointed = own.pointings.at(-1)?.headingDeg;
	return {
		headingDeg:
			(pointed ?? own.steps['station-heading']?.value ?? station.aim.headingDeg) + turnedDeg,
		tiltDeg: own.steps['station-tilt']?.value ?? station.aim.tiltDeg
	};
}

/** What serves a terminal as everything stands in truth; null where nothing does. */
function servedInTruth(truth: Truth, terminal: TerminalStation): ServedTerminal | null {
	const { work } = truth;
	const { hub } = work;
	const actual: HubInput = {
		...hub,
		units: hub.units.map((unit) => {
			const station = work.stations.find(({ id }) => id === unit.id);
			const turned = unitTurned(truth, unit.id) ? 2 * unit.part.scan.azimuthDeg + OUT_BY_DEG : 0;
			return station ? { ...unit, ...aimOf(truth, station, turned) } : unit;
		}),
		terminals: hub.terminals
			.filter(({ id }) => id === terminal.id)
			.map((one) => ({ ...one, unitId: terminal.unitId }))
	};
	const off = atWork(truth, terminal.id, 'terminal-off');
	const aim = aimOf(truth, terminal, off ? terminal.part.scan.azimuthDeg + OUT_BY_DEG : 0);
	const extraDb =
		(atWork(truth, terminal.id, 'blocked') ? BLOCKED_DB : 0) +
		(atWork(truth, terminal.id, 'rain') ? DOWNPOUR_DB : 0);
	const paths: HubPaths = hubPathsOf(actual).map((ofUnit) =>
		ofUnit.map((path) => ({
			...path,
			obstructionDb: path.obstructionDb + extraDb,
			atTerminal: {
				...aim,
				...lookAlong(
					terminal.part,
					aim,
					vectorOf({ azimuthDeg: path.backBearingDeg, elevationDeg: path.backElevationDeg })
				)
			}
		}))
	);
	// A radio keeps the reserve while it can, and holds on by what is left.
	const ofReserve = (reserveDb: number): ServedTerminal | null =>
		itemAt(planHub({ ...actual, reserveDb }, paths).terminals, 0).served;
	return ofReserve(hub.reserveDb) ?? ofReserve(0);
}

/** The lamp of a unit or a terminal, as it truly shows. */
export function lampOf(truth: Truth, station: Station): LampSeen {
	const own = stationState(truth.state, station.id);
	if (station.kind === 'terminal') {
		if (atWork(truth, station.id, 'power-kind') || atWork(truth, station.id, 'cable'))
			return 'dark';
	}
	const power = isPowered(truth, station, own);
	if (power !== 'on') return power;
	if (station.kind === 'unit') {
		const linked = truth.work.stations.some(
			(one) => one.kind === 'terminal' && one.unitId === station.id && linkOf(truth, one) !== null
		);
		return linked ? 'linked' : 'searching';
	}
	const link = linkOf(truth, station);
	if (!link) return 'searching';
	const planned = station.served?.down.used.levelDbm ?? link.down.used.levelDbm;
	return planned - link.down.used.levelDbm > WEAK_DB ? 'weak' : 'linked';
}

/** The link of a terminal as it truly is; null where there is none. */
function linkOf(truth: Truth, terminal: TerminalStation): ServedTerminal | null {
	const { work, state } = truth;
	const unit = work.stations.find(({ id }) => id === terminal.unitId);
	if (!unit || isPowered(truth, unit, stationState(state, unit.id)) !== 'on') return null;
	if (isPowered(truth, terminal, stationState(state, terminal.id)) !== 'on') return null;
	const cut = (['power-kind', 'cable', 'channel', 'wrong-unit'] as const).some((cause) =>
		atWork(truth, terminal.id, cause)
	);
	return cut ? null : servedInTruth(truth, terminal);
}

/** What the page of a terminal shows of its link; null where it has none. */
export function pageOf(
	truth: Truth,
	terminal: TerminalStation
): Omit<HubRecordPayloads['link-level'], 'source'> | null {
	const link = linkOf(truth, terminal);
	if (!link) return null;
	const level = (dbm: number): number =>
		Math.round((dbm + SCATTER_DB * normalDeviate(truth.random)) * 10) / 10;
	const rate = (mbitS: number): number =>
		Math.round(mbitS * (1 + RATE_SCATTER * normalDeviate(truth.random)));
	return {
		downDbm: level(link.down.used.levelDbm),
		upDbm: level(link.up.used.levelDbm),
		downMbitS: rate(link.down.rateMbitS),
		upMbitS: rate(link.up.rateMbitS)
	};
}

/** How a test comes out in truth. */
export function testOutcome(truth: Truth, terminal: TerminalStation, test: LinkTest): boolean {
	const is = (cause: LinkCause): boolean => atWork(truth, terminal.id, cause);
	switch (test) {
		case 'raining':
			return is('rain');
		case 'hub-in-sight':
			return !is('blocked');
		case 'looks-at-hub':
			return !is('terminal-off') && withinRoom(truth, terminal);
		case 'unit-as-planned':
			return terminal.unitId === null || !unitTurned(truth, terminal.unitId);
		case 'same-channel':
			return !is('channel');
		case 'right-unit':
			return !is('wrong-unit');
		case 'source-fits':
			return !is('power-kind');
		case 'short-cable':
			return !is('cable');
	}
}

function withinRoom(truth: Truth, terminal: TerminalStation): boolean {
	const { headingDeg, tiltDeg } = aimOf(truth, terminal, 0);
	const hub = terminal.served?.path;
	if (!hub) return true;
	const vector = vectorOf({ azimuthDeg: hub.backBearingDeg, elevationDeg: hub.backElevationDeg });
	return lookAlong(terminal.part, { headingDeg, tiltDeg }, vector).marginDeg >= 0;
}

/** Lobes beside the beam of a unit that does not steer are about this far below it or further, dB. */
const BESIDE_DB = 14;

/**
 * What a station shows while it looks at a heading: its level there, and the step of its display where it has one;
 * null: nothing above what it can show.
 *
 * @param headingDeg 0 to 360, true
 */
export function pointingOf(
	truth: Truth,
	station: Station,
	headingDeg: number
): Omit<HubRecordPayloads['pointing'], 'source'> {
	const nothing = { headingDeg, levelDbm: null };
	const terminal =
		station.kind === 'terminal'
			? station
			: truth.work.stations.find(
					(one): one is TerminalStation => one.kind === 'terminal' && one.unitId === station.id
				);
	if (!terminal) return nothing;
	// As it would be straight ahead, less what the pattern takes off the straight line.
	const link = linkOf(straightened(truth, station), terminal);
	if (!link) return nothing;
	const offDeg = Math.abs(bearingDifferenceDeg(headingDeg, station.aim.headingDeg));
	const beam = (offDeg / station.part.beamwidthDeg) ** 2 * PARABOLA_DB;
	const way = station.kind === 'terminal' ? link.down : link.up;
	const level =
		way.used.levelDbm - Math.min(beam, BESIDE_DB) + SCATTER_DB * normalDeviate(truth.random);
	const display = station.part.installation?.display ?? [];
	if (display.length === 0) return { headingDeg, levelDbm: Math.round(level) };
	const step = display.filter(({ fromDbm }) => level >= fromDbm).length;
	return step === 0 ? nothing : { headingDeg, levelDbm: null, step };
}

/** Loss of a beam at as far off as it is wide, dB: 3 dB at half of it. */
const PARABOLA_DB = 12;

/** The same with a station set as the plan has it, whatever was recorded of where it looks. */
function straightened(truth: Truth, { id }: Station): Truth {
	const own = stationState(truth.state, id);
	const steps = Object.fromEntries(
		Object.entries(own.steps).filter(([key]) => key !== 'station-heading')
	);
	const stations = { ...truth.state.stations, [id]: { ...own, steps, pointings: [] } };
	return { ...truth, state: { ...truth.state, stations } };
}
