/** `npm run demo`: everything from nothing to a running demo, on this machine only. */
import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { portIsFree, startMariadb } from './lib/mariadb.mjs';
import {
	checkNode,
	ensureBuild,
	ensureMariadb,
	ensurePackages,
	ROOT,
	say,
	SetupError,
	waitForAnswer
} from './lib/setup.mjs';

const args = process.argv.slice(2);
if (args.includes('--help')) {
	console.log('npm run demo [-- --reset] [-- --port 8640]');
	process.exit(0);
}
const portAt = args.indexOf('--port');
const port = Number(portAt >= 0 ? args[portAt + 1] : (process.env.PORT ?? 8640));
const folder = join(process.env.SKIAXIS_DATA ?? join(ROOT, '.data'), 'demo');

let database;
let server;
let stopping = false;

async function stop(code) {
	if (stopping) return;
	stopping = true;
	if (server && server.exitCode === null) {
		server.kill('SIGTERM');
		await new Promise((resolve) => {
			server.once('exit', resolve);
			setTimeout(() => server.kill('SIGKILL'), 8000).unref();
		});
	}
	await database?.stop();
	console.log(code === 0 ? 'Stopped.' : '');
	process.exit(code);
}

/** Whether a demo was begun and never came to its end: it holds nothing of anybody's. */
async function isHalfLoaded() {
	try {
		const { stdout } = await database.sql(
			`SELECT (SELECT COUNT(*) FROM skiaxis.users) > 0 AND NOT EXISTS
			(SELECT 1 FROM skiaxis.audit_trail WHERE action = 'demo-loaded') AS half`
		);
		return stdout.trim().endsWith('1');
	} catch {
		// No tables yet: nothing was begun.
		return false;
	}
}

try {
	checkNode();
	if (!Number.isInteger(port) || port < 1 || port > 65535) {
		throw new SetupError('The port must be a whole number from 1 to 65535.', 2);
	}
	if (!(await portIsFree(port))) {
		throw new SetupError(
			`Port ${port} is busy. Stop what uses it, or run: npm run demo -- --port ${port + 1}`,
			4
		);
	}
	await ensureMariadb();
	await ensurePackages();
	await ensureBuild();
	process.on('SIGINT', () => void stop(0));
	process.on('SIGTERM', () => void stop(0));
	// The terminal was closed.
	process.on('SIGHUP', () => void stop(0));
	mkdirSync(folder, { recursive: true });
	say('Starting the database …');
	database = await startMariadb(folder, { say });
	const halfLoaded = !args.includes('--reset') && (await isHalfLoaded());
	if (halfLoaded) say('The demo was broken off half-way last time.');
	const reset = args.includes('--reset') || halfLoaded;
	if (reset) say('Starting over with a fresh demo …');
	const { url, ownerUrl } = await database.database('skiaxis', { reset });
	const { migrate } = await import('./lib/migrator.mjs');
	const { grantRights } = await import('./lib/rights.mjs');
	await migrate(ownerUrl);
	await grantRights(ownerUrl, url);
	database.onCrash((code, lines) => {
		if (stopping) return;
		console.error(`The database stopped by itself (exit code ${code}).\n${lines}`);
		void stop(5);
	});
	const secretFile = join(folder, 'secret');
	if (reset) rmSync(secretFile, { force: true });
	if (!existsSync(secretFile))
		writeFileSync(secretFile, randomBytes(24).toString('hex'), { mode: 0o600 });

	say('Starting the application (the first start loads the demo) …');
	server = spawn(process.execPath, ['scripts/start.mjs'], {
		cwd: ROOT,
		stdio: ['ignore', 'inherit', 'inherit'],
		detached: true,
		env: {
			...process.env,
			SKIAXIS_DATABASE_URL: url,
			SKIAXIS_SECRET: readFileSync(secretFile, 'utf8'),
			SKIAXIS_DEMO: '1',
			SKIAXIS_LOG_LEVEL: process.env.SKIAXIS_LOG_LEVEL ?? 'warn',
			HOST: '127.0.0.1',
			PORT: String(port),
			ORIGIN: process.env.ORIGIN ?? `http://127.0.0.1:${port}`
		}
	});
	let exited = false;
	server.on('exit', (code) => {
		exited = true;
		if (stopping) return;
		console.error(`The application stopped by itself (exit code ${code}).`);
		void stop(6);
	});
	const address = `http://127.0.0.1:${port}`;
	if (!(await waitForAnswer(`${address}/readyz`, { seconds: 120, failed: () => exited }))) {
		throw new SetupError('The application did not become ready.', 6);
	}
	const people = JSON.parse(readFileSync(join(ROOT, 'demo', 'people.json'), 'utf8'));
	console.log(`
Skiaxis runs at  ${address}

Sign in with any of these names; the password of all of them is  salt-wind-and-rope
${people.map((p) => `  ${p.signInName.padEnd(10)} ${p.role.padEnd(14)} ${p.does}`).join('\n')}

Stop with Ctrl-C. Start over with a fresh demo:  npm run demo -- --reset
`);
} catch (error) {
	console.error(error instanceof SetupError ? error.message : error);
	await stop(error instanceof SetupError ? error.exitCode : 1);
}
