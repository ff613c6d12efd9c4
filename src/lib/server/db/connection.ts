import { Sequelize } from 'sequelize';
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

/** Connections of this process at work, and who waits for one. */
export function poolUse(): { used: number; waiting: number } {
	const { pool } = (instance?.connectionManager ?? {}) as unknown as {
		pool?: { using: number; waiting: number };
	};
	return { used: pool?.using ?? 0, waiting: pool?.waiting ?? 0 };
}

export async function closeDb(): Promise<void> {
	await instance?.close();
	instance = undefined;
}
