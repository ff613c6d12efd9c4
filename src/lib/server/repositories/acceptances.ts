import type { AcceptanceJudgement } from '#core/accept/judgeAcceptance';
import type { Origin } from '#core/provenance/provenance';
import { select } from '../db/sql';
import { acceptances, type AcceptanceRow } from '../db/tables';
import type { Unit } from '../db/transaction';

export interface Signature {
	name: string;
	method: 'typed' | 'drawn';
	drawing?: string;
}

/** One signed acceptance: a judgement frozen with the revision and the records it judged. */
export interface Acceptance {
	id: string;
	/** 1, 2, 3 … of the hop: a hop that was changed is accepted anew. */
	number: number;
	revisionId: string;
	/** The plan revision that was judged. */
	revisionNumber: number;
	/** The last record that was judged. */
	lastSeq: number;
	judgement: AcceptanceJudgement;
	causes: Record<string, string>;
	signature: Signature;
	signedById: string;
	/** Display name of who signed. */
	signedBy: string;
	signedAt: string;
	/** Digest of the last record that was judged; null on acceptances older than digests. */
	recordDigest: string | null;
}

/** An acceptance with where it was signed. */
export interface SignedAcceptance extends Acceptance {
	origin: Origin;
}

export interface NewAcceptance extends Omit<
	Acceptance,
	'revisionNumber' | 'signedBy' | 'signedAt' | 'judgement' | 'causes' | 'signature'
> {
	hopId: string;
	judgement: object;
	causes: object;
	signature: object;
	signedAt: Date;
}

interface NamedRow extends Omit<AcceptanceRow, 'hopId'> {
	signer: string;
	revisionNumber: number;
}

const SELECT = `SELECT x.id, x.number, x.revision_id AS revisionId, x.last_seq AS lastSeq, x.judgement,
	x.causes, x.signature, x.signed_by AS signedBy, x.signed_at AS signedAt, x.record_digest AS recordDigest,
	u.display_name AS signer, r.number AS revisionNumber
	FROM acceptances x JOIN users u ON u.id = x.signed_by JOIN plan_revisions r ON r.id = x.revision_id
	WHERE x.hop_id = ?`;

/** Every acceptance of a hop, the oldest first. */
export async function listAcceptances(hopId: string): Promise<Acceptance[]> {
	return (await select<NamedRow>(`${SELECT} ORDER BY x.number`, [hopId])).map(acceptanceOf);
}

/** The newest acceptance of a hop, or undefined while none is signed. */
export async function findLatestAcceptance(hopId: string): Promise<Acceptance | undefined> {
	const [row] = await select<NamedRow>(`${SELECT} ORDER BY x.number DESC LIMIT 1`, [hopId]);
	return row && acceptanceOf(row);
}

/** Throws TakenError where the id or the hop's number of the acceptance is there already. */
export function insertAcceptance(
	{ judgement, causes, signature, signedById, ...acceptance }: NewAcceptance,
	unit: Unit
): Promise<void> {
	return acceptances.add(
		{
			...acceptance,
			judgement: JSON.stringify(judgement),
			causes: JSON.stringify(causes),
			signature: JSON.stringify(signature),
			signedBy: signedById
		},
		unit
	);
}

function acceptanceOf(row: NamedRow): Acceptance {
	return {
		id: row.id,
		number: row.number,
		revisionId: row.revisionId,
		revisionNumber: row.revisionNumber,
		lastSeq: row.lastSeq,
		judgement: JSON.parse(row.judgement) as AcceptanceJudgement,
		causes: JSON.parse(row.causes) as Record<string, string>,
		signature: JSON.parse(row.signature) as Signature,
		signedById: row.signedBy,
		signedBy: row.signer,
		signedAt: row.signedAt.toISOString(),
		recordDigest: row.recordDigest
	};
}
