import type { PlanFinding } from '../finding/planFinding';
import type { HopPlan, HopPlanResult } from '../budget/hopPlan';
import type { HopPlanInput } from '../budget/planInput';
import { farEnd, type End } from '../ends';
import { siteConflicts, type NeighbourCarrier, type OwnCarrier } from '../frequency/siteConflicts';

/** A finding with what the planner has said to it. */
export interface ReviewedFinding extends PlanFinding {
	/** Written acceptance of a warning; null while there is none. */
	acceptance: string | null;
	/** What keeps the plan from being issued. */
	blocks: boolean;
}

export interface PlanReview {
	findings: ReviewedFinding[];
	errors: number;
	openWarnings: number;
	/** The one word on whether a revision may be issued. */
	mayIssue: boolean;
}

/**
 * Judges a whole plan: errors block; warnings block until accepted in writing under their code;
 * notes never do. Nothing else decides whether a revision may be issued.
 *
 * @param acceptances written acceptances by `code field`, see {@link acceptanceKey}
 */
export function reviewPlan(
	input: HopPlanInput,
	result: HopPlanResult,
	neighbours: readonly NeighbourCarrier[],
	acceptances: Readonly<Record<string, string>>
): PlanReview {
	const own = result.kind === 'plan' ? result.plan.findings : result.findings;
	const conflicts =
		result.kind === 'plan'
			? siteConflicts(ownCarriers(input, result.plan), neighbours, {
					A: input.ends.A.siteName,
					B: input.ends.B.siteName
				})
			: [];
	const order = { error: 0, warning: 1, note: 2 };
	const findings = [...own, ...conflicts]
		.map((finding): ReviewedFinding => {
			const text = acceptances[acceptanceKey(finding)]?.trim() ?? '';
			const acceptance = finding.severity === 'warning' && text !== '' ? text : null;
			return {
				...finding,
				acceptance,
				blocks:
					finding.severity === 'error' || (finding.severity === 'warning' && acceptance === null)
			};
		})
		.sort((p, q) => order[p.severity] - order[q.severity]);
	return {
		findings,
		errors: findings.filter((f) => f.severity === 'error').length,
		openWarnings: findings.filter((f) => f.severity === 'warning' && f.blocks).length,
		mayIssue: result.kind === 'plan' && findings.every((finding) => !finding.blocks)
	};
}

/** Under which name a warning's acceptance is kept: what is said of one end says nothing of the other. */
export function acceptanceKey(finding: Pick<PlanFinding, 'code' | 'field'>): string {
	return `${finding.code} ${finding.field}`;
}

/** What each end sends and receives, as its site's other hops see it. */
export function ownCarriers(input: HopPlanInput, plan: HopPlan): Record<End, OwnCarrier> {
	const at = (end: End): OwnCarrier => ({
		transmitGhz: input.ends[end].transmitFrequencyGhz,
		receiveGhz: input.ends[farEnd(end)].transmitFrequencyGhz,
		channelWidthMhz: input.channelWidthMhz,
		polarization: input.ends[end].polarization,
		azimuthTrueDeg: plan.pointing[end].azimuthTrueDeg
	});
	return { A: at('A'), B: at('B') };
}
