import type { Adjuster } from '../catalogue/parts';
import type { HopPlanInput } from '../budget/planInput';
import { ENDS, type Axis, type End } from '../ends';
import { recordsOf, type FieldRecord } from '../record/records';
import { degToRad } from '../units/angle';

/**
 * The plan's input with every adjuster that was measured on the spot replaced by what was measured:
 * the newest calibration of an end and axis counts. The same object when nothing was measured.
 */
export function calibratedInput(
	input: HopPlanInput,
	records: readonly FieldRecord[]
): HopPlanInput {
	const newest = new Map<string, { end: End; axis: Axis; degPerTurn: number }>();
	for (const { end, payload } of recordsOf(records, 'calibration')) {
		newest.set(`${end} ${payload.axis}`, { end, ...payload });
	}
	if (newest.size === 0) return input;
	const ends = { ...input.ends };
	for (const end of ENDS) {
		const mount = { ...ends[end].mount };
		for (const found of newest.values()) {
			if (found.end !== end) continue;
			mount[found.axis] = withDegPerTurn(mount[found.axis], found.degPerTurn);
		}
		ends[end] = { ...ends[end], mount };
	}
	return { ...input, ends };
}

/** An adjuster that turns the dish by so many degrees a turn about its centre; travel stays in turns. */
export function withDegPerTurn(adjuster: Adjuster, degPerTurn: number): Adjuster {
	const planned = Math.atan(adjuster.threadPitchMm / adjuster.armMm);
	const measured = degToRad(degPerTurn);
	return {
		...adjuster,
		threadPitchMm: adjuster.armMm * Math.tan(measured),
		travelDeg: Math.min(60, (adjuster.travelDeg * measured) / planned)
	};
}
