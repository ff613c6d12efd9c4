import type { HopPlan } from '../budget/hopPlan';
import type { HopPlanInput } from '../budget/planInput';
import { givesUp, needsFinding, noFindings, type Aim, type Findings } from '../record/findings';
import { foldRecord } from '../record/foldRecord';
import { emptyHopState, type HopState } from '../record/hopState';
import type { FieldRecord } from '../record/records';
import { asOfFirst, isOfSecond } from '../record/secondDish';
import { analyseSweep, type SweepAnalysis, type SweepInput } from '../sweep/analyseSweep';
import { aimFrom, guidanceInputOf } from './aim';
import type { GuidanceInput } from './guidance';
import { sweepInputOf } from './sweepInput';
import { present } from '../units/lists';

/** A question whose answer is a finding. */
export type FindingQuestion =
	| { kind: 'sweep'; id: string; input: SweepInput }
	| { kind: 'aim'; id: string; input: GuidanceInput };

export type Finding =
	{ kind: 'sweep'; id: string; analysis: SweepAnalysis } | { kind: 'aim'; id: string; aim: Aim };

/** Works out what a question asks: what a sweep says, or how an end stands by its readings. */
export function find(question: FindingQuestion): Finding {
	const { id } = question;
	return question.kind === 'sweep'
		? { kind: 'sweep', id, analysis: analyseSweep(question.input) }
		: { kind: 'aim', id, aim: aimFrom(question.input) };
}

/** Puts an answer among the findings, for the fold to take up. */
export function keepFinding(findings: Findings, finding: Finding): void {
	if (finding.kind === 'sweep') findings.sweeps.set(finding.id, finding.analysis);
	else findings.aims.set(finding.id, finding.aim);
}

/** What a record asks, with the hop as it stood before it; undefined when it asks nothing. */
function questionOf(before: HopState, record: FieldRecord): FindingQuestion | undefined {
	if (isOfSecond(record)) {
		const second = before.second?.[record.end];
		return second && questionOf(second, asOfFirst(record));
	}
	const { id } = record;
	if (record.kind === 'sweep') {
		return { kind: 'sweep', id, input: sweepInputOf(before, record.end, record.payload) };
	}
	const end = givesUp(record);
	return end && { kind: 'aim', id, input: guidanceInputOf(before, end) };
}

/** What is still to be found out about more records of a hop, oldest first. */
export function openQuestions(
	state: HopState,
	records: readonly FieldRecord[],
	findings: Findings
): FindingQuestion[] {
	const questions: FindingQuestion[] = [];
	let before = state;
	for (const record of records) {
		if (needsFinding(record, findings, state.second !== null)) {
			const question = questionOf(before, record);
			if (question) questions.push(question);
		}
		before = foldRecord(before, record, findings);
	}
	return questions;
}

/** Folds the records of a hop, finding out on the way what is not there yet and keeping it. */
export function weighedState(
	input: HopPlanInput,
	plan: HopPlan,
	records: readonly FieldRecord[],
	findings: Findings = noFindings()
): HopState {
	let state = emptyHopState(input, plan);
	for (const record of records) {
		if (needsFinding(record, findings, state.second !== null))
			keepFinding(findings, find(present(questionOf(state, record), 'question')));
		state = foldRecord(state, record, findings);
	}
	return state;
}
