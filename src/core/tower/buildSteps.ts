import { indoorSteps } from './steps/indoors';
import { inventoryOf } from '../budget/inventory';
import type { HopPlan } from '../budget/hopPlan';
import type { HopPlanInput } from '../budget/planInput';
import type { End } from '../ends';
import { remembered } from '../units/memo';
import { withOrder } from './buildOrder';
import { complete, type BuildSite, type BuildStep, type Draft } from './buildStep';
import { partsList } from './partsList';
import { partsToLabel } from './labels';
import { cableSteps, earthSteps, powerSteps, weatherproofSteps } from './steps/connect';
import {
	assembleSteps,
	footSteps,
	mountSteps,
	officeSteps,
	polarizationSteps,
	receiveSteps
} from './steps/ground';
import { raiseSteps, runSteps } from './steps/raise';
import { toolLines } from './tools';

export { PHASES, type BuildStep, type Gate, type Phase, type StepSheet } from './buildStep';

/**
 * The ordered work of one end for its own configuration, parts and schools, made from its inventory.
 * Pure.
 */
export function buildSteps(input: HopPlanInput, plan: HopPlan, end: End): readonly BuildStep[] {
	const known = ofInput(input, end, () => ({ plan, steps: madeSteps(input, plan, end) }));
	// An input has one plan; whoever asks with another gets what follows from that one.
	return known.plan === plan ? known.steps : madeSteps(input, plan, end);
}

/** Asked for at every record by several rooms: remembered for an input, which nobody changes. */
const ofInput = remembered<{ plan: HopPlan; steps: readonly BuildStep[] }>();

function madeSteps(input: HopPlanInput, plan: HopPlan, end: End): readonly BuildStep[] {
	const site: BuildSite = {
		input,
		plan,
		own: input.ends[end],
		end,
		inventory: inventoryOf(input, end),
		whole: input.building.lift === 'whole'
	};
	const mounting = mountSteps(site);
	// Where all goes up as one piece, it is put together before the lift; else once the dish hangs.
	const work: Draft[] = [
		...assembleSteps(site),
		...polarizationSteps(site),
		...(site.whole ? mounting : []),
		...raiseSteps(site),
		...(site.whole ? [] : mounting),
		...runSteps(site),
		...footSteps(site),
		...earthSteps(site),
		...cableSteps(site),
		...weatherproofSteps(site),
		...indoorSteps(site),
		...powerSteps(site)
	];
	const before = officeSteps(site);
	const steps = [...before, ...work].map(complete);
	const lines = partsList(input, end).length + toolLines(input, end, steps).length;
	const receiving = receiveSteps(site, lines, partsToLabel(input, end).length).map(complete);
	const inOrder = [...steps.slice(0, before.length), ...receiving, ...steps.slice(before.length)];
	return withOrder(inOrder, input.building.lift);
}
