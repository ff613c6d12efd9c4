import type { Transaction } from 'sequelize';
import { hops, revisions } from '../db/models';

/** Locks a hop until the transaction ends: no revision is issued and none accepted meanwhile. */
export async function lockHop(hopId: string, transaction: Transaction): Promise<void> {
	await hops().findByPk(hopId, {
		attributes: ['id'],
		transaction,
		lock: transaction.LOCK.UPDATE,
		raw: true
	});
}

/** Number of the newest revision of a hop; 0 while none is issued. */
export async function latestRevisionNumber(
	hopId: string,
	transaction: Transaction
): Promise<number> {
	const latest = (await revisions().max('number', { where: { hopId }, transaction })) as
		number | null;
	return latest ?? 0;
}
