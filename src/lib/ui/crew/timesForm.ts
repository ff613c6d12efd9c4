import Papa from 'papaparse';
import type { Spread } from '#core/schedule/problem';
import type { Durations } from '#core/schedule/tasks';
import { MOST_WORK_MIN, type WorkTime } from '#core/schedule/workTimes';
import type { FieldProblem } from '../api';

/** What somebody types of a kind of work, minutes as text; all empty where it is as usual. */
export interface TypedSpread {
	low: string;
	likely: string;
	high: string;
}

export const SPREAD_KEYS = ['low', 'likely', 'high'] as const;
export const TIME_COLUMNS = ['kind', 'low_min', 'likely_min', 'high_min'] as const;

/** Minutes as they are shown: whole from ten on, else to a tenth. */
export const minutesText = (minutes: number): string =>
	minutes >= 9.95 ? String(Math.round(minutes)) : String(Math.round(minutes * 10) / 10);

/** What is typed at first: what the firm has said. */
export const timesFormOf = (times: readonly WorkTime[]): Record<string, TypedSpread> =>
	Object.fromEntries(
		times.map(({ kind, said }) => [
			kind,
			{
				low: said ? String(said.low) : '',
				likely: said ? String(said.likely) : '',
				high: said ? String(said.high) : ''
			}
		])
	);

const numberOf = (text: string): number =>
	text.trim() === '' ? NaN : Number(text.trim().replace(',', '.'));

/** A typed spread; null where it is left as usual, or what is wrong with it and where. */
function spreadOf(typed: TypedSpread): Spread | null | { key: keyof Spread; message: string } {
	if (SPREAD_KEYS.every((key) => typed[key].trim() === '')) return null;
	const spread = { low: 0, likely: 0, high: 0 };
	for (const key of SPREAD_KEYS) {
		const minutes = numberOf(typed[key]);
		if (!(minutes >= 0.1 && minutes <= MOST_WORK_MIN)) {
			return {
				key,
				message:
					typed[key].trim() === '' ? 'All three, or none.' : `Minutes from 0.1 to ${MOST_WORK_MIN}.`
			};
		}
		spread[key] = minutes;
	}
	if (spread.likely < spread.low) return { key: 'likely', message: 'Not below the low one.' };
	if (spread.high < spread.likely) return { key: 'high', message: 'Not below the likely one.' };
	return spread;
}

/** What is typed, as what the firm says; or what of it cannot be meant, at its fields. */
export function saidOf(
	form: Readonly<Record<string, TypedSpread>>
): { said: Durations } | { problems: FieldProblem[] } {
	const problems: FieldProblem[] = [];
	const said: Record<string, Spread> = {};
	for (const [kind, typed] of Object.entries(form)) {
		const spread = spreadOf(typed);
		if (spread === null) continue;
		if ('key' in spread) {
			problems.push({ field: `said.${kind}.${spread.key}`, message: spread.message });
		} else said[kind] = spread;
	}
	return problems.length ? { problems } : { said };
}

/** What is planned with, as CSV. */
export const timesCsv = (times: readonly WorkTime[]): string =>
	`${Papa.unparse(
		times.map(({ kind, used }) => [
			kind,
			...SPREAD_KEYS.map((key) => Math.round(used[key] * 10) / 10)
		]),
		{ newline: '\n' }
	)}\n`.replace(/^/, `${TIME_COLUMNS.join(',')}\n`);

/**
 * Times from a CSV file, in place of what was typed of the same kinds; or the first thing that is wrong, with its line.
 *
 * @param form what is typed of every kind there is
 */
export function readTimes(
	text: string,
	form: Readonly<Record<string, TypedSpread>>
): { form: Record<string, TypedSpread>; count: number } | { problem: string } {
	const { data, meta } = Papa.parse<Record<string, string>>(text.trim(), {
		...{ header: true, skipEmptyLines: true },
		transformHeader: (name: string) => name.trim().toLowerCase()
	});
	if (!TIME_COLUMNS.every((column) => meta.fields?.includes(column))) {
		return { problem: `The file needs the columns ${TIME_COLUMNS.join(', ')}.` };
	}
	const read: Record<string, TypedSpread> = {};
	for (const [i, row] of data.entries()) {
		const kind = (row.kind ?? '').trim();
		if (!Object.hasOwn(form, kind))
			return { problem: `Line ${i + 2}: there is no work “${kind}”.` };
		const typed = {
			low: (row.low_min ?? '').trim(),
			likely: (row.likely_min ?? '').trim(),
			high: (row.high_min ?? '').trim()
		};
		const spread = spreadOf(typed);
		if (spread && 'key' in spread) {
			return { problem: `Line ${i + 2}, ${spread.key}_min: ${spread.message}` };
		}
		read[kind] = typed;
	}
	return { form: { ...form, ...read }, count: Object.keys(read).length };
}
