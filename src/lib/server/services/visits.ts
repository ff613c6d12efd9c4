import { emptyHopState } from '#core/record/hopState';
import type { FieldRecord } from '#core/record/records';
import { weighedState } from '#core/guide/weigh';
import { baselineOf } from '#core/visit/baseline';
import { judgeVisit, type VisitJudgement } from '#core/visit/judgeVisit';
import { visitsOf, type Visit } from '#core/visit/visits';
import type { Actor } from '../auth/actor';
import { refusal } from '../errors';
import { findLatestAcceptance } from '../repositories/acceptances';
import { findingsOf } from './findings';
import {
	appendRecords,
	readAllRecords,
	requireRevision,
	type AppendResult,
	type NewRecord
} from './feed';
import { getHopRow, type RecordPlace } from './hops';
import type { Revision } from './plans';
import { itemAt } from '#core/units/lists';

/** The visits of a hop, oldest first, and what the newest one after the acceptance found and left. */
export async function visitsOfHop(
	actor: Actor,
	hopId: string
): Promise<{ visits: Visit[]; judgement: VisitJudgement | null }> {
	await getHopRow(actor, hopId);
	const revision = await requireRevision(hopId);
	const records = await readAllRecords(hopId);
	return judged(hopId, revision, records);
}

async function judged(
	hopId: string,
	revision: Revision,
	records: readonly FieldRecord[]
): Promise<{ visits: Visit[]; judgement: VisitJudgement | null }> {
	const findings = await findingsOf(revision, records);
	const start = emptyHopState(revision.input, revision.plan);
	const visits = visitsOf(start, records, findings);
	const accepted = await findLatestAcceptance(hopId);
	const last = visits.at(-1);
	const judgement =
		accepted && last?.visitId
			? judgeVisit(
					baselineOf(start, records, accepted.lastSeq, findings),
					weighedState(revision.input, revision.plan, records, findings),
					last
				)
			: null;
	return { visits, judgement };
}

/** Appends records, and first looks at what a visit would leave behind that they close. */
export async function recordInHop(
	actor: Actor,
	hopId: string,
	records: readonly NewRecord[],
	options: { keepOlder?: boolean; known?: RecordPlace | undefined }
): Promise<AppendResult[]> {
	const closing = records.findIndex(({ kind }) => kind === 'visit-closed');
	if (closing >= 0) {
		await getHopRow(actor, hopId);
		await requireMayClose(hopId, await requireRevision(hopId), records, closing);
	}
	return appendRecords(actor, hopId, records, options);
}

/** Refuses to close a visit that leaves a dish loose, not at torque, or moved and not read. */
async function requireMayClose(
	hopId: string,
	revision: Revision,
	added: readonly NewRecord[],
	closing: number
): Promise<void> {
	const known = await readAllRecords(hopId);
	const ids = new Set(known.map(({ id }) => id));
	if (ids.has(itemAt(added, closing).id)) return;
	const before = added.slice(0, closing).filter(({ id }) => !ids.has(id));
	const records = [
		...known,
		...before.map((record, i) => ({
			...record,
			seq: (known.at(-1)?.seq ?? 0) + 1 + i,
			revisionNumber: revision.number,
			recordedBy: ''
		}))
	] as FieldRecord[];
	const { judgement } = await judged(hopId, revision, records);
	const left = judgement?.lines.filter(({ verdict }) => verdict === 'trouble') ?? [];
	if (left.length) {
		const reasons = left.map(({ reason }) => reason);
		throw refusal('visit-not-safe', reasons).at(`records.${closing}`);
	}
}
