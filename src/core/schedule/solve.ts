import { itemAt } from '../units/lists';
import { ableCrews, finishOf, lowerBound } from './bound';
import {
	apartness,
	choiceByMap,
	firstChoice,
	groupsOf,
	nearestOf,
	placesOf,
	roundTrip,
	type Choice
} from './choices';
import { makeRandomStream } from '../simulate/random';
import { Placing } from './place';
import { windowKey, type Placed, type ScheduleProblem, type WorkTask } from './problem';

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
	/** Tasks of one job that may be done at the same times. */
	readonly alike: Int32Array;

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
		const kinds = new Map<string, number>();
		this.alike = Int32Array.from(tasks, (task) => {
			const kind = `${task.job}|${windowKey(task)}`;
			const known = kinds.get(kind) ?? kinds.size;
			kinds.set(kind, known);
			return known;
		});
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
		const crewOf = this.crewOf(choice);
		const placing = new Placing(this.problem, crewOf);
		new Decoding(this, choice, placing).run();
		return this.told(placing, crewOf, false);
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
/** Jobs of a crew that are looked at for what is next: those of the lowest ranks that have something to do. */
const JOBS_AHEAD = 4;

/** A task that can be next, and when. */
interface Candidate {
	at: number;
	from: number;
	score: number;
}

/** One schedule while it is made by a choice. */
class Decoding {
	private readonly waits: Int32Array;
	/** When all that a task waits for has ended, once it waits for nothing. */
	private readonly readyAt: Float64Array;
	/** Tasks that wait for nothing and that nobody attends, by job: the longest way to the end first. */
	private readonly ready: number[][];
	/** Tasks that wait for nothing and take two crews. */
	private readonly together: { at: number; jobs: readonly [number, number] }[] = [];
	/** Jobs of a crew by their rank. */
	private readonly jobsOf: readonly (readonly number[])[];
	/** The best of each crew by itself; undefined after it got something else to do. */
	private readonly own: (Candidate | null | undefined)[];
	/** When each task that takes two crews can begin; not there after one of them got something else to do. */
	private readonly found = new Map<number, Candidate | null>();

	constructor(
		private readonly desk: Desk,
		private readonly choice: Choice,
		private readonly placing: Placing
	) {
		const { problem, tasks } = desk;
		this.waits = Int32Array.from(desk.waitsFor);
		this.readyAt = new Float64Array(tasks.length);
		this.ready = problem.jobs.map(() => []);
		const jobs: number[][] = problem.crews.map(() => []);
		choice.crews.forEach((crew, job) => jobs[crew]?.push(job));
		for (const list of jobs) list.sort((p, q) => this.rank(p) - this.rank(q));
		this.jobsOf = jobs;
		this.own = problem.crews.map(() => undefined);
		tasks.forEach((task, i) => {
			if (!task.real && this.waits[i] === 0) this.add(i);
		});
	}

	private rank(job: number): number {
		return this.choice.ranks[job] ?? 0;
	}

	private add(at: number): void {
		const { tail, tasks, jobOf, jobAt } = this.desk;
		const task = itemAt(tasks, at);
		const { attends } = task;
		const job = itemAt(jobOf, at);
		this.readyAt[at] = this.placing.readyAt(task);
		if (attends) {
			this.together.push({ at, jobs: [job, jobAt.get(attends.job) ?? job] });
			return;
		}
		const list = this.ready[job];
		if (!list) return;
		const place = list.findIndex((other) => itemAt(tail, other) < itemAt(tail, at));
		list.splice(place < 0 ? list.length : place, 0, at);
		this.outOfDate(job);
	}

	run(): void {
		for (;;) {
			let best: Candidate | null = null;
			for (let crew = 0; crew < this.own.length; crew += 1) {
				let own = this.own[crew];
				if (own === undefined) this.own[crew] = own = this.bestOf(crew);
				if (own && (!best || own.score < best.score)) best = own;
			}
			for (const { at, jobs } of this.together) {
				let candidate = this.found.get(at);
				if (candidate === undefined) {
					candidate = this.candidate(at, jobs[0]);
					this.found.set(at, candidate);
				}
				if (candidate && (!best || candidate.score < best.score)) best = candidate;
			}
			if (!best) return;
			this.take(best);
		}
	}

