import type { HopPlan } from '../budget/hopPlan';
import type { HopPlanInput } from '../budget/planInput';
import type { End } from '../ends';
import type { FieldRecord } from '../record/records';
import { analyseSweep, type SweepAnalysis, type SweepInput } from '../sweep/analyseSweep';
import { aimFrom, guidanceInputOf, type Aim } from './aim';
import { calibratedInput } from './calibrated';
import type { GuidanceInput } from './guidance';
import { sweepInputOf } from './sweepInput';

/**
 * What was found out about single records, by their ids. Pure results that cost time: screens have
 * them made by a worker, the server keeps them; who has none gets them made on the way.
 */
export interface Findings {
	sweeps: Map<string, SweepAnalysis>;
	aims: Map<string, Aim>;
}

export const noFindings = (): Findings => ({ sweeps: new Map(), aims: new Map() });

/** A question whose answer is a finding. */
export type FindingQuestion =
	| { kind: 'sweep'; id: string; input: SweepInput }
	| { kind: 'aim'; id: string; input: GuidanceInput };

export type Finding =
	{ kind: 'sweep'; id: string; analysis: SweepAnalysis } | { kind: 'aim'; id: string; aim: Aim };

export function find(question: FindingQuestion): Finding {
	const { id } = question;
	return question.kind === 'sweep'
		? { kind: 'sweep', id, analysis: analyseSweep(question.input) }
		: { kind: 'aim', id, aim: aimFrom(question.input) };
}

export function keepFinding(findings: Findings, finding: Finding): void {
	if (finding.kind === 'sweep') findings.sweeps.set(finding.id, finding.analysis);
	else findings.aims.set(finding.id, finding.aim);
}

/** Whether a record only counts once something has been found out about it. */
export function needsFinding(record: FieldRecord, findings: Findings): boolean {
	if (record.kind === 'sweep') return !findings.sweeps.has(record.id);
	return givesUp(record) !== undefined && !findings.aims.has(record.id);
}

/** The end whose aim a record closes: by handing the baton over, or by saying that it stands. */
export function givesUp(record: FieldRecord): End | undefined {
	if (record.kind === 'aimed') return record.end;
	return record.kind === 'baton' && record.payload.how !== 'taken' ? record.end : undefined;
}

/** What is still to be found out about the records of a hop, oldest first. */
export function openQuestions(
	input: HopPlanInput,
	plan: HopPlan,
	records: readonly FieldRecord[],
	findings: Findings
): FindingQuestion[] {
	const present = calibratedInput(input, records);
	return records.flatMap((record, i): FindingQuestion[] => {
		if (!needsFinding(record, findings)) return [];
		if (record.kind === 'sweep') {
			const { id, end, payload } = record;
			return [{ kind: 'sweep', id, input: sweepInputOf(present, plan, end, payload) }];
		}
		const question = guidanceInputOf(present, plan, records.slice(0, i), givesUp(record)!);
		return [{ kind: 'aim', id: record.id, input: question }];
	});
}
