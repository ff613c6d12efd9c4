import { itemAt } from '../units/lists';
import { ableCrews } from './bound';
import { Placing } from './place';
import { lacks, windowKey, type ScheduleProblem, type WorkTask } from './problem';
import { solve, type Schedule } from './solve';
import { joined, type Span, type Spans } from './spans';
import type { Limit } from './weather';

/** What of the rules, taken away, would let a task be done. */
export type Relaxed = Limit | 'light' | 'hours' | 'end' | 'way';

/** Why there is no place for a task, and what would make one. */
export type Hindrance =
	| { kind: 'no-crew'; lacks: { crew: string; what: string[] }[] }
	/** Another task that it waits for has none. */
	| { kind: 'after'; task: string }
	/** It cannot begin where it was pinned; the earliest otherwise, if there is one. */
	| { kind: 'pin'; earliest: number | null }
	/** Each alone would do. */
	| { kind: 'rule'; frees: Relaxed[] }
	/** Nothing alone would do. */
	| { kind: 'several' };

/** The windows of a task without some of what they keep to. */
type WindowsOf = (task: WorkTask, without: Relaxed) => Spans | undefined;

/**
 * Why each task that has no place has none.
 *
 * @param windowsOf when work of a task may go on at its place without one of its rules; undefined: always
 */
export function hindrancesOf(
	problem: ScheduleProblem,
	schedule: Schedule,
	windowsOf: WindowsOf
): Map<string, Hindrance> {
	const jobs = new Map(problem.jobs.map((job) => [job.id, job]));
	const missing = new Set(schedule.unplaced);
	const result = new Map<string, Hindrance>();
	for (const task of problem.tasks) {
		if (!missing.has(task.id)) continue;
		const job = jobs.get(task.job);
		if (job && ableCrews(problem, job).length === 0) {
			const asked = problem.crews.filter(({ id }) => job.crew === null || job.crew === id);
			result.set(task.id, {
				kind: 'no-crew',
				lacks: asked.map((crew) => ({ crew: crew.id, what: lacks(crew, job) }))
			});
			continue;
		}
		const before = task.after.find((id) => missing.has(id));
		result.set(
			task.id,
			before === undefined
				? ruleOf(problem, schedule, task, windowsOf)
				: { kind: 'after', task: before }
		);
	}
	return result;
}

const DAY_MIN = 1440;
/** As much later an end would have to be asked for, days. */
const LATER_DAYS = 60;

function ruleOf(
	problem: ScheduleProblem,
	schedule: Schedule,
	task: WorkTask,
	windowsOf: WindowsOf
): Hindrance {
	if (task.pin !== null) {
		const tasks = problem.tasks.map((one) => (one.id === task.id ? { ...one, pin: null } : one));
		const without = solve({ ...problem, tasks }, { tries: 0, seed: 0 });
		return { kind: 'pin', earliest: without.placed.get(task.id)?.from ?? null };
	}
	const rules: Relaxed[] = [
		...task.limits,
		...(task.light ? (['light'] as const) : []),
		'hours',
		'end',
		'way'
	];
	const frees = rules.filter(
		(rule) => earliestOf(relaxed(problem, task, rule, windowsOf), schedule, task) !== undefined
	);
	return frees.length ? { kind: 'rule', frees } : { kind: 'several' };
}

/** When a task could begin behind all that has a place. */
function earliestOf(
	problem: ScheduleProblem,
	{ placed, crewOf }: Schedule,
	task: WorkTask
): number | undefined {
	const at = new Map(problem.crews.map(({ id }, i) => [id, i]));
	const placing = new Placing(
		problem,
		new Map([...crewOf].map(([job, crew]) => [job, at.get(crew) ?? 0]))
	);
	const others = problem.tasks
		.flatMap((one) => {
			const where = placed.get(one.id);
			return where && !one.real ? [{ one, from: where.from }] : [];
		})
		.sort((p, q) => p.from - q.from);
	for (const { one, from } of others) placing.put(one, from);
	return placing.earliest(task);
}

function relaxed(
	problem: ScheduleProblem,
	task: WorkTask,
	rule: Relaxed,
	windowsOf: WindowsOf
): ScheduleProblem {
	switch (rule) {
		case 'hours': {
			// Round the clock, in one go.
			const whole = [{ from: problem.from, to: problem.to }];
			return { ...problem, crews: problem.crews.map((crew) => ({ ...crew, hours: whole })) };
		}
		case 'end': {
			const to = problem.to + LATER_DAYS * DAY_MIN;
			const crews = problem.crews.map((crew) => ({ ...crew, hours: repeated(crew.hours, to) }));
			const windows = new Map(
				[...problem.windows].map(([key, spans]) => [
					key,
					joined([...spans, { from: problem.to, to }])
				])
			);
			return { ...problem, to, crews, windows };
		}
		case 'way':
			return { ...problem, ways: { legs: new Map(), otherwiseMin: 0 } };
		default: {
			const spans = windowsOf(task, rule);
			const windows = new Map(problem.windows);
			if (spans) windows.set(windowKey(task), spans);
			else windows.delete(windowKey(task));
			return { ...problem, windows };
		}
	}
}

/** The last hours of somebody again and again, day after day, up to a moment. */
function repeated(hours: Spans, to: number): Spans {
	if (hours.length === 0) return hours;
	const last = itemAt(hours, hours.length - 1);
	const more: Span[] = [];
	for (let at = last.from + DAY_MIN; at < to; at += DAY_MIN) {
		more.push({ from: at, to: at + last.to - last.from });
	}
	return [...hours, ...more];
}
