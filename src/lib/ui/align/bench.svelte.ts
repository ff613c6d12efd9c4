import type { MountPart } from '$core/catalogue/parts';
import type { Axis, End } from '$core/ends';
import { makeLevelCurve, type LevelCurve } from '$core/radio/levelCurve';
import type { MeterSource } from '$core/record/records';
import { approachTurns, sweepTurns } from '$core/simulate/drive';
import { adjusterAngleDeg, adjusterTurns } from '$core/sweep/adjusterScale';
import type { SweepSample } from '$core/sweep/analyseSweep';
import { Unreachable } from '../api';
import type { LiveHop } from '../hop/liveHop.svelte';

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
const WATCH_MS = 1000;
const RETRY_MS = 1500;
/** By hand a reading costs seconds, so the steps are wider than those of a fast meter. */
const HAND_STEP_FACTOR = 2;

/** What one end does at its dish: readings, moves and sweeps, by hand or with the simulated meter. */
export class AlignBench {
	readonly live: LiveHop;
	readonly end: End;
	readonly curve: LevelCurve;
	source: MeterSource = $state('hand');
	running: RunningSweep | undefined = $state();
	busy = $state(false);
	message: string | undefined = $state();
	#stopRequested = false;
	#watching = false;
	#stopped = false;

	constructor(live: LiveHop, end: End, practice: boolean) {
		this.live = live;
		this.end = end;
		this.curve = makeLevelCurve(live.revision.input.ends[end].radio.levelPort.curve);
		this.source = practice ? 'simulated' : 'hand';
	}

