import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';

const root = fileURLToPath(new URL('../../', import.meta.url));

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
