import type { Spans } from './spans';
import type { Ways } from './travel';
import type { Limit } from './weather';

/** Minutes that something takes: one time in ten less than `low`, one in ten more than `high`. */
export interface Spread {
	low: number;
	likely: number;
	high: number;
}

export const SKILLS = ['climber', 'rigger', 'acceptor'] as const;
/** Who may work at height; who may run a lift; who may sign for the customer. */
export type Skill = (typeof SKILLS)[number];

/** A piece of work that is begun and ended without leaving it. */
export interface WorkTask {
	id: string;
	/** What it belongs to: one crew does all tasks of a job. */
	job: string;
	/** Where it is done; null: wherever its crew is. */
	place: string | null;
	/** Minutes that it is planned with. */
	minutes: number;
	spread: Spread;
	/** What of the weather holds it up, and whether it needs light. */
	limits: readonly Limit[];
	light: boolean;
	/** Tasks that are done before it begins. */
	after: readonly string[];
	/** A second job whose crew stands at its own place meanwhile, as the far end of an alignment. */
	attends: { job: string; place: string } | null;
	/** Put there by a person; it stays. */
	pin: number | null;
	/** Done, or begun: it stands where it was. `to` of one that goes on is when it is expected to end. */
	real: { from: number; to: number; done: boolean } | null;
}

/** One who does tasks, one after the other. */
export interface WorkCrew {
	id: string;
	people: number;
	skills: Readonly<Record<Skill, number>>;
	equipment: readonly string[];
	/** When it works. */
	hours: Spans;
	/** Where it is at first. */
	base: string;
	/** Whether it goes back there at the end of its hours; else it stays where it works. */
	returns: boolean;
}

/** What a job asks of its crew. */
export interface Job {
	id: string;
	people: number;
	skills: Readonly<Record<Skill, number>>;
	equipment: readonly string[];
	/** Crew that a person gave it to; null: any that can. */
	crew: string | null;
}

export interface ScheduleProblem {
	/** Nothing is planned before, and nothing after, minutes since 1970 UTC. */
	from: number;
	to: number;
	tasks: readonly WorkTask[];
	jobs: readonly Job[];
	crews: readonly WorkCrew[];
	ways: Ways;
	/**
	 * When work under some limits may go on at a place; always where there is none.
	 *
	 * @param key of {@link windowKey}
	 */
	windows: ReadonlyMap<string, Spans>;
}

/** Key of the windows of a place for tasks that ask the same of weather and light; limits in the order of `LIMITS`. */
export function windowKey({
	place,
	limits,
	light
}: Pick<WorkTask, 'place' | 'limits' | 'light'>): string {
	return `${place ?? ''}|${limits.join('+')}|${light ? 'light' : ''}`;
}

/** Whether a crew has who and what a job asks for. */
export function canDo(crew: WorkCrew, job: Job): boolean {
	return lacks(crew, job).length === 0;
}

/** What a crew lacks for a job, in words. */
export function lacks(crew: WorkCrew, job: Job): string[] {
	return [
		...(crew.people < job.people ? [`people (it takes ${job.people})`] : []),
		...SKILLS.flatMap((skill) =>
			crew.skills[skill] < job.skills[skill]
				? [
						job.skills[skill] === 1
							? `${skill === 'acceptor' ? 'an' : 'a'} ${skill}`
							: `${job.skills[skill]} ${skill}s`
					]
				: []
		),
		...job.equipment.filter((thing) => !crew.equipment.includes(thing))
	];
}

/** Where a task is placed. */
export interface Placed {
	task: string;
	crew: string;
	from: number;
	to: number;
}
