import { itemAt } from '../units/lists';
import { ableCrews, finishOf, lowerBound } from './bound';
import { makeRandomStream } from '../simulate/random';
import { Placing } from './place';
import type { Placed, ScheduleProblem, WorkTask } from './problem';

/** What a schedule costs: what is not done at all, then when all is done, then waiting, then the way, minutes. */
export interface Cost {
	unplaced: number;
	finish: number;
	waitingMin: number;
	travelMin: number;
}

export interface Schedule {
	placed: ReadonlyMap<string, Placed>;
	/** Tasks for which there is no place before the end. */
	unplaced: readonly string[];
	/** Crew of every job, by id. */
	crewOf: ReadonlyMap<string, string>;
	cost: Cost;
	/** No schedule is done before this; Infinity where not everything can be done. */
	bound: number;
	/** Whether every schedule there is was looked at, or ruled out. */
	proven: boolean;
}

/** Which of two schedules is the better one: below 0 the first, above 0 the second. */
export const better = (p: Cost, q: Cost): number =>
	p.unplaced - q.unplaced ||
	p.finish - q.finish ||
	p.waitingMin - q.waitingMin ||
	p.travelMin - q.travelMin;

/** Who does which job, and how early each job comes: what a search changes. */
export interface Choice {
	/** Place in the list of crews, by job; −1 where no crew can. */
	crews: Int32Array;
	/** Smaller comes first. */
	ranks: Float64Array;
}

/** What does not change while one problem is searched. */
class Desk {
	readonly jobAt: ReadonlyMap<string, number>;
	readonly able: readonly (readonly number[])[];
	readonly tasks: readonly WorkTask[];
	readonly jobOf: readonly number[];
	readonly next: readonly (readonly number[])[];
	readonly waitsFor: readonly number[];
	/** Minutes from the beginning of a task to the end of the last one that follows it. */
	readonly tail: readonly number[];

	constructor(readonly problem: ScheduleProblem) {
		const { jobs, tasks, crews } = problem;
		this.tasks = tasks;
		this.jobAt = new Map(jobs.map(({ id }, i) => [id, i]));
		this.able = jobs.map((job) => ableCrews(problem, job).map((crew) => crews.indexOf(crew)));
		const at = new Map(tasks.map(({ id }, i) => [id, i]));
		const next: number[][] = tasks.map(() => []);
		this.waitsFor = tasks.map((task, i) => {
			const open = task.after.filter((id) => {
				const before = at.get(id);
				return before !== undefined && !itemAt(tasks, before).real;
			});
			for (const id of open) next[at.get(id) ?? 0]?.push(i);
			return open.length;
		});
		this.next = next;
		this.jobOf = tasks.map(({ job }) => this.jobAt.get(job) ?? -1);
		const tail: number[] = tasks.map(() => -1);
		const tailOf = (i: number): number => {
			const known = itemAt(tail, i);
			if (known >= 0) return known;
			const after = itemAt(next, i).map(tailOf);
			return (tail[i] = itemAt(tasks, i).minutes + Math.max(0, ...after));
		};
		tasks.forEach((_, i) => tailOf(i));
		this.tail = tail;
	}

	crewOf({ crews }: Choice): Map<string, number> {
		const result = new Map<string, number>();
		for (const [id, at] of this.jobAt) {
			const crew = crews[at] ?? -1;
			if (crew >= 0) result.set(id, crew);
		}
		return result;
	}

