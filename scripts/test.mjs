/** `npm test`: the whole check, from a clean checkout; ends with `N passed, N failed`. */
import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureCluster } from './lib/cluster.mjs';
import {
	checkNode,
	ensureBuild,
	ensureChromium,
	ensureMariadb,
	ensurePackages,
	ROOT,
	say,
	SetupError
} from './lib/setup.mjs';

const reports = join(ROOT, '.data', 'reports');
const only = process.argv.slice(2);
let passed = 0;
let failed = 0;

function run(command, args, env = {}) {
	return new Promise((resolve) => {
		const child = spawn(command, args, {
			cwd: ROOT,
			stdio: ['ignore', 'inherit', 'inherit'],
			env: { ...process.env, ...env }
		});
		child.on('error', () => resolve(1));
		child.on('exit', (code) => resolve(code ?? 1));
	});
}

/** A check that either holds or does not, such as the linter. */
async function check(name, command, args) {
	say(`${name} …`);
	const code = await run(command, args);
	if (code === 0) passed += 1;
	else {
		failed += 1;
		console.log(`✘ ${name} failed`);
	}
}

/** A test runner that writes a report; a run that ends badly without one failed test still fails. */
async function suite(name, command, args, env, countsOf) {
	say(`${name} …`);
	const report = join(reports, `${name.replaceAll(' ', '-')}.json`);
	rmSync(report, { force: true });
	const code = await run(command, [...args(report)], env(report));
	let counts = { passed: 0, failed: 0 };
	try {
		counts = countsOf(JSON.parse(readFileSync(report, 'utf8')));
	} catch {
		// No report: counted as failed below.
	}
	if ((code !== 0 && counts.failed === 0) || counts.passed + counts.failed === 0)
		counts.failed += 1;
	passed += counts.passed;
	failed += counts.failed;
}

const vitest = (project) =>
	suite(
		`${project} tests`,
		'npx',
		(report) => [
			'vitest',
			'run',
			'--project',
			project,
			'--reporter=default',
			'--reporter=json',
			`--outputFile.json=${report}`
		],
		() => ({}),
		(report) => ({ passed: report.numPassedTests, failed: report.numFailedTests })
	);

const playwright = () =>
	suite(
		'browser tests',
		'npx',
		() => ['playwright', 'test'],
		(report) => ({ SKIAXIS_REPORT: report }),
		(report) => ({
			passed: report.stats.expected,
			failed: report.stats.unexpected + report.stats.flaky
		})
	);

const wanted = (name) => only.length === 0 || only.includes(name);

/** What needs neither a database nor a browser, one after the other. */
async function still() {
	if (wanted('lint')) {
		await check('Formatting', 'npx', ['prettier', '--check', '--log-level', 'warn', '.']);
		await check('Lint', 'npx', ['eslint', '--max-warnings', '0', '.']);
		await check('Imports', 'npx', ['depcruise', '--config', '.dependency-cruiser.cjs', 'src']);
	}
	if (wanted('types')) {
		await check('Types', 'npx', [
			'svelte-check',
			'--tsconfig',
			'./tsconfig.json',
			'--fail-on-warnings'
		]);
		await check('Types of scripts', 'npx', ['tsc', '-p', 'tsconfig.scripts.json']);
	}
	if (wanted('core')) await vitest('core');
}

try {
	checkNode();
	await ensurePackages();
	await ensureMariadb();
	await ensureChromium();
	mkdirSync(reports, { recursive: true });
	await run('npx', ['svelte-kit', 'sync']);
	// Side by side: the tests of the server wait much for their database.
	await Promise.all([still(), wanted('server') ? vitest('server') : undefined]);
	// Only when asked for: it takes two minutes more and packages that nothing else needs.
	if (only.includes('cluster')) {
		await ensureCluster();
		await ensureBuild();
		await vitest('cluster');
	}
	if (wanted('browser')) {
		await ensureBuild();
		await playwright();
	}
} catch (error) {
	failed += 1;
	console.error(error instanceof SetupError ? error.message : error);
}
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
