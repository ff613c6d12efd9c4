import type { MountPart } from '#core/catalogue/parts';
import { farEnd, type Axis, type End } from '#core/ends';
import { guidanceInputOf } from '#core/guide/aim';
import type { Guidance, Weighed } from '#core/guide/guidance';
import { nextStep, type NextStep } from '#core/guide/nextStep';
import { makeLevelFollower, worthKeeping, type FollowedLevel } from '#core/meter/levelFollower';
import { makeLevelCurve, type LevelCurve } from '#core/radio/levelCurve';
import type { MeterSource } from '#core/record/records';
import { approachTurns, sweepTurns } from '#core/simulate/drive';
import { adjusterAngleDeg, adjusterTurns } from '#core/sweep/adjusterScale';
import type { SweepSample } from '#core/sweep/analyseSweep';
import { Unreachable } from '../api';
import type { LiveHop } from '../hop/liveHop.svelte';
import { GuideReader, type GuideAnswer } from './guideReader';
import type { MeterListener, RunningMeter } from './meters';

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

const rounded = (levelDbm: number | null): number | null =>
	levelDbm === null ? null : Number(levelDbm.toFixed(2));

/** What one end does at its dish: readings, moves and sweeps, by hand or with the simulated meter. */
export class AlignBench {
	readonly live: LiveHop;
	readonly end: End;
	readonly curve: LevelCurve;
	source: MeterSource = $state('hand');
	running: RunningSweep | undefined = $state();
	busy = $state(false);
	message: string | undefined = $state();
	/** A meter that gives readings by itself, and the last one as the eye should see it. */
	meter: RunningMeter | undefined = $state.raw();
	shown: FollowedLevel | undefined = $state.raw();
	meterTrouble: string | undefined = $state();
	#answer: GuideAnswer | undefined = $state.raw();
	#reader: GuideReader | undefined;
	#lastKept: { levelDbm: number | null; recordedAtMs: number } | undefined;
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

	/**
	 * What the guidance is about: the place in the feed of the last record that changed what is known of
	 * this end. A reading more at the same place refines the answer, and does not make it void.
	 */
	readonly about: string = $derived.by(
		() => `${this.live.state.ends[this.end].guidanceSeq}/${this.live.state.unasked?.sinceSeq ?? 0}`
	);

	/** What the readings of this end say; undefined while it is being worked out. */
	readonly guidance: Guidance | undefined = $derived(
		this.#answer?.key === this.about ? this.#answer.guidance : undefined
	);
	/** The probability map last worked out, also while a newer one is on its way. */
	readonly location: Weighed['location'] | undefined = $derived(this.#answer?.location);

	readonly step: NextStep = $derived.by(() => nextStep(this.live.state, this.end, this.guidance));

	/** Whether positions are driven by the simulator rather than by a hand on a nut. */
	get driven(): boolean {
		return this.source === 'simulated';
	}

	/** Takes up a sweep by hand that a reload broke off, and begins to watch the simulated meter. */
	start(): () => void {
		this.#stopped = false;
		this.#reader = new GuideReader((answer) => {
			// A reading more at the same place sharpens the map; what was advised there stays advised.
			const same = this.#answer?.key === answer.key ? this.#answer.guidance : undefined;
			this.#answer = same ? { ...answer, guidance: same } : answer;
		});
		const stopAsking = $effect.root(() => {
			$effect(() => {
				this.#reader?.ask({
					key: this.about,
					input: JSON.parse(
						JSON.stringify(guidanceInputOf(this.live.state, this.end))
					) as ReturnType<typeof guidanceInputOf>
				});
			});
		});
		try {
			const kept = localStorage.getItem(this.#key);
			if (kept) this.running = JSON.parse(kept) as RunningSweep;
		} catch {
			// A sweep that cannot be read back is begun anew.
		}
		if (this.live.state.ends[this.end].lastReadAt !== null) this.#watch();
		return () => {
			this.#stopped = true;
			this.#stopRequested = true;
			stopAsking();
			this.#reader?.stop();
			void this.stopMeter();
		};
	}

	#keepRunning(): void {
		try {
			if (this.running && this.running.source !== 'simulated') {
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

	/** From now on the meter gives the readings by itself. */
	async useMeter(
		source: 'serial' | 'replay',
		run: (listener: MeterListener) => Promise<RunningMeter>
	): Promise<void> {
		await this.stopMeter();
		this.meterTrouble = undefined;
		let follower = makeLevelFollower(this.curve, 0.001);
		const meter = await run({
			onvolts: (volts, atMs) => {
				this.shown = follower.take(volts, atMs);
				this.meterTrouble = undefined;
				void this.#keepWatched(this.shown);
			},
			ontrouble: (message) => (this.meterTrouble = message),
			onend: () => {
				if (this.meter !== meter) return;
				this.meter = undefined;
				this.source = 'hand';
				this.shown = undefined;
			}
		});
		follower = makeLevelFollower(this.curve, meter.resolutionV);
		this.meter = meter;
		this.source = source;
	}

	async stopMeter(): Promise<void> {
		const meter = this.meter;
		this.meter = undefined;
		this.shown = undefined;
		if (this.source === 'serial' || this.source === 'replay') this.source = 'hand';
		await meter?.stop();
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
		const stepDeg = plan.stepDeg * (this.source === 'hand' ? HAND_STEP_FACTOR : 1);
		this.#lastKept = undefined;
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
		const levelDbm = reading.kind === 'implausible' ? null : rounded(reading.levelDbm);
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
		if (this.running && this.running.source !== 'simulated') void this.finishSweep();
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
