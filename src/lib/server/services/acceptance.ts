import { UniqueConstraintError } from 'sequelize';
import { judgeAcceptance, type AcceptanceJudgement } from '#core/accept/judgeAcceptance';
import { situationOf } from '#core/guide/situation';
import type { FieldRecord } from '#core/record/records';
import { requireMay, type Actor } from '../auth/actor';
import { inTransaction } from '../db/connection';
import { acceptances, users, type AcceptanceRow, type UserRow } from '../db/models';
import { AppError, conflict, invalid, notFound } from '../errors';
import { audit } from '../repositories/audit';
import { db } from '../db/connection';
import { findingsOf } from './findings';
import { readAllRecords, requireRevision } from './feed';
import { getHopRow } from './hops';
import { findLatestRevision, type Revision } from './plans';

export interface Signature {
	name: string;
	method: 'typed' | 'drawn';
	drawing?: string;
}

export interface Acceptance {
	id: string;
	revisionNumber: number;
	lastSeq: number;
	judgement: AcceptanceJudgement;
	causes: Record<string, string>;
	signature: Signature;
	signedBy: string;
	signedAt: string;
}

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
	return judge(revision, await readAllRecords(hopId));
}

/** A judgement is of what was measured, against this revision's plan. */
async function judge(
	revision: Revision,
	records: readonly FieldRecord[]
): Promise<AcceptanceJudgement> {
	const findings = await findingsOf(revision, records);
	const situation = situationOf(revision.input, revision.plan, records, findings);
	return judgeAcceptance(revision.input, revision.plan, situation, records);
}

/** Signs: freezes the judgement of the present records. A repeat with the same id does nothing. */
export async function signAcceptance(
	actor: Actor,
	hopId: string,
	request: AcceptanceRequest
): Promise<Acceptance> {
	requireMay(actor, 'sign');
	await getHopRow(actor, hopId);
	const earlier = await findAcceptanceOf(hopId);
	if (earlier) {
		if (earlier.id === request.id) return earlier;
		throw conflict('already-signed', 'This hop is already accepted and signed.');
	}
	const revision = await requireRevision(hopId);
	const records = await readAllRecords(hopId);
	const lastSeq = records.at(-1)?.seq ?? 0;
	if (lastSeq !== request.lastSeq) {
		throw conflict(
			'record-moved-on',
			'New field records arrived after you looked. Look at the judgement again, then sign.'
		);
	}
	const judgement = await judge(revision, records);
	requireSignable(judgement, request.causes);
	try {
		await inTransaction(async (transaction) => {
			const [feed] = (await db().query(
				'SELECT last_seq AS lastSeq FROM hop_feeds WHERE hop_id = ? FOR UPDATE',
				{ replacements: [hopId], transaction }
			)) as unknown as [{ lastSeq: number }[]];
			if (Number(feed[0]?.lastSeq) !== lastSeq) {
				throw conflict('record-moved-on', 'New field records arrived meanwhile. Look again.');
			}
			await acceptances().create(
				{
					id: request.id,
					hopId,
					revisionId: revision.id,
					lastSeq,
					judgement: JSON.stringify(judgement),
					causes: JSON.stringify(request.causes),
					signature: JSON.stringify(request.signature),
					signedBy: actor.userId,
					signedAt: new Date()
				},
				{ transaction }
			);
			await audit(actor.userId, 'sign-acceptance', `hop:${hopId}`, { lastSeq }, transaction);
		});
	} catch (error) {
		if (!(error instanceof UniqueConstraintError)) throw error;
		const other = await findAcceptanceOf(hopId);
		if (other?.id !== request.id) {
			throw conflict('already-signed', 'This hop is already accepted and signed.');
		}
	}
	return getAcceptance(actor, hopId);
}

function requireSignable(judgement: AcceptanceJudgement, causes: Record<string, string>): void {
	const missing = judgement.lines.filter((line) => line.verdict === 'missing');
	if (missing.length) {
		throw new AppError(
			422,
			'acceptance-incomplete',
			`Not ready to sign: ${missing.map((line) => line.reason.replace(/\.$/, '').toLowerCase()).join('; ')}.`,
			missing.map((line) => ({ field: `lines.${line.code}`, message: line.reason }))
		);
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

export async function getAcceptance(actor: Actor, hopId: string): Promise<Acceptance> {
	await getHopRow(actor, hopId);
	const found = await findAcceptanceOf(hopId);
	if (!found) throw notFound('acceptance');
	return found;
}

/** The signed acceptance of a hop, if there is one. No check of the actor. */
export async function findAcceptanceOf(hopId: string): Promise<Acceptance | undefined> {
	const row = (await acceptances().findOne({
		where: { hopId },
		raw: true
	})) as AcceptanceRow | null;
	if (!row) return undefined;
	const signer = (await users().findByPk(row.signedBy, { raw: true })) as UserRow | null;
	const revision = await findLatestRevision(hopId);
	return {
		id: row.id,
		revisionNumber: revision?.number ?? 0,
		lastSeq: Number(row.lastSeq),
		judgement: JSON.parse(row.judgement) as AcceptanceJudgement,
		causes: JSON.parse(row.causes) as Record<string, string>,
		signature: JSON.parse(row.signature) as Signature,
		signedBy: signer?.displayName ?? '',
		signedAt: row.signedAt.toISOString()
	};
}
