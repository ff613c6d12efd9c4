import Papa from 'papaparse';
import type { SweepSample } from '$core/sweep/analyseSweep';

export const LARGEST_CSV_BYTES = 2_000_000;
const MOST_ROWS = 5000;
const COLUMNS = ['elapsed_s', 'position_deg', 'level_v'] as const;

export type CsvSweep = { kind: 'sweep'; samples: SweepSample[] } | { kind: 'bad'; message: string };

/** Reads a recorded sweep: columns elapsed_s, position_deg, level_v; every row must be sound. */
export function parseSweepCsv(text: string): CsvSweep {
	const table = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, '').trim(), {
		header: true,
		skipEmptyLines: true,
		transformHeader: (header) => header.trim().toLowerCase()
	});
	const fields = table.meta.fields ?? [];
	const missing = COLUMNS.filter((column) => !fields.includes(column));
	if (missing.length) {
		return {
			kind: 'bad',
			message: `The file has no column ${missing.join(' and no column ')}; it needs ${COLUMNS.join(', ')}.`
		};
	}
	if (table.data.length > MOST_ROWS) {
		return { kind: 'bad', message: `The file has more than ${MOST_ROWS} rows.` };
	}
	if (table.data.length < 5) {
		return { kind: 'bad', message: 'A sweep needs at least five rows.' };
	}
	const samples: SweepSample[] = [];
	for (const [i, row] of table.data.entries()) {
		const values = COLUMNS.map((column) => {
			const cell = (row[column] ?? '').trim();
			return cell === '' ? Number.NaN : Number(cell);
		});
		const bad = values.findIndex((value) => !Number.isFinite(value));
		if (bad >= 0) {
			const cell = (row[COLUMNS[bad]!] ?? '').trim();
			return {
				kind: 'bad',
				message: `Line ${i + 2}, column ${COLUMNS[bad]}: “${cell.slice(0, 20)}” is not a number. Nothing was taken.`
			};
		}
		const [elapsedS, positionDeg, levelV] = values as [number, number, number];
		if (Math.abs(positionDeg) > 90) {
			return {
				kind: 'bad',
				message: `Line ${i + 2}, column position_deg: ${positionDeg} is beyond any adjuster. Nothing was taken.`
			};
		}
		samples.push({ elapsedS: Math.max(0, elapsedS), positionDeg, levelV });
	}
	return { kind: 'sweep', samples };
}
