import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import {
	cruise,
	type ICruiseOptions,
	type ICruiseResult,
	type IForbiddenRuleType
} from 'dependency-cruiser';
import extractTSConfig from 'dependency-cruiser/config-utl/extract-ts-config';
import { ESLint } from 'eslint';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

const root = fileURLToPath(new URL('../../', import.meta.url));
const config = createRequire(import.meta.url)('../../.dependency-cruiser.cjs') as {
	forbidden: (IForbiddenRuleType & { name: string })[];
	options: ICruiseOptions & { enhancedResolveOptions?: object };
};

/** Names of the rules that a tree breaks. */
async function brokenIn(baseDir: string): Promise<string[]> {
	const fileName = join(baseDir, 'tsconfig.imports.json');
	const { forbidden, options } = config;
	const { enhancedResolveOptions, ...rest } = options;
	const result = await cruise(
		['src'],
		{ ...rest, tsConfig: { fileName }, ruleSet: { forbidden }, validate: true, baseDir },
		enhancedResolveOptions,
		{ tsConfig: extractTSConfig(fileName) }
	);
	const { summary } = result.output as ICruiseResult;
	return summary.violations.map(({ rule, from, to }) => `${rule.name}: ${from} → ${to}`);
}

/** Small trees, each of which breaks one rule. */
const FIXTURES: [rule: string, files: Record<string, string>][] = [
	[
		'no-cycle',
		{
			'src/core/units/a.ts': "import { b } from './b';\nexport const a = () => b;",
			'src/core/units/b.ts': "import { a } from './a';\nexport const b = () => a;"
		}
	],
	[
		'no-folder-cycle',
		{
			'src/core/one/a.ts': "import { b } from '../two/b';\nexport const a = b;",
			'src/core/two/b.ts': 'export const b = 1;',
			'src/core/two/c.ts': "import { d } from '../one/d';\nexport const c = d;",
			'src/core/one/d.ts': 'export const d = 1;'
		}
	],
	[
		'core-is-pure',
		{
			'src/core/x/a.ts': 'import { page } from "../../lib/ui/page";\nexport const a = page;',
			'src/lib/ui/page.ts': 'export const page = 1;'
		}
	],
	['core-is-pure', { 'src/core/x/a.ts': "export const a = () => import('node:fs');" }],
	[
		'units-are-the-floor',
		{
			'src/core/units/a.ts': "import { plan } from '#core/budget/plan';\nexport const a = plan;",
			'src/core/budget/plan.ts': 'export const plan = 1;'
		}
	],
	[
		'lib-knows-no-routes',
		{
			'src/lib/ui/a.ts': "import { b } from '../../routes/b';\nexport const a = b;",
			'src/routes/b.ts': 'export const b = 1;'
		}
	],
	[
		'ui-and-server-apart',
		{
			'src/lib/ui/a.ts': "export const a = () => import('$lib/server/secret');",
			'src/lib/server/secret.ts': 'export const secret = 1;'
		}
	],
	[
		'server-and-ui-apart',
		{
			'src/lib/server/services/a.ts': 'import type { B } from "$lib/ui/b";\nexport type A = B;',
			'src/lib/ui/b.ts': 'export type B = 1;'
		}
	],
	[
		'components-know-no-drafts-of-the-server',
		{
			'src/lib/ui/stages/a.ts': "import { draft } from '$lib/plan/draft';\nexport const a = draft;",
			'src/lib/plan/draft.ts': 'export const draft = 1;'
		}
	],
	[
		'routes-know-no-models',
		{
			'src/routes/a/+page.server.ts':
				"import { hops } from '$lib/server/db/tables';\nexport const load = () => hops;",
			'src/lib/server/db/tables.ts': 'export const hops = 1;'
		}
	],
	[
		'only-repositories-know-the-database',
		{
			'src/lib/server/services/a.ts':
				"import { hops } from '../db/tables';\nexport const a = hops;",
			'src/lib/server/db/tables.ts': 'export const hops = 1;'
		}
	],
	[
		'only-repositories-know-the-database',
		{
			'src/lib/server/auth/a.ts': 'export const a = () => import("../db/connection");',
			'src/lib/server/db/connection.ts': 'export const db = 1;'
		}
	],
	[
		'only-repositories-know-the-database',
		{ 'src/lib/server/services/a.ts': 'import { Op } from "sequelize";\nexport const a = Op;' }
	],
	[
		'services-know-no-api',
		{
			'src/lib/server/services/a.ts': "import { b } from '../api/b';\nexport const a = b;",
			'src/lib/server/api/b.ts': 'export const b = 1;'
		}
	],
	[
		'repositories-know-no-services',
		{
			'src/lib/server/repositories/a.ts': "import { b } from '../services/b';\nexport const a = b;",
			'src/lib/server/services/b.ts': 'export const b = 1;'
		}
	],
	[
		'db-knows-nobody',
		{
			'src/lib/server/db/a.ts': "import { b } from '../services/b';\nexport const a = b;",
			'src/lib/server/services/b.ts': 'export const b = 1;'
		}
	],
	[
		'endpoints-know-no-database',
		{
			'src/lib/server/api/a.ts': 'import { db } from "../db/connection";\nexport const a = db;',
			'src/lib/server/db/connection.ts': 'export const db = 1;'
		}
	]
];

