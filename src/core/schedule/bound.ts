import {
	canDo,
	windowKey,
	type Job,
	type ScheduleProblem,
	type WorkCrew,
	type WorkTask
} from './problem';
import { inBoth, joined, minutesUntil, type Span, type Spans } from './spans';
import { shortest, type Ways } from './travel';

/** Fewest minutes from place to place, by way of others too. */
type Near = (from: string, to: string) => number;

function nearOf(ways: Ways, places: readonly string[]): Near {
	const at = new Map(places.map((place, i) => [place, i]));
	const n = places.length;
	const least = new Float64Array(n * n);
	places.forEach((from, i) =>
		places.forEach((to, j) => (least[i * n + j] = shortest(ways, from, to)))
	);
	for (let k = 0; k < n; k += 1) {
		for (let i = 0; i < n; i += 1) {
			const first = least[i * n + k] ?? Infinity;
			for (let j = 0; j < n; j += 1) {
				const by = first + (least[k * n + j] ?? Infinity);
				if (by < (least[i * n + j] ?? Infinity)) least[i * n + j] = by;
			}
		}
	}
	return (from, to) => least[(at.get(from) ?? 0) * n + (at.get(to) ?? 0)] ?? Infinity;
}

const nearIn = ({ ways, tasks, crews }: ScheduleProblem): Near =>
	nearOf(ways, [
		...new Set([
			...crews.map(({ base }) => base),
			...tasks.flatMap(({ place, attends }) => [
				...(place === null ? [] : [place]),
				...(attends ? [attends.place] : [])
			])
		])
	]);

/** Tasks so that each stands behind all that come before it. Throws where they wait for one another in a ring. */
export function inOrder(tasks: readonly WorkTask[]): WorkTask[] {
	const byId = new Map(tasks.map((task) => [task.id, task]));
	const done = new Set<string>();
	const open = new Set<string>();
	const result: WorkTask[] = [];
	const visit = (task: WorkTask): void => {
		if (done.has(task.id)) return;
		if (open.has(task.id)) throw new Error(`${task.id} waits for itself`);
		open.add(task.id);
		for (const id of task.after) {
			const before = byId.get(id);
			if (before) visit(before);
		}
		open.delete(task.id);
		done.add(task.id);
		result.push(task);
	};
	for (const task of tasks) visit(task);
	return result;
}

/** Crews that may do a job. */
export const ableCrews = (problem: ScheduleProblem, job: Job): WorkCrew[] =>
	problem.crews.filter((crew) => (job.crew === null || job.crew === crew.id) && canDo(crew, job));

/**
 * When each task can end at the earliest, as if there were crews without number: no schedule ends one sooner.
 *
 * @returns by task; Infinity where one cannot be done at all
 */
export function earliestEnds(
	problem: ScheduleProblem,
	near: Near = nearIn(problem)
): Map<string, number> {
	const jobs = new Map(problem.jobs.map((job) => [job.id, job]));
	const spansOf = new Map<string, Spans>();
	const workable = (task: WorkTask): Spans => {
		const key = `${task.job}|${windowKey(task)}`;
		const known = spansOf.get(key);
		if (known) return known;
		const job = jobs.get(task.job);
		const crews = job ? ableCrews(problem, job) : [];
		const windows = problem.windows.get(windowKey(task));
		// Hours of one crew after the other: those of two that meet are not one stretch of work.
		const hours = crews.flatMap((crew) => reachable(problem, near, crew, task.place));
		const within = windows ? hours.flatMap((span) => inBoth([span], windows)) : hours;
		const sorted = [...within].sort((p, q) => p.from - q.from);
		spansOf.set(key, sorted);
		return sorted;
	};
	const ends = new Map<string, number>();
	for (const task of inOrder(problem.tasks)) {
		if (task.real) {
			ends.set(task.id, task.real.to);
			continue;
		}
		let notBefore = Math.max(problem.from, task.pin ?? -Infinity);
		for (const id of task.after) notBefore = Math.max(notBefore, ends.get(id) ?? -Infinity);
		ends.set(task.id, earliestEnd(workable(task), notBefore, task.minutes));
	}
	return ends;
}

