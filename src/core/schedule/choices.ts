import { itemAt } from '../units/lists';
import type { ScheduleProblem } from './problem';
import { shortest } from './travel';

/** Who does which job, and how early each job comes: what a search changes. */
export interface Choice {
	/** Place in the list of crews, by job; −1 where no crew can. */
	crews: Int32Array;
	/** Smaller comes first. */
	ranks: Float64Array;
}

/** What choices are made from. */
export interface Given {
	problem: ScheduleProblem;
	/** Crews that can do a job, by job. */
	able: readonly (readonly number[])[];
	/** Job of a task, by task; −1 where there is none. */
	jobOf: readonly number[];
}

/** Jobs that wait for one another, as both ends of a hop: they are given out together. */
export function groupsOf({ jobs, tasks }: ScheduleProblem): number[][] {
	const at = new Map(jobs.map(({ id }, i) => [id, i]));
	const root = jobs.map((_, i) => i);
	const find = (i: number): number => {
		let r = i;
		while (itemAt(root, r) !== r) r = itemAt(root, r);
		return r;
	};
	for (const { job, attends } of tasks) {
		const p = at.get(job);
		const q = attends ? at.get(attends.job) : undefined;
		if (p !== undefined && q !== undefined) root[find(p)] = find(q);
	}
	const groups = new Map<number, number[]>();
	jobs.forEach((_, i) => {
		const r = find(i);
		groups.set(r, [...(groups.get(r) ?? []), i]);
	});
	return [...groups.values()];
}

/**
 * A first choice: hop after hop, to the able crews that have the least to do so far.
 *
 * @param apart whether two ends are two crews, where there are two; else one that goes back and forth
 */
export function firstChoice(desk: Given, apart: boolean): Choice {
	const { problem } = desk;
	const crews = new Int32Array(problem.jobs.length).fill(-1);
	const ranks = new Float64Array(problem.jobs.length);
	const load = problem.crews.map(() => 0);
	const work = problem.jobs.map(() => 0);
	problem.tasks.forEach(({ minutes }, i) => {
		const job = itemAt(desk.jobOf, i);
		if (job >= 0) work[job] = (work[job] ?? 0) + minutes;
	});
	groupsOf(problem).forEach((group, turn) => {
		const taken = new Set<number>();
		for (const job of group) {
			ranks[job] = turn;
			const able = itemAt(desk.able, job);
			const free = able.filter((crew) => taken.has(crew) !== apart);
			const crew = (free.length ? free : able).reduce<number>(
				(best, one) => (best < 0 || itemAt(load, one) < itemAt(load, best) ? one : best),
				-1
			);
			crews[job] = crew;
			if (crew < 0) continue;
			taken.add(crew);
			load[crew] = (load[crew] ?? 0) + itemAt(work, job);
		}
	});
	return { crews, ranks };
}

/** How far apart groups of jobs lie: minutes between those of their places that are nearest. */
export function apartness(
	{ problem, jobOf }: Given,
	groups: readonly (readonly number[])[]
): Float64Array[] {
	const { ways, tasks } = problem;
	const placesOf = problem.jobs.map((): string[] => []);
	tasks.forEach(({ place }, i) => {
		const list = placesOf[jobOf[i] ?? -1];
		if (list && place !== null && !list.includes(place)) list.push(place);
	});
	const places = groups.map((group) => group.flatMap((job) => itemAt(placesOf, job)));
	return places.map((from) =>
		Float64Array.from(places, (to) =>
			Math.min(Infinity, ...from.flatMap((p) => to.map((q) => shortest(ways, p, q))))
		)
	);
}

/** Groups one after the other, each the nearest of those that are left; the first is the one nearest to a crew. */
export function roundTrip(
	{ problem, jobOf }: Given,
	groups: readonly (readonly number[])[],
	far: readonly Float64Array[]
): number[] {
	if (groups.length === 0) return [];
	const { ways, crews, tasks } = problem;
	const base = crews[0]?.base ?? '';
	const reach = groups.map((group) =>
		Math.min(
			Infinity,
			...tasks.flatMap(({ place }, i) =>
				place !== null && group.includes(jobOf[i] ?? -1) ? [shortest(ways, base, place)] : []
			)
		)
	);
	const left = new Set(groups.keys());
	const order: number[] = [];
	const nearest = (distance: ArrayLike<number>): number =>
		[...left].reduce((best, one) =>
			(distance[one] ?? Infinity) < (distance[best] ?? Infinity) ? one : best
		);
	let at = nearest(reach);
	for (;;) {
		order.push(at);
		left.delete(at);
		if (left.size === 0) return order;
		at = nearest(itemAt(far, at));
	}
}

/**
 * A first choice by the map: the hops along a round trip in as many stretches as there are teams, of two crews where
 * the ends are to be two crews', each stretch with its share of the work.
 */
export function choiceByMap(
	desk: Given,
	groups: readonly (readonly number[])[],
	order: readonly number[],
	apart: boolean
): Choice {
	const { problem } = desk;
	const crews = new Int32Array(problem.jobs.length).fill(-1);
	const ranks = new Float64Array(problem.jobs.length);
	const size = apart ? 2 : 1;
	const teams = Array.from({ length: Math.ceil(problem.crews.length / size) }, (_, i) =>
		[...problem.crews.keys()].slice(i * size, (i + 1) * size)
	);
	const work = new Float64Array(problem.jobs.length);
	problem.tasks.forEach(({ minutes }, i) => {
		const job = itemAt(desk.jobOf, i);
		if (job >= 0) work[job] = (work[job] ?? 0) + minutes;
	});
	const total = work.reduce((sum, one) => sum + one, 0);
	const load = new Float64Array(problem.crews.length);
	let passed = 0;
	order.forEach((index, turn) => {
		const group = itemAt(groups, index);
		const own = group.reduce((sum, job) => sum + (work[job] ?? 0), 0);
		// The share of the crews that come before a team is the share of the work that does.
		const share = ((passed + own / 2) / Math.max(1, total)) * problem.crews.length;
		const team = itemAt(teams, Math.min(teams.length - 1, Math.floor(share / size)));
		passed += own;
		const taken = new Set<number>();
		for (const job of group) {
			ranks[job] = turn;
			const able = itemAt(desk.able, job);
			const here = team.filter((crew) => able.includes(crew));
			const free = here.filter((crew) => !taken.has(crew));
			const among = free.length ? free : here.length ? here : able;
			const crew = among.reduce<number>(
				(best, one) => (best < 0 || itemAt(load, one) < itemAt(load, best) ? one : best),
				-1
			);
			crews[job] = crew;
			if (crew < 0) continue;
			taken.add(crew);
			load[crew] = (load[crew] ?? 0) + (work[job] ?? 0);
		}
	});
	return { crews, ranks };
}

/** Groups that count as near to one. */
const NEAR = 4;

/** The nearest groups by their distances, without the one at 0 that is the group itself. */
export const nearestOf = (distance: Float64Array): number[] =>
	[...distance.keys()].sort((p, q) => (distance[p] ?? 0) - (distance[q] ?? 0)).slice(1, NEAR + 1);
