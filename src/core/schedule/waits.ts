import type { Placed, ScheduleProblem, WorkTask } from './problem';
import type { Schedule } from './solve';
import { arrival, type Ways } from './travel';

/** A time in which a crew stands about, minutes since 1970 UTC. */
export interface Wait {
	crew: string;
	from: number;
	to: number;
	/** What it waits to begin. */
	task: string;
	on:
		| { kind: 'crew'; crew: string; task: string }
		/** Weather or light. */
		| { kind: 'window' }
		| { kind: 'pin' };
}

interface Stay extends Placed {
	place: string | null;
}

/** What every crew does and attends, in its order. */
export function staysOf(
	{ tasks, crews }: ScheduleProblem,
	{ placed, crewOf }: Pick<Schedule, 'placed' | 'crewOf'>
): Map<string, Stay[]> {
	const stays = new Map<string, Stay[]>(crews.map(({ id }) => [id, []]));
	for (const task of tasks) {
		const at = placed.get(task.id);
		if (!at) continue;
		stays.get(at.crew)?.push({ ...at, place: task.place });
		const attending = task.attends ? crewOf.get(task.attends.job) : undefined;
		if (task.attends && attending !== undefined && attending !== at.crew) {
			stays.get(attending)?.push({ ...at, crew: attending, place: task.attends.place });
		}
	}
	for (const own of stays.values()) own.sort((p, q) => p.from - q.from || p.to - q.to);
	return stays;
}

/** Who waits for whom, for what and how long: stretches within the hours of a crew, the longest first. */
export function waitsOf(problem: ScheduleProblem, schedule: Schedule): Wait[] {
	const byId = new Map(problem.tasks.map((task) => [task.id, task]));
	const stays = staysOf(problem, schedule);
	const waits: Wait[] = [];
	const startOf = (crewId: string, at: number): number => {
		const crew = problem.crews.find(({ id }) => id === crewId);
		const span = crew?.hours.find((within) => at >= within.from && at < within.to);
		const first = stays.get(crewId)?.find(({ from }) => span && from >= span.from);
		return crew && span && first?.from === at
			? arrival(problem.ways, crew.base, first.place ?? crew.base, span.from)
			: -Infinity;
	};
	for (const { id, hours, base } of problem.crews) {
		const own = stays.get(id) ?? [];
		own.forEach((stay, i) => {
			const task = byId.get(stay.task);
			const last = own[i - 1];
			const span = hours.find((within) => stay.from >= within.from && stay.from < within.to);
			if (!task || !span || task.real) return;
			const here = last?.place ?? base;
			const free = Math.max(last?.to ?? -Infinity, span.from);
			// Who has not begun in these hours sets out so late that nobody waits.
			if (!last || last.from < span.from) return;
			const there = arrival(problem.ways, here, stay.place ?? here, free);
			if (stay.from <= there) return;
			waits.push({
				...{ crew: id, from: there, to: stay.from, task: stay.task },
				on: reasonOf(task, stay, { placed: schedule.placed, stays, ways: problem.ways, startOf })
			});
		});
	}
	return waits.sort((p, q) => q.to - q.from - (p.to - p.from) || p.from - q.from);
}

function reasonOf(
	task: WorkTask,
	stay: Stay,
	{
		placed,
		stays,
		ways,
		startOf
	}: {
		placed: ReadonlyMap<string, Placed>;
		stays: ReadonlyMap<string, readonly Stay[]>;
		ways: Ways;
		/** When a crew can be at work at the earliest in the hours of a moment, its way behind it. */
		startOf: (crew: string, at: number) => number;
	}
): Wait['on'] {
	if (task.pin === stay.from) return { kind: 'pin' };
	const before = task.after
		.map((id) => placed.get(id))
		.filter((at): at is Placed => at !== undefined && at.crew !== stay.crew)
		.sort((p, q) => q.to - p.to)[0];
	if (before?.to === stay.from) return { kind: 'crew', crew: before.crew, task: before.task };
	// The other one of the two that begin together comes from somewhere else, and only then.
	for (const [crew, own] of stays) {
		const at = own.findIndex(({ task: id }) => id === stay.task);
		const other = own[at];
		if (crew === stay.crew || !other) continue;
		const last = own[at - 1];
		const free = last?.to ?? -Infinity;
		const there = arrival(ways, last?.place ?? other.place ?? '', other.place ?? '', free);
		if (there === stay.from || startOf(crew, stay.from) === stay.from) {
			return { kind: 'crew', crew, task: last && there === stay.from ? last.task : stay.task };
		}
	}
	return { kind: 'window' };
}
