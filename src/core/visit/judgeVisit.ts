import { ENDS, type End } from '../ends';
import { WORK, type Change } from '../record/changes';
import { currentLockSteps, hopOfDish, hopsAt, isFixed, type HopState } from '../record/hopState';
import { dishSuffix, dishWords, type DishNumber } from '../record/secondDish';
import { recordNamesOf } from '../tower/recordNames';
import { levelText, numberText } from '../units/text';
import { changeInWords, SAME_TURNS, type Visit } from './visits';

/** One line of a visit's own short judgement, against the hop as it was accepted. */
export interface VisitLine {
	code: string;
	end: End;
	label: string;
	/** As accepted. */
	then: string;
	/** As the visit found or left it; empty where it was not looked at. */
	now: string;
	verdict: 'as-accepted' | 'changed' | 'not-read' | 'open' | 'trouble';
	reason: string;
}

export interface VisitJudgement {
	lines: VisitLine[];
	/** Nothing was left that must not be left: a dish moved and not fixed, or not read after. */
	mayClose: boolean;
	/** Whether what was changed asks for a new acceptance of the hop. */
	needsAcceptance: boolean;
}

/**
 * What a visit found and left, against the baseline.
 *
 * @param baseline the hop as it stood when it was accepted
 * @param state the hop as it stands now
 * @param visit the visit so far
 */
export function judgeVisit(baseline: HopState, state: HopState, visit: Visit): VisitJudgement {
	const lines = ENDS.flatMap((end) => [
		...hopsAt(state, end).flatMap(({ dish, hop }) => {
			const then = hopOfDish(baseline, end, dish) ?? baseline;
			const looked: Looked = {
				fromSeq: visit.fromSeq,
				dish,
				read: (dish === 1 ? visit.ends : visit.second)?.[end].lastLevelDbm ?? null
			};
			return [levelLine(then, hop, looked, end), ...fasteningLines(then, hop, looked, end)];
		}),
		...partLines(state, visit, end),
		...snagLines(state, visit, end)
	]);
	return {
		lines,
		mayClose: lines.every(({ verdict }) => verdict !== 'trouble'),
		needsAcceptance: ENDS.some((end) => changedSince(state, end, WORK, visit.fromSeq))
	};
}

/** Whether one of these changes was made at an end from some place in the feed on. */
function changedSince(
	{ ends }: HopState,
	end: End,
	changes: readonly Change[],
	seq: number
): boolean {
	return changes.some((change) => ends[end].changedAt[change] >= seq);
}

/** Whether the dish of an end was moved, loosened or changed from some place in the feed on. */
const movedSince = (state: HopState, end: End, seq: number): boolean =>
	changedSince(
		state,
		end,
		['azimuth-moved', 'tilt-moved', 'mount-turned', 'loosened', 'dish-replaced'],
		seq
	);

/** What a visit looked at of one dish. */
interface Looked {
	fromSeq: number;
	dish: DishNumber;
	/** Last level read of it, dBm; null if none. */
	read: number | null;
}

const dishAt = (end: End, dish: DishNumber): string =>
	dish === 2 ? `second dish of ${end}` : `dish of ${end}`;

function levelLine(
	baseline: HopState,
	state: HopState,
	{ fromSeq, dish, read }: Looked,
	end: End
): VisitLine {
	const accepted = baseline.ends[end].finalReading?.levelDbm ?? null;
	const own = state.ends[end];
	const moved =
		movedSince(state, end, fromSeq) || changedSince(state, end, ['feed-turned'], fromSeq);
	const base = {
		code: `visit-level-${end}${dishSuffix(dish)}`,
		end,
		label: `Level received at ${end}${dishWords(dish)}`,
		then: accepted === null ? 'not in the record' : levelText(accepted),
		now: read === null ? '' : levelText(read)
	};
	if (moved && !own.levelIsFresh) {
		return {
			...base,
			verdict: 'trouble',
			reason: `The ${dishAt(end, dish)} was moved, loosened or its feed turned in this visit: read its level before you leave.`
		};
	}
	const turned = ENDS.some((at) => turnedSince(baseline, state, at));
	const { verdict, meaning } = changeInWords(
		read === null || accepted === null ? null : read - accepted,
		turned,
		{ lastLevelDbm: read },
		{ lastLevelDbm: accepted }
	);
	const inOperation =
		read !== null && !ENDS.every((at) => state.ends[at].alignmentStateConfirmed)
			? ' Read in operation: ATPC can hide a loss that a reading in the alignment state would show.'
			: '';
	return {
		...base,
		verdict: verdict === 'as-it-was' ? 'as-accepted' : verdict,
		reason: `${meaning}${inOperation}`
	};
}

