import type { TDocumentDefinitions } from 'pdfmake/interfaces';
import { describe, expect, it } from 'vitest';
import { fontsFor, madePdf } from '$lib/server/pdf/common';
import { halfway } from '$lib/server/pdf/sheetPdf';
import { runsOf, withGlyphs, type Coverage } from '$lib/server/pdf/glyphs';

const LATIN: Coverage = { family: 'Sans', has: (code) => code < 256 };
const GREEK: Coverage = { family: 'Greek', has: (code) => code >= 0x370 && code < 0x400 };
const fontsOf = (): [Coverage, Coverage] => [LATIN, GREEK];

describe('the signs of a document', () => {
	it('stay one text where its font has them all', () => {
		expect(runsOf('20.0 mm², −', [{ ...LATIN, has: () => true }])).toEqual([
			{ text: '20.0 mm², −', font: 'Sans' }
		]);
	});

	it('are drawn by the first font that has them, neighbours together', () => {
		expect(runsOf('20 MΩ, Ωμέγα', fontsOf())).toEqual([
			{ text: '20 M', font: 'Sans' },
			{ text: 'Ω', font: 'Greek' },
			{ text: ', ', font: 'Sans' },
			{ text: 'Ωμέγα', font: 'Greek' }
		]);
	});

	it('are said in plain ones where no font has them, never left out', () => {
		expect(runsOf('≥ 3 → 山\n!', fontsOf()).map(({ text }) => text)).toEqual(['>= 3 -> ?\n!']);
	});

	it('are looked at in every place where a document has text', () => {
		const definition: TDocumentDefinitions = {
			defaultStyle: { font: 'Sans' },
			footer: (page) => ({ columns: [{ text: `Ω ${page}`, fontSize: 8 }] }),
			content: [
				'plain',
				'Ω',
				{ text: 'aΩ', fontSize: 12 },
				{ stack: ['Ω', { columns: [{ text: ['Ω', { text: 'Ω', fontSize: 12 }] }] }] },
				{ table: { body: [[{ text: 'Ω', font: 'Mono' }, 'b']] } },
				{ image: 'data:', width: 2 }
			]
		};
		const made = withGlyphs(definition, fontsOf);
		const run = { text: 'Ω', font: 'Greek' };
		expect(made.content).toEqual([
			'plain',
			{ text: [run] },
			{ text: [{ text: 'a', font: 'Sans' }, run], fontSize: 12 },
			{
				stack: [
					{ text: [run] },
					{ columns: [{ text: [{ text: [run] }, { text: [run], fontSize: 12 }] }] }
				]
			},
			{ table: { body: [[{ text: [run], font: 'Mono' }, 'b']] } },
			{ image: 'data:', width: 2 }
		]);
		const foot = made.footer as (page: number, pages: number, size: object) => unknown;
		expect(foot(3, 9, {})).toEqual({
			columns: [{ text: [run, { text: ' 3', font: 'Sans' }], fontSize: 8 }]
		});
	});

	it.each(['Sans', 'Mono'])('of many a language have a font, set in %s', (family) => {
		const names = 'Łęczna, Šibenik, Győr, Αθήνα, Зимний, Đà Nẵng, Ålesund, 20 MΩ · 3 × 4 − “5”';
		const runs = runsOf(names, fontsFor(family));
		expect(runs.map(({ text }) => text).join('')).toBe(names);
		for (const { text, font } of runs) {
			const coverage = fontsFor(family).find((one) => one.family === font)!;
			expect(Array.from(text).every((sign) => coverage.has(sign.codePointAt(0)!))).toBe(true);
		}
		expect(runs.length).toBeGreaterThan(5);
	});

	it('go into a PDF with the fonts that draw them', async () => {
		const of = async (text: string): Promise<string> =>
			(await madePdf({ content: [text], defaultStyle: { font: 'Sans' } }, 'metric')).toString(
				'latin1'
			);
		expect(await of('Lantern')).not.toContain('NotoSans');
		expect(await of('Łęczna')).toMatch(/AtkinsonHyperlegibleNext/);
		expect(await of('Αθήνα')).toContain('NotoSans');
	});
});

it('the columns of a sheet end at one height, as far as whole sections allow', () => {
	expect(halfway([10, 10, 10, 10])).toBe(2);
	expect(halfway([30, 5, 5, 5])).toBe(1);
	expect(halfway([5, 5, 5, 30])).toBe(3);
	expect(halfway([7])).toBe(0);
	expect(halfway([])).toBe(0);
	// The first three of eight once stood left whatever they held.
	expect(halfway([9, 11, 10, 8, 22, 20, 9, 14])).toBe(5);
});