/** The same as {@link earliestWithin} for stretches that may lie over one another. */
function earliestEnd(spans: Spans, notBefore: number, minutes: number): number {
	let best = Infinity;
	for (const { from, to } of spans) {
		if (from >= best) break;
		const end = Math.max(from, notBefore) + minutes;
		if (end <= to) best = Math.min(best, end);
	}
	return best;
}

/** The hours of a crew in which it can be at a place, at most: the way there, and back where it goes back. */
function reachable(
	{ from, to, tasks }: ScheduleProblem,
	near: Near,
	{ hours, base, returns }: WorkCrew,
	place: string | null
): Span[] {
	const within = inBoth(hours, [{ from, to }]);
	if (place === null || place === base) return within;
	// Who has begun something may stand there already.
	const isOut = tasks.some(({ real }) => real !== null);
	const way = near(base, place);
	if (!returns) {
		// It need not come from its base but for the first time.
		const first = isOut ? undefined : within[0];
		return first
			? within.map((span) => ({ ...span, from: Math.max(span.from, first.from + way) }))
			: within;
	}
	const back = near(place, base);
	return within.map((span) => ({
		from: isOut && span.from === from ? from : span.from + way,
		to: span.to - back
	}));
}

/**
 * When all can be done at the earliest: no schedule ends sooner. The greater of what the tasks ask for by their order
 * and their windows, and what there is to do for all crews together by their hours.
 *
 * @returns minutes since 1970; Infinity where some task cannot be done at all
 */
export function lowerBound(problem: ScheduleProblem): number {
	const open = problem.tasks.filter(({ real }) => !real?.done);
	if (open.length === 0) return problem.from;
	const near = nearIn(problem);
	const ends = earliestEnds(problem, near);
	const byOrder = Math.max(...problem.tasks.map(({ id }) => ends.get(id) ?? problem.from));
	return Math.max(byOrder, byWork(problem, open, near));
}

/** By the sum of the work: every minute of it, and the ways to it, out of the hours of the crews. */
function byWork(problem: ScheduleProblem, open: readonly WorkTask[], near: Near): number {
	const { crews, from } = problem;
	const worth = crews.every(({ returns }) => returns)
		? worthByDays(problem, open, near)
		: worthByWays(problem, open, near);
	let work = bothEndsOf(open, near);
	// What is begun stands where it is, whatever the hours of its crew.
	for (const { minutes, real, place } of open) if (!real) work += minutes * worth.of(place);
	work += worth.ways;
	const capacity = (until: number): number =>
		crews.reduce((sum, crew) => sum + worth.capacity(crew, until), 0);
	if (capacity(problem.to) < work) return Infinity;
	let low = from;
	let high = problem.to;
	while (high - low > 1) {
		const middle = Math.floor((low + high) / 2);
		if (capacity(middle) >= work) high = middle;
		else low = middle;
	}
	return high;
}

/** How work and the hours of crews are weighed against each other. */
interface Worth {
	/** What a minute of work counts at a place, 1 or more. */
	of: (place: string | null) => number;
	/** Ways that somebody goes at any rate, minutes. */
	ways: number;
	/** What a crew can do until a moment, at most, counted so. */
	capacity: (crew: WorkCrew, until: number) => number;
}

/**
 * Where crews go home every day: who works at a place loses the way there and back on that day, so that of the longest
 * hours H of any crew at most H less that way is work there. Counted with H over that, no day gives more than its hours,
 * wherever it is spent. The last day is one without a way back yet.
 */
