import { planHop, type HopPlanResult } from '$core/budget/hopPlan';
import { OutOfRangeError } from '$core/units/errors';
import type { Catalogue } from '$core/catalogue/parts';
import { resolvePlanInput, type SiteValues } from '$lib/plan/resolve';
import type { End } from '$core/ends';
import { draftValuesOf, type HopForm } from './planForm';

export type LivePlan =
	HopPlanResult | { kind: 'incomplete'; what: string } | { kind: 'out-of-range'; message: string };

/** What the form as typed amounts to; the same computation as the server's. */
export function livePlan(
	form: HopForm,
	sites: Record<End, SiteValues | undefined>,
	parts: Catalogue
): LivePlan {
	if (!sites.A || !sites.B) return { kind: 'incomplete', what: 'Choose both sites.' };
	const draft = draftValuesOf(form);
	if (!draft) return { kind: 'incomplete', what: 'A number or the day is missing or is none.' };
	const resolved = resolvePlanInput(form.name, draft, { A: sites.A, B: sites.B }, parts);
	if (resolved.kind === 'unknown-parts') {
		return { kind: 'incomplete', what: 'Choose every part from the catalogue.' };
	}
	try {
		return planHop(resolved.input);
	} catch (error) {
		if (error instanceof OutOfRangeError) return { kind: 'out-of-range', message: error.message };
		throw error;
	}
}