	get #mount(): MountPart {
		return this.live.revision.input.ends[this.end].mount;
	}

	get #key(): string {
		return `skiaxis-sweep-${this.live.hopId}-${this.end}`;
	}

	/** Takes up a sweep by hand that a reload broke off, and begins to watch the simulated meter. */
	start(): () => void {
		this.#stopped = false;
		try {
			const kept = localStorage.getItem(this.#key);
			if (kept) this.running = JSON.parse(kept) as RunningSweep;
		} catch {
			// A sweep that cannot be read back is begun anew.
		}
		if (this.live.situation.ends[this.end].lastReadAt !== null) this.#watch();
		return () => {
			this.#stopped = true;
			this.#stopRequested = true;
		};
	}

	#keepRunning(): void {
		try {
			if (this.running?.source === 'hand') {
				localStorage.setItem(this.#key, JSON.stringify(this.running));
			} else localStorage.removeItem(this.#key);
		} catch {
			// Without storage the sweep lives as long as the page.
		}
	}

	async #guarded(work: () => Promise<void>): Promise<void> {
		if (this.busy) return;
		this.busy = true;
		this.message = undefined;
		try {
			await work();
		} catch (error) {
			this.message = error instanceof Error ? error.message : 'It did not work.';
		} finally {
			this.busy = false;
		}
	}

	/** One reading of the simulated meter; from then on it is watched. */
	read(purpose: 'watch' | 'final' = 'watch'): Promise<void> {
		return this.#guarded(async () => {
			await this.live.simulate({ end: this.end, action: 'read', purpose });
			this.#watch();
		});
	}

	#watch(): void {
		if (this.#watching || this.source !== 'simulated' || !this.live.mayRecord) return;
		this.#watching = true;
		const tick = async (): Promise<void> => {
			if (this.#stopped || this.source !== 'simulated') {
				this.#watching = false;
				return;
			}
			if (!this.busy && document.visibilityState === 'visible') {
				await this.live
					.simulate({ end: this.end, action: 'watch', purpose: 'watch' })
					.catch(() => undefined);
			}
			setTimeout(() => void tick(), WATCH_MS);
		};
		setTimeout(() => void tick(), WATCH_MS);
	}

	/** A reading typed by hand. */
	async keepReading(
		reading: { volts: number | null; levelDbm: number | null },
		purpose: 'watch' | 'sweep' | 'final' = 'watch'
	): Promise<void> {
		await this.live.add(this.end, 'reading', { ...reading, source: 'hand', purpose });
	}

	/** Brings an axis to a position: the simulated nut is turned, by hand it is taken as turned. */
	moveTo(axis: Axis, targetDeg: number): Promise<void> {
		return this.#guarded(async () => {
			const toTurns = adjusterTurns(this.#mount[axis], targetDeg);
			if (this.source === 'simulated') {
				await this.live.simulate({
					end: this.end,
					action: 'turn',
					axis,
					turns: approachTurns(toTurns)
				});
			} else {
				await this.live.add(this.end, 'move', { axis, toTurns, viaTurns: [], source: 'hand' });
			}
		});
	}

	/** Begins a sweep. The simulated one runs by itself; by hand each position waits for its reading. */
	beginSweep(plan: SweepPlan): void {
		const stepDeg = plan.stepDeg * (this.source === 'hand' ? HAND_STEP_FACTOR : 1);
		this.running = {
			axis: plan.axis,
			source: this.source,
			turns: sweepTurns(this.#mount[plan.axis], { ...plan, stepDeg }),
			samples: [],
			startedAtMs: Date.now()
		};
		this.#keepRunning();
		if (this.source === 'simulated') void this.#guarded(() => this.#runSimulated());
	}

	async #runSimulated(): Promise<void> {
		this.#stopRequested = false;
		const sweep = this.running!;
		while (sweep.samples.length < sweep.turns.length && !this.#stopRequested) {
			const turns = sweep.turns.slice(sweep.samples.length, sweep.samples.length + PART);
			try {
				const answer = await this.live.simulate({
					end: this.end,
					action: 'sweep-part',
					purpose: 'sweep',
					axis: sweep.axis,
					turns
				});
				const from = sweep.samples.length;
				this.running!.samples.push(
					...answer.samples.map((sample, i) => ({ ...sample, elapsedS: (from + i) * 0.5 }))
				);
				sweep.samples = this.running!.samples;
				this.message = undefined;
			} catch (error) {
				// The part is asked for again: the nut stands where it stood, nothing is half-written.
				if (!(error instanceof Unreachable)) {
					this.running = undefined;
					throw error;
				}
				this.message = 'The connection is lost; the sweep goes on when it is back.';
				await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
			}
		}
		if (this.#stopped) return;
		await this.finishSweep();
	}

	/** The next position of a sweep by hand, or undefined when all are read. */
	get nextTurns(): number | undefined {
		return this.running?.turns[this.running.samples.length];
	}

	async keepSweepReading(volts: number): Promise<void> {
		const sweep = this.running;
		const turns = this.nextTurns;
		if (!sweep || turns === undefined) return;
		const reading = this.curve.read(volts);
		sweep.samples.push({
			elapsedS: (Date.now() - sweep.startedAtMs) / 1000,
			positionDeg: adjusterAngleDeg(this.#mount[sweep.axis], turns),
			levelV: volts
		});
		this.#keepRunning();
		const levelDbm = reading.kind === 'implausible' ? null : Number(reading.levelDbm.toFixed(2));
		await this.keepReading({ volts, levelDbm }, 'sweep');
		if (sweep.samples.length === sweep.turns.length) await this.finishSweep();
	}

	undoSweepReading(): void {
		this.running?.samples.pop();
		this.#keepRunning();
	}

	/** Stops the simulated sweep after the part under way; what was read is kept and judged. */
	stopSweep(): void {
		this.#stopRequested = true;
		if (this.running?.source === 'hand') void this.finishSweep();
	}

	dropSweep(): void {
		this.running = undefined;
		this.#keepRunning();
	}

	async finishSweep(): Promise<void> {
		const sweep = this.running;
		if (!sweep) return;
		if (sweep.samples.length < 5) {
			this.message = 'A sweep needs at least five readings; this one was not kept.';
			this.dropSweep();
			return;
		}
		await this.#keepSweep(sweep.axis, sweep.source, sweep.samples);
		this.dropSweep();
	}

	/** A sweep recorded elsewhere. Its last position is where the dish stands. */
	importSweep(axis: Axis, samples: SweepSample[]): Promise<void> {
		return this.#keepSweep(axis, 'import', samples);
	}

	async #keepSweep(axis: Axis, source: MeterSource, samples: SweepSample[]): Promise<void> {
		const other: Axis = axis === 'azimuth' ? 'tilt' : 'azimuth';
		const last = samples.at(-1)!;
		if (source !== 'simulated') {
			await this.live.add(this.end, 'move', {
				axis,
				toTurns: adjusterTurns(this.#mount[axis], last.positionDeg),
				viaTurns: [],
				source
			});
		}
		await this.live.add(this.end, 'sweep', {
			axis,
			otherAxisDeg: this.live.situation.ends[this.end].angleDeg[other],
			source,
			samples: samples.map((sample) => ({ ...sample }))
		});
	}

	async handOver(to: End): Promise<void> {
		await this.live.add(this.end, 'baton', { to });
	}
}