	private take({ at, from }: Candidate): void {
		const { tasks, jobOf, next } = this.desk;
		const job = itemAt(jobOf, at);
		const pair = this.together.findIndex((one) => one.at === at);
		this.placing.put(itemAt(tasks, at), from);
		if (pair >= 0) {
			const [both] = this.together.splice(pair, 1);
			this.outOfDate(both?.jobs[1] ?? job);
		} else {
			const list = itemAt(this.ready, job);
			list.splice(list.indexOf(at), 1);
		}
		this.outOfDate(job);
		for (const after of itemAt(next, at)) {
			const left = (this.waits[after] ?? 0) - 1;
			this.waits[after] = left;
			if (left === 0) this.add(after);
		}
	}

	/** What was found for the crew of a job holds no longer. */
	private outOfDate(job: number): void {
		const crew = this.choice.crews[job] ?? -1;
		if (crew < 0) return;
		this.own[crew] = undefined;
		for (const { at, jobs } of this.together) {
			if (jobs.some((one) => this.choice.crews[one] === crew)) this.found.delete(at);
		}
	}

	/** The task that a crew can do next by itself with the lowest score. */
	private bestOf(crew: number): Candidate | null {
		const { tasks, alike } = this.desk;
		const rest = this.placing.restOf(crew);
		let ahead = 0;
		let best: Candidate | null = null;
		for (const job of itemAt(this.jobsOf, crew)) {
			const list = itemAt(this.ready, job);
			if (list.length === 0) continue;
			if (ahead >= JOBS_AHEAD) break;
			ahead += 1;
			const tried: number[] = [];
			for (const at of list) {
				// What is alike can begin no sooner than the one before it that begins today.
				const kind = alike[at] ?? -1;
				if (itemAt(tasks, at).pin === null && tried.includes(kind)) continue;
				const candidate = this.candidate(at, job);
				if (!candidate) continue;
				if (!best || candidate.score < best.score) best = candidate;
				if (candidate.from < rest) tried.push(kind);
			}
		}
		return best;
	}

	private candidate(at: number, job: number): Candidate | null {
		const task = itemAt(this.desk.tasks, at);
		const from = this.placing.earliestAfter(task, this.readyAt[at] ?? 0);
		if (from === undefined) return null;
		const rank = task.pin === null ? this.rank(job) * RANK_MIN : 0;
		return { at, from, score: from + rank - itemAt(this.desk.tail, at) * 1e-6 };
	}
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
	const groups = groupsOf(problem);
	const places = placesOf(desk, groups);
	const far = apartness(problem, places);
	const order = roundTrip(problem, places, far);
	const starts = [true, false]
		.flatMap((apart) => [firstChoice(desk, groups, apart), choiceByMap(desk, groups, order, apart)])
		.map((choice) => {
			const schedule = desk.decode(choice);
			return { choice, schedule, height: heightOf(problem, schedule) };
		});
	const start = starts.reduce((best, one) => (one.height < best.height ? one : best));
	let { choice: current, schedule: best, height } = start;
	let last = lastCrew(problem, best);
	const random = makeRandomStream(effort.seed);
	const near = far.map((distance) => nearestOf(distance));
	const late = Array.from({ length: MEMORY }, () => height);
	for (let i = 0; i < effort.tries; i += 1) {
		if (i % REPORT_EVERY === 0 && effort.onward?.(i / effort.tries, best.cost) === false) break;
		if (best.cost.unplaced === 0 && best.cost.finish <= bound && best.cost.waitingMin === 0) break;
		const tried = changed(desk, { ...current, last }, { groups, near }, random);
		const schedule = desk.decode(tried);
		const { cost } = schedule;
		const its = heightOf(problem, schedule);
		if (its <= height || its <= itemAt(late, i % MEMORY)) {
			current = tried;
			height = its;
			last = lastCrew(problem, schedule);
		}
		late[i % MEMORY] = height;
		if (better(cost, best.cost) < 0) best = schedule;
	}
	return { ...best, bound };
}

