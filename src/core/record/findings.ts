import type { Axis, End } from '../ends';
import type { SweepAnalysis } from '../sweep/sweepTypes';
import type { FieldRecord } from './records';
import { isOfSecond } from './secondDish';

/** How an end stood when it gave up the baton or closed its alignment. */
export interface Aim {
	/** On its main lobe on both axes, near enough to the middle. */
	onMainLobe: boolean;
	/** Whether the level was then inside the window of the plan. */
	onPlan: boolean;
	probability: number;
	/** One-sigma uncertainty of either axis, beamwidths; null while nothing is known. */
	sigmaBeamwidths: number | null;
	/** What one more round at this end may be expected to gain, dB. */
	expectedGainDb: number;
	/** Where the main lobe was found, degrees of the mount; absent in findings kept before it was. */
	place?: { azimuthDeg: number; tiltDeg: number } | null;
}

/** One recorded sweep with what it says. */
export interface SweepDone {
	recordId: string;
	seq: number;
	axis: Axis;
	otherAxisDeg: number;
	fromDeg: number;
	toDeg: number;
	analysis: SweepAnalysis;
}

/**
 * What was found out about single records, by their ids. Pure results that cost time: screens have
 * them made by a worker, the server keeps them; who has none gets them made on the way.
 */
export interface Findings {
	sweeps: Map<string, SweepAnalysis>;
	aims: Map<string, Aim>;
}

export const noFindings = (): Findings => ({ sweeps: new Map(), aims: new Map() });

/**
 * Whether a record only counts once something has been found out about it.
 *
 * @param second whether the plan in force has second dishes: of one that is gone nothing is asked
 */
export function needsFinding(record: FieldRecord, findings: Findings, second: boolean): boolean {
	if (isOfSecond(record) && !second) return false;
	if (record.kind === 'sweep') return !findings.sweeps.has(record.id);
	return givesUp(record) !== undefined && !findings.aims.has(record.id);
}

/** The end whose aim a record closes: by handing the baton over, or by saying that it stands. */
export function givesUp(record: FieldRecord): End | undefined {
	if (record.kind === 'aimed') return record.end;
	return record.kind === 'baton' && record.payload.how !== 'taken' ? record.end : undefined;
}
