/** Level before and after one fastener went to torque. */
export interface LockStep {
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
 * Judges one end's tightening: level after must equal level before.
 *
 * A rise is not a gift: it says that the dish was not on the top before it was locked.
 */
export function judgeDrift(steps: readonly LockStep[]): DriftVerdict {
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
			advice: `${worst.fastener} cost ${(-change(worst)).toFixed(1)} dB: loosen it, bring the ${worst.locks} back to the level before, and tighten in smaller steps, nuts in turn.`
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

function change(step: LockStep): number {
	return step.afterDbm - step.beforeDbm;
}
