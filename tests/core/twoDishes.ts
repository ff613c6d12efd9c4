import type { HopPlanInput } from '#core/budget/planInput';
import { farEnd, type Axis, type End } from '#core/ends';
import { guidanceInputOf } from '#core/guide/aim';
import { guide } from '#core/guide/guidance';
import { nextStep } from '#core/guide/nextStep';
import { weighedState } from '#core/guide/weigh';
import { makeLevelCurve, readingLevelDbm } from '#core/radio/levelCurve';
import { noFindings } from '#core/record/findings';
import { hopOfDish, type HopState } from '#core/record/hopState';
import type { FieldRecord, RecordKind, RecordPayloads } from '#core/record/records';
import { inSecondHop, isOfADish, isOfSecond, type DishNumber } from '#core/record/secondDish';
import { approachTurns, sweepTurns } from '#core/simulate/drive';
import { simulatedHopOf, simulatedSecondsOf } from '#core/simulate/fromPlan';
import { replayMoves } from '#core/simulate/replay';
import type { HopPosition, SimulatedHop } from '#core/simulate/simulatedHop';
import { adjusterAngleDeg, adjusterTurns } from '#core/sweep/adjusterScale';
import { present } from '#core/units/lists';
import { soundPlan } from './planFixture';

const MOST_STEPS = 80;

/** Two crews on a simulated hop whose ends may have two dishes; they do what the next step says. */
export class TwoDishes {
	readonly records: FieldRecord[] = [];
	readonly #input: HopPlanInput;
	readonly #plan;
	readonly #findings = noFindings();
	readonly #main: SimulatedHop;
	readonly #seconds;
	#elapsedS = 0;

	constructor(input: HopPlanInput, seed: number) {
		this.#input = input;
		this.#plan = soundPlan(input);
		const plan = this.#plan;
		this.#main = simulatedHopOf(input, plan, seed);
		this.#seconds = simulatedSecondsOf({ input, plan, main: this.#main }, seed);
	}

	get state(): HopState {
		return weighedState(this.#input, this.#plan, this.records, this.#findings);
	}

	hop(end: End, dish: DishNumber): HopState {
		return present(hopOfDish(this.state, end, dish), 'hop of the dish');
	}

	#sim(end: End, dish: DishNumber): SimulatedHop {
		return dish === 1 ? this.#main : present(this.#seconds, 'second dishes')[end].sim;
	}

	#position(end: End, dish: DishNumber): HopPosition {
		const { stands } = this.hop(end, dish);
		const own =
			dish === 1
				? this.records.filter((record) => !isOfSecond(record))
				: this.records.flatMap((record) => inSecondHop(record, end, stands) ?? []);
		return replayMoves(this.#sim(end, dish), own);
	}

	/** How far the dish stands off its main lobe, beamwidths. */
	offAxis(end: End, dish: DishNumber): number {
		return this.#sim(end, dish).offAxisBeamwidths(this.#position(end, dish), end);
	}

