import type { MountPart } from '#core/catalogue/parts';
import { farEnd, type Axis, type End } from '#core/ends';
import type { Guidance, Weighed } from '#core/guide/guidance';
import type { NextStep } from '#core/guide/nextStep';
import { worthKeeping, type FollowedLevel } from '#core/meter/levelFollower';
import { makeLevelCurve, type LevelCurve } from '#core/radio/levelCurve';
import { dishSuffix } from '#core/record/secondDish';
import type { MeterSource } from '#core/record/records';
import { approachTurns } from '#core/simulate/drive';
import { adjusterTurns } from '#core/sweep/adjusterScale';
import type { SweepSample } from '#core/sweep/analyseSweep';
import type { BenchHop } from '../hop/benchHop';
import { GuideAnswers } from './guideAnswers.svelte';
import { MeterLink } from './meterLink.svelte';
import type { MeterListener, RunningMeter } from './meters';
import { FEWEST_READINGS, SweepRun, type RunningSweep, type SweepPlan } from './sweepRun.svelte';

export type { RunningSweep, SweepPlan };

const WATCH_MS = 1000;

const rounded = (levelDbm: number | null): number | null =>
	levelDbm === null ? null : Number(levelDbm.toFixed(2));

/** What one end does at its dish: readings, moves and sweeps, by hand or with the simulated meter. */
export class AlignBench {
	readonly live: BenchHop;
	readonly end: End;
	readonly curve: LevelCurve;
	source: MeterSource = $state('hand');
	busy = $state(false);
	message: string | undefined = $state();
	readonly #guide: GuideAnswers;
	readonly #link: MeterLink;
	readonly #sweep: SweepRun;
	#lastKept: { levelDbm: number | null; recordedAtMs: number } | undefined;
	#watching = false;
	#stopped = false;

