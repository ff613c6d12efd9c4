import { keepFinding, openQuestions, type Finding } from '#core/guide/weigh';
import { noFindings, type Findings } from '#core/record/findings';
import { emptyHopState } from '#core/record/hopState';
import type { FieldRecord } from '#core/record/records';
import { inWorker } from '../jobs/pool';
import type { Revision } from './plans';

/** Findings by revision and record: pure results, kept so that nothing is weighed twice. */
const kept = new Map<string, Finding>();
const MOST_KEPT = 4000;

/** What every sweep and every closed turn of a hop says. */
export async function findingsOf(
	revision: Revision,
	records: readonly FieldRecord[]
): Promise<Findings> {
	const findings = noFindings();
	const start = emptyHopState(revision.input, revision.plan);
	for (const record of records) {
		const known = kept.get(`${revision.id}/${record.id}`);
		if (known) keepFinding(findings, known);
	}
	for (const question of openQuestions(start, records, findings)) {
		const found = await inWorker('find', question);
		keepFinding(findings, found);
		kept.set(`${revision.id}/${question.id}`, found);
		if (kept.size > MOST_KEPT) kept.delete(kept.keys().next().value!);
	}
	return findings;
}
