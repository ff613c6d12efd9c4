/**
 * Whether a tool was in calibration at a moment: to the end of the day on its label, UTC.
 *
 * @param until day on its label, ISO 8601
 * @param at the moment, ISO 8601 with time
 */
export function inCalibration(until: string, at: string): boolean {
	return at.slice(0, 10) <= until;
}
