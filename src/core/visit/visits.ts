import { ENDS, type End, type PerEnd } from '../ends';
import type { Findings } from '../record/findings';
import { advanced } from '../record/foldRecord';
import type { HopState } from '../record/hopState';
import { recordsOf, type FieldRecord, type VisitPurpose } from '../record/records';
import { isOfSecond, type DishNumber } from '../record/secondDish';
import { itemAt, lastOf } from '../units/lists';

/**
 * One coming to the hop: what was opened as a visit, or before the acceptance a run of records
 * without a long pause.
 */
export interface Visit {
	/** Id of a visit that was opened; null for a day of the installation. */
	visitId: string | null;
	purpose: VisitPurpose;
	/** Why somebody came, as it was written. */
	why: string;
	fromSeq: number;
	toSeq: number;
	startedAt: string;
	endedAt: string;
	people: string[];
	revisionNumber: number;
	ends: PerEnd<VisitEnd>;
	/** The same of second dishes; null where there are none. */
	second: PerEnd<VisitEnd> | null;
	/** The visit's own word at its end; null while it goes on, and for the installation. */
	closed: { found: string; name: string; at: string } | null;
}

/** How an end was left by a visit, and what it took. */
export interface VisitEnd {
	azimuthTurns: number;
	tiltTurns: number;
	/** Last level read in the visit; null if none. */
	lastLevelDbm: number | null;
	belowPlanDb: number | null;
	highestLevelDbm: number | null;
	onMainLobe: boolean;
	readings: number;
	moves: number;
	sweeps: number;
}

/** A pause this long, without a visit opened, begins another day of the installation, ms. */
const PAUSE_MS = 6 * 3_600_000;

/**
 * The visits of a hop, oldest first. Times are those of the devices.
 *
 * @param start the hop before its first record
 */
export function visitsOf(
	start: HopState,
	records: readonly FieldRecord[],
	findings: Findings
): Visit[] {
	let state = start;
	return runsOf(records).map(({ own, opening, closing }) => {
		state = advanced(state, own, findings);
		const first = itemAt(own, 0);
		const last = lastOf(own);
		return {
			visitId: opening?.payload.visitId ?? null,
			purpose: opening?.payload.purpose ?? 'installation',
			why: opening?.payload.why ?? '',
			fromSeq: first.seq,
			toSeq: last.seq,
			startedAt: first.recordedAt,
			endedAt: last.recordedAt,
			people: [
				...new Set([
					...own.map((record) => record.recordedBy).filter(Boolean),
					...(opening?.payload.people ?? [])
				])
			],
			revisionNumber: last.revisionNumber,
			ends: {
				A: visitEnd(state, own, 'A', 1),
				B: visitEnd(state, own, 'B', 1)
			},
			second: state.second && {
				A: visitEnd(state.second.A, own, 'A', 2),
				B: visitEnd(state.second.B, own, 'B', 2)
			},
			closed: closing
				? {
						found: closing.payload.found,
						name: closing.payload.name,
						at: closing.recordedAt
					}
				: null
		};
	});
}

interface Run {
	own: FieldRecord[];
	opening: Extract<FieldRecord, { kind: 'visit-opened' }> | undefined;
	closing: Extract<FieldRecord, { kind: 'visit-closed' }> | undefined;
}

/** Records in runs: a visit from its opening to its closing, anything else up to a long pause. */
function runsOf(records: readonly FieldRecord[]): Run[] {
	const runs: Run[] = [];
	let run: Run | undefined;
	for (const record of records) {
		const before = run?.own.at(-1);
		const pauseMs = before
			? Date.parse(record.recordedAt) - Date.parse(before.recordedAt)
			: Number.POSITIVE_INFINITY;
		const isOpen = run?.opening !== undefined && run.closing === undefined;
		if (
			!run ||
			record.kind === 'visit-opened' ||
			run.closing !== undefined ||
			(!isOpen && pauseMs > PAUSE_MS)
		) {
			run = {
				own: [],
				opening: record.kind === 'visit-opened' ? record : undefined,
				closing: undefined
			};
			runs.push(run);
		}
		run.own.push(record);
		if (record.kind === 'visit-closed') run.closing = record;
	}
	return runs;
}

