import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';

/** A font as far as it is asked here. */
export interface Coverage {
	family: string;
	has: (codePoint: number) => boolean;
}

/** What no font at hand draws, in signs that every one does. */
const IN_PLAIN_SIGNS: Readonly<Record<string, string>> = {
	'→': '->',
	'←': '<-',
	'≥': '>=',
	'≤': '<=',
	'≈': '~',
	'▲': '!',
	'●': '*',
	'′': "'",
	'″': '"'
};
const UNKNOWN = '?';

interface Run {
	text: string;
	font: string;
}

/**
 * A text in pieces that the fonts can draw, each with its font: the first that has the sign. A document draws
 * nothing where its font lacks a sign, and a name would lose its letters without a word.
 *
 * @param fonts the document's own first
 */
export function runsOf(text: string, fonts: readonly [Coverage, ...Coverage[]]): Run[] {
	const runs: Run[] = [];
	const add = (piece: string, font: string): void => {
		const last = runs.at(-1);
		if (last?.font === font) last.text += piece;
		else runs.push({ text: piece, font });
	};
	const [own] = fonts;
	for (const sign of text) {
		const code = sign.codePointAt(0)!;
		// What only steers a line is drawn by none.
		const font = code < 32 ? own : fonts.find(({ has }) => has(code));
		if (font) add(sign, font.family);
		else add(IN_PLAIN_SIGNS[sign] ?? UNKNOWN, own.family);
	}
	return runs;
}

/** The fonts to ask for a text set in a family, its own first. */
export type FontsOf = (family: string) => readonly [Coverage, ...Coverage[]];

type Loose = Record<string, unknown>;

function drawable(
	node: unknown,
	family: string,
	fontsOf: FontsOf,
	say: (text: string) => string
): unknown {
	if (typeof node === 'string') {
		const runs = runsOf(say(node), fontsOf(family));
		return runs.length === 1 && runs[0]!.font === family ? runs[0]!.text : { text: runs };
	}
	if (Array.isArray(node)) return node.map((one) => drawable(one, family, fontsOf, say));
	if (node === null || typeof node !== 'object') return node;
	const own = node as Loose;
	const set = typeof own.font === 'string' ? own.font : family;
	const inside = (value: unknown): unknown => drawable(value, set, fontsOf, say);
	const made: Loose = { ...own };
	if (typeof own.text === 'string') {
		const runs = runsOf(say(own.text), fontsOf(set));
		made.text = runs.length === 1 && runs[0]!.font === set ? runs[0]!.text : runs;
	} else if (own.text !== undefined) made.text = inside(own.text);
	for (const key of ['stack', 'columns', 'ul', 'ol'] as const) {
		if (own[key] !== undefined) made[key] = inside(own[key]);
	}
	const table = own.table as { body: unknown[] } | undefined;
	if (table) made.table = { ...table, body: table.body.map(inside) };
	return made;
}

/**
 * A document in which every sign has a font that draws it, or is said in plain ones.
 *
 * @param say what each of its texts becomes first
 */
export function withGlyphs(
	definition: TDocumentDefinitions,
	fontsOf: FontsOf,
	say: (text: string) => string = (text) => text
): TDocumentDefinitions {
	const family = definition.defaultStyle?.font ?? 'Sans';
	const all = <T>(content: T): T => drawable(content, family, fontsOf, say) as T;
	const { footer } = definition;
	return {
		...definition,
		content: all(definition.content),
		...(typeof footer === 'function'
			? { footer: (...args: Parameters<typeof footer>) => all(footer(...args) as Content) }
			: {})
	};
}
