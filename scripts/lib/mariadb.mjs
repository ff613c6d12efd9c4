/** A MariaDB server of the project's own: own data folder, socket and port, never the system's. */
import { execFile, spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import {
	closeSync,
	existsSync,
	mkdirSync,
	openSync,
	readFileSync,
	renameSync,
	rmSync,
	writeFileSync
} from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { SetupError } from './setup.mjs';

const run = promisify(execFile);
const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

const isRoot = () => process.getuid?.() === 0;

export function findProgram(...names) {
	const folders = [...(process.env.PATH ?? '').split(':'), '/usr/sbin', '/usr/local/sbin'];
	for (const name of names) {
		for (const folder of folders) {
			if (folder && existsSync(join(folder, name))) return join(folder, name);
		}
	}
	return undefined;
}

/**
 * A free port on loopback.
 * @returns {Promise<number>}
 */
export function freePort() {
	return new Promise((resolve, reject) => {
		const probe = createServer();
		probe.once('error', reject);
		probe.listen(0, '127.0.0.1', () => {
			const { port } = /** @type {import('node:net').AddressInfo} */ (probe.address());
			probe.close(() => resolve(port));
		});
	});
}

export function portIsFree(port) {
	return new Promise((resolve) => {
		const probe = createServer();
		probe.once('error', () => resolve(false));
		probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)));
	});
}

/**
 * Starts (and on the first run initialises) a server in `folder`.
 * Data folders under a home that user mysql may not enter are placed in the system's temporary
 * folder instead, and that place is kept in a file beside it.
 * @param {string} folder
 * @param {{ port?: number, args?: readonly string[], say?: (text: string) => void }} [options] `args` for the
 * server beside its own, such as those of a cluster
 */
export async function startMariadb(folder, { port, args = [], say = () => {} } = {}) {
	const server = findProgram('mariadbd', 'mysqld');
	const installer = findProgram('mariadb-install-db', 'mysql_install_db');
	const admin = findProgram('mariadb-admin', 'mysqladmin');
	const client = findProgram('mariadb', 'mysql');
	if (!server || !installer || !admin || !client) {
		throw new SetupError('MariaDB server is not installed (package mariadb-server).');
	}
	mkdirSync(folder, { recursive: true });
	const asUser = isRoot() ? ['--user=mysql'] : [];
	const data = join(folder, 'db');
	// A socket path may hold about 100 characters, so it lives in a short folder of its own.
	const runFolder = readOrMake(join(folder, 'socket-folder'), () =>
		join(tmpdir(), `skiaxis-${randomBytes(4).toString('hex')}`)
	);
	mkdirSync(runFolder, { recursive: true });
	const socket = join(runFolder, 's');
	const pidFile = join(runFolder, 'pid');
	const password = readOrMake(join(folder, 'app-password'), () => randomBytes(18).toString('hex'));
	if (isRoot()) await run('chown', ['mysql:mysql', runFolder]);
	await stopLeftOver(pidFile, say);

	if (!existsSync(join(data, 'mysql'))) {
		say('Initialising the database folder …');
		// Made aside and renamed once it is whole: whoever breaks this off leaves nothing half-made in its place.
		const making = `${data}.making`;
		rmSync(making, { recursive: true, force: true });
		rmSync(data, { recursive: true, force: true });
		mkdirSync(making, { recursive: true });
		if (isRoot()) {
			await run('chown', ['mysql:mysql', making]);
			await openParents(making);
		}
		try {
			await run(
				installer,
				[
					'--no-defaults',
					...asUser,
					`--datadir=${making}`,
					'--auth-root-authentication-method=socket',
					`--auth-root-socket-user=${isRoot() ? 'root' : process.env.USER || (await run('id', ['-un'])).stdout.trim()}`,
					'--skip-test-db'
				],
				{ maxBuffer: 1e7 }
			);
		} catch (thrown) {
			const error = /** @type {{ stderr?: string, stdout?: string }} */ (thrown);
			rmSync(making, { recursive: true, force: true });
			throw new SetupError(
				reasonOf(
					`${error.stderr ?? ''}${error.stdout ?? ''}`,
					'The database folder could not be initialised'
				)
			);
		}
		renameSync(making, data);
	}

	const usePort = port ?? (await freePort());
	const logFile = join(folder, 'mariadb.log');
	const log = openSync(logFile, 'w');
	const child = spawn(
		server,
		[
			'--no-defaults',
			...asUser,
			`--datadir=${data}`,
			`--socket=${socket}`,
			`--pid-file=${pidFile}`,
			`--port=${usePort}`,
			'--bind-address=127.0.0.1',
			// Rasters of terrain and attachments are kept in the database.
			'--max-allowed-packet=128M',
			'--skip-name-resolve',
			'--character-set-server=utf8mb4',
			'--collation-server=utf8mb4_unicode_ci',
			'--default-time-zone=+00:00',
			'--innodb-flush-log-at-trx-commit=1',
			'--max-connections=200',
			...args
		],
		// Its own group: a Ctrl-C on the terminal reaches the starter, which stops it in order.
		{ stdio: ['ignore', log, log], detached: true }
	);
	closeSync(log);
	let exited = false;
	child.on('exit', () => (exited = true));
	const logText = () => (existsSync(logFile) ? readFileSync(logFile, 'utf8') : '');
	for (let i = 0; ; i++) {
		if (exited || i > 300) {
			if (!exited) child.kill('SIGTERM');
			throw new SetupError(reasonOf(logText(), 'The database did not come up'));
		}
		try {
			await run(admin, ['--no-defaults', `--socket=${socket}`, 'ping']);
			break;
		} catch {
			await wait(200);
		}
	}
	const sql = (text) => run(client, ['--no-defaults', `--socket=${socket}`, '-e', text]);
	return {
		port: usePort,
		child,
		sql,
		/**
		 * Makes a database; returns the URL of the account that migrates it, and of the one that the
		 * application runs with, which gets its rights once it is migrated.
		 */
		async database(name, { reset = false } = {}) {
			await sql(
				`${reset ? `DROP DATABASE IF EXISTS \`${name}\`;` : ''}
				CREATE DATABASE IF NOT EXISTS \`${name}\`;
				CREATE USER IF NOT EXISTS 'app'@'127.0.0.1' IDENTIFIED BY '${password}';
				CREATE USER IF NOT EXISTS 'owner'@'127.0.0.1' IDENTIFIED BY '${password}';
				REVOKE ALL PRIVILEGES, GRANT OPTION FROM 'app'@'127.0.0.1';
				GRANT ALL PRIVILEGES ON \`${name}\`.* TO 'owner'@'127.0.0.1' WITH GRANT OPTION;`
			);
			const at = `:${password}@127.0.0.1:${usePort}/${name}`;
			return { url: `mysql://app${at}`, ownerUrl: `mysql://owner${at}` };
		},
		/** Ends it as a power cut would. */
		async kill() {
			if (!exited) child.kill('SIGKILL');
			for (let i = 0; i < 100 && !exited; i++) await wait(50);
			rmSync(pidFile, { force: true });
		},
		async stop() {
			if (!exited) child.kill('SIGTERM');
			for (let i = 0; i < 300 && (existsSync(pidFile) || !exited); i++) await wait(100);
			rmSync(runFolder, { recursive: true, force: true });
		},
		onCrash(report) {
			child.on('exit', (code) => report(code, logText().trim().split('\n').slice(-3).join('\n')));
		}
	};
}

