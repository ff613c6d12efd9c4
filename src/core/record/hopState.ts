import type { HopPlan } from '../budget/hopPlan';
import type { HopPlanInput } from '../budget/planInput';
import { secondHopsOf, type SecondHop } from '../budget/secondHop';
import { ENDS, farEnd, type Axis, type End, type PerEnd } from '../ends';
import type { LinearPolarization } from '../propagation/rain';
import type { AnsweredCard, StopCard } from '../safety/stopCards';
import { CHANGES, VOIDED_BY, type Change, type Evidence } from './changes';
import type { Aim, SweepDone } from './findings';
import type { RadiosIn } from './radioStates';
import type { PackingLine, RecordPayloads, VisitPurpose } from './records';
import type { DishNumber } from './secondDish';
import { UNWATCHED, type UnaskedMovement, type Watch } from './unasked';

/** A payload with where it stands in the feed, when it was recorded and by whom. */
export type Noted<T> = T & { seq: number; end: End; at: string; by: string };

/** One reading at a place, for the map of where the far end may be. */
export interface PlacedReading {
	azimuthDeg: number;
	tiltDeg: number;
	levelDbm: number;
	/** Place of its record in the feed. */
	seq: number;
}

/** Where one end of a hop stands, by its records. */
export interface EndState {
	/** Where the hand has turned each adjuster, turns from centre. */
	turns: Record<Axis, number>;
	/** The same in degrees, by the adjuster as it is known now. */
	angleDeg: Record<Axis, number>;
	/** How far the whole mount was turned on its pipe since the first heading, degrees. */
	mountTurnedDeg: number;
	lastSweep: SweepDone | null;
	/** How this end stood when it last gave up the baton, while it has not moved since. */
	aim: Aim | null;
	/** Where an earlier turn found the main lobe, while the adjusters still say the same; degrees. */
	foundAt: { azimuthDeg: number; tiltDeg: number; sigmaDeg: number } | null;
	/** Turns at the baton that ended on the main lobe. */
	roundsDone: number;
	/** Turns at the baton, of whatever result. */
	turnsTaken: number;
	/** Of these the last ones in a row in which nothing was heard. */
	silentTurns: number;
	/** Whether the far end stood on its main lobe when {@link aim} was made. */
	aimedAtAimedEnd: boolean;
	alignmentState: Noted<RecordPayloads['alignment-state']> | null;
	operatingState: Noted<RecordPayloads['operating-state']> | null;
	/** Since when each radio is in it, where the end has several. */
	radiosIn: RadiosIn;
	/** In the alignment state, and not left since. */
	alignmentStateConfirmed: boolean;
	/** Latest level; null when the last voltage was none that the port can give. */
	lastLevelDbm: number | null;
	lastVolts: number | null;
	lastReadAt: string | null;
	/** When anything at all was last recorded at this end. */
	lastRecordAt: string | null;
	/** The same of work: what is only said to the far end is none. */
	lastWorkAt: string | null;
	/** Whether nothing has changed the level since this end's last reading. */
	levelIsFresh: boolean;
	implausibleReading: boolean;
	/** Whether the end without the baton has asked for it. */
	asksForBaton: boolean;
	/** Whether it has asked for a level of the other end that was not read there since. */
	asksForLevel: boolean;
	/** Readings that compare with each other, each at the place where the dish then stood. */
	comparable: readonly PlacedReading[];
	watch: Watch;
	/** Place of the record since which the question to the guidance is a new one. */
	guidanceSeq: number;
	/** Whether a reading has come since then: a further one only refines the answer. */
	guidanceRead: boolean;
	/** Place in the feed of the latest change of each kind at this end; 0 if there was none. */
	changedAt: Readonly<Record<Change, number>>;
	finalReading: Noted<RecordPayloads['reading']> | null;
	carrierLevels: Readonly<Record<number, Noted<RecordPayloads['carrier-level']>>>;
	feedDeg: number;
	discriminations: readonly Noted<RecordPayloads['discrimination']>[];
	/** The latest tightening of each fastener, in the order of the first ones. */
	lockSteps: readonly Noted<RecordPayloads['lock-step']>[];
	torqueTool: Noted<RecordPayloads['torque-tool']> | null;
	closingCheck: Noted<RecordPayloads['closing-check']> | null;
	serviceCheck: Noted<RecordPayloads['service-check']> | null;
	crewSignature: Noted<RecordPayloads['crew-signature']> | null;
	errorTest: Noted<RecordPayloads['error-test']> | null;
	stopCards: Readonly<Partial<Record<StopCard, AnsweredCard>>>;
	/** Every time somebody took it on that work goes on against a card’s answer. */
	cardOverrides: readonly Noted<RecordPayloads['stop-card']>[];
	building: BuildingFacts;
	replaced: readonly Noted<RecordPayloads['part-replaced']>[];
}