/** @param hop of that dish, as the visit left it */
function visitEnd(
	{ plan, ends }: HopState,
	all: readonly FieldRecord[],
	end: End,
	dish: DishNumber
): VisitEnd {
	const own = all.filter((record) => isOfSecond(record) === (dish === 2));
	const then = ends[end];
	const levels = recordsOf(own, 'reading', end).flatMap(({ payload }) =>
		payload.levelDbm === null ? [] : [payload.levelDbm]
	);
	const last = levels.at(-1) ?? null;
	return {
		azimuthTurns: then.turns.azimuth,
		tiltTurns: then.turns.tilt,
		lastLevelDbm: last,
		belowPlanDb: last === null ? null : plan.received[end].plannedLevelDbm - last,
		highestLevelDbm: levels.length ? Math.max(...levels) : null,
		onMainLobe: then.aim !== null,
		readings: levels.length,
		moves: recordsOf(own, 'move', end).length,
		sweeps: recordsOf(own, 'sweep', end).length
	};
}

export interface VisitChange {
	end: End;
	dish: DishNumber;
	/** Last level of either visit, dBm; null where it was not read. */
	thenDbm: number | null;
	nowDbm: number | null;
	/** Level of the later visit minus that of the earlier, dB; null if either has none. */
	levelDb: number | null;
	azimuthTurns: number;
	tiltTurns: number;
	/** Whether the later visit read this end at all. */
	verdict: 'as-it-was' | 'changed' | 'not-read';
	/** What that may mean, in words. */
	meaning: string;
}

/** Levels nearer than this are the same, dB. */
export const SAME_LEVEL_DB = 1;
/** Turns nearer than this are the same place of a nut. */
export const SAME_TURNS = 0.1;

/** What has changed from one visit to a later one, end by end, the first dishes before the second. */
export function compareVisits(earlier: Visit, later: Visit): VisitChange[] {
	const of = (dish: DishNumber, was: PerEnd<VisitEnd>, is: PerEnd<VisitEnd>): VisitChange[] =>
		ENDS.map((end) => ({ end, dish, ...compareEnds(was[end], is[end]) }));
	return [
		...of(1, earlier.ends, later.ends),
		...(earlier.second && later.second ? of(2, earlier.second, later.second) : [])
	];
}

function compareEnds(was: VisitEnd, is: VisitEnd): Omit<VisitChange, 'end' | 'dish'> {
	const [thenDbm, nowDbm] = [was.lastLevelDbm, is.lastLevelDbm];
	const levelDb = thenDbm === null || nowDbm === null ? null : nowDbm - thenDbm;
	const azimuthTurns = is.azimuthTurns - was.azimuthTurns;
	const tiltTurns = is.tiltTurns - was.tiltTurns;
	const turned = Math.max(Math.abs(azimuthTurns), Math.abs(tiltTurns)) > SAME_TURNS;
	const means = changeInWords(levelDb, turned, is, was);
	return { thenDbm, nowDbm, levelDb, azimuthTurns, tiltTurns, ...means };
}

/** What a change of level may mean, with the nuts turned or untouched. */
export function changeInWords(
	levelDb: number | null,
	turned: boolean,
	is: { lastLevelDbm: number | null },
	was: { lastLevelDbm: number | null }
): Pick<VisitChange, 'verdict' | 'meaning'> {
	if (levelDb === null) {
		const meaning =
			is.lastLevelDbm === null
				? `Not read in this visit${turned ? ', and turned since' : ''}: nothing is known of its level.`
				: was.lastLevelDbm === null
					? 'Not read then: nothing to compare with.'
					: '';
		return { verdict: 'not-read', meaning };
	}
	if (Math.abs(levelDb) < SAME_LEVEL_DB) {
		return turned
			? { verdict: 'changed', meaning: 'Turned since, to the same level.' }
			: { verdict: 'as-it-was', meaning: 'As it was.' };
	}
	if (turned) {
		return {
			verdict: 'changed',
			meaning: levelDb > 0 ? 'Turned since, and better for it.' : 'Turned since, and worse for it.'
		};
	}
	return {
		verdict: 'changed',
		meaning:
			levelDb > 0
				? 'Higher with the nuts where they were: the other end, power or the air has changed.'
				: 'Lower with the nuts where they were: a dish or mount has shifted, water or a joint in the feeder, the other end, power or the air.'
	};
}
