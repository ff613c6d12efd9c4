import { join } from 'node:path';
import { build } from 'vite';
import { startMariadb } from '../../scripts/lib/mariadb.mjs';
import { migrate } from '../../scripts/lib/migrator.mjs';
import { ROOT } from '../../scripts/lib/setup.mjs';

/** A real MariaDB of the tests' own, with every migration applied. */
export default async function setup(): Promise<() => Promise<void>> {
	// The worker threads are built as for production; it takes a moment.
	await build({ configFile: join(ROOT, 'vite.workers.config.ts'), logLevel: 'error' });
	const database = await startMariadb(join(ROOT, '.data', 'test-server'));
	const url: string = await database.database('skiaxis_test', { reset: true });
	await migrate(url);
	process.env.SKIAXIS_DATABASE_URL = url;
	// For what is read back where nothing is yet.
	const empty: string = await database.database('skiaxis_empty', { reset: true });
	await migrate(empty);
	process.env.SKIAXIS_EMPTY_DATABASE_URL = empty;
	// For an installation of an earlier version: as it stood before parts were the user's own.
	const earlier: string = await database.database('skiaxis_earlier', { reset: true });
	await migrate(earlier, '0004-photos');
	process.env.SKIAXIS_EARLIER_DATABASE_URL = earlier;
	// For a hop that goes on from where it was taken in.
	const third: string = await database.database('skiaxis_third', { reset: true });
	await migrate(third);
	process.env.SKIAXIS_THIRD_DATABASE_URL = third;
	// For a migration that was broken off and is run again.
	const broken: string = await database.database('skiaxis_broken', { reset: true });
	process.env.SKIAXIS_BROKEN_DATABASE_URL = broken;
	process.env.SKIAXIS_SECRET = 'server-tests-only-secret';
	process.env.SKIAXIS_LOG_LEVEL = 'silent';
	return () => database.stop();
}
