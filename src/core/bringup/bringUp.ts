import type { LampSeen } from '../catalogue/installation';
import { hubPathsOf, planHub } from '../hub/hubPlan';
import type { HubPlan } from '../hub/hubFigures';
import type { HubInput } from '../hub/hubInput';
import { buildStateFrom, stepStateOf, type BuildState } from '../tower/buildState';
import type { BuildStep } from '../tower/buildStep';
import { present } from '../units/lists';
import { remembered } from '../units/memo';
import { stationState, type HubNoted, type HubState, type StationState } from './foldHub';
import type { HubRecordPayloads } from './hubRecords';
import { LINK_CAUSE_NAMES, rankLink, type LinkRanking, type LinkSights } from './linkCauses';
import { LINK_TEST_NAMES } from './linkTests';
import { stationsOf, type Station } from './stations';
import { stationSteps } from './stationSteps';

/** A hub as it is issued, with what is put up and how. */
export interface HubWork {
	hub: HubInput;
	plan: HubPlan;
	stations: readonly Station[];
	stepsOf: (station: Station) => readonly BuildStep[];
}

/** The work of a hub by its issued plan: remembered for an input, which nobody changes. */
export const hubWorkOf = (hub: HubInput): HubWork =>
	ofHub(hub, '', () => hubWorkFrom(hub, planHub(hub, hubPathsOf(hub))));

const ofHub = remembered<HubWork>();

/** The same where its plan is made already. */
export function hubWorkFrom(hub: HubInput, plan: HubPlan): HubWork {
	const stations = stationsOf(plan);
	const steps = new Map(stations.map((station) => [station.id, stationSteps(hub, station)]));
	return { hub, plan, stations, stepsOf: ({ id }) => present(steps.get(id), 'steps') };
}

/** The station of an id; undefined where the plan has none of it. */
export const stationOf = ({ stations }: HubWork, id: string): Station | undefined =>
	stations.find((station) => station.id === id);

/** A level this far from the plan, either way, is not what was planned, dB: what displays of such units are good for. */
export const LEVEL_TOLERANCE_DB = 4;

/**
 * Where a unit or a terminal stands, in the order of the work:
 * `building` its steps are open; `waits` for its unit; `look` at its lamp; `no-link` it should link and does not;
 * `read` level and rate; `off` linked, and not as planned; `close` its cover; `done`.
 */
export const STATION_STAGES = [
	'building',
	'waits',
	'look',
	'no-link',
	'read',
	'off',
	'close',
	'done'
] as const;
export type StationStage = (typeof STATION_STAGES)[number];

export interface StationProgress {
	station: Station;
	own: StationState;
	build: BuildState;
	stage: StationStage;
	/** The lamp as last seen, while nothing has changed since. */
	lamp: LampSeen | null;
	/** Level and rate as last read, while nothing has changed since. */
	level: HubNoted<HubRecordPayloads['link-level']> | null;
	/** How far the level towards the terminal lies below the plan, dB; null where none is read or planned. */
	shortDb: number | null;
	/** The unit that a terminal waits for or belongs to. */
	unit: Station | null;
}

/** Where every station of a hub stands, units before terminals. */
export function progressOf(work: HubWork, state: HubState): StationProgress[] {
	const units = new Map<string, StationProgress>();
	return work.stations.map((station) => {
		const unit = station.kind === 'terminal' ? (units.get(station.unitId ?? '') ?? null) : null;
		const progress = stationProgress(work, state, station, unit);
		if (station.kind === 'unit') units.set(station.id, progress);
		return progress;
	});
}

/** Whether a unit is up: put up, fed, and its lamp seen so. */
export const isUp = ({ lamp, station }: Pick<StationProgress, 'lamp' | 'station'>): boolean =>
	station.kind === 'unit' && lamp !== null && UP.has(lamp);

const UP: ReadonlySet<LampSeen> = new Set(['searching', 'linked', 'weak']);
const LINKED: ReadonlySet<LampSeen> = new Set(['linked', 'weak']);

