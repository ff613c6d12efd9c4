import { CONFIGURATION_RULES } from '../budget/configuration';
import type { HopPlan } from '../budget/hopPlan';
import type { HopPlanInput } from '../budget/planInput';
import type { End } from '../ends';
import type { EndSituation, Situation } from '../guide/situation';
import { recordsOf, type FieldRecord } from '../record/records';
import type { DiagnosisInput, Observations } from './causes';
import { observationOf, withObservation } from './diagnosis';

/** What gain the next size of dish makes, dB: 1.5 times the diameter, as catalogues step. */
const DISH_STEP_DB = 20 * Math.log10(1.5);

/** The question to the diagnosis as plan and record stand. */
export function diagnosisInputOf(
	input: HopPlanInput,
	plan: HopPlan,
	situation: Situation,
	records: readonly FieldRecord[]
): DiagnosisInput {
	const { A, B } = situation.ends;
	const arms = (end: End): number => {
		const losses = input.ends[end].coupling?.arms.map((arm) => arm.lossDb) ?? [];
		const used = CONFIGURATION_RULES[input.configuration.kind].couplings.length > 0;
		return used && losses.length ? Math.max(...losses) - Math.min(...losses) : 0;
	};
	// What was seen before something was set right may have been just that.
	const remedies = recordsOf(records, 'remedy');
	const remedied = remedies.at(-1)?.seq ?? 0;
	const tests = recordsOf(records, 'test-result').filter((record) => record.seq > remedied);
	const observations = tests.reduce<Observations>(
		(known, record) =>
			withObservation(known, observationOf(record.payload.test, record.payload.value) ?? {}),
		{
			...seenBySweeps(A, B),
			...seenByRecord(records),
			setRight: remedies.map((record) => record.payload.cause)
		}
	);
	return {
		planned: { aDbm: plan.received.A.plannedLevelDbm, bDbm: plan.received.B.plannedLevelDbm },
		measured: { aDbm: presentLevel(A), bDbm: presentLevel(B) },
		crossPolar: { aDbm: null, bDbm: null },
		toleranceDb: input.toleranceDb,
		floorDbm: { a: plan.received.A.floorDbm, b: plan.received.B.floorDbm },
		firstSideLobeDb: { a: plan.dish.A.firstSideLobeDb, b: plan.dish.B.firstSideLobeDb },
		crossPolarDiscriminationDb: Math.min(
			plan.dish.A.crossPolarDiscriminationDb,
			plan.dish.B.crossPolarDiscriminationDb
		),
		armDifferenceDb: Math.max(arms('A'), arms('B')),
		dishSizeStepDb: DISH_STEP_DB,
		maxInputDbm: { a: input.ends.A.radio.maxInputDbm, b: input.ends.B.radio.maxInputDbm },
		observations
	};
}

/** Nothing that was never tightened can have moved in tightening. */
function seenByRecord(records: readonly FieldRecord[]): Observations {
	return recordsOf(records, 'lock-step').length === 0 ? { fellWhileLocking: false } : {};
}

/** A level read before a dish moved says nothing of the present pointing. */
function presentLevel({ levelIsFresh, lastLevelDbm }: EndSituation): number | null {
	return levelIsFresh ? lastLevelDbm : null;
}

function seenBySweeps(A: EndSituation, B: EndSituation): Observations {
	const verdict = (end: EndSituation): Observations['sweepA'] => {
		const last = end.lastSweep?.analysis.verdict;
		return last === 'main-lobe' || last === 'beside-main-lobe' ? last : undefined;
	};
	const implausible = A.implausibleReading ? 'a' : B.implausibleReading ? 'b' : undefined;
	return { sweepA: verdict(A), sweepB: verdict(B), implausibleVoltage: implausible };
}
