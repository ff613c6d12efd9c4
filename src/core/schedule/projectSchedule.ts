import { ENDS, type End } from '../ends';
import { itemAt } from '../units/lists';
import { finishOf } from './bound';
import { chancesOf } from './chance';
import { stretchOf } from './dayPlan';
import { hindrancesOf, type Hindrance } from './hindrance';
import { clockMoment, daysOf } from './hours';
import { Placing } from './place';
import type { Placed, ScheduleProblem, WorkTask } from './problem';
import { outsideOf, projectProblem, type ProjectQuestion } from './projectDays';
import { solve, type Effort, type Schedule } from './solve';
import type { Span } from './spans';
import type { HopTask } from './tasks';
import { relaxed, workWindow } from './windows';

/** A crew at an end without a break in between, on one day. */
export interface Stint extends Span {
	crew: string;
	hop: string;
	end: End;
	/** What is done, in the order of its beginning. */
	titles: string[];
	/** Whether it is over, or under way, by the records: neither is put anywhere else. */
	done: boolean;
	begun: boolean;
	/** Done on a desk, before anybody drives there. */
	desk: boolean;
	/** Id of the first task of it: what is put somewhere else when all of it is. */
	first: string;
	/** Whether a person has put that where it is. */
	pinned: boolean;
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
	/** How probable it is that all is done in time; none where not everything has a place. */
	chances: ProjectChance[];
}

/** How probable it is that all of a project is done by the end of a day. */
export interface ProjectChance {
	/** The day on which it is planned to be done, or by which it is due. */
	what: 'that-day' | 'due';
	/** End of that day, minutes since 1970. */
	at: number;
	/** Share of the runs in which it was, and how many runs were gone through. */
	share: number;
	runs: number;
	/** The task whose time decides most. */
	decides: { hop: string; end: End; title: string } | null;
}

/** What a schedule is moved from: every task with its crew, as it was placed. */
export type KeptOrder = readonly Placed[];

/** A schedule as it has moved by what was recorded since. */
export interface MovedSchedule {
	stints: Stint[];
	gates: { hop: string; at: number }[];
	/** When the last task ends; null where something has no place any more. */
	finish: number | null;
	/** What has no place any more before the last day. */
	lost: { hop: string; end: End; title: string }[];
}

/** Minutes of a day. */
const DAY_MIN = 1440;

const tasksOf = ({ hops }: ProjectQuestion): Map<string, HopTask> =>
	new Map(hops.flatMap(({ tasks }) => tasks.map((task) => [task.id, task])));

/**
 * The schedule of a project, with the order of its tasks that it can be moved by. Pure: the same question, effort and
 * number of runs give the same one.
 *
 * @param runs that its chances are found by, 0 for none, else 2 or more
 */
export function workOutProject(
	question: ProjectQuestion,
	effort: Effort,
	runs: number
): { schedule: ProjectSchedule; order: Placed[] } {
	const problem = projectProblem(question);
	const span = stretchOf(question.days);
	const solved = solve(problem, effort);
	const taskOf = tasksOf(question);
	const outsideAt = outsideOf(question, span);
	const hindrances = hindrancesOf(problem, solved, (task, rule) =>
		workWindow(outsideAt(task.place), relaxed(task, rule))
	);
	const complete = solved.unplaced.length === 0;
	const { finish, waitingMin, travelMin } = solved.cost;
	const schedule: ProjectSchedule = {
		span,
		stints: stintsOf(solved.placed.values(), taskOf, pinsOf(question)),
		unplaced: [...hindrances].flatMap(([id, why]) => {
			const task = taskOf.get(id);
			return task ? [{ hop: task.hopId, end: task.end, title: task.title, why }] : [];
		}),
		gates: question.hops.flatMap(({ id, tasks }) => gateOf(id, tasks, solved.placed)),
		finish: complete ? finish : null,
		bound: Number.isFinite(solved.bound) ? solved.bound : null,
		...{ waitingMin, travelMin },
		chances: complete && runs > 0 ? projectChances(question, problem, solved, runs) : []
	};
	return { schedule, order: [...solved.placed.values()] };
}

/** The schedule of a project without its chances. */
export const scheduleProject = (question: ProjectQuestion, effort: Effort): ProjectSchedule =>
	workOutProject(question, effort, 0).schedule;

const pinsOf = ({ days }: ProjectQuestion): ReadonlySet<string> =>
	new Set(days.pins.map(({ task }) => task));

const SEED = 1;

