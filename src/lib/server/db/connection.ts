import { Sequelize, type Transaction } from 'sequelize';
import { config } from '../config';

let instance: Sequelize | undefined;

/** The connection pool of this process. */
export function db(): Sequelize {
	instance ??= new Sequelize(config.databaseUrl, {
		dialect: 'mysql',
		logging: false,
		timezone: '+00:00',
		pool: { max: config.poolSize, acquire: 15_000 },
		// MariaDB marks columns checked as JSON; they are parsed here, where their types are known.
		dialectOptions: { decimalNumbers: true, jsonStrings: true, connectTimeout: 8_000 },
		define: { timestamps: false, freezeTableName: true, underscored: true }
	});
	return instance;
}

export async function closeDb(): Promise<void> {
	await instance?.close();
	instance = undefined;
}

/** Deadlock, lock wait, or a certification failure of a replicated cluster: safe to run again. */
const RETRY_CODES = new Set(['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT', 'ER_ERROR_DURING_COMMIT']);
const MOST_TRIES = 5;

/** Runs work in a transaction, again from the start when the database asks for it. */
export async function inTransaction<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
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
