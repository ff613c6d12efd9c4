import { ENDS, type End, type PerEnd } from '../ends';
import { inverseGeodesic, type GeoPoint } from '../geodesy/geodesic';
import { skillsOf, type Crew } from './crew';
import { MOST_DAYS, stretchOf, USUAL_LIMITS } from './dayPlan';
import { hindrancesOf, type Hindrance } from './hindrance';
import { clockMoment, daysOf, lightSpans, workingSpans, type LightSchool } from './hours';
import type { Job, Placed, ScheduleProblem, WorkCrew } from './problem';
import { solve, type Effort } from './solve';
import type { Span } from './spans';
import { jobId, type HopTask } from './tasks';
import { waysOf, type Departure, type Leg } from './travel';
import type { WeatherHour, WeatherLimits } from './weather';
import { relaxed, windowsOf, workWindow, type Outside } from './windows';

/** A way between two places that somebody has said something of: sites and crews by name, in one direction. */
export interface TypedWay {
	from: string;
	to: string;
	minutes: number;
	/** When it goes every day, minutes after midnight; empty where one goes at any time. */
	departures: readonly number[];
}

/** An hour of weather at a site, by its name. */
export interface SiteWeather extends Omit<WeatherHour, 'at'> {
	site: string;
	/** Beginning of the hour, ISO 8601 UTC. */
	at: string;
}

/** When the hops of a project are to be built and aligned, by which crews, and what holds that up. */
export interface ProjectDays {
	/** IANA zone of its clock. */
	zone: string;
	/** As `2026-06-15`. */
	firstDay: string;
	/** Days that are looked at, 1 to {@link MOST_PROJECT_DAYS}. */
	days: number;
	/** Days of the week on which there is work, 1 Monday to 7 Sunday. */
	workdays: readonly number[];
	light: LightSchool;
	crewIds: readonly string[];
	/** Speed on the road, km/h, and how many times longer a road is than the straight line. */
	roadKmH: number;
	detour: number;
	ways: readonly TypedWay[];
	limits: WeatherLimits;
	weather: readonly SiteWeather[];
	/** By when all are to be down and away every day, minutes after midnight; null for none. */
	awayByMin: number | null;
}

export const MOST_PROJECT_DAYS = 90;
export const MOST_WAYS = 400;
export const MOST_SITE_WEATHER = 5000;

/** What nobody has changed yet. */
export const usualProjectDays = (
	firstDay: string,
	zone: string,
	crewIds: readonly string[]
): ProjectDays => ({
	...{ zone, firstDay, days: MOST_DAYS, workdays: [1, 2, 3, 4, 5], light: 'civil' as const },
	...{ crewIds, roadKmH: 50, detour: 1.4, ways: [], limits: USUAL_LIMITS, weather: [] },
	awayByMin: null
});

/** A hop of a project, with what is left to do there. */
export interface ProjectHop {
	id: string;
	/** With what really happened of them. */
	tasks: readonly HopTask[];
	jobs: readonly Job[];
	/** Ids of its sites. */
	places: PerEnd<string>;
	/** Crews that somebody has assigned to an end from now on, where it is one. */
	crews: PerEnd<string | null>;
}

export interface ProjectSite extends GeoPoint {
	id: string;
	name: string;
}

export interface ProjectQuestion {
	hops: readonly ProjectHop[];
	sites: readonly ProjectSite[];
	crews: readonly (Crew & { id: string })[];
	days: ProjectDays;
	/** Minutes since 1970 UTC: nothing is planned before. */
	now: number;
}

/** A crew at an end without a break in between, on one day. */
export interface Stint extends Span {
	crew: string;
	hop: string;
	end: End;
	/** What is done, in the order of its beginning. */
	titles: string[];
	/** Whether it is over, by the records. */
	done: boolean;
	/** Done on a desk, before anybody drives there. */
	desk: boolean;
}

