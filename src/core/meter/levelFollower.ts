import type { LevelCurve } from '../radio/levelCurve';
import { itemAt } from '../units/lists';

/** What is to be shown after one more reading of a meter. */
export interface FollowedLevel {
	volts: number;
	/** Null when the port cannot give this voltage: pick-up or a wrong port. */
	levelDbm: number | null;
	/** Why it cannot be a level. */
	pickUp: boolean;
	/** Half of the meter's last digit turned into dB here, or of the step it is seen to make. */
	resolutionDb: number;
	/** Readings a second over the last ones; 0 until two have come. */
	perSecond: number;
}

export interface LevelFollower {
	/** Takes a reading; times are of one clock, in ms, rising. */
	take(volts: number, atMs: number): FollowedLevel;
	/** The smallest step seen between readings that differ, V; null while all are alike. */
	stepV(): number | null;
}

/** Readings that are smoothed together. */
const WINDOW_MS = 900;
/** A reading this far below what is shown is shown at once, dB. */
const DROP_DB = 0.6;
const RATE_READINGS = 12;

/**
 * Follows a meter for the eye: the middle of the last readings quiets a restless digit, but a drop is
 * never hidden: whatever lies below the shown level by more than {@link DROP_DB} is shown as it comes,
 * and the smoothing begins anew from there. A rise shows once half of the window has risen.
 *
 * @param resolutionV last digit of the meter, V
 */
export function makeLevelFollower(curve: LevelCurve, resolutionV: number): LevelFollower {
	let window: { volts: number; levelDbm: number; atMs: number }[] = [];
	let times: number[] = [];
	let last: number | undefined;
	let step: number | null = null;
	return {
		stepV: () => step,
		take(volts, atMs) {
			times = [...times.slice(1 - RATE_READINGS), atMs];
			const span = atMs - itemAt(times, 0);
			const perSecond = times.length > 1 && span > 0 ? ((times.length - 1) * 1000) / span : 0;
			if (last !== undefined && volts !== last) {
				step = Math.min(step ?? Infinity, Math.abs(volts - last));
			}
			last = volts;
			const digitV = Math.max(resolutionV, times.length >= RATE_READINGS ? (step ?? 0) : 0);
			const reading = curve.read(volts, digitV);
			if (reading.kind === 'implausible') {
				window = [];
				return { volts, levelDbm: null, pickUp: true, resolutionDb: 0, perSecond };
			}
			const { levelDbm } = reading;
			window = window.filter((kept) => atMs - kept.atMs < WINDOW_MS);
			if (window.length && levelDbm < middle(window).levelDbm - DROP_DB) window = [];
			window.push({ volts, levelDbm, atMs });
			return {
				...middle(window),
				pickUp: false,
				resolutionDb: reading.kind === 'level' ? reading.resolutionDb : 0,
				perSecond
			};
		}
	};
}

/** The middle reading by level; of an even number the lower one of the two. */
function middle(window: readonly { volts: number; levelDbm: number }[]): {
	volts: number;
	levelDbm: number;
} {
	const sorted = [...window].sort((p, q) => p.levelDbm - q.levelDbm);
	const { volts, levelDbm } = itemAt(sorted, Math.floor((sorted.length - 1) / 2));
	return { volts, levelDbm };
}

/** A watched level is kept in the record when it moved by this much, dB, or the last one is this old. */
const WORTH_KEEPING_DB = 0.4;
const WORTH_KEEPING_MS = 30_000;

/**
 * Whether a watched level says anything that the last kept one does not.
 *
 * @param nowMs milliseconds since 1970
 */
export function worthKeeping(
	last: { levelDbm: number | null; recordedAtMs: number },
	levelDbm: number | null,
	nowMs: number
): boolean {
	if (last.levelDbm === null || levelDbm === null) return last.levelDbm !== levelDbm;
	return (
		Math.abs(levelDbm - last.levelDbm) >= WORTH_KEEPING_DB ||
		nowMs - last.recordedAtMs >= WORTH_KEEPING_MS
	);
}
