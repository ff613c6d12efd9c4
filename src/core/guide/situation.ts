import type { HopPlan } from '../budget/hopPlan';
import type { HopPlanInput } from '../budget/planInput';
import { ENDS, type Axis, type End, type PerEnd } from '../ends';
import { recordsOf, type FieldRecord, type RecordKind } from '../record/records';
import { adjusterAngleDeg } from '../sweep/adjusterScale';
import { sweepInputOf } from './sweepInput';
import { analyseSweep, type SweepAnalysis } from '../sweep/analyseSweep';

/** One recorded sweep with what it says. */
export interface SweepDone {
	recordId: string;
	seq: number;
	axis: Axis;
	otherAxisDeg: number;
	fromDeg: number;
	toDeg: number;
	analysis: SweepAnalysis;
}

export interface EndSituation {
	/** Where the hand has turned each adjuster, turns from centre. */
	turns: Record<Axis, number>;
	angleDeg: Record<Axis, number>;
	/** Sweeps of this end since it last received the baton, oldest first. */
	sweepsThisTurn: SweepDone[];
	lastSweep: SweepDone | null;
	/** Turns at the baton in which both axes were swept over the main lobe and brought to the middle. */
	roundsDone: number;
	/** Turns at the baton in which nothing at all was heard. */
	silentTurns: number;
	alignmentStateConfirmed: boolean;
	lastLevelDbm: number | null;
	lastVolts: number | null;
	lastReadAt: string | null;
	/** Whether no dish of either end has moved since this end's last reading. */
	levelIsFresh: boolean;
	implausibleReading: boolean;
}

/** Where the alignment of a hop stands: everything the guidance and the screens read. */
export interface Situation {
	baton: End;
	ends: PerEnd<EndSituation>;
}

/** A middle is reached when the dish stands within this many beamwidths of it. */
export const CENTRED_WITHIN_BEAMWIDTHS = 0.12;

/** Records after which a level read before says nothing about the present pointing. */
const DISTURBS: ReadonlySet<RecordKind> = new Set(['move', 'sweep', 'lock-step', 'loosen']);

/** Analyses are pure but not free: a caller may keep them by record id. */
export type AnalysisCache = Map<string, SweepAnalysis>;

/** Folds the records of a hop into the present situation. Pure, apart from filling the cache. */
export function situationOf(
	input: HopPlanInput,
	plan: HopPlan,
	records: readonly FieldRecord[],
	cache: AnalysisCache = new Map()
): Situation {
	let baton: End = input.firstToMove;
	const ends: PerEnd<EndSituation> = { A: emptyEnd(), B: emptyEnd() };
	for (const record of records) {
		const own = ends[record.end];
		if (DISTURBS.has(record.kind)) {
			for (const end of ENDS) ends[end].levelIsFresh = false;
		}
		if (record.kind === 'move') {
			const { axis, toTurns } = record.payload;
			own.turns[axis] = toTurns;
			own.angleDeg[axis] = adjusterAngleDeg(input.ends[record.end].mount[axis], toTurns);
		} else if (record.kind === 'sweep') {
			const done = sweepDone(input, plan, record, cache);
			own.sweepsThisTurn.push(done);
			own.lastSweep = done;
		} else if (record.kind === 'baton') {
			if (roundComplete(own, plan.dish[record.end].beamwidthDeg)) own.roundsDone += 1;
			else if (nothingHeard(own)) own.silentTurns += 1;
			baton = record.payload.to;
			ends[baton].sweepsThisTurn = [];
		} else if (record.kind === 'reading') {
			own.lastLevelDbm = record.payload.levelDbm;
			own.lastVolts = record.payload.volts;
			own.lastReadAt = record.recordedAt;
			own.levelIsFresh = true;
			own.implausibleReading = record.payload.levelDbm === null;
		}
	}
	for (const end of ENDS) {
		const latest = recordsOf(records, 'alignment-state', end).at(-1);
		ends[end].alignmentStateConfirmed =
			latest !== undefined && Object.values(latest.payload).every((confirmed) => confirmed);
	}
	return { baton, ends };
}

function emptyEnd(): EndSituation {
	return {
		turns: { azimuth: 0, tilt: 0 },
		angleDeg: { azimuth: 0, tilt: 0 },
		sweepsThisTurn: [],
		lastSweep: null,
		roundsDone: 0,
		silentTurns: 0,
		alignmentStateConfirmed: false,
		lastLevelDbm: null,
		lastVolts: null,
		lastReadAt: null,
		levelIsFresh: false,
		implausibleReading: false
	};
}

function sweepDone(
	input: HopPlanInput,
	plan: HopPlan,
	record: Extract<FieldRecord, { kind: 'sweep' }>,
	cache: AnalysisCache
): SweepDone {
	const { axis, samples, otherAxisDeg } = record.payload;
	let analysis = cache.get(record.id);
	if (!analysis) {
		analysis = analyseSweep(sweepInputOf(input, plan, record.end, record.payload));
		cache.set(record.id, analysis);
	}
	const positions = samples.map((sample) => sample.positionDeg);
	return {
		recordId: record.id,
		seq: record.seq,
		axis,
		otherAxisDeg,
		fromDeg: Math.min(...positions),
		toDeg: Math.max(...positions),
		analysis
	};
}

/** The latest sweep of an axis in this turn at the baton. */
export function latestSweep(end: EndSituation, axis: Axis): SweepDone | undefined {
	return end.sweepsThisTurn.filter((sweep) => sweep.axis === axis).at(-1);
}

/** Whether the dish stands in the middle that a sweep of that axis found. */
export function isCentred(end: EndSituation, sweep: SweepDone, beamwidthDeg: number): boolean {
	const { centreDeg } = sweep.analysis;
	return (
		centreDeg !== null &&
		Math.abs(end.angleDeg[sweep.axis] - centreDeg) <= CENTRED_WITHIN_BEAMWIDTHS * beamwidthDeg
	);
}

function nothingHeard(end: EndSituation): boolean {
	return (
		end.sweepsThisTurn.length > 0 &&
		end.sweepsThisTurn.every((sweep) => sweep.analysis.verdict === 'no-signal')
	);
}

/** Whether both axes were swept over the main lobe in this turn and stand in their middles. */
export function roundComplete(end: EndSituation, beamwidthDeg: number): boolean {
	return (['azimuth', 'tilt'] as const).every((axis) => {
		const sweep = latestSweep(end, axis);
		return (
			sweep !== undefined &&
			sweep.analysis.verdict === 'main-lobe' &&
			isCentred(end, sweep, beamwidthDeg)
		);
	});
}
