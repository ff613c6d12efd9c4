import { randomUUID } from 'node:crypto';
import type { HopPlan } from '#core/budget/hopPlan';
import type { HopPlanInput } from '#core/budget/planInput';
import { ENDS, farEnd, type Axis, type End } from '#core/ends';
import type { Cause } from '#core/diagnose/causes/keys';
import { diagnose, outcomeUnder } from '#core/diagnose/diagnosis';
import { diagnosisInputOf } from '#core/guide/diagnosisQuestion';
import type { SimulatedFault } from '#core/simulate/faults';
import type { PlantedFault } from '#core/simulate/planted';
import { guidanceInputOf } from '#core/guide/aim';
import { noFindings } from '#core/record/findings';
import { guide } from '#core/guide/guidance';
import { nextStep } from '#core/guide/nextStep';
import { weighedState } from '#core/guide/weigh';
import { makeLevelCurve, readingLevelDbm } from '#core/radio/levelCurve';
import type { FieldRecord, RecordKind, RecordPayloads } from '#core/record/records';
import { simulatedHopOf } from '#core/simulate/fromPlan';
import { approachTurns, sweepTurns } from '#core/simulate/drive';
import { adjusterAngleDeg, adjusterTurns } from '#core/sweep/adjusterScale';

export interface LoopResult {
	locked: boolean;
	stoppedAt: string;
	/** Loss against both dishes exactly on axis, dB. */
	remainingDb: number;
	offAxisBeamwidths: Record<End, number>;
	moves: number;
	samples: number;
	steps: string[];
	/** What was set right on the way. */
	remedied: Cause[];
}

