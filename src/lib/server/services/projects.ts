import { requireMay, viewerOf, type Actor } from '../auth/actor';
import { TakenError } from '../db/taken';
import { inTransaction } from '../db/transaction';
import { invalid, notFound, refusal } from '../errors';
import { audit, auditEach } from '../repositories/audit';
import { seenOf } from '../repositories/hops';
import {
	allProjects,
	findProject,
	keepProject,
	putHops,
	removeProject,
	type KeptProject,
	type Project,
	type ProjectLine
} from '../repositories/projects';

export type { KeptProject, Project, ProjectLine };

export async function listProjects(actor: Actor): Promise<ProjectLine[]> {
	requireMay(actor, 'read-hops');
	return allProjects(viewerOf(actor));
}

export async function getProject(actor: Actor, id: string): Promise<KeptProject> {
	requireMay(actor, 'read-hops');
	return (await findProject(id)) ?? noProject();
}

const noProject = (): never => {
	throw notFound('project');
};

/**
 * Makes a project or changes it. A repeat with the same content does nothing.
 *
 * @param id made where it is typed
 */
export async function saveProject(
	actor: Actor,
	id: string,
	{ version, project }: { version: number; project: Project }
): Promise<KeptProject> {
	requireMay(actor, 'edit-hops');
	const by = { userId: actor.userId, at: new Date() };
	try {
		const kept = await inTransaction(async (unit) => {
			if (!(await keepProject(id, version, project, by, unit))) return false;
			await audit(actor.userId, 'save-project', `project:${id}`, { name: project.name }, unit);
			return true;
		});
		if (kept) return await getProject(actor, id);
	} catch (error) {
		if (!(error instanceof TakenError)) throw error;
		if (error.key.includes('name')) throw refusal('name-taken', 'project').at('project.name');
	}
	const present = await findProject(id);
	const fields = ['name', 'region', 'dueDay', 'note'] as const;
	if (present && fields.every((field) => present[field] === project[field])) return present;
	throw refusal('changed-meanwhile', { what: 'project' });
}

/** Removes a project; its hops stay, in none. */
export async function deleteProject(actor: Actor, id: string): Promise<void> {
	requireMay(actor, 'edit-hops');
	const { name } = await getProject(actor, id);
	await inTransaction(async (unit) => {
		await removeProject(id, unit);
		await audit(actor.userId, 'delete-project', `project:${id}`, { name }, unit);
	});
}

/** Puts hops into a project, or into none; a repeat does nothing more. */
export async function putIntoProject(
	actor: Actor,
	{
		projectId,
		hopIds,
		dueDay
	}: { projectId: string | null; hopIds: readonly string[]; dueDay: string | null }
): Promise<void> {
	requireMay(actor, 'edit-hops');
	const project = projectId === null ? null : await findProject(projectId);
	if (project === undefined) {
		throw invalid([{ field: 'projectId', message: 'There is no such project.' }]);
	}
	if ((await seenOf(viewerOf(actor), hopIds)).size !== hopIds.length) throw notFound('hop');
	await inTransaction(async (unit) => {
		await putHops(projectId, hopIds, dueDay, unit);
		const lines = hopIds.map((id) => ({
			subject: `hop:${id}`,
			detail: { project: project?.name ?? null, dueDay }
		}));
		await auditEach(actor.userId, 'put-into-project', lines, unit);
	});
}