describe('imports run one way', { timeout: 60_000 }, () => {
	const folders: string[] = [];
	afterAll(() => folders.forEach((folder) => rmSync(folder, { recursive: true, force: true })));

	function treeOf(files: Record<string, string>): string {
		const folder = mkdtempSync(join(tmpdir(), 'imports-'));
		folders.push(folder);
		const whole = {
			...files,
			'package.json': JSON.stringify({ type: 'module', imports: { '#core/*': './src/core/*.ts' } }),
			'tsconfig.imports.json': JSON.stringify({
				compilerOptions: {
					baseUrl: '.',
					module: 'esnext',
					moduleResolution: 'bundler',
					paths: { '$lib/*': ['./src/lib/*'] }
				}
			})
		};
		for (const [path, content] of Object.entries(whole)) {
			mkdirSync(dirname(join(folder, path)), { recursive: true });
			writeFileSync(join(folder, path), content);
		}
		return folder;
	}

	it.each(FIXTURES)('%s is found where it is broken: %j', async (rule, files) => {
		const broken = await brokenIn(treeOf(files));
		expect(broken.map((one) => one.split(':')[0])).toContain(rule);
	});

	it('every rule has a fixture that breaks it', () => {
		const proven = new Set(FIXTURES.map(([rule]) => rule));
		expect(config.forbidden.map(({ name }) => name).filter((name) => !proven.has(name))).toEqual(
			[]
		);
	});

	it('a tree that keeps the rules breaks none', async () => {
		const broken = await brokenIn(
			treeOf({
				'src/core/budget/a.ts': "import { b } from '#core/units/b';\nexport const a = b;",
				'src/core/units/b.ts': 'export const b = 1;',
				'src/lib/ui/c.ts': "import { a } from '#core/budget/a';\nexport const c = a;"
			})
		);
		expect(broken).toEqual([]);
	});

	it('the source breaks none', async () => {
		expect(await brokenIn(root)).toEqual([]);
	});
});

describe('the core has no world of its own', { timeout: 60_000 }, () => {
	let eslint: ESLint;
	beforeAll(() => {
		eslint = new ESLint({ cwd: root });
	});
	const refused = async (code: string): Promise<boolean> => {
		const [result] = await eslint.lintText(code, { filePath: 'src/core/ends.ts' });
		return result!.messages.some(({ ruleId }) => ruleId?.startsWith('no-restricted') ?? false);
	};

	it.each([
		'export const a = (): number => Math.random();',
		'export const a = (): number => Date.now();',
		'export const a = (): Date => new Date();',
		'export const a = (): number => performance.now();',
		"export const a = (): unknown => globalThis['document'];",
		'export const a = (): unknown => globalThis.crypto.randomUUID();',
		'export const a = (): unknown => window.location;',
		'export const a = (): unknown => process.env;',
		"export const a = (): Promise<unknown> => fetch('x');",
		'export const a = (): unknown => setTimeout(() => undefined, 1);',
		'export const a = (): unknown => crypto.randomUUID();'
	])('%s is refused', async (code) => {
		expect(await refused(code)).toBe(true);
	});

	it('but may compute', async () => {
		expect(await refused('export const a = (x: number): number => Math.sqrt(x);')).toBe(false);
	});
});