/** When a project's hops are done, and by whom. */
export interface ProjectSchedule {
	span: Span;
	stints: Stint[];
	unplaced: { hop: string; end: End; title: string; why: Hindrance }[];
	/** When both ends of a hop are ready to be aligned, where that has a place. */
	gates: { hop: string; at: number }[];
	/** When the last task ends; null where something has no place. */
	finish: number | null;
	/** No schedule is done before; null where not everything can be done. */
	bound: number | null;
	waitingMin: number;
	travelMin: number;
}

const MINUTE_MS = 60_000;
/** Minutes that loading and unloading take, whatever the way. */
const ON_THE_WAY_MIN = 5;
/** A way of which nobody knows anything: from a crew without a place of its own. */
const UNKNOWN_WAY_MIN = 30;

const baseOf = (crewId: string): string => `base-${crewId}`;

/** Ways between all places: by road after their distance, unless somebody has said otherwise. */
function legsOf(
	{ sites, crews, days }: ProjectQuestion,
	span: Span
): { from: string; to: string; leg: Leg }[] {
	const places: { id: string; name: string; at: GeoPoint | null }[] = [
		...sites.map(({ id, name, latitudeDeg, longitudeDeg }) => ({
			...{ id, name },
			at: { latitudeDeg, longitudeDeg }
		})),
		...crews.map(({ id, name, base }) => ({ id: baseOf(id), name, at: base }))
	];
	const dayList = daysOf(span, days.zone);
	const typed = new Map(days.ways.map((way) => [`${way.from}\n${way.to}`, way]));
	const said = (from: string, to: string): Leg | undefined => {
		const way = typed.get(`${from}\n${to}`);
		if (!way) return undefined;
		if (way.departures.length === 0) return { kind: 'road', minutes: way.minutes };
		const departures = dayList.flatMap((day) =>
			way.departures.map((minute): Departure => ({
				at: clockMoment(day, minute, days.zone),
				minutes: way.minutes
			}))
		);
		return { kind: 'boat', departures: departures.sort((p, q) => p.at - q.at) };
	};
	const minutesPerM = (60 * days.detour) / (1000 * days.roadKmH);
	return places.flatMap((from, i) =>
		places.slice(0, i).flatMap((to) => {
			const minutes =
				from.at && to.at
					? ON_THE_WAY_MIN + Math.round(minutesPerM * inverseGeodesic(from.at, to.at).lengthM)
					: UNKNOWN_WAY_MIN;
			const road: Leg = { kind: 'road', minutes };
			return [
				{ from: from.id, to: to.id, leg: said(from.name, to.name) ?? road },
				{ from: to.id, to: from.id, leg: said(to.name, from.name) ?? road }
			];
		})
	);
}

/** Light and weather at a site; what costs time to find is found once. */
function outsideOf(
	{ sites, days }: ProjectQuestion,
	within: Span
): (place: string | null) => Outside {
	const siteOf = new Map(sites.map((site) => [site.id, site]));
	const weather = new Map<string, WeatherHour[]>();
	for (const { site, at, ...hour } of days.weather) {
		const known = weather.get(site) ?? [];
		known.push({ ...hour, at: Math.floor(Date.parse(at) / MINUTE_MS) });
		weather.set(site, known);
	}
	const lightAt = new Map<string, Span[]>();
	return (place) => {
		const site = place === null ? undefined : siteOf.get(place);
		const light = (): Span[] => {
			if (!site) return [within];
			const known = lightAt.get(site.id) ?? lightSpans(site, days.light, within);
			lightAt.set(site.id, known);
			return known;
		};
		const hours = site ? (weather.get(site.name) ?? []) : [];
		return { within, light, hours, limits: days.limits };
	};
}

