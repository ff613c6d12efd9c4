import type { Cause } from '../diagnose/causes';
import type { HopPlan } from '../budget/hopPlan';
import type { HopPlanInput } from '../budget/planInput';
import { ENDS, farEnd, type Axis, type End, type PerEnd } from '../ends';
import { makeLevelCurve, readingLevelDbm } from '../radio/levelCurve';
import { recordsOf, type FieldRecord, type RecordKind } from '../record/records';
import { adjusterAngleDeg } from '../sweep/adjusterScale';
import type { SweepAnalysis } from '../sweep/analyseSweep';
import type { Aim } from './aim';
import { calibratedInput } from './calibrated';
import { find, givesUp, keepFinding, noFindings, openQuestions, type Findings } from './findings';
import { unaskedMovement, type UnaskedMovement } from './unasked';

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
	/** How far the whole mount was turned on its pipe since the first heading, degrees. */
	mountTurnedDeg: number;
	lastSweep: SweepDone | null;
	/** How this end stood when it last gave up the baton, while it has not moved since. */
	aim: Aim | null;
	/** Turns at the baton that ended on the main lobe. */
	roundsDone: number;
	/** Turns at the baton, of whatever result. */
	turnsTaken: number;
	/** Whether the far end stood on its main lobe when {@link aim} was made. */
	aimedAtAimedEnd: boolean;
	alignmentStateConfirmed: boolean;
	lastLevelDbm: number | null;
	lastVolts: number | null;
	lastReadAt: string | null;
	/** When anything at all was last recorded at this end. */
	lastRecordAt: string | null;
	/** Whether no dish of either end has moved since this end's last reading. */
	levelIsFresh: boolean;
	implausibleReading: boolean;
	/** Whether the end without the baton has asked for it. */
	asksForBaton: boolean;
}

/** Where the alignment of a hop stands: everything the guidance and the screens read. */
export interface Situation {
	baton: End;
	/** When and how the baton came where it is; null while nobody has passed it. */
	batonPassed: { at: string; how: 'handed' | 'taken'; by: string } | null;
	/** One crew that drives between the ends, or one at each. */
	crews: 1 | 2;
	/** A change of level at the end with the baton that nobody has recorded a movement for. */
	unasked: UnaskedMovement | null;
	ends: PerEnd<EndSituation>;
}

/** Records after which a level read before says nothing about the present pointing. */
const DISTURBS: ReadonlySet<RecordKind> = new Set([
	'move',
	'sweep',
	'mount-turn',
	'lock-step',
	'loosen',
	'remedy'
]);
/** Faults that bend the level against the pointing, rather than lowering it. */
const DISTORTS_LEVELS: ReadonlySet<Cause> = new Set([
	'power-control-on',
	'adaptive-modulation-on',
	'pick-up',
	'overload'
]);
/** Records of an end's own movement: an aim made before them is gone. */
const MOVES: ReadonlySet<RecordKind> = new Set(['move', 'sweep', 'mount-turn']);

/**
 * Folds the records of a hop into the present situation. Pure, apart from filling the findings; a
 * calibration among the records counts for all of them.
 */
export function situationOf(
	input: HopPlanInput,
	plan: HopPlan,
	records: readonly FieldRecord[],
	findings: Findings = noFindings()
): Situation {
	for (const question of openQuestions(input, plan, records, findings)) {
		keepFinding(findings, find(question));
	}
	const situation: Situation = {
		baton: input.firstToMove,
		batonPassed: null,
		crews: 2,
		unasked: null,
		ends: { A: emptyEnd(), B: emptyEnd() }
	};
	const present = calibratedInput(input, records);
	for (const record of records) take(situation, record, present, findings);
	for (const end of ENDS) {
		const latest = recordsOf(records, 'alignment-state', end).at(-1);
		situation.ends[end].alignmentStateConfirmed =
			latest !== undefined && Object.values(latest.payload).every((confirmed) => confirmed);
	}
	situation.unasked = unaskedMovement(records, situation.baton, plan);
	return situation;
}

