import type { End } from '../ends';
import { CONFIGURATION_RULES } from './configuration';
import type { HopPlan } from './hopPlan';
import type { HopPlanInput } from './planInput';

/** Loss that leaves next to nothing of any hop, dB: the receiver listens on another frequency, or to nothing. */
export const SILENT_DB = 45;

/** By how much the arms of an end's coupling differ, dB; 0 where none is used. */
export function armDifferenceDb({ ends, configuration }: HopPlanInput, end: End): number {
	const losses = ends[end].coupling?.arms.map((arm) => arm.lossDb) ?? [];
	const used = CONFIGURATION_RULES[configuration.kind].couplings.length > 0;
	return used && losses.length ? Math.max(...losses) - Math.min(...losses) : 0;
}

/**
 * What the far end hears less where the cables between an end's indoor unit and its first two radios are
 * crossed, dB: asked to send with the first radio, the second one sends. 0 where nothing can be crossed.
 */
export function crossedCablesLossDb(input: HopPlanInput, plan: HopPlan, end: End): number {
	const { kind } = input.configuration;
	if (!mayBeCrossed(input, end)) return 0;
	switch (kind) {
		case 'hot-standby':
			return armDifferenceDb(input, end);
		case 'dual-polarized':
			return Math.min(
				plan.dish.A.crossPolarDiscriminationDb,
				plan.dish.B.crossPolarDiscriminationDb
			);
		default:
			// The other radio sends on another frequency, or does not send at all.
			return SILENT_DB;
	}
}

/** Whether two cables of an end lead from one indoor unit to radios that could be taken for each other. */
export function mayBeCrossed({ ends, configuration }: HopPlanInput, end: End): boolean {
	const { radios } = CONFIGURATION_RULES[configuration.kind];
	return radios > 1 && configuration.kind !== 'two-bands' && ends[end].indoorUnit !== null;
}
