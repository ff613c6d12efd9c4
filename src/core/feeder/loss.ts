import { requireInRange } from '../units/errors';
import { itemAt, lastOf } from '../units/lists';

/** What the loss of a feeder depends on. */
export interface FeederLosses {
	kind: 'direct' | 'waveguide' | 'coaxial';
	/** Loss at frequencies in ascending order: [GHz, dB per 100 m]. */
	lossDbPer100M: readonly (readonly [number, number])[];
	/** Loss of the two transitions or flanges together, dB. */
	endsLossDb: number;
}

/**
 * Loss of a feeder run, dB: length times the loss per 100 m at the frequency, plus both ends.
 * Between the frequencies of the sheet the loss is interpolated linearly, beyond them held.
 *
 * @param lengthM 0 to 500
 * @param frequencyGhz as the feeder’s table or cut-off allows
 * @throws OutOfRangeError outside these ranges
 */
export function feederLossDb(feeder: FeederLosses, frequencyGhz: number, lengthM: number): number {
	requireInRange('feederLengthM', lengthM, 0, 500);
	if (feeder.kind === 'direct') return feeder.endsLossDb;
	return (lossPer100M(feeder, frequencyGhz) * lengthM) / 100 + feeder.endsLossDb;
}

function lossPer100M(feeder: FeederLosses, frequencyGhz: number): number {
	const points = feeder.lossDbPer100M;
	const first = itemAt(points, 0);
	const last = lastOf(points);
	if (frequencyGhz <= first[0]) return first[1];
	if (frequencyGhz >= last[0]) return last[1];
	const upper = points.findIndex(([ghz]) => ghz >= frequencyGhz);
	const [f0, l0] = itemAt(points, upper - 1);
	const [f1, l1] = itemAt(points, upper);
	return l0 + ((frequencyGhz - f0) / (f1 - f0)) * (l1 - l0);
}
