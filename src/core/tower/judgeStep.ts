import type { RecordPayloads } from '../record/records';
import type { BuildStep } from './buildStep';
import { judgeQuantity } from './quantity';
import { judgeLift, matchPower } from './towerArithmetic';

/** What was recorded of a step, as far as it is judged. */
export type StepDone = Pick<RecordPayloads['build-step'], 'value' | 'gear' | 'source'>;

export interface StepVerdict {
	/** `off` is kept as found and stands as trouble; `stops` can hurt or destroy, and closes nothing. */
	verdict: 'good' | 'off' | 'stops';
	reason: string;
}

/** Judges what was found at a step by its quantity and by its gate. */
export function judgeStep(step: BuildStep, done: StepDone): StepVerdict {
	const gate = throughGate(step, done);
	if (gate && gate.verdict !== 'good') return gate;
	if (!step.quantity || done.value === null) return gate ?? { verdict: 'good', reason: '' };
	const found = judgeQuantity(step.quantity, done.value);
	if (found.verdict === 'good') {
		return { verdict: 'good', reason: [found.reason, gate?.reason].filter(Boolean).join(' ') };
	}
	const { gate: stops } = step;
	const hurts =
		stops?.kind === 'limits' ||
		(stops?.kind === 'supply' && (done.value < 0 || done.value > stops.maxV));
	return { verdict: hurts ? 'stops' : 'off', reason: found.reason };
}

/** What the gate of a step says of what was recorded; undefined where it says nothing by itself. */
function throughGate({ gate }: BuildStep, { gear, source }: StepDone): StepVerdict | undefined {
	switch (gate?.kind) {
		case 'lift': {
			if (!gear) return undefined;
			const loadKg = gate.loadKg ?? gear.loadKg;
			if (loadKg === undefined) return undefined;
			const { holds, reason } = judgeLift(loadKg, gear);
			return { verdict: holds ? 'good' : 'stops', reason };
		}
		case 'source': {
			if (!source) return undefined;
			const { verdict, reason } = matchPower(source, gate.unit, gate.cableLengthM);
			const found = { match: 'good', 'no-power': 'off', destroys: 'stops' } as const;
			return { verdict: found[verdict], reason };
		}
		default:
			return undefined;
	}
}

/** Why a record of the building cannot stand, and the field of its payload that says so. */
export interface StepRefusal {
	field: string;
	message: string;
}

/** The field of a record that each gate judges, and what is asked for where it is missing. */
const JUDGED = {
	lift: { field: 'gear', needed: 'what rope, pulley and sling allow' },
	source: { field: 'source', needed: 'what feeds the unit' },
	supply: { field: 'value', needed: 'the voltage that was measured' },
	limits: { field: 'value', needed: 'what was measured' }
} as const;

/**
 * Whether a record closes a step against its gate: the rule that phone and server both ask before a
 * record is made.
 */
export function refusedStep(
	steps: readonly BuildStep[],
	record:
		| { kind: 'build-step'; payload: RecordPayloads['build-step'] }
		| { kind: 'step-skipped'; payload: RecordPayloads['step-skipped'] }
): StepRefusal | undefined {
	const step = steps.find(({ key }) => key === record.payload.step);
	if (!step?.gate) return undefined;
	if (record.kind === 'step-skipped') {
		return record.payload.authorisedBy
			? undefined
			: {
					field: 'authorisedBy',
					message: `“${step.title}” can hurt or destroy: it is left out only by the word of a named person.`
				};
	}
	const { field, needed } = JUDGED[step.gate.kind];
	if (record.payload[field] === undefined || record.payload[field] === null) {
		return { field, message: `Needed: ${needed}.` };
	}
	if (step.gate.kind === 'lift' && step.gate.loadKg === null && !record.payload.gear?.loadKg) {
		return { field: 'gear', message: 'Needed: what the load weighs, by its papers or a scale.' };
	}
	const { verdict, reason } = judgeStep(step, record.payload);
	if (verdict !== 'stops') return undefined;
	return {
		field,
		message: `${reason} Put it right, or leave the step out by the word of a named person.`
	};
}