function turnedSince(baseline: HopState, state: HopState, end: End): boolean {
	return (['azimuth', 'tilt'] as const).some(
		(axis) => Math.abs(state.ends[end].turns[axis] - baseline.ends[end].turns[axis]) > SAME_TURNS
	);
}

/** Only where the dish was moved, loosened or tightened in this visit. */
function fasteningLines(
	baseline: HopState,
	state: HopState,
	{ fromSeq, dish }: Looked,
	end: End
): VisitLine[] {
	const tightened = state.ends[end].changedAt.tightened >= fromSeq;
	if (!movedSince(state, end, fromSeq) && !tightened) return [];
	const all = state.input.ends[end].mount.fasteners.length;
	const now = currentLockSteps(state, end).length;
	const turns = (of: HopState): string => {
		const { azimuth, tilt } = of.ends[end].turns;
		return `${numberText(azimuth, 2, true)} / ${numberText(tilt, 2, true)} turns`;
	};
	return [
		{
			code: `visit-turns-${end}${dishSuffix(dish)}`,
			end,
			label: `Azimuth and tilt of ${end}${dishWords(dish)}`,
			then: turns(baseline),
			now: turns(state),
			verdict: turnedSince(baseline, state, end) ? 'changed' : 'as-accepted',
			reason: turnedSince(baseline, state, end)
				? 'The nuts stand elsewhere than they were accepted.'
				: 'The nuts stand where they were accepted.'
		},
		{
			code: `visit-lock-${end}${dishSuffix(dish)}`,
			end,
			label: `Fasteners of ${end}${dishWords(dish)}`,
			then: `${all} at torque`,
			now: `${now} of ${all} at torque`,
			verdict: isFixed(state, end) ? 'changed' : 'trouble',
			reason: isFixed(state, end)
				? 'Tightened anew in this visit.'
				: 'Not every fastener is at torque again: the dish must not be left so.'
		}
	];
}

function partLines(state: HopState, visit: Visit, end: End): VisitLine[] {
	const { part: nameOf } = recordNamesOf(state);
	return state.ends[end].replaced
		.filter(({ seq }) => seq >= visit.fromSeq)
		.map(({ part, code, serial, reason, seq }) => ({
			code: `visit-part-${end}-${seq}`,
			end,
			label: `Changed at ${end}: ${nameOf(end, part) ?? 'a part'}`,
			then: '',
			now: `${code}, serial ${serial}`,
			verdict: 'changed' as const,
			reason
		}));
}

function snagLines(state: HopState, visit: Visit, end: End): VisitLine[] {
	return state.snags
		.filter(({ opened, closed }) => opened.end === end && (!closed || closed.seq >= visit.fromSeq))
		.map(({ opened, closed }) => ({
			code: `visit-snag-${opened.snagId}`,
			end,
			label: `Snag: ${opened.text}`,
			then: opened.seq < visit.fromSeq ? 'open' : '',
			now: closed ? 'closed' : 'open',
			verdict: closed ? ('changed' as const) : ('open' as const),
			reason: closed
				? `${closed.note}${closed.closedBy ? ` (${closed.closedBy})` : ''}`
				: `${opened.owner}, by ${opened.due}`
		}));
}