/**
 * What the search goes down by. Besides the last of all tasks it counts when every crew is done: of two schedules that
 * end at once, the one whose crews are done sooner has more room to become better.
 */
function heightOf({ from, crews }: ScheduleProblem, { placed, cost }: Schedule): number {
	const last = new Map<string, number>();
	for (const { crew, to } of placed.values()) last.set(crew, Math.max(last.get(crew) ?? from, to));
	let sum = 0;
	for (const to of last.values()) sum += to - from;
	const each = sum / Math.max(1, crews.length);
	return (
		cost.unplaced * UNPLACED_MIN +
		(cost.finish - from) +
		CREWS_WEIGHT * each +
		IDLE_WEIGHT * (cost.waitingMin + cost.travelMin)
	);
}

/** Place in the list of the crew that is done last. */
function lastCrew({ crews }: ScheduleProblem, { placed, cost }: Schedule): number {
	for (const { crew, to } of placed.values()) {
		if (to === cost.finish) return crews.findIndex(({ id }) => id === crew);
	}
	return 0;
}

/** What a task without a place weighs, and what crews and idle minutes do, against a minute of the finish. */
const UNPLACED_MIN = 1e6;
const CREWS_WEIGHT = 1;
const IDLE_WEIGHT = 0.02;

/** A choice that differs in one respect. */
function changed(
	desk: Desk,
	{ crews, ranks, last }: Choice & { last: number },
	{
		groups,
		near
	}: { groups: readonly (readonly number[])[]; near: readonly (readonly number[])[] },
	random: () => number
): Choice {
	const next = { crews: crews.slice(), ranks: ranks.slice() };
	const pick = (n: number): number => Math.min(n - 1, Math.floor(random() * n));
	/** As often as not a job of the crew that is done last: the others do not make the end. */
	const someJob = (): number => {
		if (random() < 0.5) return pick(crews.length);
		const own = [...crews.keys()].filter((job) => crews[job] === last);
		return own.length ? itemAt(own, pick(own.length)) : pick(crews.length);
	};
	const groupOf = (job: number): readonly number[] =>
		groups.find((group) => group.includes(job)) ?? [job];
	const what = random();
	if (what < 0.18) {
		// A whole hop right behind one that is near, by its crews.
		const at = pick(groups.length);
		const group = itemAt(groups, at);
		const others = itemAt(near, at);
		if (others.length === 0) return next;
		const other = itemAt(groups, itemAt(others, pick(others.length)));
		const rank = (ranks[other[0] ?? 0] ?? 0) + (random() < 0.5 ? 0.5 : -0.5);
		const flip = random() < 0.5;
		group.forEach((job, i) => {
			next.ranks[job] = rank;
			const crew = crews[other[(flip ? other.length - 1 - i : i) % other.length] ?? 0] ?? -1;
			if (itemAt(desk.able, job).includes(crew)) next.crews[job] = crew;
		});
		return next;
	}
	if (what < 0.27) {
		// A whole hop to one crew, or to two.
		const group = groupOf(someJob());
		const apart = random() < 0.5;
		const first = itemAt(group, 0);
		const able = itemAt(desk.able, first);
		if (able.length === 0) return next;
		const crew = itemAt(able, pick(able.length));
		for (const job of group) {
			const others = itemAt(desk.able, job).filter((one) => (one === crew) !== apart);
			if (job === first) next.crews[job] = crew;
			else if (others.length) next.crews[job] = itemAt(others, pick(others.length));
		}
	} else if (what < 0.4) {
		const job = someJob();
		const able = itemAt(desk.able, job);
		if (able.length) next.crews[job] = itemAt(able, pick(able.length));
	} else if (what < 0.6) {
		const p = someJob();
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