	/** A schedule by a choice: again and again, the task that can begin first, sooner where its job has a lower rank. */
	decode(choice: Choice): Schedule {
		const { problem, tasks } = this;
		const crewOf = this.crewOf(choice);
		const placing = new Placing(problem, crewOf);
		const waits = [...this.waitsFor];
		const ready: number[] = [];
		tasks.forEach((task, i) => {
			if (!task.real && waits[i] === 0) ready.push(i);
		});
		// What was found for a task holds until one of its crews gets something else to do.
		const found = new Map<number, { stamp: number; from: number | undefined }>();
		const stampOf = (task: WorkTask): number =>
			this.stamp(placing, crewOf.get(task.job)) +
			(task.attends ? this.stamp(placing, crewOf.get(task.attends.job)) * 1.000_1 : 0);
		while (ready.length) {
			let best = -1;
			let bestScore = Infinity;
			let bestFrom = 0;
			for (let i = ready.length - 1; i >= 0; i -= 1) {
				const at = itemAt(ready, i);
				const task = itemAt(tasks, at);
				const stamp = stampOf(task);
				let known = found.get(at);
				if (known?.stamp !== stamp) {
					known = { stamp, from: placing.earliest(task) };
					found.set(at, known);
				}
				if (known.from === undefined) {
					// Whatever is put later, it does not become possible any more.
					ready.splice(i, 1);
					continue;
				}
				const rank = choice.ranks[itemAt(this.jobOf, at)] ?? 0;
				const score =
					(task.pin === null ? known.from + rank * RANK_MIN : known.from - PIN_FIRST_MIN) -
					itemAt(this.tail, at) * 1e-6;
				if (score < bestScore) {
					bestScore = score;
					best = at;
					bestFrom = known.from;
				}
			}
			if (best < 0) break;
			ready.splice(ready.indexOf(best), 1);
			placing.put(itemAt(tasks, best), bestFrom);
			for (const after of itemAt(this.next, best)) {
				const left = (waits[after] ?? 0) - 1;
				waits[after] = left;
				if (left === 0) ready.push(after);
			}
		}
		return this.told(placing, crewOf, false);
	}

	private stamp(placing: Placing, crew: number | undefined): number {
		return crew === undefined ? 0 : placing.freeAt(crew);
	}

	told(placing: Placing, crewOf: ReadonlyMap<string, number>, proven: boolean): Schedule {
		const { problem, tasks } = this;
		const unplaced = tasks.filter(({ id }) => !placing.isPlaced(id)).map(({ id }) => id);
		return {
			placed: placing.placed,
			unplaced,
			crewOf: new Map(
				[...crewOf].map(([job, crew]) => [job, itemAt(problem.crews, crew).id] as const)
			),
			cost: {
				unplaced: unplaced.length,
				finish: finishOf(problem, placing.placed.values()),
				waitingMin: Math.round(placing.idle.waitingMin),
				travelMin: Math.round(placing.idle.travelMin)
			},
			bound: NaN,
			proven
		};
	}
}

/** What one step of rank weighs against an earlier beginning, minutes. */
const RANK_MIN = 20;
/** A pinned task goes before others that begin up to this much sooner, minutes: they could be in its way. */
const PIN_FIRST_MIN = 0;