/** A technician who does only what the guidance says, on a simulated hop. */
export function followGuidance(
	input: HopPlanInput,
	plan: HopPlan,
	seed: number,
	faults: readonly (SimulatedFault | PlantedFault)[] = []
): LoopResult {
	const planted = faults.map((one) => (typeof one === 'string' ? { fault: one, end: null } : one));
	const sim = simulatedHopOf(input, plan, seed, planted);
	const remedied: Cause[] = [];
	let position = sim.start;
	let elapsedS = 0;
	let moves = 0;
	let samplesTaken = 0;
	const records: FieldRecord[] = [];
	const findings = noFindings();
	const curves = {
		A: makeLevelCurve(input.ends.A.radio.levelPort.curve),
		B: makeLevelCurve(input.ends.B.radio.levelPort.curve)
	};
	const add = <K extends RecordKind>(end: End, kind: K, payload: RecordPayloads[K]): void => {
		records.push({
			id: randomUUID(),
			seq: records.length + 1,
			end,
			kind,
			payload,
			revisionNumber: 1,
			recordedAt: new Date(elapsedS * 1000).toISOString(),
			recordedBy: 'script'
		} as FieldRecord);
	};
	const readVolts = (end: End): number => {
		elapsedS += 0.5;
		return sim.meterVolts(position, end, elapsedS, samplesTaken++);
	};
	const record = (end: End): void => {
		const volts = readVolts(end);
		const levelDbm = readingLevelDbm(curves[end].read(volts)) ?? null;
		add(end, 'reading', { volts, levelDbm, source: 'simulated', purpose: 'watch' });
	};
	const turnTo = (end: End, axis: Axis, turns: readonly number[]): void => {
		for (const to of turns) position = sim.turn(position, end, axis, to);
		moves += 1;
		add(end, 'move', { axis, toTurns: turns.at(-1)!, viaTurns: [], source: 'simulated' });
		record(end);
	};
	for (const end of ENDS) {
		add(end, 'alignment-state', {
			powerControlOff: true,
			adaptiveModulationOff: true,
			fixedPower: true,
			transmitterOn: true
		});
		record(end);
	}
	/** What the diagnosis asks is looked at, and the likeliest cause set right once nothing is left to ask. */
	const lookIntoIt = (end: End): boolean => {
		for (const each of ENDS) record(each);
		for (let asked = 0; asked < 14; asked++) {
			const { causes, nextTest } = diagnose(
				diagnosisInputOf(weighedState(input, plan, records, findings))
			);
			const top = causes.find(({ cause }) => !cause.startsWith('side-lobe') && cause !== 'none')!;
			if (top.probability > 0.97 || !nextTest) {
				add(end, 'remedy', { cause: top.cause });
				position = sim.remedy(position, top.cause);
				remedied.push(top.cause);
				record(end);
				return true;
			}
			const usual = outcomeUnder(nextTest.key, 'none');
			const other = sim
				.faultsOf(position)
				.map(({ fault }) => outcomeUnder(nextTest.key, fault))
				.find((outcome) => outcome !== usual);
			const off = (e: End): boolean => sim.offAxisBeamwidths(position, e) < 0.9;
			const value = nextTest.key.startsWith('sweep-')
				? off(nextTest.key === 'sweep-a' ? 'A' : 'B')
					? 'yes'
					: 'no'
				: (other ?? usual);
			add(end, 'test-result', { test: nextTest.key, value: value });
		}
		return false;
	};
	let checkedMeter = false;
	let locked = false;
	let stoppedAt = 'too many steps';
	const steps: string[] = [];
	for (let i = 0; i < 250; i++) {
		const state = weighedState(input, plan, records, findings);
		const end = state.baton;
		const guidance = guide(guidanceInputOf(state, end));
		const step = nextStep(state, end, guidance);
		steps.push(
			`${end} ${step.kind} ${'axis' in step ? step.axis : ''} ${step.kind === 'move' ? step.targetDeg.toFixed(2) : ''}`
		);
		if (step.kind === 'read') record(end);
		else if (step.kind === 'move') {
			const adjuster = input.ends[end].mount[step.axis];
			turnTo(end, step.axis, approachTurns(adjusterTurns(adjuster, step.targetDeg)));
		} else if (step.kind === 'sweep') {
			const adjuster = input.ends[end].mount[step.axis];
			const other: Axis = step.axis === 'azimuth' ? 'tilt' : 'azimuth';
			const turns = sweepTurns(adjuster, step);
			const samples = turns.map((to) => {
				position = sim.turn(position, end, step.axis, to);
				return { positionDeg: adjusterAngleDeg(adjuster, to), levelV: readVolts(end), elapsedS };
			});
			add(end, 'move', {
				axis: step.axis,
				toTurns: turns.at(-1)!,
				viaTurns: [],
				source: 'simulated'
			});
			add(end, 'sweep', {
				axis: step.axis,
				otherAxisDeg: state.ends[end].angleDeg[other],
				source: 'simulated',
				samples
			});
		} else if (step.kind === 'turn-mount') {
			position = sim.turnMount(position, end, step.byDeg);
			add(end, 'mount-turn', { byDeg: step.byDeg, compassDeg: null, source: 'simulated' });
			record(end);
		} else if (step.kind === 'ask-far') record(farEnd(end));
		else if (step.kind === 'check' && step.about === 'meter' && !checkedMeter) {
			checkedMeter = true;
			record(end);
		} else if (step.kind === 'check' && faults.length && remedied.length < 3) {
			checkedMeter = false;
			if (!lookIntoIt(end)) break;
		} else if (step.kind === 'hand-over') add(end, 'baton', { to: farEnd(end), how: 'handed' });
		else {
			locked = step.kind === 'lock';
			stoppedAt = `${end}: ${step.headline}`;
			break;
		}
	}
	const off = (end: End): number => sim.offAxisBeamwidths(position, end);
	const ideal = plan.received.A.plannedLevelDbm;
	return {
		locked,
		stoppedAt,
		remainingDb: ideal - sim.levelDbm(position, 'A', elapsedS),
		offAxisBeamwidths: { A: off('A'), B: off('B') },
		moves,
		samples: samplesTaken,
		steps,
		remedied
	};
}
