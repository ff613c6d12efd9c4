import type { Catalogue } from '#core/catalogue/parts';
import { planHop } from '#core/budget/hopPlan';
import type { NeighbourCarrier } from '#core/frequency/siteConflicts';
import { reviewPlan } from '#core/review/reviewPlan';
import { resolvePlanInput, type PlanDraftValues, type SiteValues } from '../../plan/resolve';

/** A hop to be planned again, by value, and what its newest revision says. */
export interface ReplanTask {
	id: string;
	name: string;
	/** The draft as it is stored; fields it does not know yet get their defaults. */
	draft: unknown;
	sites: { A: SiteValues; B: SiteValues };
	neighbours: readonly NeighbourCarrier[];
	issued: ReplanFigures | null;
}

export interface ReplanFigures {
	levelADbm: number;
	levelBDbm: number;
	availabilityPercent: number;
}

export interface ReplanOutcome {
	id: string;
	name: string;
	before: ReplanFigures | null;
	/** Null where the plan can no longer be computed. */
	after: ReplanFigures | null;
	errors: number;
	openWarnings: number;
	/** The first thing that blocks, in words. */
	trouble: string | null;
}

/** Plans one hop again and judges it. Pure: runs in a worker. */
export function replanHop(
	task: ReplanTask,
	parts: Catalogue,
	fill: (draft: unknown) => PlanDraftValues
): ReplanOutcome {
	const head = { id: task.id, name: task.name, before: task.issued };
	try {
		const draft = fill(task.draft);
		const resolved = resolvePlanInput(task.name, draft, task.sites, parts);
		if (resolved.kind === 'unknown-parts') {
			const trouble = `Parts that are no longer in the catalogue: ${resolved.fields.join(', ')}.`;
			return { ...head, after: null, errors: resolved.fields.length, openWarnings: 0, trouble };
		}
		const result = planHop(resolved.input);
		const review = reviewPlan(resolved.input, result, task.neighbours, draft.acceptances);
		return {
			...head,
			after:
				result.kind === 'plan'
					? {
							levelADbm: result.plan.received.A.plannedLevelDbm,
							levelBDbm: result.plan.received.B.plannedLevelDbm,
							availabilityPercent: result.plan.availability.achievedPercent
						}
					: null,
			errors: review.errors,
			openWarnings: review.openWarnings,
			trouble: review.findings.find((finding) => finding.blocks)?.message ?? null
		};
	} catch (error) {
		const trouble = error instanceof Error ? error.message : 'It cannot be computed.';
		return { ...head, after: null, errors: 1, openWarnings: 0, trouble };
	}
}
