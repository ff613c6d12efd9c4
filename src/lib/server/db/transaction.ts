import type { Transaction } from 'sequelize';
import { db } from './connection';

/** Work that happens whole or not at all; handed on to the repositories, opened by services. */
export type Unit = Transaction;

/** Deadlock, lock wait, or a certification failure of a replicated cluster: safe to run again. */
const RETRY_CODES = new Set(['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT', 'ER_ERROR_DURING_COMMIT']);
const MOST_TRIES = 5;

/** Runs work as one unit, again from the start when the database asks for it. */
export async function inTransaction<T>(work: (unit: Unit) => Promise<T>): Promise<T> {
	for (let attempt = 1; ; attempt++) {
		try {
			return await db().transaction(work);
		} catch (error) {
			const code = (error as { parent?: { code?: string } }).parent?.code ?? '';
			if (attempt >= MOST_TRIES || !RETRY_CODES.has(code)) throw error;
			await new Promise((resolve) => setTimeout(resolve, 15 * attempt * attempt));
		}
	}
}
