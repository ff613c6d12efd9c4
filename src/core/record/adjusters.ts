import type { HopPlanInput } from '../budget/planInput';
import type { Adjuster } from '../catalogue/parts';
import type { Axis, End } from '../ends';
import { recordsOf, type FieldRecord } from './records';
import { degToRad } from '../units/angle';

/**
 * The plan's input with one adjuster of one end replaced by what was measured of it on the spot.
 *
 * @param degPerTurn as measured at the centre, above 0
 */
export function withMeasuredAdjuster(
	input: HopPlanInput,
	end: End,
	axis: Axis,
	degPerTurn: number
): HopPlanInput {
	const own = input.ends[end];
	const mount = { ...own.mount, [axis]: withDegPerTurn(own.mount[axis], degPerTurn) };
	return { ...input, ends: { ...input.ends, [end]: { ...own, mount } } };
}

/** The plan's input after the calibrations among some records. */
export function measuredInput(input: HopPlanInput, records: readonly FieldRecord[]): HopPlanInput {
	return recordsOf(records, 'calibration').reduce(
		(measured, { end, payload }) =>
			withMeasuredAdjuster(measured, end, payload.axis, payload.degPerTurn),
		input
	);
}

/**
 * An adjuster that turns the dish by so many degrees a turn about its centre; travel stays in turns.
 *
 * @param degPerTurn at the centre, above 0
 */
export function withDegPerTurn(adjuster: Adjuster, degPerTurn: number): Adjuster {
	const planned = Math.atan(adjuster.threadPitchMm / adjuster.armMm);
	const measured = degToRad(degPerTurn);
	return {
		...adjuster,
		threadPitchMm: adjuster.armMm * Math.tan(measured),
		travelDeg: Math.min(60, (adjuster.travelDeg * measured) / planned)
	};
}
