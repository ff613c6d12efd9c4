import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import { numberText } from '#core/units/text';
import type { UnitSystem } from '#core/units/systems';
import type { PreparedSheet } from '../services/sheets';
import { END_COLOURS, heading, lines, titled, madePdf, QUIET, INK } from './common';

/** The site sheet as a PDF for A4 paper. */
export function sheetPdf(prepared: PreparedSheet, system: UnitSystem): Promise<Buffer> {
	return madePdf(sheetDefinition(prepared), system);
}

/** The document as data; exported so that a test can read what will be printed. */
export function sheetDefinition(prepared: PreparedSheet): TDocumentDefinitions {
	const { sheet } = prepared;
	const colour = END_COLOURS[sheet.end];
	const sections = sheet.sections.map((section) => sectionTable(section, colour));
	const half = halfway(sheet.sections.map(linesOf));
	return {
		pageSize: 'A4',
		pageMargins: [34, 34, 34, 44],
		info: {
			title: `Site sheet ${sheet.end}, ${prepared.hopName}, revision ${sheet.revisionNumber}`
		},
		defaultStyle: { font: 'Sans', fontSize: 9, color: INK, lineHeight: 1.12 },
		footer: (page, pages) => ({
			margin: [34, 10, 34, 0],
			columns: [
				{
					text: `${prepared.hopName}, end ${sheet.end}, plan revision ${sheet.revisionNumber}, issued ${prepared.issuedAt.toISOString().slice(0, 16).replace('T', ' ')} UTC`,
					color: QUIET,
					fontSize: 8
				},
				{ text: `${page} / ${pages}`, alignment: 'right', color: QUIET, fontSize: 8, width: 40 }
			]
		}),
		content: [
			{
				columns: [
					{ text: sheet.end, fontSize: 46, bold: true, color: colour, width: 44, lineHeight: 0.9 },
					{
						stack: [
							{ text: sheet.siteName, fontSize: 19, bold: true },
							{ text: `toward ${sheet.farSiteName}`, fontSize: 11, color: QUIET },
							{
								text: `${prepared.hopName} · plan revision ${sheet.revisionNumber}`,
								margin: [0, 3, 0, 0]
							}
						]
					},
					{ image: prepared.qr, width: 66, alignment: 'right' }
				]
			},
			{
				margin: [0, 6, 0, 8],
				table: {
					widths: ['*'],
					body: [
						[
							{
								stack: sheet.cautions.map((text) => ({ text, margin: [0, 1, 0, 1] })),
								fillColor: '#EFEBDD',
								margin: [6, 4, 6, 4]
							}
						]
					]
				},
				layout: 'noBorders'
			},
			{
				columnGap: 16,
				columns: [
					{ width: '*', stack: sections.slice(0, half) },
					{ width: '*', stack: sections.slice(half) }
				]
			},
			portTable(prepared, colour),
			...(prepared.siteNotes
				? [{ text: `Site: ${prepared.siteNotes}`, margin: [0, 6, 0, 0] } as Content]
				: []),
			{
				unbreakable: true,
				stack: [
					heading('Order of work', colour),
					{ ol: sheet.steps.map((text) => ({ text, margin: [0, 1, 0, 1] })) }
				]
			},
			{
				margin: [0, 12, 0, 0],
				columns: ['Crew', 'Date and weather', 'Remarks'].map((label) => ({
					stack: [
						{
							canvas: [
								{ type: 'line', x1: 0, y1: 22, x2: 160, y2: 22, lineWidth: 0.6, lineColor: INK }
							]
						},
						{ text: label, fontSize: 8, color: QUIET }
					]
				}))
			}
		]
	};
}

/** Signs on a line of a column, about, and the lines of a section's heading. */
const SIGNS_A_LINE = 44;
const HEADING_LINES = 2;

/** How many lines a section takes in its column, about. */
function linesOf({ rows }: PreparedSheet['sheet']['sections'][number]): number {
	const lineCount = (text: string): number => Math.ceil(text.length / SIGNS_A_LINE);
	return rows.reduce(
		(sum, { value, note }) => sum + Math.max(1, lineCount(value)) + lineCount(note ?? ''),
		HEADING_LINES
	);
}

/**
 * How many of some heights stay in the first of two columns, in their order, so that the longer column is as
 * short as can be.
 */
export function halfway(heights: readonly number[]): number {
	const all = heights.reduce((sum, height) => sum + height, 0);
	let best = { count: 0, longer: all };
	let above = 0;
	heights.forEach((height, i) => {
		above += height;
		const longer = Math.max(above, all - above);
		if (longer < best.longer) best = { count: i + 1, longer };
	});
	return best.count;
}

function sectionTable(
	section: PreparedSheet['sheet']['sections'][number],
	colour: string
): Content {
	const rows: TableCell[][] = section.rows.map((row) => [
		{ text: row.label, color: QUIET },
		{
			stack: [
				{ text: row.value, bold: row.strong ?? false, fontSize: row.strong ? 11 : 9 },
				...(row.note ? [{ text: row.note, color: QUIET, fontSize: 8 }] : [])
			]
		}
	]);
	return titled(section.title, colour, [86, '*'], rows);
}

function portTable(prepared: PreparedSheet, colour: string): Content {
	const { portTable: rows } = prepared.sheet;
	const right = (text: string): TableCell => ({ text, font: 'Mono', alignment: 'right' });
	return {
		unbreakable: true,
		stack: [
			heading('What the meter would mean', colour),
			{
				table: {
					widths: [70, 80, 70, '*'],
					body: [
						['dB below plan', 'dBm', 'volts', 'means'].map((text, i) => ({
							text,
							color: QUIET,
							alignment: i < 3 ? ('right' as const) : ('left' as const)
						})),
						...rows.map((row) => [
							right(numberText(row.shortDb, 0)),
							right(numberText(row.levelDbm, 1)),
							right(numberText(row.volts, 3)),
							{ text: row.meaning }
						])
					]
				},
				layout: lines()
			}
		]
	};
}