	constructor(live: BenchHop, end: End, practice: boolean) {
		this.live = live;
		this.end = end;
		this.curve = makeLevelCurve(live.revision.input.ends[end].radio.levelPort.curve);
		this.source = practice ? 'simulated' : 'hand';
		this.#guide = new GuideAnswers(live, end);
		this.#link = new MeterLink(this.curve, {
			level: (level) => void this.#keepWatched(level),
			ended: () => (this.source = 'hand')
		});
		this.#sweep = new SweepRun(
			`skiaxis-sweep-${live.hopId}-${end}${dishSuffix(live.dish)}`,
			() => this.#mount
		);
	}

	get #mount(): MountPart {
		return this.live.revision.input.ends[this.end].mount;
	}

	/** What the guidance is about: another word after each record that changes it. */
	get about(): string {
		return this.#guide.about;
	}
	/** What the readings of this end say; undefined while it is being worked out. */
	get guidance(): Guidance | undefined {
		return this.#guide.guidance;
	}
	/** The probability map last worked out, also while a newer one is on its way. */
	get location(): Weighed['location'] | undefined {
		return this.#guide.location;
	}
	get step(): NextStep {
		return this.#guide.step;
	}

	/** A meter that gives readings by itself, and the last one as the eye should see it. */
	get meter(): RunningMeter | undefined {
		return this.#link.meter;
	}
	get shown(): FollowedLevel | undefined {
		return this.#link.shown;
	}
	get meterTrouble(): string | undefined {
		return this.#link.trouble;
	}

	/** The sweep under way. */
	get running(): RunningSweep | undefined {
		return this.#sweep.running;
	}
	/** The next position of a sweep by hand, or undefined when all are read. */
	get nextTurns(): number | undefined {
		return this.#sweep.nextTurns;
	}

	/** Whether positions are driven by the simulator rather than by a hand on a nut. */
	get driven(): boolean {
		return this.source === 'simulated';
	}

	/** Takes up a sweep by hand that a reload broke off, and begins to watch the simulated meter. */
	start(): () => void {
		this.#stopped = false;
		const stopGuide = this.#guide.start();
		this.#sweep.restore();
		if (this.live.state.ends[this.end].lastReadAt !== null) this.#watch();
		return () => {
			this.#stopped = true;
			this.#sweep.requestStop();
			stopGuide();
			void this.stopMeter();
		};
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

	/** From now on the meter gives the readings by itself. */
	async useMeter(
		source: 'serial' | 'replay',
		run: (listener: MeterListener) => Promise<RunningMeter>
	): Promise<void> {
		await this.stopMeter();
		const before = this.source;
		// Set first: its first readings may come before it says that it runs.
		this.source = source;
		try {
			await this.#link.use(run);
		} catch (error) {
			this.source = before;
			throw error;
		}
	}

	async stopMeter(): Promise<void> {
		if (this.source === 'serial' || this.source === 'replay') this.source = 'hand';
		await this.#link.stop();
	}

	/** A watched level goes into the record when it says something new, but not amid a sweep. */
	async #keepWatched({ volts, levelDbm }: FollowedLevel): Promise<void> {
		if (!this.live.mayRecord || this.running || this.busy) return;
		const nowMs = Date.now();
		const stale = !this.live.state.ends[this.end].levelIsFresh;
		if (!stale && this.#lastKept && !worthKeeping(this.#lastKept, levelDbm, nowMs)) return;
		if (this.#lastKept && nowMs - this.#lastKept.recordedAtMs < WATCH_MS) return;
		this.#lastKept = { levelDbm, recordedAtMs: nowMs };
		await this.keepReading({ volts, levelDbm: rounded(levelDbm) });
	}

	/** A reading typed by hand, or taken from the running meter. */
	async keepReading(
		reading: { volts: number | null; levelDbm: number | null },
		purpose: 'watch' | 'sweep' | 'final' = 'watch'
	): Promise<void> {
		await this.live.add(this.end, 'reading', { ...reading, source: this.#byHand, purpose });
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
				await this.live.add(this.end, 'move', {
					axis,
					toTurns,
					viaTurns: [],
					source: this.#byHand
				});
			}
		});
	}

	/** Begins a sweep. The simulated one runs by itself; by hand each position waits for its reading. */
	beginSweep(plan: SweepPlan): void {
		this.#lastKept = undefined;
		this.#sweep.begin(plan, this.source);
		if (this.source === 'simulated') void this.#guarded(() => this.#runSimulated());
	}

	async #runSimulated(): Promise<void> {
		await this.#sweep.drive(
			async (axis, turns) => {
				const { end } = this;
				const purpose = 'sweep' as const;
				const request = { end, action: 'sweep-part' as const, purpose, axis, turns };
				return (await this.live.simulate(request)).samples;
			},
			(trouble) => (this.message = trouble)
		);
		if (!this.#stopped) await this.finishSweep();
	}

	async keepSweepReading(volts: number): Promise<void> {
		if (this.nextTurns === undefined) return;
		this.#sweep.take(volts);
		const reading = this.curve.read(volts);
		const levelDbm = reading.kind === 'implausible' ? null : rounded(reading.levelDbm);
		await this.keepReading({ volts, levelDbm }, 'sweep');
		if (this.#sweep.complete) await this.finishSweep();
	}

	undoSweepReading(): void {
		this.#sweep.undo();
	}

	/** Stops the simulated sweep after the part under way; what was read is kept and judged. */
	stopSweep(): void {
		this.#sweep.requestStop();
		if (this.running && this.running.source !== 'simulated') void this.finishSweep();
	}

	dropSweep(): void {
		this.#sweep.drop();
	}

	async finishSweep(): Promise<void> {
		const sweep = this.running;
		if (!sweep) return;
		if (sweep.samples.length < FEWEST_READINGS) {
			this.message = 'A sweep needs at least five readings; this one was not kept.';
		} else await this.#keepSweep(sweep.axis, sweep.source, sweep.samples);
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
			otherAxisDeg: this.live.state.ends[this.end].angleDeg[other],
			source,
			samples: samples.map((sample) => ({ ...sample }))
		});
	}

	/** The whole mount goes round on its pipe. */
	turnMount(byDeg: number, compassDeg: number): Promise<void> {
		return this.#guarded(async () => {
			if (this.driven) {
				await this.live.simulate({ end: this.end, action: 'turn-mount', byDeg, compassDeg });
			} else {
				await this.live.add(this.end, 'mount-turn', { byDeg, compassDeg, source: this.#byHand });
			}
		});
	}

	async handOver(): Promise<void> {
		await this.live.add(this.end, 'baton', { to: farEnd(this.end), how: 'handed' });
	}

	async takeOver(): Promise<void> {
		await this.live.add(this.end, 'baton', { to: this.end, how: 'taken' });
	}

	/** What the guidance said when the person acted on it goes into the record. */
	async keepAdvice(): Promise<void> {
		const { step, guidance } = this;
		await this.live.add(this.end, 'advice', {
			step: step.kind,
			headline: step.headline.slice(0, 200),
			why: step.why.slice(0, 8).map((why) => why.slice(0, 500)),
			probabilityOnMainLobe: guidance?.probabilityOnMainLobe ?? null,
			boresight: guidance?.boresight ?? null
		});
	}

	/** Where a reading comes from when no simulator drives the dish. */
	get #byHand(): MeterSource {
		return this.source === 'simulated' ? 'hand' : this.source;
	}
}
