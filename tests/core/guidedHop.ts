import {
	guide,
	type Guidance,
	type GuidanceInput,
	type GuidanceMemory,
	type GuidanceReading
} from '#core/guide/guidance';
import { ENDS, farEnd, type End } from '#core/ends';
import { between, makeRandomStream, normalDeviate } from '#core/simulate/random';
import { makeSimulatedDish } from '#core/simulate/simulatedDish';
import { sumOfLevelsDb } from '#core/units/decibel';

export interface DishOfHop {
	name: string;
	frequencyGhz: number;
	diameterM: number;
	beamwidthDeg: number;
}

export interface HopOutcome {
	success: boolean;
	/** Loss against the best possible level, dB. */
	remainingDb: number;
	onMainLobe: boolean;
	sweepSamples: number;
	moves: number;
	turns: number;
	stoppedAt: string;
}

/** A hop with two ends thrown off by compass and level, uneven dishes, noise, sway, play and a slow fade. */
export class GuidedHop {
	readonly plannedLevelDbm: number;
	readonly floorDbm: number;
	readonly dish: DishOfHop;
	readonly boresight: Record<End, { azimuthDeg: number; tiltDeg: number }>;
	readonly place: Record<End, { azimuthDeg: number; tiltDeg: number }> = {
		A: { azimuthDeg: 0, tiltDeg: 0 },
		B: { azimuthDeg: 0, tiltDeg: 0 }
	};
	sweepSamples = 0;
	moves = 0;
	#lag: Record<End, { azimuthDeg: number; tiltDeg: number }>;
	#elapsedS = 0;
	readonly #random: () => number;
	readonly #dishes: Record<End, ReturnType<typeof makeSimulatedDish>>;
	readonly #fade: number;
	readonly #play: number;

