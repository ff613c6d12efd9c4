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

/** A choice as it is made: job after job to a crew, and how much each crew has to do so far. */
class Giving {
	readonly choice: Choice;
	/** Minutes of the tasks of each job. */
	readonly work: Float64Array;
	private readonly load: Float64Array;

	constructor({ problem, jobOf }: Given) {
		const { jobs, crews, tasks } = problem;
		this.choice = {
			crews: new Int32Array(jobs.length).fill(-1),
			ranks: new Float64Array(jobs.length)
		};
		this.load = new Float64Array(crews.length);
		this.work = new Float64Array(jobs.length);
		tasks.forEach(({ minutes }, i) => {
			const job = itemAt(jobOf, i);
			if (job >= 0) this.work[job] = (this.work[job] ?? 0) + minutes;
		});
	}

	/** Gives a job to the one of some crews that has the least to do so far; −1 where there is none. */
	give(job: number, rank: number, among: readonly number[]): number {
		const crew = among.reduce<number>(
			(best, one) => (best < 0 || (this.load[one] ?? 0) < (this.load[best] ?? 0) ? one : best),
			-1
		);
		this.choice.ranks[job] = rank;
		this.choice.crews[job] = crew;
		if (crew >= 0) this.load[crew] = (this.load[crew] ?? 0) + (this.work[job] ?? 0);
		return crew;
	}
}

/**
 * A first choice: hop after hop, to the able crews that have the least to do so far.
 *
 * @param apart whether two ends are two crews, where there are two; else one that goes back and forth
 */
export function firstChoice(
	given: Given,
	groups: readonly (readonly number[])[],
	apart: boolean
): Choice {
	const giving = new Giving(given);
	groups.forEach((group, turn) => {
		const taken = new Set<number>();
		for (const job of group) {
			const able = itemAt(given.able, job);
			const free = able.filter((crew) => taken.has(crew) !== apart);
			taken.add(giving.give(job, turn, free.length ? free : able));
		}
	});
	return giving.choice;
}

/** Places at which there is something to do, by groups of jobs. */
export function placesOf(
	{ problem, jobOf }: Given,
	groups: readonly (readonly number[])[]
): string[][] {
	const ofJob = problem.jobs.map(() => new Set<string>());
	problem.tasks.forEach(({ place }, i) => {
		if (place !== null) ofJob[jobOf[i] ?? -1]?.add(place);
	});
	return groups.map((group) => [...new Set(group.flatMap((job) => [...itemAt(ofJob, job)]))]);
}

/** Minutes between those of two lists of places that are nearest; Infinity where one is empty. */
const minutesApart = (
	{ ways }: ScheduleProblem,
	from: readonly string[],
	to: readonly string[]
): number => Math.min(Infinity, ...from.flatMap((p) => to.map((q) => shortest(ways, p, q))));

/** How far apart groups lie, by their places. */
export const apartness = (
	problem: ScheduleProblem,
	places: readonly (readonly string[])[]
): Float64Array[] =>
	places.map((from) => Float64Array.from(places, (to) => minutesApart(problem, from, to)));

/** Groups one after the other, each the nearest of those that are left; the first is the one nearest to a crew. */
export function roundTrip(
	problem: ScheduleProblem,
	places: readonly (readonly string[])[],
	far: readonly Float64Array[]
): number[] {
	if (places.length === 0) return [];
	const base = problem.crews[0]?.base ?? '';
	const left = new Set(places.keys());
	const order: number[] = [];
	const nearest = (distance: ArrayLike<number>): number =>
		[...left].reduce((best, one) =>
			(distance[one] ?? Infinity) < (distance[best] ?? Infinity) ? one : best
		);
	let at = nearest(places.map((own) => minutesApart(problem, [base], own)));
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
	given: Given,
	groups: readonly (readonly number[])[],
	order: readonly number[],
	apart: boolean
): Choice {
	const { crews } = given.problem;
	const size = apart ? 2 : 1;
	const teams = Array.from({ length: Math.ceil(crews.length / size) }, (_, i) =>
		[...crews.keys()].slice(i * size, (i + 1) * size)
	);
	const giving = new Giving(given);
	const total = giving.work.reduce((sum, one) => sum + one, 0);
	let passed = 0;
	order.forEach((index, turn) => {
		const group = itemAt(groups, index);
		const own = group.reduce((sum, job) => sum + (giving.work[job] ?? 0), 0);
		// The share of the crews that come before a team is the share of the work that does.
		const share = ((passed + own / 2) / Math.max(1, total)) * crews.length;
		const team = teams[Math.min(teams.length - 1, Math.floor(share / size))] ?? [];
		passed += own;
		const taken = new Set<number>();
		for (const job of group) {
			const able = itemAt(given.able, job);
			const here = team.filter((crew) => able.includes(crew));
			const free = here.filter((crew) => !taken.has(crew));
			taken.add(giving.give(job, turn, free.length ? free : here.length ? here : able));
		}
	});
	return giving.choice;
}

/** Groups that count as near to one. */
const NEAR = 4;

/** The nearest groups by their distances, without the one at 0 that is the group itself. */
export const nearestOf = (distance: Float64Array): number[] =>
	[...distance.keys()].sort((p, q) => (distance[p] ?? 0) - (distance[q] ?? 0)).slice(1, NEAR + 1);
