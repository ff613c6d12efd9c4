import type { Transaction } from 'sequelize';
import type { AcceptanceJudgement } from '#core/accept/judgeAcceptance';
import { acceptances, revisions, users, type AcceptanceRow } from '../db/models';

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

/** Every acceptance of a hop, the oldest first. */
export async function listAcceptances(hopId: string): Promise<Acceptance[]> {
	const rows = (await acceptances().findAll({
		where: { hopId },
		order: [['number', 'ASC']],
		raw: true
	})) as unknown as AcceptanceRow[];
	return Promise.all(rows.map(acceptanceOf));
}

/** The newest acceptance of a hop, or undefined while none is signed. */
export async function findLatestAcceptance(hopId: string): Promise<Acceptance | undefined> {
	const row = (await acceptances().findOne({
		where: { hopId },
		order: [['number', 'DESC']],
		raw: true
	})) as AcceptanceRow | null;
	return row ? acceptanceOf(row) : undefined;
}

export async function insertAcceptance(
	{ judgement, causes, signature, signedById, ...acceptance }: NewAcceptance,
	transaction: Transaction
): Promise<void> {
	await acceptances().create(
		{
			...acceptance,
			judgement: JSON.stringify(judgement),
			causes: JSON.stringify(causes),
			signature: JSON.stringify(signature),
			signedBy: signedById
		},
		{ transaction }
	);
}

async function acceptanceOf(row: AcceptanceRow): Promise<Acceptance> {
	const [signer, revision] = await Promise.all([
		users().findByPk(row.signedBy, { attributes: ['displayName'], raw: true }),
		revisions().findByPk(row.revisionId, { attributes: ['number'], raw: true })
	]);
	return {
		id: row.id,
		number: row.number,
		revisionId: row.revisionId,
		revisionNumber: (revision as unknown as { number: number } | null)?.number ?? 0,
		lastSeq: Number(row.lastSeq),
		judgement: JSON.parse(row.judgement) as AcceptanceJudgement,
		causes: JSON.parse(row.causes) as Record<string, string>,
		signature: JSON.parse(row.signature) as Signature,
		signedById: row.signedBy,
		signedBy: (signer as unknown as { displayName: string } | null)?.displayName ?? '',
		signedAt: row.signedAt.toISOString()
	};
}
