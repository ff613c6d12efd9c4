import { CONFIGURATION_RULES } from '../budget/configuration';
import type { DiagnosisInput, Observations } from '../diagnose/causes';
import { observationOf, withObservation } from '../diagnose/diagnosis';
import type { End } from '../ends';
import {
	settledDiscriminations,
	stillHolds,
	type EndState,
	type HopState
} from '../record/hopState';

/** What gain the next size of dish makes, dB: 1.5 times the diameter, as catalogues step. */
const DISH_STEP_DB = 20 * Math.log10(1.5);

/** The question to the diagnosis as plan and record stand. */
export function diagnosisInputOf(state: HopState): DiagnosisInput {
	const { input, plan, remedies } = state;
	const { A, B } = state.ends;
	const arms = (end: End): number => {
		const losses = input.ends[end].coupling?.arms.map((arm) => arm.lossDb) ?? [];
		const used = CONFIGURATION_RULES[input.configuration.kind].couplings.length > 0;
		return used && losses.length ? Math.max(...losses) - Math.min(...losses) : 0;
	};
	// What was seen before something was set right may have been just that.
	const observations = state.testResults
		.filter((result) => stillHolds(state, 'test-result', result.end, result))
		.reduce<Observations>(
			(known, { test, value }) => withObservation(known, observationOf(test, value) ?? {}),
			{
				...seenBySweeps(A, B),
				...seenByRecord(state),
				setRight: remedies.map(({ cause }) => cause)
			}
		);
	return {
		planned: { aDbm: plan.received.A.plannedLevelDbm, bDbm: plan.received.B.plannedLevelDbm },
		measured: { aDbm: presentLevel(A), bDbm: presentLevel(B) },
		crossPolar: { aDbm: crossPolarDbm(state, 'A'), bDbm: crossPolarDbm(state, 'B') },
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

/** The other polarization as last read at an end, beside the planned one sent; null if never. */
function crossPolarDbm(state: HopState, end: End): number | null {
	const sent = state.input.ends.A.polarization;
	return (
		settledDiscriminations(state).findLast((read) => read.end === end && read.sent === sent)
			?.crossDbm ?? null
	);
}

/** Nothing that was never tightened can have moved in tightening. */
function seenByRecord({ ends }: HopState): Observations {
	const tightened = Math.max(ends.A.changedAt.tightened, ends.B.changedAt.tightened);
	return tightened === 0 ? { fellWhileLocking: false } : {};
}

/** A level read before something changed says nothing of the present pointing. */
function presentLevel({ levelIsFresh, lastLevelDbm }: EndState): number | null {
	return levelIsFresh ? lastLevelDbm : null;
}

function seenBySweeps(A: EndState, B: EndState): Observations {
	const verdict = (end: EndState): Observations['sweepA'] => {
		const last = end.lastSweep?.analysis.verdict;
		return last === 'main-lobe' || last === 'beside-main-lobe' ? last : undefined;
	};
	const implausible = A.implausibleReading ? 'a' : B.implausibleReading ? 'b' : undefined;
	return { sweepA: verdict(A), sweepB: verdict(B), implausibleVoltage: implausible };
}