function stationProgress(
	work: HubWork,
	state: HubState,
	station: Station,
	unit: StationProgress | null
): StationProgress {
	const own = stationState(state, station.id);
	const since = Math.max(own.changedAt, unit?.own.changedAt ?? 0);
	const holding = <T extends { seq: number }>(noted: T | null): T | null =>
		noted && noted.seq > since ? noted : null;
	const lamp = holding(own.lamp)?.state ?? null;
	const level = holding(own.level);
	const right =
		lamp !== null &&
		(station.kind === 'unit' ? UP : LINKED).has(lamp) &&
		(station.kind === 'unit' || level !== null);
	const build = buildStateFrom(
		work.stepsOf(station),
		(step) => {
			const found = stepStateOf(step, own);
			return step.base === 'station-cover' && found.state === 'open' && !right
				? {
						...found,
						state: 'blocked',
						reason: 'After the lamp is right: the cover is closed last.'
					}
				: found;
		},
		own.lastAt !== null
	);
	const shortDb =
		station.kind === 'terminal' && station.served && level
			? station.served.down.used.levelDbm - level.downDbm
			: null;
	const base = { station, own, build, lamp, level, shortDb, unit: unit?.station ?? null };
	return { ...base, stage: stageOf(base, unit) };
}

function stageOf(
	{ station, build, lamp, level, shortDb }: Omit<StationProgress, 'stage'>,
	unit: StationProgress | null
): StationStage {
	const open = build.steps.some(
		({ step, state }) => step.base !== 'station-cover' && state !== 'done' && state !== 'skipped'
	);
	if (open) return 'building';
	if (lamp === null) return unit && !isUp(unit) ? 'waits' : 'look';
	if (station.kind === 'unit') {
		if (!UP.has(lamp)) return 'no-link';
	} else {
		if (!LINKED.has(lamp)) return unit && !isUp(unit) && lamp === 'searching' ? 'waits' : 'no-link';
		if (!level) return 'read';
		if (lamp === 'weak' || (shortDb !== null && Math.abs(shortDb) > LEVEL_TOLERANCE_DB)) {
			return 'off';
		}
	}
	return build.complete ? 'done' : 'close';
}

/** What is known of a terminal that does not link, or not as planned; null while its lamp is not seen. */
export function linkSightsOf(
	all: readonly StationProgress[],
	{ station, own, lamp, shortDb, unit }: StationProgress
): LinkSights | null {
	if (lamp === null) return null;
	const ofUnit = all.find((one) => one.station.id === unit?.id);
	const since = Math.max(own.changedAt, ofUnit?.own.changedAt ?? 0);
	const others = all.filter(
		(one) => one.station.id !== station.id && unit !== null && one.unit?.id === unit.id
	);
	return {
		lamp,
		shortDb,
		others: {
			linked: others.filter((one) => one.lamp !== null && LINKED.has(one.lamp)).length,
			not: others.filter(({ stage }) => stage === 'no-link').length
		},
		tests: Object.fromEntries(
			LINK_TEST_NAMES.flatMap((test) => {
				const answer = own.tests[test];
				return answer && answer.seq > since ? [[test, answer.value === 'yes'] as const] : [];
			})
		),
		setRight: LINK_CAUSE_NAMES.filter((cause) =>
			[...own.remedies, ...(ofUnit?.own.remedies ?? [])].some((remedy) => remedy.cause === cause)
		)
	};
}

/** Why a terminal does not link, or not as planned; null where nothing is wrong with it. */
export function linkTroubleOf(
	all: readonly StationProgress[],
	progress: StationProgress
): LinkRanking | null {
	const { station, stage } = progress;
	if (station.kind !== 'terminal' || (stage !== 'no-link' && stage !== 'off')) return null;
	const sights = linkSightsOf(all, progress);
	return sights && rankLink(station, sights);
}
