import { armDifferenceDb, crossedCablesLossDb } from '../budget/radioMixUps';
import { withObservation, type DiagnosisInput, type Observations } from '../diagnose/question';
import { observationOf } from '../diagnose/sights';
import type { End, PerEnd } from '../ends';
import { makeLevelCurve } from '../radio/levelCurve';
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
	// What was seen before something was set right may have been just that.
	const observations = state.testResults
		.filter((result) => stillHolds(state, 'test-result', result.end, result))
		.reduce<Observations>(
			(known, { test, value }) => withObservation(known, observationOf(test, value) ?? {}),
			{
				...seenBySweeps(state.ends),
				...seenByRecord(state),
				setRight: remedies.map(({ cause }) => cause)
			}
		);
	const { received, dish } = plan;
	return {
		plannedDbm: { A: received.A.plannedLevelDbm, B: received.B.plannedLevelDbm },
		measuredDbm: { A: presentLevel(A), B: presentLevel(B) },
		crossPolarDbm: { A: crossPolarDbm(state, 'A'), B: crossPolarDbm(state, 'B') },
		toleranceDb: input.toleranceDb,
		floorDbm: { A: received.A.floorDbm, B: received.B.floorDbm },
		firstSideLobeDb: { A: dish.A.firstSideLobeDb, B: dish.B.firstSideLobeDb },
		crossPolarDiscriminationDb: Math.min(
			dish.A.crossPolarDiscriminationDb,
			dish.B.crossPolarDiscriminationDb
		),
		armDifferenceDb: Math.max(armDifferenceDb(input, 'A'), armDifferenceDb(input, 'B')),
		crossedCablesLossDb: {
			A: crossedCablesLossDb(input, plan, 'A'),
			B: crossedCablesLossDb(input, plan, 'B')
		},
		dishSizeStepDb: DISH_STEP_DB,
		maxInputDbm: { A: highestShownDbm(state, 'A'), B: highestShownDbm(state, 'B') },
		observations
	};
}

/** A drowned receiver stands at its maximum input, or at the highest level that its port can show. */
function highestShownDbm({ input }: HopState, end: End): number {
	const { maxInputDbm, levelPort } = input.ends[end].radio;
	return Math.min(maxInputDbm, makeLevelCurve(levelPort.curve).highestLevelDbm);
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

function seenBySweeps({ A, B }: PerEnd<EndState>): Observations {
	const verdict = ({ lastSweep }: EndState): 'main-lobe' | 'beside-main-lobe' | undefined => {
		const last = lastSweep?.analysis.verdict;
		return last === 'main-lobe' || last === 'beside-main-lobe' ? last : undefined;
	};
	const implausible = A.implausibleReading ? 'A' : B.implausibleReading ? 'B' : undefined;
	return { sweep: { A: verdict(A), B: verdict(B) }, implausibleVoltage: implausible };
}
