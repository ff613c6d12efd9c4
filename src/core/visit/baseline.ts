import type { Findings } from '../record/findings';
import { advanced } from '../record/foldRecord';
import type { HopState } from '../record/hopState';
import type { FieldRecord } from '../record/records';

/** The hop as it stood when it was accepted: by the records that the acceptance judged. */
export function baselineOf(
	start: HopState,
	records: readonly FieldRecord[],
	acceptedSeq: number,
	findings: Findings
): HopState {
	return advanced(
		start,
		records.filter(({ seq }) => seq <= acceptedSeq),
		findings
	);
}
