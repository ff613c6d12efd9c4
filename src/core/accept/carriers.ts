import type { CarrierBudget, HopPlan } from '../budget/hopPlan';
import type { End } from '../ends';
import { recordsOf, type FieldRecord } from '../record/records';

export interface CarrierState {
	carrier: CarrierBudget;
	levelDbm: number | null;
	/** Below plan, dB; null where it was not read. */
	shortDb: number | null;
	verdict: 'on-plan' | 'off' | 'not-read';
}

/** Every carrier but the one that is aligned on, with the latest level read of it at an end. */
export function carrierStates(
	plan: HopPlan,
	records: readonly FieldRecord[],
	end: End
): CarrierState[] {
	return plan.carriers.slice(1).map((carrier) => {
		const latest = recordsOf(records, 'carrier-level', end)
			.filter((record) => record.payload.carrier === carrier.number)
			.at(-1);
		if (!latest) return { carrier, levelDbm: null, shortDb: null, verdict: 'not-read' };
		const budget = carrier.received[end];
		const shortDb = budget.plannedLevelDbm - latest.payload.levelDbm;
		return {
			carrier,
			levelDbm: latest.payload.levelDbm,
			shortDb,
			verdict: Math.abs(shortDb) <= budget.toleranceDb ? 'on-plan' : 'off'
		};
	});
}
