import { readdirSync, readFileSync } from 'node:fs';
import ts from 'typescript';
import { expect, it } from 'vitest';

const files = readdirSync('src/core', { recursive: true, encoding: 'utf8' })
	.filter((path) => path.endsWith('.ts'))
	.map((path) => `src/core/${path.replaceAll('\\', '/')}`);

/** What is missing in the words above a function; empty when nothing is. */
function missing(fn: ts.FunctionDeclaration): string[] {
	const doc = ts
		.getJSDocCommentsAndTags(fn)
		.map((one) => one.getText())
		.join('\n');
	if (!doc) return ['anything'];
	const numbers = fn.parameters
		.filter(({ type }) => type?.kind === ts.SyntaxKind.NumberKeyword)
		.map(({ name }) => name.getText())
		.filter((name) => !new RegExp(`@param[^\\n]*\\b${name}\\b`).test(doc));
	const refuses = /requireInRange\(|throw new/.test(fn.body?.getText() ?? '');
	return [...numbers, ...(refuses && !/throws/i.test(doc) ? ['what it throws'] : [])];
}

/** Every exported function of a source by its name, with what its words lack. */
function lacking(path: string, source: string): string[] {
	const file = ts.createSourceFile(path, source, ts.ScriptTarget.Latest, true);
	return file.statements
		.filter(ts.isFunctionDeclaration)
		.filter((fn) => fn.modifiers?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword))
		.flatMap((fn) => missing(fn).map((what) => `${path} ${fn.name?.text ?? ''}: ${what}`));
}

it('every exported function of the core says the range of its numbers and what it throws', () => {
	expect(files.length).toBeGreaterThan(100);
	expect(files.flatMap((path) => lacking(path, readFileSync(path, 'utf8')))).toEqual([]);
});

it.each([
	['no words at all', 'export function f(): void {}', 'anything'],
	['a number without its range', '/** So. */\nexport function f(aM: number): void {}', 'aM'],
	[
		'no word of what it throws',
		'/** So.\n * @param aM any */\nexport function f(aM: number): void { requireInRange("aM", aM, 0, 1); }',
		'what it throws'
	]
])('a function with %s is found', (_, source, what) => {
	expect(lacking('x.ts', source)).toEqual([`x.ts f: ${what}`]);
});
