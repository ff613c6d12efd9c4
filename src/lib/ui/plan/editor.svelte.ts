import { getContext, setContext } from 'svelte';
import type { HopPlan } from '#core/budget/hopPlan';
import type { HopPlanInput } from '#core/budget/planInput';
import type { Catalogue } from '#core/catalogue/parts';
import type { End } from '#core/ends';
import type { NeighbourCarrier } from '#core/frequency/siteConflicts';
import type { PlanReview } from '#core/review/reviewPlan';
import type { Draft } from '../form/draft.svelte';
import type { LivePlan } from './compute';
import type { HopForm, PickedSite } from './planForm';

/** What the sheets of the plan editor share: the draft, its sites, and what it amounts to. */
export interface PlanEditor {
	readonly draft: Draft<HopForm>;
	readonly sites: Record<End, PickedSite | undefined>;
	readonly parts: Catalogue;
	readonly neighbours: readonly NeighbourCarrier[];
	readonly hopId: string | undefined;
	readonly live: LivePlan | undefined;
	readonly plan: HopPlan | undefined;
	readonly input: HopPlanInput | undefined;
	readonly review: PlanReview | undefined;
	/** What is wrong at a field, from the server or the live plan. */
	problemAt(field: string): string | undefined;
	pickSite(end: End, site: PickedSite): void;
	/** Opens the sheet that holds a field and goes to it. */
	goTo(field: string): void;
}

const KEY = Symbol('plan editor');

export function providePlanEditor(editor: PlanEditor): void {
	setContext(KEY, editor);
}

export function usePlanEditor(): PlanEditor {
	return getContext<PlanEditor>(KEY);
}