function worthByDays(
	{ crews, from }: ScheduleProblem,
	open: readonly WorkTask[],
	near: Near
): Worth {
	const places = [...new Set(open.flatMap(({ place }) => (place === null ? [] : [place])))];
	const wayOf = (base: string, place: string): number => near(base, place) + near(place, base);
	const longest = Math.max(
		0,
		...crews.flatMap(({ hours }) => hours.map((span) => span.to - span.from))
	);
	const weights = new Map(
		places.map((place) => {
			const way = Math.min(...crews.map(({ base }) => wayOf(base, place)));
			return [place, way < longest ? longest / (longest - way) : 1] as const;
		})
	);
	const waysOfBase = new Map(
		crews.map(({ base }) => [
			base,
			places.map((place) => ({
				out: near(base, place),
				back: near(place, base),
				weight: weights.get(place) ?? 1
			}))
		])
	);
	return {
		of: (place) => (place === null ? 1 : (weights.get(place) ?? 1)),
		ways: 0,
		capacity: ({ hours, base }, until) => {
			let sum = 0;
			for (const span of hours) {
				const begin = Math.max(span.from, from);
				const whole = span.to - begin;
				const passed = Math.min(span.to, until) - begin;
				if (passed <= 0) continue;
				// Who is under way already stands somewhere: there is no way out any more.
				const isOut = span.from < from;
				let most = passed;
				// Of a whole day that is over the ways back are over too: it gives its hours.
				if (isOut || passed < whole) {
					for (const { out, back, weight } of waysOfBase.get(base) ?? []) {
						const way = isOut ? 0 : out;
						most = Math.max(most, Math.min(passed - way, whole - way - back) * weight);
					}
				}
				sum += most;
			}
			return sum;
		}
	};
}

/** Where some crew stays out overnight: somebody comes to each place at least once, from a base or another place. */
function worthByWays(problem: ScheduleProblem, open: readonly WorkTask[], near: Near): Worth {
	const { crews, from } = problem;
	const places = new Set(open.flatMap(({ place }) => (place === null ? [] : [place])));
	const bases = new Set(crews.map(({ base }) => base));
	// Where crews start it is free, and who comes from home every day is counted by their days.
	const reached = crews.some(({ returns }) => returns)
		? []
		: [...places].filter((place) => !bases.has(place));
	const starts = [...bases, ...places];
	const ways = reached.reduce(
		(sum, place) =>
			sum +
			Math.min(...starts.filter((start) => start !== place).map((start) => near(start, place))),
		0
	);
	const leastWay = (base: string): number =>
		Math.min(...[...places].map((place) => near(base, place) + near(place, base)));
	const lost = new Map([...bases].map((base) => [base, leastWay(base)]));
	return {
		of: () => 1,
		ways,
		capacity: ({ hours, base, returns }, until) =>
			minutesUntil(
				joined(
					hours.map((span) => ({
						from: Math.max(span.from, from),
						to: span.to - (returns ? (lost.get(base) ?? 0) : 0)
					}))
				),
				until
			)
	};
}

/**
 * What work at both ends at once takes at least, beside its own minutes: another crew stands at the far end
 * meanwhile, or one goes back and forth between them.
 */
function bothEndsOf(open: readonly WorkTask[], near: Near): number {
	const pairs = new Map<string, { watched: number; ways: number[] }>();
	const byId = new Map(open.map((task) => [task.id, task]));
	for (const task of open) {
		const { attends, job, place, minutes, real } = task;
		if (!attends || place === null || real) continue;
		const key = [job, attends.job].sort().join('|');
		const pair = pairs.get(key) ?? { watched: 0, ways: [] };
		pair.watched += minutes;
		const before = task.after.map((id) => byId.get(id)).find((one) => one?.attends?.job === job);
		if (before?.place && !before.real) pair.ways.push(near(before.place, place));
		pairs.set(key, pair);
	}
	let sum = 0;
	for (const { watched, ways } of pairs.values()) {
		// The first way over is the one by which somebody comes there at all.
		const back = ways.slice(1).reduce((minutes, way) => minutes + way, 0);
		sum += Math.min(watched, back);
	}
	return sum;
}

/** The moment at which the last task ends; the beginning where there is none. */
export function finishOf(problem: ScheduleProblem, ends: Iterable<{ to: number }>): number {
	let last = problem.from;
	for (const { to } of ends) last = Math.max(last, to);
	return last;
}