function projectChances(
	question: ProjectQuestion,
	problem: ScheduleProblem,
	solved: Schedule,
	runs: number
): ProjectChance[] {
	const { days, dueDay } = question;
	const all = problem.tasks.map(({ id }) => id);
	const planned = daysOf({ from: solved.cost.finish, to: solved.cost.finish + 1 }, days.zone)[0];
	const wanted = [
		...(planned === undefined ? [] : [{ key: 'that-day' as const, day: planned }]),
		...(dueDay === null || dueDay === planned ? [] : [{ key: 'due' as const, day: dueDay }])
	].map(({ key, day }) => ({ key, at: clockMoment(day, DAY_MIN, days.zone), tasks: all }));
	const taskOf = tasksOf(question);
	return chancesOf(problem, solved, wanted, { days: runs, seed: SEED }).map((chance, i) => {
		const task = chance.decides ? taskOf.get(chance.decides.task) : undefined;
		const { key, at } = itemAt(wanted, i);
		return {
			...{ what: key, at, share: chance.share, runs },
			decides: task ? { hop: task.hopId, end: task.end, title: task.title } : null
		};
	});
}

/**
 * A schedule as it moves by what really happened: the same crews do the same tasks in the same order, what is done at
 * its real time, the rest as soon after it as light, weather and ways let them.
 *
 * @param question with what happened until now
 */
export function moveProject(question: ProjectQuestion, order: KeptOrder): MovedSchedule {
	const problem = projectProblem(question);
	const taskOf = new Map(problem.tasks.map((task) => [task.id, task]));
	const at = new Map(problem.crews.map(({ id }, i) => [id, i]));
	const crewOf = new Map<string, number>();
	for (const { task, crew } of order) {
		const job = taskOf.get(task)?.job;
		const its = at.get(crew);
		if (job !== undefined && its !== undefined) crewOf.set(job, its);
	}
	const begins = new Map(order.map(({ task, from }) => [task, from]));
	let open = problem.tasks
		.filter(({ real }) => !real)
		.sort((p, q) => (begins.get(p.id) ?? Infinity) - (begins.get(q.id) ?? Infinity));
	const placing = new Placing(problem, crewOf);
	// What waits for a task behind it comes in a later round; what finds no place keeps nobody else from one.
	for (;;) {
		const left: WorkTask[] = [];
		for (const task of open) {
			const ready = task.after.every((id) => placing.isPlaced(id) || !taskOf.has(id));
			const from = ready ? whenMoved(placing, task) : undefined;
			if (from === undefined) left.push(task);
			else placing.put(task.pin === from ? task : { ...task, pin: null }, from);
		}
		if (left.length === open.length || left.length === 0) {
			open = left;
			break;
		}
		open = left;
	}
	const hopTaskOf = tasksOf(question);
	return {
		stints: stintsOf(placing.placed.values(), hopTaskOf, pinsOf(question)),
		gates: question.hops.flatMap(({ id, tasks }) => gateOf(id, tasks, placing.placed)),
		finish: open.length ? null : finishOf(problem, placing.placed.values()),
		lost: open.flatMap(({ id }) => {
			const task = hopTaskOf.get(id);
			return task ? [{ hop: task.hopId, end: task.end, title: task.title }] : [];
		})
	};
}

/** A pin is no wall: who is late begins late. */
const whenMoved = (placing: Placing, task: WorkTask): number | undefined =>
	placing.earliest(task) ??
	(task.pin === null ? undefined : placing.earliest({ ...task, pin: null }));

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
function stintsOf(
	placed: Iterable<Placed>,
	taskOf: ReadonlyMap<string, HopTask>,
	pins: ReadonlySet<string>
): Stint[] {
	const stints: Stint[] = [];
	const open = new Map<string, Stint>();
	for (const { task: id, crew, from, to } of [...placed].sort(
		(p, q) => p.from - q.from || p.task.localeCompare(q.task)
	)) {
		const task = taskOf.get(id);
		if (!task || from === to) continue;
		const last = open.get(crew);
		const done = task.real?.done === true;
		const begun = task.real?.done === false;
		const desk = task.place === null;
		const goesOn =
			last?.hop === task.hopId &&
			last.end === task.end &&
			last.done === done &&
			last.begun === begun &&
			last.desk === desk &&
			!pins.has(id) &&
			from - last.to <= STINT_BREAK_MIN;
		if (goesOn) {
			last.to = Math.max(last.to, to);
			last.titles.push(task.title);
		} else {
			const stint = {
				...{ crew, hop: task.hopId, end: task.end, from, to, done, begun, desk },
				...{ titles: [task.title], first: id, pinned: pins.has(id) }
			};
			stints.push(stint);
			open.set(crew, stint);
		}
	}
	return stints;
}
