import type { MountPart } from '#core/catalogue/parts';
import type { Axis } from '#core/ends';
import type { MeterSource } from '#core/record/records';
import { sweepTurns } from '#core/simulate/drive';
import { adjusterAngleDeg } from '#core/sweep/adjusterScale';
import type { SweepSample } from '#core/sweep/analyseSweep';
import { Unreachable } from '../api';

export interface SweepPlan {
	axis: Axis;
	fromDeg: number;
	toDeg: number;
	stepDeg: number;
}

export interface RunningSweep {
	axis: Axis;
	source: MeterSource;
	/** Nut positions still to come and passed, in order. */
	turns: number[];
	samples: SweepSample[];
	startedAtMs: number;
}

/** Readings asked of the simulated meter in one request while it sweeps. */
const PART = 6;
/** Time between two readings of the simulated meter, s. */
const SIMULATED_STEP_S = 0.5;
const RETRY_MS = 1500;
/** By hand a reading costs seconds, so the steps are wider than those of a fast meter. */
const HAND_STEP_FACTOR = 2;
/** Fewer readings than this are no sweep. */
export const FEWEST_READINGS = 5;

/** The sweep under way at one end; one by hand survives a reload. */
export class SweepRun {
	running: RunningSweep | undefined = $state();
	#stopRequested = false;

	constructor(
		private readonly storageKey: string,
		private readonly mount: () => MountPart
	) {}

	/** Takes up a sweep by hand that a reload broke off. */
	restore(): void {
		try {
			const kept = localStorage.getItem(this.storageKey);
			if (kept) this.running = JSON.parse(kept) as RunningSweep;
		} catch {
			// A sweep that cannot be read back is begun anew.
		}
	}

	#keep(): void {
		try {
			if (this.running && this.running.source !== 'simulated') {
				localStorage.setItem(this.storageKey, JSON.stringify(this.running));
			} else localStorage.removeItem(this.storageKey);
		} catch {
			// Without storage the sweep lives as long as the page.
		}
	}

	begin(plan: SweepPlan, source: MeterSource): void {
		const stepDeg = plan.stepDeg * (source === 'hand' ? HAND_STEP_FACTOR : 1);
		this.#stopRequested = false;
		this.running = {
			axis: plan.axis,
			source,
			turns: sweepTurns(this.mount()[plan.axis], { ...plan, stepDeg }),
			samples: [],
			startedAtMs: Date.now()
		};
		this.#keep();
	}

	/** The next position, or undefined when all are read. */
	get nextTurns(): number | undefined {
		return this.running?.turns[this.running.samples.length];
	}

	get complete(): boolean {
		const sweep = this.running;
		return sweep !== undefined && sweep.samples.length >= sweep.turns.length;
	}

	/** One reading by hand at the next position. */
	take(volts: number): void {
		const sweep = this.running;
		const turns = this.nextTurns;
		if (!sweep || turns === undefined) return;
		sweep.samples.push({
			elapsedS: (Date.now() - sweep.startedAtMs) / 1000,
			positionDeg: adjusterAngleDeg(this.mount()[sweep.axis], turns),
			levelV: volts
		});
		this.#keep();
	}

	undo(): void {
		this.running?.samples.pop();
		this.#keep();
	}

	drop(): void {
		this.running = undefined;
		this.#keep();
	}

	/** Asks the simulated sweep to end after the part under way. */
	requestStop(): void {
		this.#stopRequested = true;
	}

	/** Asked anew each time: the request comes while a part of the sweep is on its way. */
	#goesOn = (): boolean => this.running !== undefined && !this.complete && !this.#stopRequested;

	/**
	 * Drives the simulated nut through all positions. A part that a lost connection ate is asked for
	 * again: the nut stands where it stood, nothing is half-written.
	 *
	 * @param drive turns the nut through positions and gives what the meter read
	 * @param tell says what is the matter; nothing when all is well
	 */
	async drive(
		drive: (axis: Axis, turns: number[]) => Promise<readonly SweepSample[]>,
		tell: (trouble: string | undefined) => void
	): Promise<void> {
		while (this.#goesOn()) {
			const { axis, turns, samples } = this.running!;
			const from = samples.length;
			try {
				const read = await drive(axis, turns.slice(from, from + PART));
				this.running?.samples.push(
					...read.map((sample, i) => ({ ...sample, elapsedS: (from + i) * SIMULATED_STEP_S }))
				);
				tell(undefined);
			} catch (error) {
				if (!(error instanceof Unreachable)) {
					this.running = undefined;
					throw error;
				}
				tell('The connection is lost; the sweep goes on when it is back.');
				await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
			}
		}
	}
}
