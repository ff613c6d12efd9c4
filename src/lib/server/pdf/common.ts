import { openSync, type Font } from 'fontkit';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import { spokenIn, type UnitSystem } from '#core/units/systems';
import { withGlyphs, type Coverage, type FontsOf } from './glyphs';

export const INK = '#15212B';
export const QUIET = '#4B5863';
const LINE = '#C9C5B6';
export const END_COLOURS = { A: '#A94E12', B: '#0C665E' } as const;

interface PdfMaker {
	setFonts(fonts: object): void;
	setUrlAccessPolicy(policy: () => boolean): void;
	setLocalAccessPolicy(policy: (path: string) => boolean): void;
	createPdf(definition: TDocumentDefinitions): { getBuffer(): Promise<Buffer> };
}

let maker: { pdf: PdfMaker; fontsOf: FontsOf } | undefined;

const FAMILIES = { Sans: 'atkinson-hyperlegible-next', Mono: 'spline-sans-mono' } as const;
/** Letters of other scripts, asked after the document's own font and its further Latin letters. */
const OTHER_SCRIPTS = ['greek', 'greek-ext', 'cyrillic', 'cyrillic-ext', 'vietnamese'];

function makeMaker(): { pdf: PdfMaker; fontsOf: FontsOf } {
	const require = createRequire(import.meta.url);
	const file = (family: string, subset: string, weight: number): string =>
		join(
			dirname(require.resolve(`@fontsource/${family}/package.json`)),
			'files',
			`${family}-${subset}-${weight}-normal.woff`
		);
	const fonts: Record<string, object> = {};
	const faceOf = (name: string, family: string, subset: string): Coverage => {
		const [normal, bold] = [file(family, subset, 400), file(family, subset, 700)];
		fonts[name] = { normal, bold, italics: normal, bolditalics: bold };
		const font = openSync(normal) as Font;
		return { family: name, has: (code) => font.hasGlyphForCodePoint(code) };
	};
	const others = OTHER_SCRIPTS.map((subset) => faceOf(`Other ${subset}`, 'noto-sans', subset));
	const chains = new Map(
		Object.entries(FAMILIES).map(([name, family]) => [
			name,
			[
				faceOf(name, family, 'latin'),
				faceOf(`${name} latin-ext`, family, 'latin-ext'),
				...others
			] as const
		])
	);
	const pdf = require('pdfmake') as PdfMaker;
	pdf.setFonts(fonts);
	// Nothing of a document is ever fetched.
	pdf.setUrlAccessPolicy(() => false);
	pdf.setLocalAccessPolicy((path) => path.endsWith('.woff'));
	return { pdf, fontsOf: (family) => chains.get(family) ?? chains.get('Sans')! };
}

/** What draws the letters of a family, its own font first. */
export const fontsFor: FontsOf = (family) => (maker ??= makeMaker()).fontsOf(family);

/** A document as a PDF in the units of its reader, every sign of it drawn by a font that has it. */
export function madePdf(definition: TDocumentDefinitions, system: UnitSystem): Promise<Buffer> {
	maker ??= makeMaker();
	const say = (text: string): string => spokenIn(system, text);
	return maker.pdf.createPdf(withGlyphs(definition, maker.fontsOf, say)).getBuffer();
}

export function heading(text: string, color: string): Content {
	return { text, bold: true, fontSize: 11, color, margin: [0, 8, 0, 2] };
}

export function lines(): object {
	return {
		hLineWidth: (i: number) => (i === 0 ? 0.8 : 0.4),
		vLineWidth: () => 0,
		hLineColor: () => LINE,
		paddingLeft: () => 0,
		paddingRight: () => 4,
		paddingTop: () => 1.5,
		paddingBottom: () => 1.5
	};
}

/**
 * A table under its heading, which never stands alone at the foot of a page and comes again on the next; rows
 * are read as one and stay whole.
 *
 * @param head row of column heads, where there is one
 */
export function titled(
	title: string,
	colour: string,
	widths: (string | number)[],
	rows: TableCell[][],
	head?: TableCell[]
): Content {
	const empty = widths.slice(1).map((): TableCell => ({ text: '' }));
	const top: TableCell[][] = [
		[{ ...(heading(title, colour) as object), colSpan: widths.length } as TableCell, ...empty],
		...(head ? [head] : [])
	];
	return {
		table: {
			headerRows: top.length,
			keepWithHeaderRows: 1,
			dontBreakRows: true,
			widths,
			body: [...top, ...rows]
		},
		layout: {
			...lines(),
			hLineWidth: (i: number) => (i === 0 ? 0 : i === 1 ? 0.8 : 0.4)
		}
	};
}
