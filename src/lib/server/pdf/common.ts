import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces';

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

let maker: PdfMaker | undefined;

export function pdfMaker(): PdfMaker {
	if (maker) return maker;
	const require = createRequire(import.meta.url);
	const font = (family: string, weight: number): string =>
		join(
			dirname(require.resolve(`@fontsource/${family}/package.json`)),
			'files',
			`${family}-latin-${weight}-normal.woff`
		);
	const face = (family: string): object => ({
		normal: font(family, 400),
		bold: font(family, 700),
		italics: font(family, 400),
		bolditalics: font(family, 700)
	});
	maker = require('pdfmake') as PdfMaker;
	maker.setFonts({
		Sans: face('atkinson-hyperlegible-next'),
		Mono: face('spline-sans-mono')
	});
	// Nothing of a document is ever fetched.
	maker.setUrlAccessPolicy(() => false);
	maker.setLocalAccessPolicy((path) => path.endsWith('.woff'));
	return maker;
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
