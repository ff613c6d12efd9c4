import { makeLevelFollower, type FollowedLevel } from '#core/meter/levelFollower';
import type { LevelCurve } from '#core/radio/levelCurve';
import type { MeterListener, RunningMeter } from './meters';

/** Finest step of a meter until it has told its own, V. */
const FINEST_STEP_V = 0.001;

/** A meter that gives readings by itself, and the last one as the eye should see it. */
export class MeterLink {
	meter: RunningMeter | undefined = $state.raw();
	shown: FollowedLevel | undefined = $state.raw();
	trouble: string | undefined = $state();

	constructor(
		private readonly curve: LevelCurve,
		/** Gets each level, and is told when the meter has ended by itself. */
		private readonly listener: { level: (level: FollowedLevel) => void; ended: () => void }
	) {}

	async use(run: (listener: MeterListener) => Promise<RunningMeter>): Promise<void> {
		await this.stop();
		this.trouble = undefined;
		let follower = makeLevelFollower(this.curve, FINEST_STEP_V);
		const meter = await run({
			onvolts: (volts, atMs) => {
				this.shown = follower.take(volts, atMs);
				this.trouble = undefined;
				this.listener.level(this.shown);
			},
			ontrouble: (message) => (this.trouble = message),
			onend: () => {
				if (this.meter !== meter) return;
				this.meter = undefined;
				this.shown = undefined;
				this.listener.ended();
			}
		});
		follower = makeLevelFollower(this.curve, meter.resolutionV);
		this.meter = meter;
	}

	async stop(): Promise<void> {
		const { meter } = this;
		this.meter = undefined;
		this.shown = undefined;
		await meter?.stop();
	}
}