function readOrMake(file, make) {
	if (existsSync(file)) return readFileSync(file, 'utf8').trim();
	const value = make();
	writeFileSync(file, value, { mode: 0o600 });
	return value;
}

/** A server of an earlier run that was killed hard may still hold the data folder. */
async function stopLeftOver(pidFile, say) {
	if (!existsSync(pidFile)) return;
	const pid = Number(readFileSync(pidFile, 'utf8'));
	try {
		const command = readFileSync(`/proc/${pid}/cmdline`, 'utf8');
		if (!command.includes(pidFile)) return;
		say('Stopping the database of an earlier run …');
		process.kill(pid, 'SIGTERM');
		for (let i = 0; i < 200 && existsSync(pidFile); i++) await wait(100);
	} catch {
		// Nothing runs under that number any more.
	}
}

/** User mysql must be able to walk down to the data folder. */
async function openParents(data) {
	try {
		await run('su', ['-s', '/bin/sh', 'mysql', '-c', `test -w '${data}'`]);
	} catch {
		throw new SetupError(
			`User mysql cannot reach ${data}: a parent folder is closed to others. Move the project, or set SKIAXIS_DATA to a folder that others may enter.`
		);
	}
}

function reasonOf(text, what) {
	if (/No space left|ENOSPC|Disk full|errno: 28/i.test(text)) return `${what}: the disk is full.`;
	if (/Address already in use|Can't start server: Bind/i.test(text))
		return `${what}: its port is busy.`;
	if (/Permission denied|errno: 13/i.test(text))
		return `${what}: permission denied in its data folder.`;
	const line =
		text
			.split('\n')
			.filter((l) => /error/i.test(l))
			.pop() ?? text.trim().split('\n').pop();
	return `${what}: ${line?.trim() || 'it gave no reason'}`;
}
