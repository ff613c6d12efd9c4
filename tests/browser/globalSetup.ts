import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import { freePort, startMariadb } from '../../scripts/lib/mariadb.mjs';
import { migrate } from '../../scripts/lib/migrator.mjs';
import { ROOT, waitForAnswer } from '../../scripts/lib/setup.mjs';

/** Starts a database and the built application with the demo, for the browser tests alone. */
export default async function globalSetup(): Promise<() => Promise<void>> {
	const database = await startMariadb(join(ROOT, '.data', 'test-browser'));
	const url: string = await database.database('skiaxis_browser', { reset: true });
	await migrate(url);
	const port: number = await freePort();
	const address = `http://127.0.0.1:${port}`;
	const server: ChildProcess = spawn(process.execPath, ['scripts/start.mjs'], {
		cwd: ROOT,
		stdio: ['ignore', 'inherit', 'inherit'],
		env: {
			...process.env,
			SKIAXIS_DATABASE_URL: url,
			SKIAXIS_SECRET: 'browser-tests-only-secret',
			SKIAXIS_DEMO: '1',
			SKIAXIS_LOG_LEVEL: 'error',
			HOST: '127.0.0.1',
			PORT: String(port),
			ORIGIN: address
		}
	});
	let exited = false;
	server.on('exit', () => (exited = true));
	const ready = await waitForAnswer(`${address}/readyz`, {
		seconds: 120,
		failed: (() => exited) as () => false
	});
	process.env.SKIAXIS_TEST_ADDRESS = address;
	const stop = async (): Promise<void> => {
		server.kill('SIGTERM');
		await new Promise((resolve) => (exited ? resolve(undefined) : server.once('exit', resolve)));
		await database.stop();
	};
	if (!ready) {
		await stop();
		throw new Error('the application did not become ready');
	}
	return stop;
}
