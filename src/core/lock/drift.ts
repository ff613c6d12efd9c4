import type { End } from '../ends';

/** Level before and after one fastener went to torque. */
export interface LockStep {
	/** Place in the mount's own order, from 0. */
	fastenerIndex: number;
	fastener: string;
	locks: 'azimuth' | 'tilt';
	beforeDbm: number;
	afterDbm: number;
}

export interface DriftVerdict {
	kind: 'held' | 'step-drift' | 'total-drift' | 'suspicious-rise' | 'nothing-yet';
	/** Sum of all changes since the first reading, dB; negative is lost level. */
	totalDb: number;
	/** The fastener that cost most, where one did. */
	culprit: LockStep | null;
	advice: string;
}

/** Change by one fastener that is still within what meter and air do by themselves, dB. */
export const STEP_DRIFT_LIMIT_DB = 0.5;
/** Loss from the first reading to the last that is still accepted, dB. */
export const TOTAL_DRIFT_LIMIT_DB = 1;

/**
 * Judges one end's tightening: level after must equal level before. Names end, axis and fastener, and
 * the way back.
 *
 * A rise is not a gift: it says that the dish was not on the top before it was locked.
 *
 * @param steps in the order in which they were done
 */
export function judgeDrift(steps: readonly LockStep[], end?: End): DriftVerdict {
	const at = end ? `At ${end}: ` : '';
	const verdict = driftOf(steps);
	const advice = at
		? `${at}${verdict.advice.charAt(0).toLowerCase()}${verdict.advice.slice(1)}`
		: verdict.advice;
	return verdict.kind === 'held' || verdict.kind === 'nothing-yet'
		? verdict
		: { ...verdict, advice };
}

function driftOf(steps: readonly LockStep[]): DriftVerdict {
	const first = steps[0];
	const last = steps[steps.length - 1];
	if (!first || !last) {
		return {
			kind: 'nothing-yet',
			totalDb: 0,
			culprit: null,
			advice: 'Read the level, then tighten the first fastener.'
		};
	}
	const totalDb = last.afterDbm - first.beforeDbm;
	const worst = steps.reduce((p, q) => (change(q) < change(p) ? q : p));
	if (totalDb > STEP_DRIFT_LIMIT_DB) {
		return {
			kind: 'suspicious-rise',
			totalDb,
			culprit: null,
			advice: `The level rose by ${totalDb.toFixed(1)} dB while tightening: the dish was not on the top. Loosen, sweep both axes finely once more, and lock again.`
		};
	}
	if (change(worst) < -STEP_DRIFT_LIMIT_DB) {
		return {
			kind: 'step-drift',
			totalDb,
			culprit: worst,
			advice: `The ${worst.locks} moved by ${(-change(worst)).toFixed(1)} dB at the ${worst.fastener.toLowerCase()}. ${outOfOrder(steps, worst)}Way back: loosen it, bring the ${worst.locks} adjuster to ${worst.beforeDbm.toFixed(1)} dBm again, and tighten in smaller steps, nuts in turn.`
		};
	}
	if (totalDb < -TOTAL_DRIFT_LIMIT_DB) {
		return {
			kind: 'total-drift',
			totalDb,
			culprit: worst,
			advice: `Together the fasteners cost ${(-totalDb).toFixed(1)} dB: loosen in reverse order, find the top again, lock once more.`
		};
	}
	return { kind: 'held', totalDb, culprit: null, advice: 'The aim held while tightening.' };
}

/** The culprit went to torque before one that stands ahead of it in the mount's list. */
function outOfOrder(steps: readonly LockStep[], worst: LockStep): string {
	const after = steps.slice(steps.indexOf(worst) + 1);
	const before = steps.slice(0, steps.indexOf(worst));
	const skipped =
		after.some((step) => step.fastenerIndex < worst.fastenerIndex) ||
		before.length < worst.fastenerIndex;
	return skipped ? 'It was tightened out of the order of the mount’s sheet. ' : '';
}

function change(step: LockStep): number {
	return step.afterDbm - step.beforeDbm;
}
