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

/** What changes an aim on purpose; tightening is judged by its own drift. */
const MOVES_A_DISH: readonly FieldRecord['kind'][] = ['move', 'mount-turn', 'loosen'];

/** Place in the feed of the last record of some kinds; 0 if there is none. */
export function lastOfKinds(
	records: readonly FieldRecord[],
	kinds: readonly FieldRecord['kind'][]
): number {
	return records.findLast((record) => kinds.includes(record.kind))?.seq ?? 0;
}

/** Every carrier but the one that is aligned on, with the latest level read of it since a dish moved. */
export function carrierStates(
	plan: HopPlan,
	records: readonly FieldRecord[],
	end: End
): CarrierState[] {
	const movedAt = lastOfKinds(records, MOVES_A_DISH);
	return plan.carriers.slice(1).map((carrier) => {
		const latest = recordsOf(records, 'carrier-level', end)
			.filter((record) => record.seq > movedAt && record.payload.carrier === carrier.number)
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
