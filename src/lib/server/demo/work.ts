import { randomUUID } from 'node:crypto';
import work from '#demo/work.json';
import type { Crew } from '#core/schedule/crew';
import type { End } from '#core/ends';
import { daysOf } from '#core/schedule/hours';
import { present } from '#core/units/lists';
import type { Actor } from '../auth/actor';
import { assignmentSchema, crewSchema, projectSchema } from '../schemas/crews';
import { validate } from '../schemas/joi';
import { assign, type Assignment } from '../services/assignments';
import { saveCrew } from '../services/crews';
import { listHops } from '../services/hops';
import { putIntoProject, saveProject, type Project } from '../services/projects';

/** Crews, projects and where the crews are today and tomorrow. */
export async function loadWork(planner: Actor, actors: ReadonlyMap<string, Actor>): Promise<void> {
	const crewIds = new Map<string, string>();
	for (const { people, ...rest } of work.crews) {
		const id = randomUUID();
		const crew = {
			...rest,
			people: people.map(({ account, ...person }: (typeof people)[number]) => ({
				...{ ...person, id: randomUUID() },
				userId: account ? present(actors.get(account), 'demo account').userId : null
			}))
		};
		await saveCrew(
			planner,
			id,
			validate<{ version: number; crew: Crew }>(crewSchema, { version: 0, crew })
		);
		crewIds.set(rest.name, id);
	}
	const hopOf = async (name: string): Promise<string> => {
		const { rows } = await listHops(planner, { q: name, page: 1 });
		return present(
			rows.find((hop) => hop.name === name),
			`demo hop ${name}`
		).id;
	};
	const zone = present(work.crews[0], 'crew').zone;
	for (const { hops, dueInDays, ...rest } of work.projects) {
		const id = randomUUID();
		const project = { ...rest, dueDay: dayIn(dueInDays, zone) };
		const sent = validate<{ version: number; project: Project }>(projectSchema, {
			...{ version: 0, project }
		});
		await saveProject(planner, id, sent);
		const hopIds = await Promise.all(hops.map(hopOf));
		await putIntoProject(planner, { projectId: id, hopIds, dueDay: null });
	}
	for (const { hop, crew, inDays, ...rest } of work.assignments) {
		const sent = validate<Pick<Assignment, 'crewId' | 'day' | 'fromMin' | 'note'> & { end: End }>(
			assignmentSchema,
			{ ...rest, crewId: crewIds.get(crew), day: dayIn(inDays, zone) }
		);
		await assign(planner, { ...sent, id: randomUUID(), hopId: await hopOf(hop) });
	}
}

/** Today by the clock of a zone, or a day some days from it. */
function dayIn(days: number, zone: string): string {
	const minute = Math.floor(Date.now() / 60_000);
	const today = daysOf({ from: minute, to: minute + 1 }, zone)[0] ?? '';
	return new Date(Date.parse(today) + days * 86_400_000).toISOString().slice(0, 10);
}