/** What was recorded of the building of one end, latest of each. */
export interface BuildingFacts {
	begun: boolean;
	packingList: readonly PackingLine[] | null;
	received: Readonly<Record<string, RecordPayloads['received']>>;
	labels: Readonly<Record<string, RecordPayloads['part-label']>>;
	parties: Noted<RecordPayloads['parties']> | null;
	receiptSignatures: readonly Noted<RecordPayloads['receipt-signature']>[];
	joints: Readonly<Record<string, LinearPolarization>>;
	/** Latest record of each step that was not taken back by a reopening. */
	steps: Readonly<Record<string, Noted<RecordPayloads['build-step']>>>;
	reopenedAt: Readonly<Record<string, number>>;
	skips: readonly Noted<RecordPayloads['step-skipped']>[];
}

/** Something that is left to be done, by somebody, by some day. */
export interface SnagState {
	opened: Noted<RecordPayloads['snag']>;
	closed: Noted<RecordPayloads['snag-closed']> | null;
}

/** One coming to the hop after its acceptance. */
export interface VisitState {
	visitId: string;
	purpose: VisitPurpose;
	opened: Noted<RecordPayloads['visit-opened']>;
	closed: Noted<RecordPayloads['visit-closed']> | null;
}

/**
 * Where a hop stands, by plan and record: folded from the feed once, and what guide, stages,
 * acceptance, diagnosis, polarization, building and screens read instead of the records.
 */
export interface HopState {
	/** The plan's input, its adjusters as measured where somebody has measured them. */
	input: HopPlanInput;
	plan: HopPlan;
	/** Place of the latest record; 0 before the first. */
	lastSeq: number;
	baton: End;
	/** When and how the baton came where it is; null while nobody has passed it. */
	batonPassed: { at: string; how: 'handed' | 'taken'; by: string } | null;
	/** One crew that drives between the ends, or one at each. */
	crews: 1 | 2;
	/** A change of level at the end with the baton that nobody has recorded a movement for. */
	unasked: UnaskedMovement | null;
	ends: PerEnd<EndState>;
	/** What the acceptor last sent the hop back for; null while nobody has. */
	sentBack: Noted<RecordPayloads['sent-back']> | null;
	/** Answers to the tests of the diagnosis, each the latest. */
	testResults: readonly Noted<RecordPayloads['test-result']>[];
	remedies: readonly Noted<RecordPayloads['remedy']>[];
	snags: readonly SnagState[];
	/** Coming after the acceptance, oldest first; the last may be open. */
	visits: readonly VisitState[];
	/**
	 * The second dish of each end, as a hop of its own with what it looks at: guide, bench, lock and judgement
	 * ask it as they ask the hop itself. One object where the second dishes look at each other; null where
	 * there are none.
	 */
	second: PerEnd<HopState> | null;
	/** In the hop of a second dish: the end whose first dish it looks at, and which is not moved for it. */
	stands: End | null;
}

const NEVER = Object.fromEntries(CHANGES.map((change) => [change, 0])) as Record<Change, number>;

const EMPTY_END: EndState = {
	turns: { azimuth: 0, tilt: 0 },
	angleDeg: { azimuth: 0, tilt: 0 },
	mountTurnedDeg: 0,
	lastSweep: null,
	aim: null,
	foundAt: null,
	roundsDone: 0,
	turnsTaken: 0,
	silentTurns: 0,
	aimedAtAimedEnd: false,
	alignmentState: null,
	operatingState: null,
	radiosIn: {},
	alignmentStateConfirmed: false,
	lastLevelDbm: null,
	lastVolts: null,
	lastReadAt: null,
	lastRecordAt: null,
	lastWorkAt: null,
	levelIsFresh: false,
	implausibleReading: false,
	asksForBaton: false,
	asksForLevel: false,
	comparable: [],
	watch: UNWATCHED,
	guidanceSeq: 0,
	guidanceRead: false,
	changedAt: NEVER,
	finalReading: null,
	carrierLevels: {},
	feedDeg: 0,
	discriminations: [],
	lockSteps: [],
	torqueTool: null,
	closingCheck: null,
	serviceCheck: null,
	crewSignature: null,
	errorTest: null,
	stopCards: {},
	cardOverrides: [],
	building: {
		begun: false,
		packingList: null,
		received: {},
		labels: {},
		parties: null,
		receiptSignatures: [],
		joints: {},
		steps: {},
		reopenedAt: {},
		skips: []
	},
	replaced: []
};

