import type { Findings } from '../record/findings';
import { advanced } from '../record/foldRecord';
import type { HopState } from '../record/hopState';
import type { FieldRecord } from '../record/records';

/**
 * The hop as it stood when it was accepted: by the records that the acceptance judged.
 *
 * @param acceptedSeq place of the last record that the acceptance judged; 0 for none
 */
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
