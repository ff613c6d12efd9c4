import { QueryTypes, type Transaction } from 'sequelize';
import { db } from '../db/connection';

/** Adds a line to the audit trail, which the database never lets change. */
export async function audit(
	userId: string | null,
	action: string,
	subject: string,
	detail: object = {},
	transaction?: Transaction
): Promise<void> {
	await db().query(
		'INSERT INTO audit_trail (at, user_id, action, subject, detail) VALUES (?, ?, ?, ?, ?)',
		{
			replacements: [new Date(), userId, action, subject, JSON.stringify(detail)],
			transaction: transaction ?? null
		}
	);
}

/** Whether an action stands in the trail at all. */
export async function isAudited(action: string): Promise<boolean> {
	const [row] = await db().query('SELECT 1 FROM audit_trail WHERE action = ? LIMIT 1', {
		replacements: [action],
		type: QueryTypes.SELECT
	});
	return row !== undefined;
}
