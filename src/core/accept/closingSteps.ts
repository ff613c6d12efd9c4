import { farEnd, type End } from '../ends';
import { hopsAt, stillHolds, type HopState } from '../record/hopState';
import { dishSuffix, dishWords, type DishNumber } from '../record/secondDish';
import { judgeErrorTest, latestErrorTest } from './closing';
import type { AcceptanceJudgement, AcceptanceLine } from './judgeAcceptance';

export type ClosingKind = 'final-level' | 'operating' | 'services' | 'look' | 'test' | 'signature';

/** One thing that the crew of an end owes before the acceptor signs. */
export interface ClosingStep {
	/** Stable name of the step at this end. */
	key: string;
	kind: ClosingKind;
	/** Whose level is read; 1 for what is about the whole end. */
	dish: DishNumber;
	title: string;
	/** Done as the plan has it, done but not as the plan has it, or still owed. */
	state: 'done' | 'off' | 'open';
	/** What stands in the record and what it means; why it is owed where it was done once before. */
	said: string;
	/** The acceptance can be signed without it: a test with a cause, a signature where the far end has one. */
	mayWait: boolean;
}

const STATES = { pass: 'done', deviation: 'off', missing: 'open' } as const;

/** What was read or counted stands before what it means; that something was done says its state. */
const FIGURES: readonly ClosingKind[] = ['final-level', 'services'];

function ofLine(kind: ClosingKind, line: AcceptanceLine): Pick<ClosingStep, 'state' | 'said'> {
	const { measured, reason, verdict } = line;
	const figure = FIGURES.includes(kind) && measured !== '';
	return { state: STATES[verdict], said: figure ? `${measured}: ${reason}` : reason };
}

function testStep(state: HopState): ClosingStep {
	const { verdict, measured, reason } = judgeErrorTest(state);
	// A link without traffic yet has none: who signs writes the cause.
	const latest = latestErrorTest(state);
	const stale = latest !== null && !stillHolds(state, 'error-test', latest.end, latest);
	return {
		...{ key: 'test', kind: 'test', dish: 1, mayWait: true },
		title: 'Error, traffic or soak test',
		state: stale ? 'open' : STATES[verdict],
		said: latest ? `${measured}: ${reason} Recorded at ${latest.end}.` : reason
	};
}

/** The signature of an end's crew that still stands for the record; null where there is none. */
export function crewSignatureAt(state: HopState, end: End): HopState['ends'][End]['crewSignature'] {
	const { crewSignature } = state.ends[end];
	return stillHolds(state, 'crew-signature', end, crewSignature) ? crewSignature : null;
}

function signatureStep(state: HopState, end: End): ClosingStep {
	const own = crewSignatureAt(state, end);
	return {
		...{ key: 'signature', kind: 'signature', dish: 1 },
		title: `Signature of the crew at ${end}`,
		state: own ? 'done' : 'open',
		said:
			own?.name ??
			(state.ends[end].crewSignature
				? 'Something was changed since: the crew signs again.'
				: 'The crew has not signed its record yet.'),
		// One signature of a hop is enough.
		mayWait: crewSignatureAt(state, farEnd(end)) !== null
	};
}

/**
 * What the crew of an end owes before the acceptor signs, in its order: the level while the power is fixed,
 * then operation, services, the last look, a test, and the name under it all. One step for each dish that has
 * a final level of its own.
 *
 * @param state the hop as its records leave it
 * @param end whose closing it is
 * @param judgement of the same state
 */
export function closingStepsOf(
	state: HopState,
	end: End,
	judgement: AcceptanceJudgement
): ClosingStep[] {
	const lineOf = (code: string): AcceptanceLine | undefined =>
		judgement.lines.find((line) => line.code === code);
	const step = (
		kind: ClosingKind,
		title: string,
		code: string,
		dish: DishNumber = 1
	): ClosingStep[] => {
		const line = lineOf(code);
		const key = `${kind}${dishSuffix(dish)}`;
		return line ? [{ key, kind, dish, title, mayWait: false, ...ofLine(kind, line) }] : [];
	};
	return [
		...hopsAt(state, end).flatMap(({ dish }) =>
			step(
				'final-level',
				`Final RSL at ${end}${dishWords(dish)}`,
				`level-${end}${dishSuffix(dish)}`,
				dish
			)
		),
		...step('operating', `Back to operation at ${end}`, `operating-${end}`),
		...step('services', `Services at ${end}`, `services-${end}`),
		...step('look', `Final look at ${end}`, `closing-${end}`),
		testStep(state),
		signatureStep(state, end)
	];
}

/**
 * The first thing that is still owed; undefined when nothing is.
 *
 * @param putOff keys of steps that the crew has put off; only what may wait can be
 */
export function nextClosingStep(
	steps: readonly ClosingStep[],
	putOff: readonly string[] = []
): ClosingStep | undefined {
	return steps.find(
		({ state, key, mayWait }) => state === 'open' && !(mayWait && putOff.includes(key))
	);
}
