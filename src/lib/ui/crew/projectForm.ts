import Papa from 'papaparse';
import {
	MOST_PROJECT_DAYS,
	MOST_SITE_WEATHER,
	MOST_WAYS,
	type ProjectDays,
	type SiteWeather,
	type TypedWay
} from '#core/schedule/projectDays';
import { TOOLS } from '#core/tower/tools';
import { isZone, type LightSchool } from '#core/schedule/hours';
import type { FieldProblem } from '../api';
import { clockMinute, clockText } from '../timetable/dayForm';
import { readHours } from '../timetable/weatherFile';

/** How a project is scheduled as it is typed: numbers and times as text, so that nothing typed is lost. */
export interface ProjectDaysForm {
	zone: string;
	firstDay: string;
	days: string;
	workdays: number[];
	light: string;
	crewIds: string[];
	roadKmH: string;
	detour: string;
	/** Lines of CSV: from, to, minutes, departures. */
	ways: string;
	weather: SiteWeather[];
	awayBy: string;
	climbWindMs: string;
	climbGustMs: string;
	liftWindMs: string;
	liftGustMs: string;
	openRainMmH: string;
	/** Tools of the steps by what only some crews have; empty: needed for nothing in particular. */
	needs: Record<string, string>;
	pins: { task: string; at: string }[];
	acceptOnSite: boolean;
}

const DAY_MIN = 1440;
const LIMIT_KEYS = [
	'climbWindMs',
	'climbGustMs',
	'liftWindMs',
	'liftGustMs',
	'openRainMmH'
] as const;

export const WAY_COLUMNS = ['from', 'to', 'minutes', 'departures'] as const;
export const SITE_WEATHER_COLUMNS = [
	'site',
	'time',
	'wind_m_s',
	'gust_m_s',
	'rain_mm_h',
	'lightning'
] as const;

/** Ways as lines of CSV, the columns first. */
export const waysText = (ways: readonly TypedWay[]): string =>
	ways.length === 0
		? ''
		: Papa.unparse(
				ways.map(({ from, to, minutes, departures }) => ({
					...{ from, to, minutes },
					departures: departures.map(clockText).join(' ')
				})),
				{ columns: [...WAY_COLUMNS], newline: '\n' }
			);

/** Ways from lines of CSV, with or without their columns; or the first thing that is wrong, with its line. */
export function readWays(text: string): { ways: TypedWay[] } | { problem: string } {
	const { data } = Papa.parse<string[]>(text.trim(), { skipEmptyLines: true });
	const rows = data[0]?.[0]?.trim().toLowerCase() === 'from' ? data.slice(1) : data;
	const skipped = data.length - rows.length;
	const ways: TypedWay[] = [];
	for (const [i, row] of rows.entries()) {
		const line = i + 1 + skipped;
		const [from = '', to = '', minutesText = '', goes = ''] = row.map((cell) => cell.trim());
		const minutes = Number(minutesText);
		if (!from || !to) return { problem: `Line ${line}: from and to are names of sites or crews.` };
		if (minutesText === '' || !Number.isInteger(minutes) || minutes < 0 || minutes > DAY_MIN) {
			return { problem: `Line ${line}: the minutes are a whole number from 0 to ${DAY_MIN}.` };
		}
		const departures: number[] = [];
		for (const one of goes.split(/\s+/).filter(Boolean)) {
			const minute = clockMinute(one);
			if (minute === undefined || minute >= DAY_MIN) {
				return { problem: `Line ${line}: “${one}” is no time of day, as 08:30.` };
			}
			departures.push(minute);
		}
		ways.push({ from, to, minutes, departures: [...new Set(departures)].sort((p, q) => p - q) });
	}
	return ways.length > MOST_WAYS ? { problem: `At most ${MOST_WAYS} ways.` } : { ways };
}

