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

/** Hours of weather from a CSV or JSON file; or the first thing that is wrong with it, with its line. */
export function readWeather(
	text: string,
	fileName: string
): { hours: DayWeather[] } | { problem: string } {
	const rows = fileName.toLowerCase().endsWith('.json') ? jsonRows(text) : csvRows(text);
	if (!rows) return { problem: 'The file is no list of hours.' };
	const hours: DayWeather[] = [];
	for (const [i, row] of rows.entries()) {
		const line = fileName.toLowerCase().endsWith('.json') ? `no. ${i + 1}` : `line ${i + 2}`;
		const at = Date.parse(row.time ?? '');
		if (Number.isNaN(at)) return { problem: `${line}: “time” is no moment, as 2026-06-15T08:00Z.` };
		const numbers: (number | null)[] = [];
		for (const column of ['wind_m_s', 'gust_m_s', 'rain_mm_h'] as const) {
			const typed = (row[column] ?? '').trim();
			const value = typed === '' ? null : Number(typed);
			if (value !== null && !(value >= 0 && value <= 300)) {
				return { problem: `${line}: “${column}” is no number from 0 on.` };
			}
			numbers.push(value);
		}
		const end = (row.end ?? '').trim().toUpperCase();
		if (end !== '' && end !== 'A' && end !== 'B') return { problem: `${line}: “end” is A or B.` };
		const [windMs = null, gustMs = null, rainMmH = null] = numbers;
		const hour = {
			at: new Date(Math.floor(at / HOUR_MS) * HOUR_MS).toISOString(),
			...{ windMs, gustMs, rainMmH },
			lightning: /^(1|true|yes|y)$/i.test((row.lightning ?? '').trim())
		};
		for (const one of ENDS) if (end === '' || end === one) hours.push({ end: one, ...hour });
	}
	if (hours.length === 0) return { problem: 'The file holds no hour.' };
	return hours.length > MOST_WEATHER
		? { problem: `At most ${MOST_WEATHER} hours; the file holds ${hours.length}.` }
		: { hours };
}

type Row = Partial<Record<(typeof WEATHER_COLUMNS)[number], string>>;

function csvRows(text: string): Row[] | undefined {
	const { data, meta } = Papa.parse<Row>(text.trim(), { header: true, skipEmptyLines: true });
	return meta.fields?.includes('time') ? data : undefined;
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
