import { acceptanceDue, type AcceptanceDue } from '#core/accept/acceptanceDue';
import { judgeAcceptance, type AcceptanceJudgement } from '#core/accept/judgeAcceptance';
import type { End } from '#core/ends';
import { originOf } from '#core/provenance/provenance';
import { weighedState } from '#core/guide/weigh';
import type { HopState } from '#core/record/hopState';
import type { FieldRecord } from '#core/record/records';
import { present } from '#core/units/lists';
import { requireMay, type Actor } from '../auth/actor';
import { unlessTaken } from '../db/taken';
import { inTransaction, type Unit } from '../db/transaction';
import { type AppError, invalid, notFound, refusal } from '../errors';
import {
	insertAcceptance,
	listAcceptances,
	type Signature,
	type SignedAcceptance
} from '../repositories/acceptances';
import { audit } from '../repositories/audit';
import { lockFeed, noLongerSentBack } from '../repositories/feeds';
import { latestRevisionNumber, lockHop } from '../repositories/revisions';
import { findingsOf } from './findings';
import {
	appendInTransaction,
	readAllRecords,
	requireRevision,
	type AppendResult,
	type NewRecord
} from './feed';
import { getHopRow } from './hops';
import type { Revision } from './plans';
import { provenanceOf } from './provenance';

export type { Signature, SignedAcceptance };

export interface AcceptanceRequest {
	id: string;
	lastSeq: number;
	causes: Record<string, string>;
	signature: Signature;
}

/** Judges the hop as it stands now. */
export async function judgeHop(actor: Actor, hopId: string): Promise<AcceptanceJudgement> {
	await getHopRow(actor, hopId);
	const revision = await requireRevision(hopId);
	return judgeAcceptance(await stateOf(revision, await readAllRecords(hopId)));
}

/** Where a hop stands by a revision and some records. */
async function stateOf(revision: Revision, records: readonly FieldRecord[]): Promise<HopState> {
	const findings = await findingsOf(revision, records);
	return weighedState(revision.input, revision.plan, records, findings);
}

/**
 * Signs: freezes the judgement of the present records against the revision in force. A repeat with
 * the same id does nothing. A hop that was accepted is accepted again once something has changed.
 */
export async function signAcceptance(
	actor: Actor,
	hopId: string,
	request: AcceptanceRequest
): Promise<SignedAcceptance> {
	requireMay(actor, 'sign');
	await getHopRow(actor, hopId);
	const earlier = await signedAcceptances(hopId);
	const same = earlier.find(({ id }) => id === request.id);
	if (same) return same;
	const revision = await requireRevision(hopId);
	const records = await readAllRecords(hopId);
	const lastSeq = records.at(-1)?.seq ?? 0;
	if (lastSeq !== request.lastSeq) throw recordMovedOn();
	const state = await stateOf(revision, records);
	requireDue(acceptanceDue(state, revision.number, earlier.at(-1) ?? null));
	const judgement = judgeAcceptance(state);
	requireSignable(judgement, request.causes);
	const sign = (): Promise<void> =>
		inTransaction(async (unit) => {
			// The feed first, then the hop: as records are appended, and as revisions are issued.
			const feed = await lockFeed(hopId, unit);
			if (feed.lastSeq !== lastSeq) throw recordMovedOn();
			await requireStillLatest(hopId, revision, unit);
			await insertAcceptance(
				{
					id: request.id,
					hopId,
					number: (earlier.at(-1)?.number ?? 0) + 1,
					revisionId: revision.id,
					lastSeq,
					judgement,
					causes: request.causes,
					signature: request.signature,
					signedById: actor.userId,
					signedAt: new Date(),
					recordDigest: feed.digest
				},
				unit
			);
			await noLongerSentBack(hopId, unit);
			await audit(
				actor.userId,
				'sign-acceptance',
				`hop:${hopId}`,
				{ lastSeq, revision: revision.number },
				unit
			);
		});
	// The same request may have been answered meanwhile, or another acceptance signed.
	await unlessTaken(sign, () => undefined);
	const signed = (await signedAcceptances(hopId)).find(({ id }) => id === request.id);
	if (!signed) throw alreadySigned();
	return signed;
}

/**
 * Does not sign: says in the record what the crew is to see to first. A repeat with the same id does
 * nothing.
 */
export async function sendBack(
	actor: Actor,
	hopId: string,
	{ id, end, reason }: { id: string; end: End; reason: string }
): Promise<AppendResult> {
	requireMay(actor, 'sign');
	await getHopRow(actor, hopId);
	const revision = await requireRevision(hopId);
	const record: NewRecord = {
		...{ id, end, kind: 'sent-back', payload: { reason } },
		recordedAt: new Date().toISOString()
	};
	const [result] = await inTransaction((unit) =>
		appendInTransaction(unit, actor, hopId, revision, () => [record])
	);
	return present(result, 'record');
}

const recordMovedOn = (): AppError => refusal('record-moved-on');
const alreadySigned = (): AppError => refusal('already-signed');

function requireDue(due: AcceptanceDue): void {
	if (due.kind === 'stands') throw alreadySigned();
	if (due.kind === 'in-visit') {
		throw refusal('visit-open', 'acceptance');
	}
}

/** No revision was issued since the judgement was made; the hop stays locked so that none is. */
async function requireStillLatest(hopId: string, judged: Revision, unit: Unit): Promise<void> {
	await lockHop(hopId, unit);
	if ((await latestRevisionNumber(hopId, unit)) !== judged.number) {
		throw refusal('plan-revised', { measuredAgainst: 'judged' });
	}
}

function requireSignable(judgement: AcceptanceJudgement, causes: Record<string, string>): void {
	const missing = judgement.lines.filter((line) => line.verdict === 'missing');
	if (missing.length) {
		throw refusal(
			'acceptance-incomplete',
			missing.map((line) => line.reason)
		).with(missing.map((line) => ({ field: `lines.${line.code}`, message: line.reason })));
	}
	const uncaused = judgement.lines.filter(
		(line) => line.verdict === 'deviation' && !causes[line.code]?.trim()
	);
	if (uncaused.length) {
		throw invalid(
			uncaused.map((line) => ({
				field: `causes.${line.code}`,
				message: `Write the cause of this deviation: ${line.label}.`
			}))
		);
	}
}

/** The newest acceptance of a hop. */
export async function getAcceptance(actor: Actor, hopId: string): Promise<SignedAcceptance> {
	await getHopRow(actor, hopId);
	const found = (await signedAcceptances(hopId)).at(-1);
	if (!found) throw notFound('acceptance');
	return found;
}

/** Every acceptance of a hop, the oldest first. No check of the actor. */
export async function signedAcceptances(hopId: string): Promise<SignedAcceptance[]> {
	const provenance = await provenanceOf(hopId);
	return (await listAcceptances(hopId)).map((one) => ({
		...one,
		origin: originOf(provenance, { what: 'acceptance', number: one.number })
	}));
}

/** Every acceptance of a hop, the oldest first. */
export async function acceptancesOf(actor: Actor, hopId: string): Promise<SignedAcceptance[]> {
	await getHopRow(actor, hopId);
	return signedAcceptances(hopId);
}
