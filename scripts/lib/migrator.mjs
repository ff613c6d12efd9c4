import { readdirSync } from 'node:fs';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';

const FOLDER = fileURLToPath(new URL('../../migrations/', import.meta.url));

/**
 * Applies every migration that the database has not seen, or those up to one of them; returns the
 * names it applied.
 * @param {string} databaseUrl
 * @param {string} [upTo] name of the last migration to apply
 * @returns {Promise<string[]>}
 */
export async function migrate(databaseUrl, upTo) {
	const sequelize = new Sequelize(databaseUrl, { dialect: 'mysql', logging: false });
	// Two processes starting at once must not apply one migration twice.
	const lock = /** @type {any} */ (
		await sequelize.connectionManager.getConnection({ type: 'write' })
	);
	try {
		await lock.promise().query("SELECT GET_LOCK('skiaxis-migrate', 60)");
		const umzug = new Umzug({
			migrations: readdirSync(FOLDER)
				.filter((file) => file.endsWith('.mjs'))
				.sort()
				.map((file) => ({
					name: file.replace(/\.mjs$/, ''),
					up: async (/** @type {{ context: unknown }} */ params) =>
						(await import(pathToFileURL(FOLDER + file).href)).up(params)
				})),
			context: sequelize,
			storage: new SequelizeStorage({ sequelize, modelName: 'migrations' }),
			logger: undefined
		});
		const applied = await umzug.up(upTo ? { to: upTo } : undefined);
		await lock.promise().query("SELECT RELEASE_LOCK('skiaxis-migrate')");
		return applied.map((migration) => migration.name);
	} finally {
		sequelize.connectionManager.releaseConnection(lock);
		await sequelize.close();
	}
}
