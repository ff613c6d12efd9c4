import { ENDS, type PerEnd } from '../ends';
import { inverseGeodesic, type GeoPoint } from '../geodesy/geodesic';
import { skillsOf, type Crew } from './crew';
import { MOST_DAYS, stretchOf, USUAL_LIMITS } from './dayPlan';
import { clockMoment, daysOf, lightSpans, workingSpans, type LightSchool } from './hours';
import type { Job, ScheduleProblem, WorkCrew } from './problem';
import type { Span } from './spans';
import { jobId, type HopJob, type HopTask } from './tasks';
import type { Tool } from '../tower/buildStep';
import { waysOf, type Departure, type Leg } from './travel';
import type { WeatherHour, WeatherLimits } from './weather';
import { windowsOf, workWindow, type Outside } from './windows';

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
	/** What only some crews have, and the tool of the steps that it is needed for. */
	needs: readonly { equipment: string; tool: Tool }[];
	/** Tasks that a person has put somewhere: the crew of their end is there then. */
	pins: readonly { task: string; at: string }[];
	/** Whether somebody who signs for the customer comes to every hop; else it is signed elsewhere. */
	acceptOnSite: boolean;
}

export const MOST_PROJECT_DAYS = 90;
export const MOST_WAYS = 400;
export const MOST_SITE_WEATHER = 5000;
export const MOST_PINS = 400;
export const MOST_NEEDS = 60;

/** What nobody has changed yet. */
export const usualProjectDays = (
	firstDay: string,
	zone: string,
	crewIds: readonly string[]
): ProjectDays => ({
	...{ zone, firstDay, days: MOST_DAYS, workdays: [1, 2, 3, 4, 5], light: 'civil' as const },
	...{ crewIds, roadKmH: 50, detour: 1.4, ways: [], limits: USUAL_LIMITS, weather: [] },
	...{ awayByMin: null, needs: [], pins: [], acceptOnSite: false }
});

/** A hop of a project, with what is left to do there. */
export interface ProjectHop {
	id: string;
	/** With what really happened of them. */
	tasks: readonly HopTask[];
	jobs: readonly HopJob[];
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
	/** By when all is to be done, as `2026-06-15`; null where nobody has said. */
	dueDay: string | null;
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
export function outsideOf(
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

/** A task with where somebody put it; one that is begun goes on at least until now. */
function asItStands(task: HopTask, pin: number | null, now: number): HopTask {
	const { real } = task;
	if (!real) return pin === null ? task : { ...task, pin };
	return real.done || real.to >= now ? task : { ...task, real: { ...real, to: now } };
}

/** The problem that a project's days put. */
export function projectProblem(question: ProjectQuestion): ScheduleProblem {
	const { hops, crews, days, now } = question;
	const span = stretchOf(days);
	const outsideAt = outsideOf(question, span);
	const pins = new Map(days.pins.map(({ task, at }) => [task, Date.parse(at) / MINUTE_MS]));
	const tasks = hops.flatMap((hop) =>
		hop.tasks.map((task) => asItStands(task, pins.get(task.id) ?? null, now))
	);
	const windows = windowsOf(tasks, (task) => workWindow(outsideAt(task.place), task));
	const known = new Set(days.crewIds);
	return {
		from: Math.min(Math.max(span.from, now), span.to),
		...{ to: span.to, tasks, windows },
		jobs: hops.flatMap((hop) =>
			hop.jobs.map((job): Job => {
				const end = ENDS.find((one) => job.id === jobId(hop.id, one));
				const crew = end === undefined ? null : hop.crews[end];
				return {
					...job,
					equipment: days.needs
						.filter(({ tool }) => job.tools.includes(tool))
						.map(({ equipment }) => equipment),
					// Somebody who is not of the project's crews is not planned with here.
					crew: crew !== null && known.has(crew) ? crew : job.crew
				};
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
