import { MOST_DAYS, type DayCrew, type DayPlan } from '#core/schedule/dayPlan';
import { isZone, type LightSchool } from '#core/schedule/hours';
import type { WeatherLimits } from '#core/schedule/weather';
import type { FieldProblem } from '../api';

/** A crew as it is typed. */
export interface CrewForm {
	name: string;
	people: string;
	climbers: string;
	riggers: string;
	from: string;
	to: string;
	wayA: string;
	wayB: string;
}

/** The plan of a hop's days as it is typed: numbers and times as text, so that nothing typed is lost. */
export interface DayForm {
	zone: string;
	firstDay: string;
	days: string;
	workdays: number[];
	light: string;
	crews: CrewForm[];
	between: string;
	limits: Record<keyof WeatherLimits, string>;
	weather: DayPlan['weather'][number][];
	pins: { task: string; at: string }[];
	awayBy: string;
	awayWhy: string;
}

const DAY_MIN = 1440;

/** Minutes after midnight as `07:30`; past midnight the hours go on, `25:00`. */
export const clockText = (minute: number): string =>
	`${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;

/** The minutes of `7:30` or `0730`; undefined of what is no time of day. */
export function clockMinute(text: string): number | undefined {
	const found = /^\s*(\d{1,2})[:.]?(\d{2})\s*$/.exec(text);
	if (!found) return undefined;
	const minute = Number(found[1]) * 60 + Number(found[2]);
	return Number(found[2]) < 60 && minute <= 2 * DAY_MIN ? minute : undefined;
}

const crewForm = (crew: DayCrew): CrewForm => ({
	name: crew.name,
	people: String(crew.people),
	climbers: String(crew.climbers),
	riggers: String(crew.riggers),
	from: clockText(crew.fromMin),
	to: clockText(crew.toMin),
	wayA: String(crew.wayMin.A),
	wayB: String(crew.wayMin.B)
});

export const dayFormOf = (plan: DayPlan): DayForm => ({
	zone: plan.zone,
	firstDay: plan.firstDay,
	days: String(plan.days),
	workdays: [...plan.workdays],
	light: plan.light,
	crews: plan.crews.map(crewForm),
	between: String(plan.betweenMin),
	limits: {
		climbWindMs: String(plan.limits.climbWindMs),
		climbGustMs: String(plan.limits.climbGustMs),
		liftWindMs: String(plan.limits.liftWindMs),
		liftGustMs: String(plan.limits.liftGustMs),
		openRainMmH: String(plan.limits.openRainMmH)
	},
	weather: plan.weather.map((hour) => ({ ...hour })),
	pins: plan.pins.map((pin) => ({ ...pin })),
	awayBy: plan.awayByMin === null ? '' : clockText(plan.awayByMin),
	awayWhy: plan.awayBy
});

/** What is typed, as a plan; or what of it is none yet, at its fields. */
export function planOf(form: DayForm): { plan: DayPlan } | { problems: FieldProblem[] } {
	const problems: FieldProblem[] = [];
	const wrong = (field: string, message: string): void => {
		problems.push({ field: `plan.${field}`, message });
	};
	const number = (
		field: string,
		text: string,
		least: number,
		most: number,
		whole = true
	): number => {
		const value = text.trim() === '' ? NaN : Number(text.replace(',', '.'));
		if (!(value >= least && value <= most) || (whole && !Number.isInteger(value))) {
			wrong(field, `A ${whole ? 'whole ' : ''}number from ${least} to ${most}.`);
			return least;
		}
		return value;
	};
	const clock = (field: string, text: string): number => {
		const minute = clockMinute(text);
		if (minute === undefined) wrong(field, 'A time of day, as 07:30.');
		return minute ?? 0;
	};
	if (!isZone(form.zone)) wrong('zone', 'There is no time zone of that name.');
	if (!/^\d{4}-\d\d-\d\d$/.test(form.firstDay)) wrong('firstDay', 'Say on which day it begins.');
	if (form.workdays.length === 0) wrong('workdays', 'At least one day of the week.');
	const crews = form.crews.map((crew, i): DayCrew => {
		const at = `crews.${i}`;
		const fromMin = clock(`${at}.fromMin`, crew.from);
		const toMin = clock(`${at}.toMin`, crew.to);
		if (clockMinute(crew.to) !== undefined && toMin <= fromMin) {
			wrong(`${at}.toMin`, 'After it begins; past midnight the hours go on, as 26:00.');
		}
		if (!crew.name.trim()) wrong(`${at}.name`, 'A name, by which both ends know it.');
		return {
			name: crew.name.trim(),
			people: number(`${at}.people`, crew.people, 1, 40),
			climbers: number(`${at}.climbers`, crew.climbers, 0, 40),
			riggers: number(`${at}.riggers`, crew.riggers, 0, 40),
			...{ fromMin, toMin },
			wayMin: {
				A: number(`${at}.wayMin.A`, crew.wayA, 0, DAY_MIN),
				B: number(`${at}.wayMin.B`, crew.wayB, 0, DAY_MIN)
			}
		};
	});
	const limit = (key: keyof WeatherLimits, most: number): number =>
		number(`limits.${key}`, form.limits[key], 0, most, false);
	const plan: DayPlan = {
		zone: form.zone,
		firstDay: form.firstDay,
		days: number('days', form.days, 1, MOST_DAYS),
		workdays: [...form.workdays].sort(),
		light: form.light as LightSchool,
		crews,
		betweenMin: number('betweenMin', form.between, 0, DAY_MIN),
		limits: {
			climbWindMs: limit('climbWindMs', 80),
			climbGustMs: limit('climbGustMs', 80),
			liftWindMs: limit('liftWindMs', 80),
			liftGustMs: limit('liftGustMs', 80),
			openRainMmH: limit('openRainMmH', 200)
		},
		weather: form.weather,
		pins: form.pins,
		awayByMin: form.awayBy.trim() ? clock('awayByMin', form.awayBy) : null,
		awayBy: form.awayWhy.trim()
	};
	return problems.length ? { problems } : { plan };
}
