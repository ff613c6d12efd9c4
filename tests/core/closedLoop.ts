import { randomUUID } from 'node:crypto';
import type { HopPlan } from '$core/budget/hopPlan';
import type { HopPlanInput } from '$core/budget/planInput';
import { ENDS, farEnd, type Axis, type End } from '$core/ends';
import { nextStep, ROUNDS_PER_END } from '$core/guide/nextStep';
import { situationOf, type AnalysisCache } from '$core/guide/situation';
import { makeLevelCurve, readingLevelDbm } from '$core/radio/levelCurve';
import type { FieldRecord, RecordKind, RecordPayloads } from '$core/record/records';
import { simulatedHopOf } from '$core/simulate/fromPlan';
import { approachTurns, sweepTurns } from '$core/simulate/drive';
import { adjusterAngleDeg, adjusterTurns } from '$core/sweep/adjusterScale';

export interface LoopResult {
	locked: boolean;
	stoppedAt: string;
	/** Loss against both dishes exactly on axis, dB. */
	remainingDb: number;
	offAxisBeamwidths: Record<End, number>;
	moves: number;
	samples: number;
	steps: string[];
}

/** A technician who does only what the guidance says, on a simulated hop. */
export function followGuidance(input: HopPlanInput, plan: HopPlan, seed: number): LoopResult {
	const sim = simulatedHopOf(input, plan, seed);
	let position = sim.start;
	let elapsedS = 0;
	let moves = 0;
	let samplesTaken = 0;
	const records: FieldRecord[] = [];
	const cache: AnalysisCache = new Map();
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
	let locked = false;
	let stoppedAt = 'too many steps';
	const steps: string[] = [];
	for (let i = 0; i < 80; i++) {
		const situation = situationOf(input, plan, records, cache);
		const end = situation.baton;
		const step = nextStep(input, plan, situation, end);
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
				otherAxisDeg: situation.ends[end].angleDeg[other],
				source: 'simulated',
				samples
			});
		} else if (step.kind === 'hand-over') add(end, 'baton', { to: farEnd(end) });
		else {
			locked = step.kind === 'lock';
			stoppedAt = `${end}: ${step.headline}`;
			break;
		}
	}
	const off = (end: End): number =>
		Math.hypot(
			...(['azimuth', 'tilt'] as const).map(
				(axis) =>
					adjusterAngleDeg(input.ends[end].mount[axis], position[end][axis].dishTurns) -
					sim.boresightDeg[end][axis]
			)
		) / plan.dish[end].beamwidthDeg;
	const ideal = plan.received.A.plannedLevelDbm;
	return {
		locked: locked && ROUNDS_PER_END > 0,
		stoppedAt,
		remainingDb: ideal - sim.levelDbm(position, 'A', elapsedS),
		offAxisBeamwidths: { A: off('A'), B: off('B') },
		moves,
		samples: samplesTaken,
		steps
	};
}
