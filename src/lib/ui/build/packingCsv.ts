import Papa from 'papaparse';
import type { PackingLine } from '#core/record/records';

export type PackingResult = { lines: PackingLine[] } | { problem: string };

/** A packing list from CSV: columns code and count, and name and unit where they are known. */
export function readPackingCsv(text: string): PackingResult {
	const { data, meta } = Papa.parse<Record<string, string>>(text.trim(), {
		header: true,
		skipEmptyLines: 'greedy',
		transformHeader: (header) => header.trim().toLowerCase()
	});
	const columns = meta.fields ?? [];
	for (const column of ['code', 'count']) {
		if (!columns.includes(column)) return { problem: `The file has no column ${column}.` };
	}
	if (data.length === 0) return { problem: 'The file has no lines.' };
	if (data.length > 500) return { problem: 'More than 500 lines: split the list.' };
	const lines: PackingLine[] = [];
	const seen = new Set<string>();
	for (const [i, row] of data.entries()) {
		const line = i + 2;
		const code = row.code?.trim() ?? '';
		const counted = (row.count ?? '').trim();
		const count = Number(counted.replace(',', '.'));
		if (!code) return { problem: `Line ${line}: the code is empty.` };
		if (code.length > 60)
			return { problem: `Line ${line}: the code is longer than 60 characters.` };
		if (seen.has(code)) return { problem: `Line ${line}: ${code} stands twice.` };
		if (counted === '' || !Number.isFinite(count) || count < 0) {
			return { problem: `Line ${line}, column count: ${counted || '(empty)'} is no quantity.` };
		}
		seen.add(code);
		lines.push({
			code,
			name: (row.name ?? '').trim().slice(0, 160),
			count,
			unit: (row.unit ?? '').trim().slice(0, 20) || 'piece'
		});
	}
	return { lines };
}

/** The discrepancy report as CSV, for whoever has to act on it. */
export function discrepancyCsv(rows: readonly object[]): string {
	return `${Papa.unparse(rows as object[], { newline: '\r\n', escapeFormulae: true })}\r\n`;
}
