import { itemAt } from '../units/lists';
import { makeRandomStream, normalDeviate } from '../simulate/random';
import { Placing } from './place';
import type { ScheduleProblem, WorkTask } from './problem';
import type { Schedule } from './solve';
import { timeAt } from './spread';

/**
 * Share of the scatter of a crew's times that is common to all of its day: who is slow at one thing that day is slow
 * at the next.
 */
const COMMON_SHARE = 0.3;

/** A moment by which some tasks are to be done. */
export interface Deadline {
	key: string;
	/** Minutes since 1970 UTC. */
	at: number;
	tasks: readonly string[];
}

export interface Chance {
	key: string;
	/** Share of the days on which all of it is done in time. */
	share: number;
	/** The task whose time decides most, and by how much the share differs between its short and its long half. */
	decides: { task: string; difference: number } | null;
}

/**
 * How probable it is that things are done in time, if their times scatter as they are said to: the same crews do the
 * same tasks in the same order, on many days.
 *
 * @param days that are gone through, 2 or more
 * @param seed a whole number of 32 bits
 */
export function chancesOf(
	problem: ScheduleProblem,
	schedule: Schedule,
	deadlines: readonly Deadline[],
	{ days, seed }: { days: number; seed: number }
): Chance[] {
	const random = makeRandomStream(seed);
	const at = new Map(problem.crews.map(({ id }, i) => [id, i]));
	const crewOf = new Map([...schedule.crewOf].map(([job, crew]) => [job, at.get(crew) ?? 0]));
	const order = problem.tasks
		.flatMap((task) => {
			const placed = schedule.placed.get(task.id);
			return placed && !task.real?.done ? [{ task, from: placed.from }] : [];
		})
		.sort((p, q) => p.from - q.from)
		.map(({ task }) => task);
	const lengths = order.map(() => new Float64Array(days));
	const made = deadlines.map(() => new Uint8Array(days));
	for (let day = 0; day < days; day += 1) {
		const common = problem.crews.map(() => normalDeviate(random));
		const drawn = order.map((task, i): WorkTask => {
			const crew = crewOf.get(task.job);
			const deviate =
				Math.sqrt(COMMON_SHARE) * (crew === undefined ? 0 : itemAt(common, crew)) +
				Math.sqrt(1 - COMMON_SHARE) * normalDeviate(random);
			const minutes = Math.max(1, Math.round(timeAt(task.spread, deviate)));
			itemAt(lengths, i)[day] = minutes;
			// One that is begun ends when it does; a pin is a meeting, and waits for who is late.
			return task.real
				? { ...task, real: { ...task.real, to: Math.max(problem.from, task.real.from + minutes) } }
				: { ...task, minutes };
		});
		const ends = endsOf(problem, crewOf, drawn);
		deadlines.forEach((deadline, k) => {
			const inTime = deadline.tasks.every((id) => (ends.get(id) ?? Infinity) <= deadline.at);
			itemAt(made, k)[day] = inTime ? 1 : 0;
		});
	}
	return deadlines.map(({ key }, k) => ({
		key,
		share: itemAt(made, k).reduce((sum, one) => sum + one, 0) / days,
		decides: deciding(order, lengths, itemAt(made, k))
	}));
}

function endsOf(
	problem: ScheduleProblem,
	crewOf: ReadonlyMap<string, number>,
	drawn: readonly WorkTask[]
): Map<string, number> {
	const byId = new Map(drawn.map((task) => [task.id, task]));
	const tasks = problem.tasks.map((task) => byId.get(task.id) ?? task);
	const day = { ...problem, tasks };
	const placing = new Placing(day, crewOf);
	for (const task of drawn) {
		if (task.real) continue;
		// A pin is no wall: who is late begins late.
		const from =
			placing.earliest(task) ??
			(task.pin === null ? undefined : placing.earliest({ ...task, pin: null }));
		if (from !== undefined && task.after.every((id) => placing.isPlaced(id) || !byId.has(id))) {
			placing.put(task.pin !== null && from !== task.pin ? { ...task, pin: null } : task, from);
		}
	}
	return new Map([...placing.placed.values()].map(({ task, to }) => [task, to]));
}

/** The task between whose shorter and longer half of the days the share differs most. */
function deciding(
	order: readonly WorkTask[],
	lengths: readonly Float64Array[],
	made: Uint8Array
): Chance['decides'] {
	let best: Chance['decides'] = null;
	order.forEach((task, i) => {
		const own = itemAt(lengths, i);
		const middle = itemAt(
			[...own].sort((p, q) => p - q),
			own.length >> 1
		);
		let short = 0;
		let shortMade = 0;
		let longMade = 0;
		own.forEach((minutes, day) => {
			const good = made[day] ?? 0;
			if (minutes < middle) {
				short += 1;
				shortMade += good;
			} else longMade += good;
		});
		if (short === 0 || short === own.length) return;
		const difference = shortMade / short - longMade / (own.length - short);
		if (difference > (best?.difference ?? 0)) best = { task: task.id, difference };
	});
	return best;
}
