/** What both commands need: packages, Debian programs, and a build that is not older than its sources. */
import { execFileSync, spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = fileURLToPath(new URL('../../', import.meta.url));

export class SetupError extends Error {
	constructor(message, exitCode = 1) {
		super(message);
		this.exitCode = exitCode;
	}
}

export const say = (text) => console.log(`· ${text}`);

export function checkNode() {
	const [major = 0, minor = 0] = process.versions.node.split('.').map(Number);
	if (major < 20 || (major === 20 && minor < 19)) {
		throw new SetupError(`Node.js 20.19 or newer is needed; this is ${process.versions.node}.`, 2);
	}
}

/**
 * Runs a command; long ones show a dot every few seconds, and their output when they fail.
 * @returns {Promise<void>}
 */
export function runQuietly(what, command, args, options = {}) {
	process.stdout.write(`· ${what} `);
	return new Promise((resolve, reject) => {
		const child = spawn(command, args, {
			cwd: ROOT,
			stdio: ['ignore', 'pipe', 'pipe'],
			...options
		});
		let output = '';
		const keep = (data) => {
			output = (output + data).slice(-8000);
		};
		child.stdout.on('data', keep);
		child.stderr.on('data', keep);
		const dots = setInterval(() => process.stdout.write('.'), 2000);
		const started = Date.now();
		child.on('error', (error) => {
			clearInterval(dots);
			reject(new SetupError(`${what}: ${error.message}`));
		});
		child.on('exit', (code) => {
			clearInterval(dots);
			process.stdout.write(` ${((Date.now() - started) / 1000).toFixed(0)} s\n`);
			if (code === 0) return resolve();
			console.error(output);
			const full = /ENOSPC|No space left/i.test(output);
			reject(
				new SetupError(`${what} failed${full ? ': the disk is full' : ` (exit code ${code})`}.`)
			);
		});
	});
}

/** Installs the packages of the lock file unless node_modules already holds exactly those. */
export async function ensurePackages() {
	const wanted = createHash('sha256')
		.update(readFileSync(join(ROOT, 'package-lock.json')))
		.digest('hex');
	const marker = join(ROOT, 'node_modules', '.skiaxis-lock');
	if (existsSync(marker) && readFileSync(marker, 'utf8') === wanted) return;
	// Not `npm ci`: npm 11 refuses lock files whose foreign-platform packages are not served here.
	await runQuietly('Installing the packages of the lock file', 'npm', [
		'install',
		'--no-save',
		'--no-audit',
		'--no-fund'
	]);
	writeFileSync(marker, wanted);
}

function hasProgram(...names) {
	const folders = [...(process.env.PATH ?? '').split(':'), '/usr/sbin', '/usr/local/sbin'];
	return names.some((name) => folders.some((folder) => folder && existsSync(join(folder, name))));
}

/** Installs a Debian package when none of its programs is there. */
export async function ensureDebian(packageName, ...programs) {
	if (hasProgram(...programs)) return;
	if (!hasProgram('apt-get')) {
		throw new SetupError(
			`${packageName} is missing and there is no apt-get here. Install it, then run this again.`,
			3
		);
	}
	const root = process.getuid?.() === 0;
	let prefix = [];
	if (!root) {
		try {
			execFileSync('sudo', ['-n', 'true'], { stdio: 'ignore' });
			prefix = ['sudo', '-n'];
		} catch {
			throw new SetupError(
				`${packageName} is missing. Run: sudo apt-get install -y --no-install-recommends ${packageName}\nThen run this again.`,
				3
			);
		}
	}
	const apt = (...args) => {
		const [command, ...rest] = [...prefix, 'apt-get', ...args];
		return [command, rest, { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } }];
	};
	await runQuietly('Reading the list of Debian packages', ...apt('update'));
	await runQuietly(
		`Installing ${packageName}`,
		...apt('install', '-y', '--no-install-recommends', packageName)
	);
}

export const ensureMariadb = () => ensureDebian('mariadb-server', 'mariadbd', 'mysqld');
export const ensureChromium = () => ensureDebian('chromium', 'chromium');

const SOURCES = [
	'src',
	'static',
	'catalog',
	'demo',
	'migrations',
	'svelte.config.js',
	'vite.config.ts',
	'vite.workers.config.ts',
	'package-lock.json'
];

function hashSources() {
	const hash = createHash('sha256');
	const walk = (path) => {
		if (!existsSync(path)) return;
		if (statSync(path).isDirectory()) {
			for (const name of readdirSync(path).sort()) walk(join(path, name));
		} else {
			hash.update(path.slice(ROOT.length)).update(readFileSync(path));
		}
	};
	for (const source of SOURCES) walk(join(ROOT, source));
	return hash.digest('hex');
}

/** Builds the application when its sources changed since the last build. */
export async function ensureBuild() {
	const wanted = hashSources();
	const marker = join(ROOT, 'build', '.skiaxis-sources');
	if (existsSync(marker) && readFileSync(marker, 'utf8') === wanted) return;
	await runQuietly('Building the application', 'npm', ['run', '--silent', 'build']);
	writeFileSync(marker, wanted);
}

/**
 * Asks until something answers, or gives up.
 * @param {string} url
 * @param {{ seconds?: number, failed?: () => boolean }} [options]
 */
export async function waitForAnswer(url, { seconds = 60, failed = () => false } = {}) {
	for (let i = 0; i < seconds * 5; i++) {
		if (failed()) return false;
		try {
			if ((await fetch(url)).ok) return true;
		} catch {
			// Not listening yet.
		}
		await new Promise((resolve) => setTimeout(resolve, 200));
	}
	return false;
}
