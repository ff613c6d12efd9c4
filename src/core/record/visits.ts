import type { HopPlan } from '../budget/hopPlan';
import type { HopPlanInput } from '../budget/planInput';
import { ENDS, type End, type PerEnd } from '../ends';
import type { Findings } from '../guide/findings';
import { situationOf } from '../guide/situation';
import { recordsOf, type FieldRecord } from './records';

/** A run of records without a long pause: one day's work at the hop. */
export interface Visit {
	fromSeq: number;
	toSeq: number;
	startedAt: string;
	endedAt: string;
	people: string[];
	revisionNumber: number;
	ends: PerEnd<VisitEnd>;
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

const PAUSE_MS = 6 * 3_600_000;

/** The visits of a hop, oldest first. Times are those of the devices. */
export function visitsOf(
	input: HopPlanInput,
	plan: HopPlan,
	records: readonly FieldRecord[],
	findings: Findings
): Visit[] {
	const starts = records.flatMap((record, i) => {
		const before = records[i - 1];
		const pause = before
			? Date.parse(record.recordedAt) - Date.parse(before.recordedAt)
			: Number.POSITIVE_INFINITY;
		return pause > PAUSE_MS ? [i] : [];
	});
	return starts.map((start, n) => {
		const end = starts[n + 1] ?? records.length;
		const own = records.slice(start, end);
		const then = situationOf(input, plan, records.slice(0, end), findings);
		const last = own.at(-1)!;
		return {
			fromSeq: own[0]!.seq,
			toSeq: last.seq,
			startedAt: own[0]!.recordedAt,
			endedAt: last.recordedAt,
			people: [...new Set(own.map((record) => record.recordedBy).filter(Boolean))],
			revisionNumber: last.revisionNumber,
			ends: {
				A: visitEnd(plan, own, then.ends.A, 'A'),
				B: visitEnd(plan, own, then.ends.B, 'B')
			}
		};
	});
}

function visitEnd(
	plan: HopPlan,
	own: readonly FieldRecord[],
	then: { turns: { azimuth: number; tilt: number }; aim: object | null },
	end: End
): VisitEnd {
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
	/** Level of the later visit minus that of the earlier, dB; null if either has none. */
	levelDb: number | null;
	azimuthTurns: number;
	tiltTurns: number;
	/** What that may mean, in words; empty when nothing has changed. */
	meaning: string;
}

const SAME_LEVEL_DB = 1;
const SAME_TURNS = 0.1;

/** What has changed from one visit to a later one, end by end. */
export function compareVisits(earlier: Visit, later: Visit): VisitChange[] {
	return ENDS.map((end) => {
		const was = earlier.ends[end];
		const is = later.ends[end];
		const levelDb =
			was.lastLevelDbm === null || is.lastLevelDbm === null
				? null
				: is.lastLevelDbm - was.lastLevelDbm;
		const azimuthTurns = is.azimuthTurns - was.azimuthTurns;
		const tiltTurns = is.tiltTurns - was.tiltTurns;
		const turned = Math.max(Math.abs(azimuthTurns), Math.abs(tiltTurns)) > SAME_TURNS;
		return { end, levelDb, azimuthTurns, tiltTurns, meaning: meaningOf(levelDb, turned) };
	});
}

function meaningOf(levelDb: number | null, turned: boolean): string {
	if (levelDb === null || Math.abs(levelDb) < SAME_LEVEL_DB) {
		return turned ? 'Turned since, to the same level.' : '';
	}
	if (turned) {
		return levelDb > 0 ? 'Turned since, and better for it.' : 'Turned since, and worse for it.';
	}
	return levelDb > 0
		? 'Higher with the nuts where they were: the other end, power or the air has changed.'
		: 'Lower with the nuts where they were: a dish or mount has shifted, water or a joint in the feeder, the other end, power or the air.';
}
