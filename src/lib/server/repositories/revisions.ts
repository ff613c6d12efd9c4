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

/**
 * Number of the newest revision of a hop; 0 while none is issued. A locking read: the transaction's
 * own snapshot may be older than the lock it has just waited for.
 */
export async function latestRevisionNumber(
	hopId: string,
	transaction: Transaction
): Promise<number> {
	const latest = (await revisions().findOne({
		attributes: ['number'],
		where: { hopId },
		order: [['number', 'DESC']],
		transaction,
		lock: transaction.LOCK.UPDATE,
		raw: true
	})) as { number: number } | null;
	return latest?.number ?? 0;
}