	add<K extends RecordKind>(
		end: End,
		kind: K,
		payload: RecordPayloads[K],
		dish: DishNumber = 1
	): void {
		const seq = this.records.length + 1;
		this.#elapsedS += 1;
		this.records.push({
			...{ id: `r${seq}`, seq, end, kind, revisionNumber: 1, recordedBy: 'crew' },
			payload: dish === 2 && isOfADish(kind) ? { ...payload, dish } : payload,
			recordedAt: new Date(this.#elapsedS * 1000).toISOString()
		} as FieldRecord);
	}

	volts(end: End, dish: DishNumber, position = this.#position(end, dish)): number {
		const seq = this.records.length;
		this.#elapsedS += 1;
		return Math.max(0, this.#sim(end, dish).meterVolts(position, end, this.#elapsedS, seq));
	}

	read(end: End, dish: DishNumber, purpose: 'watch' | 'final' = 'watch'): void {
		const volts = this.volts(end, dish);
		const curve = makeLevelCurve(this.hop(end, dish).input.ends[end].radio.levelPort.curve);
		const levelDbm = readingLevelDbm(curve.read(volts)) ?? null;
		this.add(end, 'reading', { volts, levelDbm, source: 'simulated', purpose }, dish);
	}

	turn(end: End, dish: DishNumber, axis: Axis, toDeg: number): void {
		const to = adjusterTurns(this.hop(end, dish).input.ends[end].mount[axis], toDeg);
		const [past, there] = approachTurns(to);
		this.add(end, 'move', { axis, toTurns: there!, viaTurns: [past!], source: 'simulated' }, dish);
	}

	#sweep(
		end: End,
		dish: DishNumber,
		sweep: { axis: Axis; fromDeg: number; toDeg: number; stepDeg: number }
	): void {
		const hop = this.hop(end, dish);
		const adjuster = hop.input.ends[end].mount[sweep.axis];
		const turns = sweepTurns(adjuster, sweep);
		const sim = this.#sim(end, dish);
		let position = this.#position(end, dish);
		const samples = turns.map((to, i) => {
			position = sim.turn(position, end, sweep.axis, to);
			return {
				elapsedS: i * 0.5,
				positionDeg: adjusterAngleDeg(adjuster, to),
				levelV: this.volts(end, dish, position)
			};
		});
		const other: Axis = sweep.axis === 'azimuth' ? 'tilt' : 'azimuth';
		const { axis } = sweep;
		this.add(
			end,
			'move',
			{ axis, toTurns: turns.at(-1)!, viaTurns: [turns[0]!], source: 'simulated' },
			dish
		);
		const otherAxisDeg = hop.ends[end].angleDeg[other];
		this.add(end, 'sweep', { axis, otherAxisDeg, source: 'simulated', samples }, dish);
	}

	/** What the next step says at an end's dish. */
	step(end: End, dish: DishNumber): ReturnType<typeof nextStep> {
		const hop = this.hop(end, dish);
		return nextStep(hop, end, guide(guidanceInputOf(hop, end)));
	}

	/** Does what the steps say until a dish is closed, and gives the kinds of step on the way. */
	align(dish: DishNumber, from?: End): string[] {
		const kinds: string[] = [];
		for (let i = 0; i < MOST_STEPS; i++) {
			const end = from ?? this.state.baton;
			const step = this.step(end, dish);
			kinds.push(step.kind);
			if (step.kind === 'read') this.read(end, dish);
			else if (step.kind === 'ask-far') this.read(farEnd(end), dish);
			else if (step.kind === 'sweep') this.#sweep(end, dish, step);
			else if (step.kind === 'move') {
				this.turn(end, dish, step.axis, step.targetDeg);
				if (step.then) this.turn(end, dish, step.then.axis, step.then.targetDeg);
				this.read(end, dish);
			} else if (step.kind === 'hand-over') {
				this.add(end, 'baton', { to: farEnd(end), how: 'handed' }, dish);
			} else if (step.kind === 'lock') {
				this.add(end, 'aimed', {}, dish);
				return kinds;
			} else return [...kinds, step.headline];
		}
		return [...kinds, 'no end'];
	}

	/** Every fastener of a dish goes to torque, the meter connected. */
	fix(end: End, dish: DishNumber): void {
		const sim = this.#sim(end, dish);
		const curve = makeLevelCurve(this.hop(end, dish).input.ends[end].radio.levelPort.curve);
		const level = (): number => readingLevelDbm(curve.read(this.volts(end, dish)))!;
		const { fasteners } = this.hop(end, dish).input.ends[end].mount;
		for (const [fastenerIndex, { name, locks, torqueNm }] of fasteners.entries()) {
			const beforeDbm = level();
			const after = sim.tighten(this.#position(end, dish), end, locks, fastenerIndex);
			const afterDbm = readingLevelDbm(curve.read(this.volts(end, dish, after)))!;
			const payload = { fastenerIndex, fastener: name, locks, torqueNm, beforeDbm, afterDbm };
			this.add(end, 'lock-step', { ...payload, source: 'simulated' }, dish);
		}
	}
}
