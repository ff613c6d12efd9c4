import Papa from 'papaparse';
import type { SweepSample } from '#core/sweep/analyseSweep';

export const LARGEST_CSV_BYTES = 2_000_000;
const MOST_ROWS = 5000;

export type CsvSweep = { kind: 'sweep'; samples: SweepSample[] } | { kind: 'bad'; message: string };

/** Numbers of named columns, row by row; the first cell that is none is named and nothing is taken. */
export function parseColumns(
	text: string,
	columns: readonly string[],
	mostRows: number
): { kind: 'rows'; rows: number[][] } | { kind: 'bad'; message: string } {
	const table = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, '').trim(), {
		header: true,
		skipEmptyLines: true,
		transformHeader: (header) => header.trim().toLowerCase()
	});
	const fields = table.meta.fields ?? [];
	const missing = columns.filter((column) => !fields.includes(column));
	if (missing.length) {
		return {
			kind: 'bad',
			message: `The file has no column ${missing.join(' and no column ')}; it needs ${columns.join(', ')}.`
		};
	}
	if (table.data.length > mostRows) {
		return { kind: 'bad', message: `The file has more than ${mostRows} rows.` };
	}
	const rows: number[][] = [];
	for (const [i, row] of table.data.entries()) {
		const values = columns.map((column) => {
			const cell = (row[column] ?? '').trim();
			return cell === '' ? Number.NaN : Number(cell);
		});
		const bad = values.findIndex((value) => !Number.isFinite(value));
		if (bad >= 0) {
			const cell = (row[columns[bad]!] ?? '').trim();
			return {
				kind: 'bad',
				message: `Line ${i + 2}, column ${columns[bad]}: “${cell.slice(0, 20)}” is not a number. Nothing was taken.`
			};
		}
		rows.push(values);
	}
	return { kind: 'rows', rows };
}

/** Reads a recorded sweep: columns elapsed_s, position_deg, level_v; every row must be sound. */
export function parseSweepCsv(text: string): CsvSweep {
	const read = parseColumns(text, ['elapsed_s', 'position_deg', 'level_v'], MOST_ROWS);
	if (read.kind === 'bad') return read;
	if (read.rows.length < 5) return { kind: 'bad', message: 'A sweep needs at least five rows.' };
	const samples = read.rows.map(([elapsedS, positionDeg, levelV]) => ({
		elapsedS: Math.max(0, elapsedS!),
		positionDeg: positionDeg!,
		levelV: levelV!
	}));
	const beyond = samples.findIndex(({ positionDeg }) => Math.abs(positionDeg) > 90);
	if (beyond >= 0) {
		return {
			kind: 'bad',
			message: `Line ${beyond + 2}, column position_deg: ${samples[beyond]!.positionDeg} is beyond any adjuster. Nothing was taken.`
		};
	}
	return { kind: 'sweep', samples };
}