function emptyEnd(): EndSituation {
	return {
		turns: { azimuth: 0, tilt: 0 },
		angleDeg: { azimuth: 0, tilt: 0 },
		mountTurnedDeg: 0,
		lastSweep: null,
		aim: null,
		roundsDone: 0,
		turnsTaken: 0,
		aimedAtAimedEnd: false,
		alignmentStateConfirmed: false,
		lastLevelDbm: null,
		lastVolts: null,
		lastReadAt: null,
		lastRecordAt: null,
		levelIsFresh: false,
		implausibleReading: false,
		asksForBaton: false
	};
}

function take(
	situation: Situation,
	record: FieldRecord,
	input: HopPlanInput,
	findings: Findings
): void {
	const own = situation.ends[record.end];
	own.lastRecordAt = record.recordedAt;
	if (DISTURBS.has(record.kind)) {
		for (const end of ENDS) situation.ends[end].levelIsFresh = false;
	}
	if (MOVES.has(record.kind)) {
		own.aim = null;
		own.aimedAtAimedEnd = false;
	}
	const closing = givesUp(record);
	if (closing) closeTurn(situation, closing, findings.aims.get(record.id)!);
	if (record.kind === 'move') {
		const { axis, toTurns } = record.payload;
		own.turns[axis] = toTurns;
		own.angleDeg[axis] = adjusterAngleDeg(input.ends[record.end].mount[axis], toTurns);
	} else if (record.kind === 'mount-turn') {
		own.turns.azimuth = 0;
		own.angleDeg.azimuth = 0;
		own.mountTurnedDeg += record.payload.byDeg;
	} else if (record.kind === 'sweep') {
		own.lastSweep = sweepDone(record, findings);
		readLastSample(own, record, input);
	} else if (record.kind === 'baton') {
		const { to, how } = record.payload;
		situation.baton = to;
		situation.batonPassed = {
			at: record.recordedAt,
			how: how ?? 'handed',
			by: record.recordedBy
		};
		for (const end of ENDS) situation.ends[end].asksForBaton = false;
	} else if (record.kind === 'baton-request') {
		own.asksForBaton = situation.baton !== record.end;
	} else if (record.kind === 'remedy') {
		const distorted = DISTORTS_LEVELS.has(record.payload.cause);
		for (const end of ENDS) {
			situation.ends[end].turnsTaken = 0;
			// An aim taken by levels that lied is no aim.
			if (distorted) situation.ends[end].aim = null;
		}
	} else if (record.kind === 'crew-mode') {
		situation.crews = record.payload.crews;
	} else if (record.kind === 'reading') {
		own.lastLevelDbm = record.payload.levelDbm;
		own.lastVolts = record.payload.volts;
		own.lastReadAt = record.recordedAt;
		own.levelIsFresh = true;
		own.implausibleReading = record.payload.levelDbm === null;
	}
}

function closeTurn({ ends }: Situation, end: End, aim: Aim): void {
	const own = ends[end];
	own.turnsTaken += 1;
	// An end that has not moved since it was aimed stays aimed, however few readings compare now.
	if (!aim.onMainLobe) return;
	own.aim = aim;
	own.aimedAtAimedEnd = ends[farEnd(end)].aim !== null;
	own.roundsDone += 1;
}

/** The dish stands where a sweep ended, and was read there. */
function readLastSample(
	own: EndSituation,
	{ end, payload, recordedAt }: Extract<FieldRecord, { kind: 'sweep' }>,
	input: HopPlanInput
): void {
	const curve = makeLevelCurve(input.ends[end].radio.levelPort.curve);
	const { levelV } = payload.samples.at(-1)!;
	own.lastVolts = levelV;
	own.lastLevelDbm = readingLevelDbm(curve.read(levelV)) ?? null;
	own.implausibleReading = own.lastLevelDbm === null;
	own.lastReadAt = recordedAt;
	own.levelIsFresh = true;
}

function sweepDone(record: Extract<FieldRecord, { kind: 'sweep' }>, findings: Findings): SweepDone {
	const { axis, samples, otherAxisDeg } = record.payload;
	const positions = samples.map((sample) => sample.positionDeg);
	return {
		recordId: record.id,
		seq: record.seq,
		axis,
		otherAxisDeg,
		fromDeg: Math.min(...positions),
		toDeg: Math.max(...positions),
		analysis: findings.sweeps.get(record.id)!
	};
}