/** The state of a hop before its first record. */
export function emptyHopState(input: HopPlanInput, plan: HopPlan): HopState {
	const seconds = secondHopsOf(input, plan);
	const ofSecond = ({ input, plan, stands }: SecondHop): HopState => ({
		...emptyOf(input, plan),
		stands
	});
	if (!seconds) return emptyOf(input, plan);
	const A = ofSecond(seconds.A);
	const second = { A, B: seconds.A === seconds.B ? A : ofSecond(seconds.B) };
	return { ...emptyOf(input, plan), second };
}

function emptyOf(input: HopPlanInput, plan: HopPlan): HopState {
	return {
		input,
		plan,
		lastSeq: 0,
		baton: input.firstToMove,
		batonPassed: null,
		crews: 2,
		unasked: null,
		ends: { A: EMPTY_END, B: EMPTY_END },
		sentBack: null,
		testResults: [],
		remedies: [],
		snags: [],
		visits: [],
		second: null,
		stands: null
	};
}

/** Where the hop of one dish of an end stands: the hop itself for the first. Undefined where there is no second. */
export function hopOfDish(state: HopState, end: End, dish: DishNumber): HopState | undefined {
	return dish === 1 ? state : state.second?.[end];
}

/** The hop of every dish of an end, the first before the second. */
export function hopsAt(state: HopState, end: End): { dish: DishNumber; hop: HopState }[] {
	const second = state.second?.[end];
	return [{ dish: 1, hop: state }, ...(second ? [{ dish: 2 as const, hop: second }] : [])];
}

/** Place in the feed after which evidence of a kind about an end still holds. */
export function voidedAt(state: HopState, evidence: Evidence, end: End): number {
	return latestVoiding(state, evidence, end)?.seq ?? 0;
}

/** The latest change that made such evidence void, and where; undefined if there was none. */
export function latestVoiding(
	{ ends }: Pick<HopState, 'ends'>,
	evidence: Evidence,
	end: End
): { change: Change; end: End; seq: number } | undefined {
	let latest: { change: Change; end: End; seq: number } | undefined;
	for (const at of ENDS) {
		const { own, far } = VOIDED_BY[evidence];
		for (const change of at === end ? own : far) {
			const seq = ends[at].changedAt[change];
			if (seq > (latest?.seq ?? 0)) latest = { change, end: at, seq };
		}
	}
	return latest;
}

/** Whether something recorded at a place in the feed still says something of an end. */
export function stillHolds(
	state: HopState,
	evidence: Evidence,
	end: End,
	noted: { seq: number } | null
): boolean {
	return noted !== null && noted.seq >= voidedAt(state, evidence, end);
}

/** Tightenings of an end that count: each fastener's latest, its axis not moved or loosened since. */
export function currentLockSteps(
	state: HopState,
	end: End
): readonly Noted<RecordPayloads['lock-step']>[] {
	return state.ends[end].lockSteps.filter((step) =>
		stillHolds(state, step.locks === 'azimuth' ? 'azimuth-lock' : 'tilt-lock', end, step)
	);
}

/** Whether every fastener of the dish of an end stands at torque; of the first, where there are two. */
export function isFixed(state: HopState, end: End): boolean {
	return currentLockSteps(state, end).length >= state.input.ends[end].mount.fasteners.length;
}

/** Whether every fastener of every dish of an end stands at torque. */
export function allFixed(state: HopState, end: End): boolean {
	return hopsAt(state, end).every(({ hop }) => isFixed(hop, end));
}

/** Both polarizations as read at either end while everything stands as it stands now, in order. */
export function settledDiscriminations(
	state: HopState
): readonly Noted<RecordPayloads['discrimination']>[] {
	return ENDS.flatMap((end) =>
		state.ends[end].discriminations.filter((read) => stillHolds(state, 'discrimination', end, read))
	).sort((p, q) => p.seq - q.seq);
}

/** What tells of one end's feed: read at its several turns while everything else stood still. */
export function feedReadings(
	state: HopState,
	end: End
): readonly Noted<RecordPayloads['discrimination']>[] {
	return ENDS.flatMap((at) => state.ends[at].discriminations)
		.filter((read) => read.turned === end && stillHolds(state, 'feed-reading', end, read))
		.sort((p, q) => p.seq - q.seq);
}

/** Whether an end has turned its feed since the pointing of either last changed. */
export function feedWasTurned(state: HopState, end: End): boolean {
	return (
		state.ends[end].changedAt['feed-turned'] >
		Math.max(voidedAt(state, 'feed-reading', end), voidedAt(state, 'aim', farEnd(end)))
	);
}

/** The visit that is going on, if one is. */
export function openVisit(state: Pick<HopState, 'visits'>): VisitState | undefined {
	const last = state.visits.at(-1);
	return last?.closed === null ? last : undefined;
}
