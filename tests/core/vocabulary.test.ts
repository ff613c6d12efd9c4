import { readdirSync, readFileSync } from 'node:fs';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';
import { VOCABULARY, termOf, withTerms } from '#core/words/vocabulary';

/** Words that no screen, sheet or document says, beside those that the vocabulary names. */
const ODD = [
	...['both ends stand', 'dish stands on', 'nothing to say against', 'no name'],
	...['taken in', 'take in', 'flats', 'Nm', 'MHZ', 'Ghz', 'dbm', 'db']
];

const files = (under: string, end: RegExp): string[] =>
	readdirSync(under, { recursive: true, encoding: 'utf8' })
		.filter((path) => end.test(path))
		.map((path) => `${under}/${path.replaceAll('\\', '/')}`);

/** Text that a person reads in a source of TypeScript: what holds a space and is no address or class list. */
function textsOf(path: string, source: string): string[] {
	const texts: string[] = [];
	const visit = (node: ts.Node): void => {
		if (ts.isStringLiteralLike(node)) texts.push(node.text);
		else if (ts.isTemplateExpression(node)) {
			texts.push([node.head.text, ...node.templateSpans.map((s) => s.literal.text)].join('…'));
		}
		ts.forEachChild(node, visit);
	};
	visit(ts.createSourceFile(path, source, ts.ScriptTarget.Latest, true));
	return texts;
}

/** Text between the tags of a component, and what its labels, hints and titles say. */
function textsOfComponent(source: string): string[] {
	const script = /<script[^>]*>([\s\S]*?)<\/script>/.exec(source)?.[1] ?? '';
	let markup = source.replace(/<(script|style)[\s\S]*?<\/\1>|<!--[\s\S]*?-->/g, '');
	// Expressions from the inside out: what is left is text.
	for (let before = ''; before !== markup;) {
		before = markup;
		markup = markup.replace(/\{[^{}]*\}/g, '…');
	}
	const said = [...markup.matchAll(/\b(?:label|hint|title|description|placeholder)="([^"]*)"/g)];
	// An arrow or a comparison in an attribute ends no tag: expressions are gone by now.
	return [...textsOf('script.ts', script), ...markup.split(/<[^>]*>/), ...said.map((m) => m[1]!)];
}

const isProse = (text: string): boolean =>
	/\s/.test(text.trim()) &&
	/[A-Za-z]{2}/.test(text) &&
	!/^[\s\w:/[\]().,%#!&>*@=+'-]*(?:flex|grid|border|text-|min-h|px-|py-|mt-|absolute|SELECT|INSERT|UPDATE|DELETE|WHERE)/.test(
		text
	);

const said: [path: string, text: string][] = [
	...files('src/lib/ui', /\.svelte$/),
	...files('src/routes', /\.svelte$/)
].flatMap((path) =>
	textsOfComponent(readFileSync(path, 'utf8')).map((text) => [path, text] as [string, string])
);
const saidByCore: [string, string][] = [
	...files('src/core', /\.ts$/).filter((path) => !path.endsWith('vocabulary.ts')),
	...files('src/lib/server/pdf', /\.ts$/),
	'src/lib/server/refusals.ts'
].flatMap((path) =>
	textsOf(path, readFileSync(path, 'utf8')).map((text) => [path, text] as [string, string])
);
const all = [...said, ...saidByCore].filter(([, text]) => isProse(text));

const holding = (texts: readonly [string, string][], pattern: RegExp): string[] =>
	texts.filter(([, text]) => pattern.test(text)).map(([path, text]) => `${path}: ${text.trim()}`);

describe('the words of the trade', () => {
	it('are looked for in what people read', () => {
		expect(all.length).toBeGreaterThan(2000);
		expect(holding(all, /main lobe/).length).toBeGreaterThan(10);
	});

	it('stand in the order of the alphabet, each once and explained', () => {
		const names = VOCABULARY.map(({ term }) => term);
		const sorted = [...names].sort((p, q) => p.toLowerCase().localeCompare(q.toLowerCase(), 'en'));
		expect(names).toEqual(sorted);
		expect(new Set(names).size).toBe(names.length);
		for (const { means, when } of VOCABULARY) {
			expect(means.length).toBeGreaterThan(30);
			expect(when).not.toBe('');
		}
		for (const name of ['RSL', 'RSSI', 'IDU', 'ATPC', 'ACM', 'XPD', 'XPIC', 'OMT']) {
			expect(termOf(name)?.standsFor).not.toBe('');
			expect(holding(all, new RegExp(`\\b${name}s?\\b`)).length, name).not.toBe(0);
		}
	});

	it('are spelt as the vocabulary spells them, and no odd word stands for them', () => {
		const not = [...ODD, ...VOCABULARY.flatMap((one) => one.not ?? [])];
		for (const word of not) {
			const whole = new RegExp(`(?<![\\w.])${word}(?![\\w(])`, 'u');
			expect(holding(all, whole), word).toEqual([]);
		}
	});

	it('are words: no key of the data stands in a sentence', () => {
		// Units and symbols of the trade are written so: dB, dBm, dN1, kB.
		const unit = '(?:dB|dBm|dBi|dBc|dN1|kB|kHz|kW|mW|pH)(?![\\w])';
		const key = new RegExp(
			`(?:^|[\\s(])(?!${unit})(?:[a-z]+[a-z0-9]*[A-Z][A-Za-z0-9]*|[a-z]+_[a-z_]+)(?=\\.[A-Za-z]|[\\s,.;:)]|$)`,
			'u'
		);
		expect(holding(all, key)).toEqual([]);
	});

	it('are found in a sentence, which is otherwise left as it is', () => {
		const parts = withTerms('RSL at A: XPD and XPIC, not XPDs.');
		expect(parts.map(({ text }) => text).join('')).toBe('RSL at A: XPD and XPIC, not XPDs.');
		expect(parts.flatMap(({ term }) => term?.term ?? [])).toEqual(['RSL', 'XPD', 'XPIC']);
		expect(withTerms('nothing of the kind')).toEqual([{ text: 'nothing of the kind' }]);
	});
});
