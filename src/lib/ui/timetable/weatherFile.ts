import Papa from 'papaparse';
import { ENDS, type End } from '#core/ends';
import { MOST_WEATHER, type DayWeather } from '#core/schedule/dayPlan';

/** Columns of a file of weather; `end` may be missing, then its hours are of both ends. */
export const WEATHER_COLUMNS = [
	'time',
	'wind_m_s',
	'gust_m_s',
	'rain_mm_h',
	'lightning',
	'end'
] as const;

const HOUR_MS = 3_600_000;

/** What an hour of weather is told by, whoever's it is. */
export type HourOfWeather = Omit<DayWeather, 'end'>;

type Row = Readonly<Record<string, string | undefined>>;

/** An hour of weather from a row, or what is wrong with it. */
function hourOf(row: Row): HourOfWeather | string {
	const at = Date.parse(row.time ?? '');
	if (Number.isNaN(at)) return '“time” is no moment, as 2026-06-15T08:00Z.';
	const numbers: (number | null)[] = [];
	for (const column of ['wind_m_s', 'gust_m_s', 'rain_mm_h'] as const) {
		const typed = (row[column] ?? '').trim();
		const value = typed === '' ? null : Number(typed);
		if (value !== null && !(value >= 0 && value <= 300)) {
			return `“${column}” is no number from 0 on.`;
		}
		numbers.push(value);
	}
	const [windMs = null, gustMs = null, rainMmH = null] = numbers;
	return {
		at: new Date(Math.floor(at / HOUR_MS) * HOUR_MS).toISOString(),
		...{ windMs, gustMs, rainMmH },
		lightning: /^(1|true|yes|y)$/i.test((row.lightning ?? '').trim())
	};
}

/**
 * Hours from a CSV or JSON file; or the first thing that is wrong with it, with its line.
 *
 * @param placed what a row's hours are of, made from the row; or what is wrong with it there
 */
export function readHours<Hour>(
	text: string,
	fileName: string,
	needed: readonly string[],
	placed: (hour: HourOfWeather, row: Row) => Hour[] | string
): { hours: Hour[] } | { problem: string } {
	const isJson = fileName.toLowerCase().endsWith('.json');
	const rows = isJson ? jsonRows(text) : csvRows(text, needed);
	if (!rows) return { problem: `The file is no list of hours with ${needed.join(' and ')}.` };
	const hours: Hour[] = [];
	for (const [i, row] of rows.entries()) {
		const hour = hourOf(row);
		const found = typeof hour === 'string' ? hour : placed(hour, row);
		if (typeof found === 'string') {
			return { problem: `${isJson ? `no. ${i + 1}` : `line ${i + 2}`}: ${found}` };
		}
		hours.push(...found);
	}
	return hours.length === 0 ? { problem: 'The file holds no hour.' } : { hours };
}

/** Hours of weather at the ends of a hop from a file; one that names no end is of both. */
export function readWeather(
	text: string,
	fileName: string
): { hours: DayWeather[] } | { problem: string } {
	const read = readHours<DayWeather>(text, fileName, ['time'], (hour, row) => {
		const end = (row.end ?? '').trim().toUpperCase();
		if (end !== '' && end !== 'A' && end !== 'B') return '“end” is A or B.';
		return ENDS.filter((one) => end === '' || end === one).map((one) => ({ end: one, ...hour }));
	});
	return 'hours' in read && read.hours.length > MOST_WEATHER
		? { problem: `At most ${MOST_WEATHER} hours; the file holds ${read.hours.length}.` }
		: read;
}

function csvRows(text: string, needed: readonly string[]): Row[] | undefined {
	const { data, meta } = Papa.parse<Row>(text.trim(), { header: true, skipEmptyLines: true });
	return needed.every((column) => meta.fields?.includes(column)) ? data : undefined;
}

function jsonRows(text: string): Row[] | undefined {
	try {
		const list = JSON.parse(text) as unknown;
		if (!Array.isArray(list)) return undefined;
		return list.map((one) =>
			Object.fromEntries(
				Object.entries((one ?? {}) as Record<string, unknown>).map(([key, value]) => [
					key,
					value === null || value === undefined ? '' : String(value as string | number | boolean)
				])
			)
		);
	} catch {
		return undefined;
	}
}

/** Weather with some hours in place of what was known of those hours before. */
export function withHours(known: readonly DayWeather[], more: readonly DayWeather[]): DayWeather[] {
	const keyOf = ({ end, at }: DayWeather): string => `${end}${Date.parse(at)}`;
	const merged = new Map([...known, ...more].map((hour) => [keyOf(hour), hour]));
	return [...merged.values()].sort(
		(p, q) => p.at.localeCompare(q.at) || p.end.localeCompare(q.end)
	);
}

/** Every whole hour of a stretch with the same weather. */
export function hoursBetween(
	from: number,
	to: number,
	ends: readonly End[],
	weather: Omit<DayWeather, 'end' | 'at'>
): DayWeather[] {
	const hours: DayWeather[] = [];
	for (let at = Math.floor(from / HOUR_MS) * HOUR_MS; at < to; at += HOUR_MS) {
		for (const end of ends) hours.push({ end, at: new Date(at).toISOString(), ...weather });
	}
	return hours;
}
