import { itemAt, present } from '../units/lists';
import { windowKey, type Placed, type ScheduleProblem, type WorkTask } from './problem';
import { earliestWithin, firstEndingAfter, type Spans } from './spans';
import { arrival } from './travel';

/** Windows of tasks by their ids, for as long as somebody holds the windows. */
const WINDOWS = new WeakMap<ScheduleProblem['windows'], Map<string, Spans | undefined>>();

/** Where a crew is and from when it is free. */
interface Standing {
	place: string;
	free: number;
	/** Beginning of the hours in which it worked last; none yet before its first task. */
	began: number;
	/** When the last thing that it has really done or begun ends. */
	seen: number;
}

/** A place in the day of one crew. */
interface Fit {
	from: number;
	/** When it could be there. */
	there: number;
	/** When it set out, and from where. */
	out: number;
	position: string;
	/** Beginning of the hours it lies in. */
	began: number;
}

/** Minutes on the way and minutes of standing about, over all crews. */
export interface Idle {
	travelMin: number;
	waitingMin: number;
}

/**
 * A schedule as it grows: tasks are put one after the other, each behind what its crew does already. Whatever can be
 * done at all can be reached so, by putting the tasks in the order in which they begin.
 */
export class Placing {
	readonly placed = new Map<string, Placed>();
	readonly idle: Idle = { travelMin: 0, waitingMin: 0 };
	private readonly crews: Standing[];
	private readonly ended = new Map<string, number>();
	/** Tasks that a person put somewhere, by the crew they keep free. */
	private readonly pinned = new Map<number, { task: WorkTask; place: string | null }[]>();

	/** @param crewOf place in the list of crews of whoever does a job */
	constructor(
		private readonly problem: ScheduleProblem,
		private readonly crewOf: ReadonlyMap<string, number>
	) {
		this.crews = problem.crews.map(({ base }) => ({
			...{ place: base, free: problem.from, began: -Infinity, seen: -Infinity }
		}));
		for (const task of problem.tasks) {
			if (task.real) this.stand(task, task.real);
			else if (task.pin !== null) this.keepFree(task);
		}
	}

	/** What is done or begun stands where it was; its crew is where it was last, and free after it. */
	private stand(task: WorkTask, { from, to }: { from: number; to: number }): void {
		const at = this.crewOf.get(task.job);
		this.ended.set(task.id, to);
		if (at === undefined) return;
		const crew = itemAt(this.crews, at);
		const { id, hours } = itemAt(this.problem.crews, at);
		this.placed.set(task.id, { task: task.id, crew: id, from, to });
		if (to < crew.seen) return;
		crew.seen = to;
		crew.place = task.place ?? crew.place;
		crew.free = Math.max(crew.free, to);
		// Hours of which it has gone home since are others than those it works in next.
		crew.began = hours.find((span) => to >= span.from && to <= span.to)?.from ?? -Infinity;
	}

	private keepFree(task: WorkTask): void {
		const own = this.crewOf.get(task.job);
		const attending = task.attends ? this.crewOf.get(task.attends.job) : undefined;
		const keep = (crew: number | undefined, place: string | null): void => {
			if (crew === undefined) return;
			this.pinned.set(crew, [...(this.pinned.get(crew) ?? []), { task, place }]);
		};
		keep(own, task.place);
		if (attending !== own) keep(attending, task.attends?.place ?? null);
	}

	/**
	 * A pinned task that is still to come and that a stretch of another one would be in the way of: it or the way to it.
	 *
	 * @returns when that one has ended
	 */
	private inTheWay(
		crew: number,
		task: WorkTask,
		place: string | null,
		from: number
	): number | undefined {
		const pinned = this.pinned.get(crew);
		if (!pinned) return undefined;
		for (const other of pinned) {
			const { pin, minutes, id } = other.task;
			if (pin === null || id === task.id || this.isPlaced(id) || from >= pin + minutes) continue;
			const here = place ?? itemAt(this.crews, crew).place;
			const there = arrival(this.problem.ways, here, other.place ?? here, from + task.minutes);
			if (there > pin) return pin + minutes;
		}
		return undefined;
	}

	isPlaced(task: string): boolean {
		return this.ended.has(task);
	}

	/** End of the hours in which a crew is free next: what begins later is not of the same day. */
	restOf(crew: number): number {
		const { hours } = itemAt(this.problem.crews, crew);
		return hours[firstEndingAfter(hours, itemAt(this.crews, crew).free)]?.to ?? -Infinity;
	}

	/**
	 * The earliest moment at which a task can begin behind what is placed; undefined where there is none before the
	 * end. What comes before it has been placed.
	 */
	earliest(task: WorkTask): number | undefined {
		return this.earliestAfter(task, this.readyAt(task));
	}

	/** When all that a task waits for has ended. */
	readyAt(task: WorkTask): number {
		let at = this.problem.from;
		for (const before of task.after) at = Math.max(at, this.ended.get(before) ?? -Infinity);
		return at;
	}

