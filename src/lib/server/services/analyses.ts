import { setImmediate } from 'node:timers/promises';
import { sweepInputOf } from '$core/guide/sweepInput';
import { recordsOf, type FieldRecord } from '$core/record/records';
import { analyseSweep, type SweepAnalysis } from '$core/sweep/analyseSweep';
import type { Revision } from './plans';

/** Analyses by revision and record: pure results, kept so that no sweep is read twice. */
const kept = new Map<string, SweepAnalysis>();
const MOST_KEPT = 2000;

/** What every sweep of a hop says, by record id. Lets other requests in between two sweeps. */
export async function analysesOf(
	revision: Revision,
	records: readonly FieldRecord[]
): Promise<Record<string, SweepAnalysis>> {
	const result: Record<string, SweepAnalysis> = {};
	for (const record of recordsOf(records, 'sweep')) {
		const key = `${revision.id}/${record.id}`;
		let analysis = kept.get(key);
		if (!analysis) {
			await setImmediate();
			analysis = analyseSweep(
				sweepInputOf(revision.input, revision.plan, record.end, record.payload)
			);
			kept.set(key, analysis);
			if (kept.size > MOST_KEPT) kept.delete(kept.keys().next().value!);
		}
		result[record.id] = analysis;
	}
	return result;
}
