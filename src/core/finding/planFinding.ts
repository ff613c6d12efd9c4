/**
 * Something a plan says about itself: an error blocks issuing, a warning must be accepted in writing,
 * a note is only said.
 */
export interface PlanFinding {
	severity: 'error' | 'warning' | 'note';
	code: string;
	/** Path of the input it concerns, such as `ends.A.transmitPowerDbm`. */
	field: string;
	message: string;
}

/** Takes down a finding where it is met. */
export type Found = (
	severity: PlanFinding['severity'],
	code: string,
	field: string,
	message: string
) => void;
