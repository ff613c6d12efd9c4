import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'vite';
import { startMariadb } from '../../scripts/lib/mariadb.mjs';
import { migrate } from '../../scripts/lib/migrator.mjs';
import { grantRights } from '../../scripts/lib/rights.mjs';
import { ROOT } from '../../scripts/lib/setup.mjs';

/** A real MariaDB of the tests' own, with every migration applied. */
export default async function setup(): Promise<() => Promise<void>> {
	// The worker threads are built as for production; it takes a moment.
	await build({ configFile: join(ROOT, 'vite.workers.config.ts'), logLevel: 'error' });
	const database = await startMariadb(join(ROOT, '.data', 'test-server'));
	/** A database as an installation has it: migrated by its owner, run with rights of its own. */
	const installed = async (name: string): Promise<{ url: string; ownerUrl: string }> => {
		const made = await database.database(name, { reset: true });
		await migrate(made.ownerUrl);
		return made;
	};
	// Making a database takes the application's rights on all of them: they are given at the end.
	const test = await installed('skiaxis_test');
	// For what is read back where nothing is yet, and for a hop that goes on from there.
	const empty = await installed('skiaxis_empty');
	const third = await installed('skiaxis_third');
	// For an installation of an earlier version: as it stood before parts were the user's own.
	const earlier = await database.database('skiaxis_earlier', { reset: true });
	await migrate(earlier.ownerUrl, '0004-photos');
	// For a migration that was broken off and is run again.
	const broken = await database.database('skiaxis_broken', { reset: true });
	// For a backup that comes up elsewhere.
	const restored = await database.database('skiaxis_restored', { reset: true });
	process.env.SKIAXIS_RESTORED_URL = restored.url;
	process.env.SKIAXIS_RESTORED_OWNER_URL = restored.ownerUrl;
	// For what earlier releases left, each in a database of its own.
	const releases = [];
	for (const dump of readdirSync(join(ROOT, 'tests/server/releases'))) {
		if (!dump.endsWith('.sql.gz')) continue;
		releases.push(
			await database.database(`skiaxis_${dump.slice(0, 9).replace('-', '_')}`, { reset: true })
		);
	}
	for (const { url, ownerUrl } of [test, empty, third]) await grantRights(ownerUrl, url);
	process.env.SKIAXIS_RELEASE_URLS = JSON.stringify(releases);
	process.env.SKIAXIS_DATABASE_URL = test.url;
	process.env.SKIAXIS_OWNER_DATABASE_URL = test.ownerUrl;
	process.env.SKIAXIS_EMPTY_DATABASE_URL = empty.url;
	process.env.SKIAXIS_THIRD_DATABASE_URL = third.url;
	process.env.SKIAXIS_EARLIER_DATABASE_URL = earlier.ownerUrl;
	process.env.SKIAXIS_BROKEN_DATABASE_URL = broken.ownerUrl;
	process.env.SKIAXIS_SECRET = 'server-tests-only-secret';
	process.env.SKIAXIS_LOG_LEVEL = 'silent';
	return () => database.stop();
}
