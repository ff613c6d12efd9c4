import type { LoggedLevel } from './meters';
import { parseColumns } from './sweepCsv';

export type CsvLog = { kind: 'log'; log: LoggedLevel[] } | { kind: 'bad'; message: string };

const MOST_ROWS = 50_000;

/** Reads a level log: columns elapsed_s and level_v; times must not go back. */
export function parseLevelLog(text: string): CsvLog {
	const read = parseColumns(text, ['elapsed_s', 'level_v'], MOST_ROWS);
	if (read.kind === 'bad') return read;
	const log = read.rows.map(([elapsedS, levelV]) => ({ elapsedS: elapsedS!, levelV: levelV! }));
	if (log.length < 2) return { kind: 'bad', message: 'A level log needs at least two rows.' };
	const back = log.findIndex((row, i) => i > 0 && row.elapsedS < log[i - 1]!.elapsedS);
	if (back > 0) {
		return {
			kind: 'bad',
			message: `Line ${back + 2}, column elapsed_s: the time goes back. Nothing was taken.`
		};
	}
	return { kind: 'log', log };
}
