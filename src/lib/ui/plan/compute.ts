import { planHop, type HopPlanResult } from '#core/budget/hopPlan';
import type { HopPlanInput } from '#core/budget/planInput';
import type { Catalogue } from '#core/catalogue/parts';
import type { End } from '#core/ends';
import type { NeighbourCarrier } from '#core/frequency/siteConflicts';
import { reviewPlan, type PlanReview } from '#core/review/reviewPlan';
import { OutOfRangeError } from '#core/units/errors';
import { resolvePlanInput, type PlanDraftValues, type SiteValues } from '$lib/plan/resolve';

/** What the worker is asked: everything by value. */
export interface PlanQuestion {
	name: string;
	draft: PlanDraftValues;
	sites: Record<End, SiteValues>;
	neighbours: readonly NeighbourCarrier[];
}

export type LivePlan =
	| { kind: 'computed'; input: HopPlanInput; result: HopPlanResult; review: PlanReview }
	| { kind: 'incomplete'; what: string }
	| { kind: 'out-of-range'; message: string };

/** What a draft amounts to; the same computation as the server's. */
export function computeLivePlan(question: PlanQuestion, parts: Catalogue): LivePlan {
	const { name, draft, sites, neighbours } = question;
	const resolved = resolvePlanInput(name, draft, sites, parts);
	if (resolved.kind === 'unknown-parts') {
		return { kind: 'incomplete', what: 'Choose every part from the catalogue.' };
	}
	try {
		const result = planHop(resolved.input);
		return {
			kind: 'computed',
			input: resolved.input,
			result,
			review: reviewPlan(resolved.input, result, neighbours, draft.acceptances)
		};
	} catch (error) {
		if (error instanceof OutOfRangeError) return { kind: 'out-of-range', message: error.message };
		throw error;
	}
}
