/** Sums of an error test that was logged second by second. */
export interface ErrorLog {
	durationS: number;
	erroredSeconds: number;
	bitErrorRatio: number | null;
}

export type ErrorLogResult =
	{ kind: 'log'; log: ErrorLog } | { kind: 'unreadable'; line: number; reason: string };

/**
 * Reads rows of an error log: elapsed seconds, bit errors in that second, and bits where known.
 *
 * @param rows header and values; columns `elapsed_s`, `bit_errors`, and optionally `bits`
 */
export function readErrorLog(rows: readonly Record<string, string>[]): ErrorLogResult {
	const [first] = rows;
	if (!first) return { kind: 'unreadable', line: 1, reason: 'The file is empty.' };
	for (const column of ['elapsed_s', 'bit_errors']) {
		if (!(column in first)) {
			return { kind: 'unreadable', line: 1, reason: `The column ${column} is missing.` };
		}
	}
	let errored = 0;
	let errors = 0;
	let bits = 0;
	let last = -Infinity;
	let from = Infinity;
	for (const [i, row] of rows.entries()) {
		const elapsed = Number(row.elapsed_s);
		const wrong = Number(row.bit_errors);
		const line = i + 2;
		if (row.elapsed_s?.trim() === '' || !Number.isFinite(elapsed)) {
			return { kind: 'unreadable', line, reason: '“elapsed_s” is no number.' };
		}
		if (row.bit_errors?.trim() === '' || !Number.isFinite(wrong) || wrong < 0) {
			return { kind: 'unreadable', line, reason: '“bit_errors” is no number of errors.' };
		}
		if (elapsed <= last) {
			return { kind: 'unreadable', line, reason: 'Times must rise from row to row.' };
		}
		last = elapsed;
		from = Math.min(from, elapsed);
		errors += wrong;
		if (wrong > 0) errored += 1;
		bits += Number(row.bits ?? 0) || 0;
	}
	return {
		kind: 'log',
		log: {
			durationS: last - from + 1,
			erroredSeconds: errored,
			bitErrorRatio: bits > 0 ? errors / bits : null
		}
	};
}
