import {
	SKILLS,
	windowKey,
	type Job,
	type Placed,
	type ScheduleProblem,
	type WorkCrew,
	type WorkTask
} from '#core/schedule/problem';
import { arrival } from '#core/schedule/travel';

const NOBODY = { climber: 0, rigger: 0, acceptor: 0 };

export const task = (id: string, change: Partial<WorkTask> = {}): WorkTask => {
	const minutes = change.minutes ?? 60;
	return {
		...{
			id,
			job: 'j',
			place: 'p',
			minutes,
			spread: { low: minutes, likely: minutes, high: minutes }
		},
		...{ limits: [], light: false, after: [], attends: null, pin: null, real: null },
		...change
	};
};
export const job = (id: string, change: Partial<Job> = {}): Job => ({
	...{ id, people: 1, skills: NOBODY, equipment: [], crew: null },
	...change
});
export const crew = (id: string, change: Partial<WorkCrew> = {}): WorkCrew => ({
	...{ id, people: 2, skills: { climber: 2, rigger: 1, acceptor: 0 }, equipment: [] },
	...{ hours: [{ from: 0, to: 10_000 }], base: 'base', returns: false },
	...change
});
export const problem = (change: Partial<ScheduleProblem>): ScheduleProblem => ({
	...{ from: 0, to: 10_000, tasks: [], jobs: [job('j')], crews: [crew('c')] },
	...{ ways: { legs: new Map(), otherwiseMin: 0 }, windows: new Map() },
	...change
});

/** What is wrong with a schedule, told without the code that made it: minute by minute where that is simplest. */
export function violations(
	{ tasks, jobs, crews, ways, windows, from, to }: ScheduleProblem,
	placed: ReadonlyMap<string, Placed>,
	crewOf: ReadonlyMap<string, string>
): string[] {
	const wrong: string[] = [];
	const byId = new Map(tasks.map((one) => [one.id, one]));
	const stays = new Map<string, { from: number; to: number; place: string | null; id: string }[]>();
	const stay = (crewId: string | undefined, at: Placed, place: string | null): void => {
		if (crewId === undefined) return;
		stays.set(crewId, [
			...(stays.get(crewId) ?? []),
			{ from: at.from, to: at.to, place, id: at.task }
		]);
	};
	for (const at of placed.values()) {
		const one = byId.get(at.task)!;
		if (one.real) continue;
		if (at.to - at.from !== one.minutes) wrong.push(`${one.id} takes ${at.to - at.from}`);
		if (at.from < from || at.to > to) wrong.push(`${one.id} outside the time there is`);
		for (const id of one.after) {
			const before = placed.get(id);
			if (byId.has(id) && (!before || before.to > at.from)) wrong.push(`${one.id} before ${id}`);
		}
		const window = windows.get(windowKey(one));
		for (let minute = at.from; window && minute < at.to; minute += 1) {
			if (!window.some((span) => minute >= span.from && minute < span.to)) {
				wrong.push(`${one.id} at ${minute} outside its window`);
				break;
			}
		}
		if (one.pin !== null && at.from !== one.pin) wrong.push(`${one.id} is not where it was pinned`);
		const asked = jobs.find(({ id }) => id === one.job)!;
		const who = crews.find(({ id }) => id === at.crew)!;
		if (at.crew !== crewOf.get(one.job)) wrong.push(`${one.id} by another crew than its job`);
		if (asked.crew !== null && at.crew !== asked.crew) wrong.push(`${one.id} not by its crew`);
		if (
			who.people < asked.people ||
			SKILLS.some((skill) => who.skills[skill] < asked.skills[skill]) ||
			asked.equipment.some((thing) => !who.equipment.includes(thing))
		) {
			wrong.push(`${at.crew} cannot do ${one.id}`);
		}
		stay(at.crew, at, one.place);
		if (one.attends) {
			const other = crewOf.get(one.attends.job);
			if (other !== at.crew) stay(other, at, one.attends.place);
		}
	}
	for (const { id, hours, base, returns } of crews) {
		const own = (stays.get(id) ?? []).sort((p, q) => p.from - q.from);
		let place = base;
		let free = from;
		let last: { from: number; to: number } | undefined;
		for (const one of own) {
			const span = hours.find((within) => one.from >= within.from && one.to <= within.to);
			if (!span) {
				wrong.push(`${id} does ${one.id} outside its hours`);
				continue;
			}
			if (returns && last && last !== span && arrival(ways, place, base, free) > last.to) {
				wrong.push(`${id} is not back after ${free}`);
			}
			if (returns && last !== span) place = base;
			// Who stays out may have set out in earlier hours.
			const starts = (returns ? [span] : hours)
				.filter((within) => within.from <= span.from && within.to > free)
				.map((within) => Math.max(free, within.from));
			const there = starts.map((out) => arrival(ways, place, one.place ?? place, out));
			if (Math.min(...there) > one.from) wrong.push(`${id} is not at ${one.id} in time`);
			if (one.from < free) wrong.push(`${id} in two places at ${one.from}`);
			place = one.place ?? place;
			free = one.to;
			last = span;
		}
		if (returns && last && arrival(ways, place, base, free) > last.to)
			wrong.push(`${id} is not back`);
	}
	return wrong;
}