	/**
	 * The same as {@link earliest} for who knows when all that it waits for has ended.
	 *
	 * @param ready of {@link readyAt}
	 */
	earliestAfter(task: WorkTask, ready: number): number | undefined {
		const own = this.crewOf.get(task.job);
		if (own === undefined) return undefined;
		const notBefore = Math.max(ready, task.pin ?? -Infinity);
		const at = this.common(task, own, notBefore)?.[0].from;
		return at === undefined || (task.pin !== null && at !== task.pin) ? undefined : at;
	}

	/** Looked up once a task for all schedules of a problem: the key costs more than all the rest. */
	private windowsOf(task: WorkTask): Spans | undefined {
		const { windows } = this.problem;
		if (windows.size === 0) return undefined;
		const known = WINDOWS.get(windows) ?? new Map<string, Spans | undefined>();
		WINDOWS.set(windows, known);
		const found = known.get(task.id);
		if (found || known.has(task.id)) return found;
		const spans = windows.get(windowKey(task));
		known.set(task.id, spans);
		return spans;
	}

	/** Where its own crew, and the one that attends, can begin together. */
	private common(
		task: WorkTask,
		own: number,
		notBefore: number
	): [Fit, { crew: number; fit: Fit } | undefined] | undefined {
		const windows = this.windowsOf(task);
		const attending = task.attends ? this.crewOf.get(task.attends.job) : undefined;
		// Somebody has to stand at the far end.
		if (task.attends && attending === undefined) return undefined;
		let from = notBefore;
		for (;;) {
			const fit = this.fit(own, task.place, task.minutes, from, windows);
			if (!fit) return undefined;
			// Of two that are pinned in each other's way, the one that is put first stays.
			const clear =
				task.pin !== null
					? undefined
					: (this.inTheWay(own, task, task.place, fit.from) ??
						(attending === undefined || attending === own
							? undefined
							: this.inTheWay(attending, task, task.attends?.place ?? null, fit.from)));
			if (clear !== undefined) {
				from = Math.max(clear, fit.from);
				continue;
			}
			if (!task.attends || attending === undefined || attending === own) return [fit, undefined];
			const other = this.fit(attending, task.attends.place, task.minutes, fit.from, undefined);
			if (!other) return undefined;
			if (other.from === fit.from) return [fit, { crew: attending, fit: other }];
			from = other.from;
		}
	}

	private fit(
		at: number,
		place: string | null,
		minutes: number,
		notBefore: number,
		windows: Spans | undefined
	): Fit | undefined {
		const { ways, to: end } = this.problem;
		const { hours, base, returns } = itemAt(this.problem.crews, at);
		const crew = itemAt(this.crews, at);
		let position = crew.place;
		let out = crew.free;
		for (let i = firstEndingAfter(hours, out); i < hours.length; i += 1) {
			const span = itemAt(hours, i);
			if (span.from >= end) return undefined;
			const same = span.from <= crew.free && span.from === crew.began;
			if (returns && !same) position = base;
			out = Math.max(out, span.from);
			const here = place ?? position;
			const there = arrival(ways, position, here, out);
			if (there >= span.to) {
				// Who does not go back is there when the next hours begin.
				if (!returns && there < Infinity) {
					position = here;
					out = there;
				}
				continue;
			}
			const first = Math.max(there, notBefore);
			const from = windows ? earliestWithin(windows, first, minutes) : first;
			if (from === undefined) return undefined;
			const until = from + minutes;
			if (until > span.to || until > end) {
				// Too late for it in these hours, and in time to be there when the next begin.
				if (!returns) {
					position = here;
					out = there;
				}
				continue;
			}
			if (returns && arrival(ways, here, base, until) > span.to) continue;
			return { from, there, out, position, began: span.from };
		}
		return undefined;
	}

	/** Puts a task where {@link earliest} has found that it can begin. */
	put(task: WorkTask, from: number): void {
		const own = present(this.crewOf.get(task.job), 'crew');
		const found = present(this.common(task, own, from), 'place');
		const to = from + task.minutes;
		this.settle(own, task.place, found[0], to);
		if (found[1]) this.settle(found[1].crew, task.attends?.place ?? null, found[1].fit, to);
		this.ended.set(task.id, to);
		const { id } = itemAt(this.problem.crews, own);
		this.placed.set(task.id, { task: task.id, crew: id, from, to });
	}

	private settle(at: number, place: string | null, fit: Fit, to: number): void {
		const crew = itemAt(this.crews, at);
		const { returns, base } = itemAt(this.problem.crews, at);
		const { ways } = this.problem;
		if (crew.began !== fit.began) {
			if (returns && crew.began !== -Infinity) {
				this.idle.travelMin += arrival(ways, crew.place, base, crew.free) - crew.free;
			}
		} else this.idle.waitingMin += fit.from - fit.there;
		this.idle.travelMin += fit.there - fit.out;
		crew.place = place ?? fit.position;
		crew.free = to;
		crew.began = fit.began;
	}
}
