import { ENDS, type End, type PerEnd } from '../ends';
import type { GeoPoint } from '../geodesy/geodesic';
import { chancesOf, type Chance, type Deadline } from './chance';
import { hindrancesOf, type Hindrance } from './hindrance';
import { clockMoment, daysOf, lightSpans, workingSpans, type LightSchool } from './hours';
import type { Placed, ScheduleProblem, WorkCrew } from './problem';
import { solve } from './solve';
import type { Span, Spans } from './spans';
import { jobId, type HopTask } from './tasks';
import { waysOf, type Leg } from './travel';
import { waitsOf, type Wait } from './waits';
import { forbiddenSpans, type Limit, type WeatherHour, type WeatherLimits } from './weather';
import { relaxed, windowsOf, workWindow, type Outside } from './windows';
import type { Job } from './problem';

/** A crew as somebody plans it for a hop. */
export interface DayCrew {
	name: string;
	people: number;
	climbers: number;
	riggers: number;
	/** When it works, minutes after midnight by the clock of the plan. */
	fromMin: number;
	toMin: number;
	/** From where it sleeps to either end, minutes; at the end of its hours it is back there. */
	wayMin: PerEnd<number>;
}

/** An hour of weather at an end, as it was typed or read from a file. */
export interface DayWeather {
	end: End;
	/** Beginning of the hour, ISO 8601 UTC. */
	at: string;
	windMs: number | null;
	gustMs: number | null;
	rainMmH: number | null;
	lightning: boolean;
}

/** When a hop is to be built and aligned, by whom, and what holds that up. */
export interface DayPlan {
	/** IANA zone of its clock. */
	zone: string;
	/** As `2026-06-15`. */
	firstDay: string;
	/** Days that are looked at, 1 to 21. */
	days: number;
	/** Days of the week on which there is work, 1 Monday to 7 Sunday. */
	workdays: readonly number[];
	light: LightSchool;
	/** One that goes from end to end, or two: the first at A, the second at B. */
	crews: readonly DayCrew[];
	/** Between the ends, minutes. */
	betweenMin: number;
	limits: WeatherLimits;
	weather: readonly DayWeather[];
	/** Tasks that a person has put somewhere. */
	pins: readonly { task: string; at: string }[];
	/** By when all are to be down and away every day, minutes after midnight, and why: a boat, a gate; null for none. */
	awayByMin: number | null;
	awayBy: string;
}

/** Longest stretch that is looked at, days. */
export const MOST_DAYS = 21;
export const MOST_WEATHER = 1200;

/** Rules that many keep to; who plans puts their own in their place. */
export const USUAL_LIMITS: WeatherLimits = {
	climbWindMs: 12,
	climbGustMs: 15,
	liftWindMs: 8,
	liftGustMs: 10,
	openRainMmH: 0.5
};

const MINUTE_MS = 60_000;

/** A crew of three by day, half an hour away. */
export const usualCrew = (name: string): DayCrew => ({
	...{ name, people: 3, climbers: 2, riggers: 1, fromMin: 420, toMin: 1020 },
	wayMin: { A: 30, B: 30 }
});

/** A plan that nobody has changed yet. */
export const usualDayPlan = (firstDay: string, zone: string): DayPlan => ({
	...{ zone, firstDay, days: 5, workdays: [1, 2, 3, 4, 5], light: 'civil' as const },
	...{ crews: [usualCrew('Crew A'), usualCrew('Crew B')], betweenMin: 45 },
	...{ limits: USUAL_LIMITS, weather: [], pins: [], awayByMin: null, awayBy: '' }
});

/** What a timetable is made of. */
export interface DayQuestion {
	hopId: string;
	/** With what really happened of them. */
	tasks: readonly HopTask[];
	jobs: readonly Job[];
	places: PerEnd<GeoPoint>;
	plan: DayPlan;
	/** Minutes since 1970 UTC: nothing is planned before. */
	now: number;
}

/** When everything is expected, at both ends. */
export interface Timetable {
	/** The whole stretch that was looked at. */
	span: Span;
	placed: Placed[];
	unplaced: { task: string; why: Hindrance }[];
	waits: Wait[];
	/** When it is light, when the weather forbids what, and when the crew of an end works. */
	light: PerEnd<Span[]>;
	forbidden: PerEnd<{ limit: Limit; spans: Span[] }[]>;
	hours: Record<string, Spans>;
	/** When the last task ends; null where something has no place. */
	finish: number | null;
	/** Chance of being done in time, by the day of the plan's finish and by the last one there is. */
	chances: (Chance & { at: number; what: 'that-day' | 'at-all' })[];
}

/** Id of the crew of a plan by its place. */
export const crewId = (at: number): string => `crew-${at + 1}`;

const BASE = 'base-';
/** Schedules that are tried for one hop, and days that are gone through for its chances. */
const TRIES = 80;
const CHANCE_DAYS = 400;
const SEED = 1;

/** The stretch of a plan: from the first midnight to the last, by its clock. */
export function stretchOf({
	firstDay,
	days,
	zone
}: Pick<DayPlan, 'firstDay' | 'days' | 'zone'>): Span {
	const from = clockMoment(firstDay, 0, zone);
	return { from, to: from + Math.round(days * 1440) };
}

/** The hours of weather that are known at an end. */
export const weatherAt = ({ weather }: Pick<DayPlan, 'weather'>, end: End): WeatherHour[] =>
	weather
		.filter((hour) => hour.end === end)
		.map(({ at, windMs, gustMs, rainMmH, lightning }) => ({
			...{ windMs, gustMs, rainMmH, lightning },
			at: Math.floor(Date.parse(at) / MINUTE_MS)
		}));

