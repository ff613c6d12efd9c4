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

export async function closeDb(): Promise<void> {
	await instance?.close();
	instance = undefined;
}