/** Hours of weather at sites from a CSV or JSON file; or the first thing that is wrong with it, with its line. */
export function readSiteWeather(
	text: string,
	fileName: string
): { hours: SiteWeather[] } | { problem: string } {
	const read = readHours<SiteWeather>(text, fileName, ['site', 'time'], (hour, row) => {
		const site = (row.site ?? '').trim();
		return site ? [{ site, ...hour }] : '“site” is empty.';
	});
	return 'hours' in read && read.hours.length > MOST_SITE_WEATHER
		? { problem: `At most ${MOST_SITE_WEATHER} hours; the file holds ${read.hours.length}.` }
		: read;
}

export const projectFormOf = (days: ProjectDays): ProjectDaysForm => ({
	...{ zone: days.zone, firstDay: days.firstDay, days: String(days.days), light: days.light },
	workdays: [...days.workdays],
	crewIds: [...days.crewIds],
	roadKmH: String(days.roadKmH),
	detour: String(days.detour),
	ways: waysText(days.ways),
	weather: days.weather.map((hour) => ({ ...hour })),
	awayBy: days.awayByMin === null ? '' : clockText(days.awayByMin),
	climbWindMs: String(days.limits.climbWindMs),
	climbGustMs: String(days.limits.climbGustMs),
	liftWindMs: String(days.limits.liftWindMs),
	liftGustMs: String(days.limits.liftGustMs),
	openRainMmH: String(days.limits.openRainMmH),
	needs: Object.fromEntries(days.needs.map(({ equipment, tool }) => [equipment, tool])),
	pins: days.pins.map((pin) => ({ ...pin })),
	acceptOnSite: days.acceptOnSite
});

/** What is typed, as days of a project; or what of it is none yet, at its fields. */
export function projectDaysOf(
	form: ProjectDaysForm
): { days: ProjectDays } | { problems: FieldProblem[] } {
	const problems: FieldProblem[] = [];
	const wrong = (field: string, message: string): void => {
		problems.push({ field: `days.${field}`, message });
	};
	const number = (
		field: string,
		text: string,
		[least, most]: [number, number],
		whole = false
	): number => {
		const value = text.trim() === '' ? NaN : Number(text.replace(',', '.'));
		if (value >= least && value <= most && (!whole || Number.isInteger(value))) return value;
		wrong(field, `A ${whole ? 'whole ' : ''}number from ${least} to ${most}.`);
		return least;
	};
	if (!isZone(form.zone)) wrong('zone', 'There is no time zone of that name.');
	if (!/^\d{4}-\d\d-\d\d$/.test(form.firstDay)) wrong('firstDay', 'Say on which day it begins.');
	if (form.workdays.length === 0) wrong('workdays', 'At least one day of the week.');
	if (form.crewIds.length === 0) wrong('crewIds', 'Choose at least one crew.');
	const ways = readWays(form.ways);
	if ('problem' in ways) wrong('ways', ways.problem);
	const away = form.awayBy.trim() === '' ? null : clockMinute(form.awayBy);
	if (away === undefined || (away !== null && away > DAY_MIN)) {
		wrong('awayByMin', 'A time of day, as 16:00.');
	}
	const limits = LIMIT_KEYS.map((key) => [
		key,
		number(`limits.${key}`, form[key], [0, key === 'openRainMmH' ? 200 : 80])
	]);
	const days: ProjectDays = {
		...{ zone: form.zone, firstDay: form.firstDay, light: form.light as LightSchool },
		days: number('days', form.days, [1, MOST_PROJECT_DAYS], true),
		workdays: [...form.workdays].sort(),
		crewIds: form.crewIds,
		roadKmH: number('roadKmH', form.roadKmH, [5, 150]),
		detour: number('detour', form.detour, [1, 5]),
		ways: 'ways' in ways ? ways.ways : [],
		limits: Object.fromEntries(limits) as ProjectDays['limits'],
		weather: form.weather,
		awayByMin: away ?? null,
		needs: Object.entries(form.needs).flatMap(([equipment, typed]) => {
			const tool = TOOLS.find((one) => one === typed);
			return tool ? [{ equipment, tool }] : [];
		}),
		...{ pins: form.pins, acceptOnSite: form.acceptOnSite }
	};
	return problems.length ? { problems } : { days };
}