/** Light and weather at an end. */
function outsideAt({ plan, places }: DayQuestion, end: End): Outside {
	const within = stretchOf(plan);
	const light = (): Span[] => lightSpans(places[end], plan.light, within);
	return { within, light, hours: weatherAt(plan, end), limits: plan.limits };
}

/** The problem that a plan of a hop's days puts. */
export function dayProblem(question: DayQuestion): ScheduleProblem {
	const { hopId, plan, now } = question;
	const stretch = stretchOf(plan);
	const pins = new Map(
		plan.pins.map(({ task, at }) => [task, Math.floor(Date.parse(at) / MINUTE_MS)])
	);
	const tasks = question.tasks.map((task) =>
		task.real ? task : { ...task, pin: pins.get(task.id) ?? null }
	);
	const windows = windowsOf(tasks, (task) => workWindow(outsideAt(question, task.end), task));
	const two = plan.crews.length > 1;
	const jobs = question.jobs.map((job) => {
		const at = two && job.id === jobId(hopId, 'B') ? 1 : 0;
		return { ...job, crew: crewId(at) };
	});
	const road = (minutes: number): Leg => ({ kind: 'road', minutes });
	const legs = plan.crews.flatMap(({ wayMin }, i) =>
		ENDS.flatMap((end) => [
			{ from: `${BASE}${i}`, to: end, leg: road(wayMin[end]) },
			{ from: end, to: `${BASE}${i}`, leg: road(wayMin[end]) }
		])
	);
	legs.push(
		{ from: 'A', to: 'B', leg: road(plan.betweenMin) },
		{ from: 'B', to: 'A', leg: road(plan.betweenMin) }
	);
	return {
		from: Math.min(Math.max(stretch.from, now), stretch.to),
		to: stretch.to,
		tasks,
		jobs,
		windows,
		ways: waysOf(legs, plan.betweenMin),
		crews: plan.crews.map((crew, i): WorkCrew => ({
			id: crewId(i),
			people: crew.people,
			skills: { climber: crew.climbers, rigger: crew.riggers, acceptor: 1 },
			equipment: [],
			base: `${BASE}${i}`,
			returns: true,
			hours: workingSpans(
				{
					...{ zone: plan.zone, days: plan.workdays, daysOff: [] },
					fromMin: crew.fromMin,
					toMin: Math.min(crew.toMin, plan.awayByMin ?? Infinity)
				},
				stretch
			)
		}))
	};
}

/**
 * The timetable of both ends of a hop: what is done stands, what is begun ends by what is left of it, the rest comes as
 * soon as crews, light and weather let it. Pure.
 */
export function timetableOf(question: DayQuestion): Timetable {
	const { plan, places } = question;
	const problem = dayProblem(question);
	const schedule = solve(problem, { tries: TRIES, seed: SEED });
	const endOf = new Map(question.tasks.map((task) => [task.id, task.end]));
	const hindrances = hindrancesOf(problem, schedule, (task, rule) =>
		workWindow(outsideAt(question, endOf.get(task.id) ?? 'A'), relaxed(task, rule))
	);
	const stretch = stretchOf(plan);
	const complete = schedule.unplaced.length === 0;
	const { finish } = schedule.cost;
	return {
		span: stretch,
		placed: [...schedule.placed.values()],
		unplaced: [...hindrances].map(([task, why]) => ({ task, why })),
		waits: waitsOf(problem, schedule),
		light: {
			A: lightSpans(places.A, plan.light, stretch),
			B: lightSpans(places.B, plan.light, stretch)
		},
		forbidden: {
			A: forbiddenAt(plan, 'A'),
			B: forbiddenAt(plan, 'B')
		},
		hours: Object.fromEntries(problem.crews.map(({ id, hours }) => [id, hours])),
		finish: complete ? finish : null,
		chances: complete ? chancesFor(question, problem, schedule) : []
	};
}

const forbiddenAt = (plan: DayPlan, end: End): Timetable['forbidden'][End] => {
	const hours = weatherAt(plan, end);
	return (['climb', 'lift', 'open'] as const)
		.map((limit) => ({ limit, spans: forbiddenSpans(hours, limit, plan.limits) }))
		.filter(({ spans }) => spans.length > 0);
};

/** Chances of being done on the day that the plan is, and within the days there are. */
function chancesFor(
	{ plan }: DayQuestion,
	problem: ScheduleProblem,
	schedule: ReturnType<typeof solve>
): Timetable['chances'] {
	const open = problem.tasks.filter(({ real }) => !real?.done);
	if (open.length === 0) return [];
	const tasks = open.map(({ id }) => id);
	const { finish } = schedule.cost;
	const [day] = daysOf({ from: finish - 1, to: finish }, plan.zone);
	const thatDay = day === undefined ? finish : clockMoment(day, 1440, plan.zone);
	const deadlines: (Deadline & { what: 'that-day' | 'at-all' })[] = [
		{ key: 'that-day', what: 'that-day', at: thatDay, tasks }
	];
	if (problem.to > thatDay) {
		deadlines.push({ key: 'at-all', what: 'at-all', at: problem.to, tasks });
	}
	const made = chancesOf(problem, schedule, deadlines, { days: CHANCE_DAYS, seed: SEED });
	return deadlines.flatMap(({ what, at }, i) => {
		const chance = made[i];
		return chance ? [{ ...chance, at, what }] : [];
	});
}
