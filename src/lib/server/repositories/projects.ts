import { select, selectOne } from '../db/sql';
import { projectHops, projects, type ProjectRow } from '../db/tables';
import type { Unit } from '../db/transaction';
import { seenBy, type Viewer } from './hops';

/** What a project is, as somebody types it. */
export interface Project {
	name: string;
	region: string;
	/** As `2026-06-15`; null for none. */
	dueDay: string | null;
	note: string;
}

export interface KeptProject extends Project {
	id: string;
	version: number;
}

/** A project with how many of its hops somebody sees. */
export interface ProjectLine extends KeptProject {
	hops: number;
	accepted: number;
}

const projectOf = ({ id, name, region, dueDay, note, version }: ProjectRow): KeptProject => ({
	...{ id, name, region, dueDay, note, version }
});

/** Every project by name. */
export async function allProjects(viewer: Viewer): Promise<ProjectLine[]> {
	const { join, values } = seenBy(viewer);
	const rows = await projects.all({}, { order: [['name', 'ASC']] });
	const counts = await select<{ projectId: string; hops: number; accepted: number }>(
		`SELECT p.project_id AS projectId, COUNT(*) AS hops,
			COUNT(CASE WHEN EXISTS (SELECT 1 FROM acceptances x WHERE x.hop_id = h.id) THEN 1 END) AS accepted
		FROM project_hops p JOIN hops h ON h.id = p.hop_id AND h.archived_at IS NULL ${join}
		GROUP BY p.project_id`,
		values
	);
	const byId = new Map(counts.map((row) => [row.projectId, row]));
	return rows.map((row) => ({
		...projectOf(row),
		hops: byId.get(row.id)?.hops ?? 0,
		accepted: byId.get(row.id)?.accepted ?? 0
	}));
}

export async function findProject(id: string): Promise<KeptProject | undefined> {
	const row = await projects.one({ id });
	return row && projectOf(row);
}

/** JSON of how its work is scheduled; undefined where there is no such project. */
export async function scheduleOfProject(id: string): Promise<string | null | undefined> {
	const [row] = await projects.some(['schedule'], { id });
	return row?.schedule;
}

/** How far a hop was read. */
export interface HopRead {
	seq: number;
	revision: number;
	accepted: boolean;
}

/** What a schedule is moved from. */
export interface ScheduleBasis {
	read: Record<string, HopRead>;
	/** What it was worked out from, compressed. */
	basis: Buffer;
}

/** Says how its work is scheduled. */
export const keepSchedule = (
	id: string,
	schedule: string,
	{ read, basis }: ScheduleBasis,
	unit?: Unit
): Promise<number> =>
	projects.change(
		{ id },
		{ schedule, scheduleRead: JSON.stringify(read), scheduleBasis: basis },
		unit
	);

/** What its schedule is moved from; undefined where it has none. */
export async function basisOfProject(id: string): Promise<ScheduleBasis | undefined> {
	const [row] = await projects.some(['scheduleRead', 'scheduleBasis'], { id });
	if (!row?.scheduleRead || !row.scheduleBasis) return undefined;
	return {
		read: JSON.parse(row.scheduleRead) as ScheduleBasis['read'],
		basis: row.scheduleBasis
	};
}

/** When the schedule of a project was worked out, and how far each of its hops has come. */
export async function paceOfProject(
	id: string
): Promise<{ madeAt: string | null; hops: Map<string, HopRead> }> {
	const project = await selectOne<{ madeAt: string | null }>(
		"SELECT JSON_VALUE(schedule, '$.made.at') AS madeAt FROM projects WHERE id = ?",
		[id]
	);
	const rows = await select<{
		id: string;
		seq: number | string;
		revision: number;
		accepted: number;
	}>(
		`SELECT p.hop_id AS id, f.last_seq AS seq,
			(SELECT MAX(r.number) FROM plan_revisions r WHERE r.hop_id = p.hop_id) AS revision,
			EXISTS (SELECT 1 FROM acceptances x WHERE x.hop_id = p.hop_id) AS accepted
		FROM project_hops p JOIN hop_feeds f ON f.hop_id = p.hop_id WHERE p.project_id = ?`,
		[id]
	);
	return {
		madeAt: project?.madeAt ?? null,
		hops: new Map(
			rows.map((row) => [
				row.id,
				{ seq: Number(row.seq), revision: row.revision, accepted: Boolean(row.accepted) }
			])
		)
	};
}

/**
 * Keeps a project on top of a version, 0 where there was none. Throws TakenError where the name is another one's, or
 * somebody has made one under this id meanwhile.
 *
 * @returns whether it still had that version
 */
export async function keepProject(
	id: string,
	version: number,
	project: Project,
	by: { userId: string; at: Date },
	unit: Unit
): Promise<boolean> {
	const values = { ...project, version: version + 1, changedBy: by.userId, changedAt: by.at };
	if (version > 0) return (await projects.change({ id, version }, values, unit)) > 0;
	await projects.add(
		{ id, ...values, schedule: null, scheduleRead: null, scheduleBasis: null },
		unit
	);
	return true;
}

export const removeProject = (id: string, unit: Unit): Promise<number> =>
	projects.remove({ id }, unit);

/** Puts hops into a project, out of any other. */
export async function putHops(
	projectId: string | null,
	hopIds: readonly string[],
	dueDay: string | null,
	unit: Unit
): Promise<void> {
	await projectHops.remove({ hopId: hopIds }, unit);
	if (projectId === null) return;
	await projectHops.add(
		hopIds.map((hopId) => ({ hopId, projectId, dueDay })),
		unit
	);
}

/** Ids of the hops of a project that somebody sees, by name. */
export async function hopsOfProject(viewer: Viewer, projectId: string): Promise<string[]> {
	const { join, values } = seenBy(viewer);
	const rows = await select<{ id: string }>(
		`SELECT h.id FROM project_hops p JOIN hops h ON h.id = p.hop_id ${join}
		WHERE p.project_id = ? AND h.archived_at IS NULL ORDER BY h.name`,
		[...values, projectId]
	);
	return rows.map(({ id }) => id);
}
