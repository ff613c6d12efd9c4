/** Something a plan says about itself: an error blocks issuing, a warning is printed on the sheet. */
export interface PlanFinding {
	severity: 'error' | 'warning';
	code: string;
	/** Path of the input it concerns, such as `ends.A.transmitPowerDbm`. */
	field: string;
	message: string;
}
