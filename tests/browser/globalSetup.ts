import { join } from 'node:path';
import { startMariadb } from '../../scripts/lib/mariadb.mjs';
import { migrate } from '../../scripts/lib/migrator.mjs';
import { grantRights } from '../../scripts/lib/rights.mjs';
import { ROOT } from '../../scripts/lib/setup.mjs';
import { startServer } from './server';

/** Starts a database and the built application with the demo, for the browser tests alone. */
export default async function globalSetup(): Promise<() => Promise<void>> {
	// What is pressed here need not outlive a power cut: a busy disk would only make every press slower.
	const database = await startMariadb(join(ROOT, '.data', 'test-browser'), {
		args: ['--innodb-flush-log-at-trx-commit=2']
	});
	const { url, ownerUrl } = await database.database('skiaxis_browser', { reset: true });
	await migrate(ownerUrl);
	await grantRights(ownerUrl, url);
	process.env.SKIAXIS_TEST_DATABASE_URL = url;
	try {
		const server = await startServer();
		process.env.SKIAXIS_TEST_ADDRESS = server.address;
		return async () => {
			await server.kill();
			await database.stop();
		};
	} catch (error) {
		await database.stop();
		throw error;
	}
}
