import type { CarrierBudget } from '../budget/hopPlan';
import { throughSecondDish } from '../budget/configuration';
import type { End } from '../ends';
import { stillHolds, type HopState } from '../record/hopState';

export interface CarrierState {
	carrier: CarrierBudget;
	levelDbm: number | null;
	/** Below plan, dB; null where it was not read. */
	shortDb: number | null;
	verdict: 'on-plan' | 'off' | 'not-read';
}

/**
 * Every carrier that comes in through the dish that is aligned, but the one that it is aligned on, with the
 * latest level of it that still holds. What comes through a second dish is that dish's own final level.
 */
export function carrierStates(state: HopState, end: End): CarrierState[] {
	const others = state.plan.carriers.slice(1);
	const here = state.second ? others.filter((carrier) => !throughSecondDish(carrier)) : others;
	return here.map((carrier) => {
		const latest = state.ends[end].carrierLevels[carrier.number] ?? null;
		if (!latest || !stillHolds(state, 'carrier-level', end, latest)) {
			return { carrier, levelDbm: null, shortDb: null, verdict: 'not-read' };
		}
		const budget = carrier.received[end];
		const shortDb = budget.plannedLevelDbm - latest.levelDbm;
		return {
			carrier,
			levelDbm: latest.levelDbm,
			shortDb,
			verdict: Math.abs(shortDb) <= budget.toleranceDb ? 'on-plan' : 'off'
		};
	});
}
