import type { Transaction } from 'sequelize';
import { db } from './connection';

/** Work that happens whole or not at all; handed on to the repositories, opened by services. */
export type Unit = Transaction;

/** Deadlock, lock wait, or a certification failure of a replicated cluster: safe to run again. */
const RETRY_CODES = new Set(['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT', 'ER_ERROR_DURING_COMMIT']);
/** Two nodes of a cluster that write to one hop find out only at the end that they were in each other's way. */
const MOST_TRIES = 10;
const PAUSE_MS = 12;

/** Whether the database says that others were in the way, and that nothing was done. */
export const mayRunAgain = (error: unknown): boolean =>
	RETRY_CODES.has((error as { parent?: { code?: string } }).parent?.code ?? '');

/** Runs work once the unit is committed; what is not committed is not spoken of. */
export function afterCommit(unit: Unit, work: () => void): void {
	unit.afterCommit(work);
}

/** Runs work as one unit, again from the start when the database asks for it. */
export async function inTransaction<T>(work: (unit: Unit) => Promise<T>): Promise<T> {
	for (let attempt = 1; ; attempt++) {
		try {
			return await db().transaction(work);
		} catch (error) {
			if (attempt >= MOST_TRIES || !mayRunAgain(error)) throw error;
			// By chance, so that two that met do not meet again.
			const pauseMs = PAUSE_MS * attempt * (0.5 + Math.random());
			await new Promise((resolve) => setTimeout(resolve, pauseMs));
		}
	}
}