	constructor(
		seed: number,
		dish: DishOfHop,
		sigmaAzimuthDeg: number,
		sigmaTiltDeg: number,
		makeDish: typeof makeSimulatedDish = makeSimulatedDish
	) {
		const random = makeRandomStream(seed * 7919 + 17);
		this.#random = random;
		this.dish = dish;
		this.plannedLevelDbm = between(random, -46, -32);
		this.floorDbm = between(random, -92, -84);
		const width = dish.beamwidthDeg * between(random, 0.95, 1.05);
		this.#dishes = {
			A: makeDish(seed * 2 + 1, width),
			B: makeDish(seed * 2 + 2, width)
		};
		const throwOff = (): { azimuthDeg: number; tiltDeg: number } => ({
			azimuthDeg: sigmaAzimuthDeg * normalDeviate(random),
			tiltDeg: sigmaTiltDeg * normalDeviate(random)
		});
		this.boresight = { A: throwOff(), B: throwOff() };
		this.#fade = between(random, 0, 6);
		// Play of the thread, degrees: a few hundredths of a beam when approached from one side.
		this.#play = 0.05 * dish.beamwidthDeg;
		this.#lag = { A: { azimuthDeg: 0, tiltDeg: 0 }, B: { azimuthDeg: 0, tiltDeg: 0 } };
	}

	/** Turns the nut; the dish follows once the play is taken up. */
	turn(end: End, axis: 'azimuthDeg' | 'tiltDeg', toDeg: number): void {
		const from = this.place[end][axis];
		if (toDeg > from)
			this.#lag[end][axis] = Math.max(-this.#play / 2, this.#lag[end][axis] - (toDeg - from));
		else this.#lag[end][axis] = Math.min(this.#play / 2, this.#lag[end][axis] + (from - toDeg));
		this.place[end][axis] = toDeg;
	}

	/** Goes past on the low side and comes back, as the tool says. */
	goTo(end: End, place: { azimuthDeg: number; tiltDeg: number }): void {
		for (const axis of ['azimuthDeg', 'tiltDeg'] as const) {
			if (Math.abs(place[axis] - this.place[end][axis]) < 1e-9) continue;
			this.turn(end, axis, place[axis] - this.#play * 2);
			this.turn(end, axis, place[axis]);
		}
		this.moves += 1;
	}

	#gain(end: End, swayDeg: number): number {
		const { azimuthDeg, tiltDeg } = this.place[end];
		const lag = this.#lag[end];
		return this.#dishes[end](
			azimuthDeg + lag.azimuthDeg - this.boresight[end].azimuthDeg + swayDeg,
			tiltDeg + lag.tiltDeg - this.boresight[end].tiltDeg
		);
	}

	/** What the meter at an end shows now. */
	read(end: End): GuidanceReading {
		this.#elapsedS += 1;
		const sway = (): number => 0.012 * this.dish.beamwidthDeg * normalDeviate(this.#random);
		const signal =
			this.plannedLevelDbm +
			this.#gain('A', sway()) +
			this.#gain('B', sway()) +
			0.25 * Math.sin(this.#elapsedS / 45 + this.#fade) +
			0.15 * normalDeviate(this.#random);
		const levelDbm = sumOfLevelsDb([signal, this.floorDbm + 0.3 * normalDeviate(this.#random)]);
		return { ...this.place[end], levelDbm, elapsedS: this.#elapsedS };
	}

	sweep(
		end: End,
		axis: 'azimuth' | 'tilt',
		fromDeg: number,
		toDeg: number,
		stepDeg: number
	): GuidanceReading[] {
		const key = axis === 'azimuth' ? 'azimuthDeg' : 'tiltDeg';
		this.turn(end, key, fromDeg - this.#play * 2);
		const count = Math.max(1, Math.round((toDeg - fromDeg) / stepDeg));
		const readings: GuidanceReading[] = [];
		for (let i = 0; i <= count; i++) {
			this.turn(end, key, fromDeg + ((toDeg - fromDeg) * i) / count);
			readings.push(this.read(end));
		}
		this.sweepSamples += readings.length;
		return readings;
	}

	outcome(turns: number, stoppedAt: string): HopOutcome {
		const off = (end: End): number =>
			Math.hypot(
				this.place[end].azimuthDeg + this.#lag[end].azimuthDeg - this.boresight[end].azimuthDeg,
				this.place[end].tiltDeg + this.#lag[end].tiltDeg - this.boresight[end].tiltDeg
			) / this.dish.beamwidthDeg;
		const remainingDb = -this.#gain('A', 0) - this.#gain('B', 0);
		const onMainLobe = off('A') < 0.9 && off('B') < 0.9;
		return {
			success: onMainLobe && remainingDb <= 0.5,
			remainingDb,
			onMainLobe,
			sweepSamples: this.sweepSamples,
			moves: this.moves,
			turns,
			stoppedAt
		};
	}
}

/** A technician at each end who does only what the tool says, until both are told to lock. */
export function followTool(
	hop: GuidedHop,
	sigmaAzimuthDeg: number,
	sigmaTiltDeg: number,
	heard: (end: End, advice: Guidance, readings: number) => void = () => undefined,
	remembers = true
): HopOutcome {
	const travelDeg = 20;
	const locked: Record<End, boolean> = { A: false, B: false };
	const memory: Partial<Record<End, GuidanceMemory>> = {};
	let end: End = 'A';
	for (let turn = 1; turn <= 14; turn++) {
		const readings: GuidanceReading[] = [];
		// From the second turn on the dish stands somewhere already: the meter is read there first.
		if (turn > 2) readings.push(hop.read(end));
		for (let step = 0; ; step++) {
			if (step > 60) return hop.outcome(turn, 'too many steps');
			const input: GuidanceInput = {
				frequencyGhz: hop.dish.frequencyGhz,
				dishDiameterM: hop.dish.diameterM,
				beamwidthDeg: hop.dish.beamwidthDeg,
				plannedLevelDbm: hop.plannedLevelDbm,
				floorDbm: hop.floorDbm,
				toleranceDb: 2,
				travel: { azimuthDeg: [-travelDeg, travelDeg], tiltDeg: [-travelDeg, travelDeg] },
				prior: { azimuthSigmaDeg: sigmaAzimuthDeg, tiltSigmaDeg: sigmaTiltDeg },
				readings,
				memory: remembers ? memory[end] : undefined
			};
			const advice = guide(input);
			heard(end, advice, readings.length);
			if (advice.advice === 'check') return hop.outcome(turn, `check: ${advice.reasons[0]}`);
			if (advice.advice === 'move') {
				hop.goTo(end, advice.target!);
				readings.push(hop.read(end));
			} else if (advice.advice === 'sweep') {
				const { axis, fromDeg, toDeg, stepDeg } = advice.sweep!;
				readings.push(...hop.sweep(end, axis, fromDeg, toDeg, stepDeg));
			} else {
				locked[end] = advice.advice === 'lock';
				memory[end] = advice.memory;
				break;
			}
		}
		if (ENDS.every((e) => locked[e])) return hop.outcome(turn, 'locked');
		end = farEnd(end);
	}
	return hop.outcome(14, 'too many turns');
}