/** Jobs that wait for one another, as both ends of a hop: they are given out together. */
function groupsOf({ jobs, tasks }: ScheduleProblem): number[][] {
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

/** A first choice: hop after hop, to the able crews that have the least to do so far. */
function firstChoice(desk: Desk): Choice {
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
			// Two ends are two crews, where there are two.
			const free = able.filter((crew) => !taken.has(crew));
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

/** How far a search may go. */
export interface Effort {
	/** Schedules that are tried. */
	tries: number;
	seed: number;
	/** Called now and then with the share of the tries that is done; false ends the search with what it has. */
	onward?: (share: number, best: Cost) => boolean;
}

/** Tasks up to which every schedule is looked at. */
const MOST_EXACT = 8;
/** Tries between two calls of `onward`. */
const REPORT_EVERY = 20;
/** Tries that a worse schedule is remembered for: the search may go through it. */
const MEMORY = 12;

/**
 * A schedule for a problem: as soon done as it can be, then with the least waiting, then with the least travel. Small
 * ones are solved exactly; of others the best that a search finds, with a bound that none is done before. Pure: the
 * same problem and seed give the same schedule.
 */
export function solve(problem: ScheduleProblem, effort: Effort): Schedule {
	const bound = lowerBound(problem);
	const desk = new Desk(problem);
	const open = problem.tasks.filter(({ real }) => !real);
	if (open.length <= MOST_EXACT) return { ...exactly(desk, open), bound };
	let current = firstChoice(desk);
	let currentCost: Cost;
	let best = desk.decode(current);
	currentCost = best.cost;
	const random = makeRandomStream(effort.seed);
	const groups = groupsOf(problem);
	const late: Cost[] = Array.from({ length: MEMORY }, () => currentCost);
	for (let i = 0; i < effort.tries; i += 1) {
		if (i % REPORT_EVERY === 0 && effort.onward?.(i / effort.tries, best.cost) === false) break;
		if (best.cost.unplaced === 0 && best.cost.finish <= bound && best.cost.waitingMin === 0) break;
		const tried = changed(desk, current, groups, random);
		const schedule = desk.decode(tried);
		const { cost } = schedule;
		const remembered = itemAt(late, i % MEMORY);
		if (better(cost, currentCost) <= 0 || better(cost, remembered) <= 0) {
			current = tried;
			currentCost = cost;
		}
		late[i % MEMORY] = currentCost;
		if (better(cost, best.cost) < 0) best = schedule;
	}
	return { ...best, bound };
}

/** A choice that differs in one respect. */
function changed(
	desk: Desk,
	{ crews, ranks }: Choice,
	groups: readonly (readonly number[])[],
	random: () => number
): Choice {
	const next = { crews: crews.slice(), ranks: ranks.slice() };
	const pick = (n: number): number => Math.min(n - 1, Math.floor(random() * n));
	const what = random();
	if (what < 0.3) {
		const job = pick(crews.length);
		const able = itemAt(desk.able, job);
		if (able.length) next.crews[job] = itemAt(able, pick(able.length));
	} else if (what < 0.55) {
		const p = pick(crews.length);
		const q = pick(crews.length);
		const [a, b] = [crews[p] ?? -1, crews[q] ?? -1];
		if (itemAt(desk.able, p).includes(b) && itemAt(desk.able, q).includes(a)) {
			next.crews[p] = b;
			next.crews[q] = a;
		}
	} else if (what < 0.8) {
		const p = itemAt(groups, pick(groups.length));
		const q = itemAt(groups, pick(groups.length));
		const [a, b] = [ranks[p[0] ?? 0] ?? 0, ranks[q[0] ?? 0] ?? 0];
		for (const job of p) next.ranks[job] = b;
		for (const job of q) next.ranks[job] = a;
	} else if (what < 0.92) {
		const group = itemAt(groups, pick(groups.length));
		const rank = random() * groups.length;
		for (const job of group) next.ranks[job] = rank;
	} else {
		const job = pick(crews.length);
		next.ranks[job] = random() * groups.length;
	}
	return next;
}

/** Every crew for every job, every order of the tasks: what cannot be better than the best so far is left out. */
function exactly(desk: Desk, open: readonly WorkTask[]): Schedule {
	const { problem } = desk;
	let best: Schedule | undefined;
	const crews = new Int32Array(problem.jobs.length).fill(-1);
	const openIds = new Set(open.map(({ id }) => id));
	const order: { task: WorkTask; from: number }[] = [];
	const replay = (crewOf: ReadonlyMap<string, number>): Placing => {
		const placing = new Placing(problem, crewOf);
		for (const { task, from } of order) placing.put(task, from);
		return placing;
	};
	const search = (crewOf: ReadonlyMap<string, number>): void => {
		const placing = replay(crewOf);
		let deeper = false;
		for (const task of open) {
			if (placing.isPlaced(task.id)) continue;
			if (task.after.some((id) => openIds.has(id) && !placing.isPlaced(id))) continue;
			const from = placing.earliest(task);
			if (from === undefined) continue;
			deeper = true;
			// Nothing that is put later makes an end sooner.
			if (best?.cost.unplaced === 0 && from + task.minutes > best.cost.finish) continue;
			order.push({ task, from });
			search(crewOf);
			order.pop();
		}
		if (deeper) return;
		const told = desk.told(placing, crewOf, true);
		if (!best || better(told.cost, best.cost) < 0) best = told;
	};
	const give = (i: number): void => {
		if (i === crews.length) {
			search(desk.crewOf({ crews, ranks: new Float64Array(0) }));
			return;
		}
		const able = itemAt(desk.able, i);
		for (const crew of able.length ? able : [-1]) {
			crews[i] = crew;
			give(i + 1);
		}
	};
	give(0);
	return best ?? desk.decode({ crews, ranks: new Float64Array(problem.jobs.length) });
}
