import { readdirSync, readFileSync, statSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';

const root = fileURLToPath(new URL('../../', import.meta.url));
const src = join(root, 'src');

function filesBelow(folder: string): string[] {
	return readdirSync(folder).flatMap((name) => {
		const path = join(folder, name);
		if (statSync(path).isDirectory()) return filesBelow(path);
		return /\.(ts|svelte)$/.test(name) && !name.endsWith('.d.ts') ? [path] : [];
	});
}

const files = filesBelow(src);
const known = new Set(files);

function resolveImport(from: string, target: string): string | undefined {
	const base = target.startsWith('.')
		? resolve(dirname(from), target)
		: target.startsWith('#core/')
			? join(src, 'core', target.slice(6))
			: target.startsWith('$lib/')
				? join(src, 'lib', target.slice(5))
				: undefined;
	if (!base) return undefined;
	const clean = base.replace(/\?.*$/, '');
	return [clean, `${clean}.ts`, `${clean}.svelte.ts`, join(clean, 'index.ts')].find((path) =>
		known.has(path)
	);
}

const IMPORT =
	/(?:import|export)\s+(?:type\s+)?(?:[^'";]*?\sfrom\s+)?'([^']+)'|import\('([^']+)'\)/g;

const graph = new Map(
	files.map((file) => {
		const targets = [...readFileSync(file, 'utf8').matchAll(IMPORT)].map((m) => (m[1] ?? m[2])!);
		return [file, targets] as const;
	})
);
const edges = new Map(
	[...graph].map(([file, targets]) => [
		file,
		targets.map((target) => resolveImport(file, target)).filter((path) => path !== undefined)
	])
);
const name = (file: string): string => relative(src, file);
const inRoom = (file: string, ...rooms: string[]): boolean =>
	rooms.some((room) => name(file).startsWith(room));

describe('imports run one way', () => {
	it('found the source at all', () => {
		expect(files.length).toBeGreaterThan(100);
		expect([...edges.values()].flat().length).toBeGreaterThan(200);
	});

	it('the core imports only itself and pure packages', () => {
		const allowed = new Set(['geographiclib-geodesic', 'geomagnetism']);
		const wrong = [...graph]
			.filter(([file]) => inRoom(file, 'core/'))
			.flatMap(([file, targets]) =>
				targets
					.filter((target) => {
						const found = resolveImport(file, target);
						return found ? !inRoom(found, 'core/') : !allowed.has(target);
					})
					.map((target) => `${name(file)} → ${target}`)
			);
		expect(wrong).toEqual([]);
	});

	it('neither ui nor server imports routes, and neither imports the other', () => {
		const wrong = [...edges].flatMap(([file, targets]) =>
			targets
				.filter(
					(target) =>
						(inRoom(file, 'lib/') && inRoom(target, 'routes/')) ||
						(inRoom(file, 'lib/ui/', 'lib/workers/', 'lib/plan/') &&
							inRoom(target, 'lib/server/')) ||
						(inRoom(file, 'lib/server/') && inRoom(target, 'lib/ui/', 'lib/workers/'))
				)
				.map((target) => `${name(file)} → ${name(target)}`)
		);
		expect(wrong).toEqual([]);
	});

	it('only repositories, services, accounts and the database room know Sequelize', () => {
		const wrong = [...graph]
			.filter(([, targets]) => targets.includes('sequelize'))
			.map(([file]) => name(file))
			.filter((file) => !/^lib\/server\/(db|repositories|services|auth)\//.test(file));
		expect(wrong).toEqual([]);
	});

	it('has no cycle', () => {
		const state = new Map<string, 'open' | 'done'>();
		const cycles: string[] = [];
		const visit = (file: string, path: string[]): void => {
			if (state.get(file) === 'done') return;
			if (state.get(file) === 'open') {
				cycles.push([...path.slice(path.indexOf(file)), file].map(name).join(' → '));
				return;
			}
			state.set(file, 'open');
			for (const target of edges.get(file) ?? []) visit(target, [...path, file]);
			state.set(file, 'done');
		};
		for (const file of files) visit(file, []);
		expect(cycles).toEqual([]);
	});
});

describe('the rules of the product', () => {
	const everything = ['src', 'catalog', 'demo', 'scripts', 'migrations', 'tests'].flatMap(
		(folder) => allFiles(join(root, folder))
	);

	function allFiles(folder: string): string[] {
		return readdirSync(folder).flatMap((entry) => {
			const path = join(folder, entry);
			return statSync(path).isDirectory() ? allFiles(path) : [path];
		});
	}

	it('names no path of a machine', () => {
		const machine = new RegExp(['/wo', 'rk/|/ro', 'ot/|/ho', 'me/[a-z]'].join(''));
		const wrong = everything
			.filter((file) => /\.(ts|mjs|svelte|json|csv|html|css)$/.test(file))
			.filter((file) => machine.test(readFileSync(file, 'utf8')))
			.map((file) => relative(root, file));
		expect(wrong).toEqual([]);
	});
});