/** The problem that a project's days put. */
export function projectProblem(question: ProjectQuestion): ScheduleProblem {
	const { hops, crews, days, now } = question;
	const span = stretchOf(days);
	const outsideAt = outsideOf(question, span);
	const tasks = hops.flatMap((hop) => hop.tasks);
	const windows = windowsOf(tasks, (task) => workWindow(outsideAt(task.place), task));
	const known = new Set(days.crewIds);
	return {
		from: Math.min(Math.max(span.from, now), span.to),
		...{ to: span.to, tasks, windows },
		jobs: hops.flatMap((hop) =>
			hop.jobs.map((job) => {
				const end = ENDS.find((one) => job.id === jobId(hop.id, one));
				const crew = end === undefined ? null : hop.crews[end];
				// Somebody who is not of the project's crews is not planned with here.
				return crew !== null && known.has(crew) ? { ...job, crew } : job;
			})
		),
		ways: waysOf(legsOf(question, span), UNKNOWN_WAY_MIN),
		crews: crews
			.filter(({ id }) => known.has(id))
			.map((crew): WorkCrew => ({
				...{ id: crew.id, people: crew.people.length, skills: skillsOf(crew) },
				...{ equipment: crew.equipment, base: baseOf(crew.id), returns: true },
				hours: workingSpans(
					{
						...{ zone: crew.zone, days: days.workdays, daysOff: [], fromMin: crew.fromMin },
						toMin: Math.min(crew.toMin, days.awayByMin ?? Infinity)
					},
					span
				)
			}))
	};
}

/** The schedule of a project. Pure: the same question and effort give the same one. */
export function scheduleProject(question: ProjectQuestion, effort: Effort): ProjectSchedule {
	const problem = projectProblem(question);
	const span = stretchOf(question.days);
	const schedule = solve(problem, effort);
	const taskOf = new Map(
		question.hops.flatMap(({ tasks }) => tasks.map((task) => [task.id, task]))
	);
	const outsideAt = outsideOf(question, span);
	const hindrances = hindrancesOf(problem, schedule, (task, rule) =>
		workWindow(outsideAt(task.place), relaxed(task, rule))
	);
	const complete = schedule.unplaced.length === 0;
	const { finish, waitingMin, travelMin } = schedule.cost;
	return {
		span,
		stints: stintsOf([...schedule.placed.values()], taskOf),
		unplaced: [...hindrances].flatMap(([id, why]) => {
			const task = taskOf.get(id);
			return task ? [{ hop: task.hopId, end: task.end, title: task.title, why }] : [];
		}),
		gates: question.hops.flatMap(({ id, tasks }) => gateOf(id, tasks, schedule.placed)),
		finish: complete ? finish : null,
		bound: Number.isFinite(schedule.bound) ? schedule.bound : null,
		...{ waitingMin, travelMin }
	};
}

/** When both ends of a hop stand in the alignment state: before that no dish is swept. */
function gateOf(
	hop: string,
	tasks: readonly HopTask[],
	placed: ReadonlyMap<string, Placed>
): { hop: string; at: number }[] {
	const ready = tasks.filter(({ bench }) => bench === 'alignment-state');
	const ends = ready.map(({ id, real }) => real?.to ?? placed.get(id)?.to);
	const known = ends.filter((at) => at !== undefined);
	return known.length === ENDS.length ? [{ hop, at: Math.max(...known) }] : [];
}

/** Longest break within one stint, minutes: who waits longer drives off, or goes home. */
const STINT_BREAK_MIN = 240;

/** What follows one another of a crew at an end, put together. */
function stintsOf(placed: readonly Placed[], taskOf: ReadonlyMap<string, HopTask>): Stint[] {
	const stints: Stint[] = [];
	const open = new Map<string, Stint>();
	for (const { task: id, crew, from, to } of [...placed].sort((p, q) => p.from - q.from)) {
		const task = taskOf.get(id);
		if (!task || from === to) continue;
		const last = open.get(crew);
		const done = task.real?.done === true;
		const desk = task.place === null;
		const goesOn =
			last?.hop === task.hopId &&
			last.end === task.end &&
			last.done === done &&
			last.desk === desk &&
			from - last.to <= STINT_BREAK_MIN;
		if (goesOn) {
			last.to = Math.max(last.to, to);
			last.titles.push(task.title);
		} else {
			const stint = {
				...{ crew, hop: task.hopId, end: task.end, from, to, done, desk },
				titles: [task.title]
			};
			stints.push(stint);
			open.set(crew, stint);
		}
	}
	return stints;
}
