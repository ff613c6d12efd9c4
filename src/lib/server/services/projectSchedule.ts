import type { PerEnd } from '#core/ends';
import type { ProjectDays, ProjectQuestion } from '#core/schedule/projectDays';
import type { ProjectSchedule } from '#core/schedule/projectSchedule';
import { requireMay, viewerOf, type Actor } from '../auth/actor';
import { refusal } from '../errors';
import { audit } from '../repositories/audit';
import { linesOf } from '../repositories/board';
import { crewsWith } from '../repositories/crews';
import { seenOf } from '../repositories/hops';
import { hopsOfProject, keepSchedule, scheduleOfProject } from '../repositories/projects';
import { scheduleBeside, scheduleWorkerBuilt } from '../schedule/scheduling';
import { startJob, type JobOf } from './jobs';
import type { JobKind } from './jobRunner';
import { hopReading, readHopToSchedule, type ReadHop } from './projectHops';
import { getProject } from './projects';

/** How a project is scheduled: what was asked, and what came of it. */
export interface KeptSchedule {
	days: ProjectDays;
	/** Null until it was worked out once. */
	made: {
		at: string;
		by: string;
		schedule: ProjectSchedule;
		/** Hops and crews as they were called then. */
		hops: { id: string; name: string; sites: PerEnd<string> }[];
		crews: { id: string; name: string }[];
		/** Hops that are not scheduled: no plan of theirs is issued. */
		drafts: { id: string; name: string }[];
	} | null;
}

const MINUTE_MS = 60_000;
/** More hops are no one project any more. */
const MOST_HOPS = 400;
/** How long is searched: a few hops are done sooner. */
const SEARCH_MS_A_HOP = 250;
const LEAST_SEARCH_MS = 1500;
const MOST_SEARCH_MS = 45_000;
/** Reading the hops is the first part of the work. */
const READING_SHARE = 30;

export async function scheduleOf(actor: Actor, projectId: string): Promise<KeptSchedule | null> {
	await getProject(actor, projectId);
	const text = await scheduleOfProject(projectId);
	const kept = text ? completed(JSON.parse(text) as KeptSchedule) : null;
	if (!kept?.made) return kept;
	// Whoever made it may have seen more: of the other hops nothing is told.
	const { schedule, hops, drafts } = kept.made;
	const all = [...hops, ...drafts].map(({ id }) => id);
	const seen = await seenOf(viewerOf(actor), [...new Set(all)]);
	const mine = ({ hop }: { hop: string }): boolean => seen.has(hop);
	return {
		...kept,
		made: {
			...kept.made,
			schedule: {
				...schedule,
				stints: schedule.stints.filter(mine),
				unplaced: schedule.unplaced.filter(mine),
				gates: schedule.gates.filter(mine),
				chances: schedule.chances.map((chance) => ({
					...chance,
					decides: chance.decides && mine(chance.decides) ? chance.decides : null
				}))
			},
			hops: hops.filter(({ id }) => seen.has(id)),
			drafts: drafts.filter(({ id }) => seen.has(id))
		}
	};
}

/** One that was kept before stays could be pinned is worked out anew; what was asked then asked for less. */
const completed = ({ days, made }: KeptSchedule): KeptSchedule => ({
	days: { ...{ needs: [], pins: [], acceptOnSite: false }, ...days },
	made: made?.schedule.stints.every((stint) => 'begun' in stint) ? made : null
});

/** What the work leaves behind beside the schedule itself: tasks without a place; nothing where it was stopped. */
export interface ScheduleResult {
	unplaced?: number;
}

interface ScheduleInput {
	projectId: string;
	days: ProjectDays;
}

/** Begins to schedule a project; goes on after the answer. A repeat does nothing twice. */
export async function startSchedule(
	actor: Actor,
	projectId: string,
	{ id, days }: { id: string; days: ProjectDays }
): Promise<JobOf<string, object>> {
	requireMay(actor, 'edit-hops');
	await getProject(actor, projectId);
	if (!scheduleWorkerBuilt()) throw refusal('no-workers');
	const hops = await hopsOfProject(viewerOf(actor), projectId);
	if (hops.length === 0) throw refusal('project-empty');
	if (hops.length > MOST_HOPS) throw refusal('project-too-large', MOST_HOPS);
	const known = await crewsWith(days.crewIds);
	if (known.length !== days.crewIds.length) throw refusal('crew-gone').at('days.crewIds');
	return startJob(actor, 'schedule', { id, input: { projectId, days }, total: 100 });
}

/** Reads the hops of a project as they stand, and searches for their schedule. */
export const scheduleJob: JobKind<ScheduleInput> = async ({ actor, input, keep, endWith }) => {
	requireMay(actor, 'edit-hops');
	const { projectId, days } = input;
	const now = Math.floor(Date.now() / MINUTE_MS);
	const { dueDay } = await getProject(actor, projectId);
	const ids = await hopsOfProject(viewerOf(actor), projectId);
	const lines = await linesOf(ids, new Date().toISOString().slice(0, 10));
	const crews = await crewsWith(days.crewIds);
	const reading = await hopReading(ids, crews, { now, ...days });
	const found: ReadHop[] = [];
	const drafts: { id: string; name: string }[] = [];
	for (const [i, line] of lines.entries()) {
		const hop = await readHopToSchedule(line.id, reading);
		if (hop) found.push(hop);
		else drafts.push({ id: line.id, name: line.name });
		if (!(await keep({ done: Math.round((READING_SHARE * (i + 1)) / lines.length) }))) return {};
	}
	const sites = new Map(found.flatMap((one) => one.sites).map((site) => [site.id, site]));
	const hops = found.map(({ hop }) => hop);
	const question: ProjectQuestion = { hops, crews, days, now, dueDay, sites: [...sites.values()] };
	const forMs = Math.min(MOST_SEARCH_MS, LEAST_SEARCH_MS + SEARCH_MS_A_HOP * hops.length);
	const made = await scheduleBeside({ question, forMs }, (share) =>
		keep({ done: Math.min(99, Math.round(READING_SHARE + (100 - READING_SHARE) * share)) })
	);
	if (!made) return {};
	const { schedule, basis } = made;
	const read = Object.fromEntries(found.map((one) => [one.hop.id, one.read]));
	const kept: KeptSchedule = {
		days,
		made: {
			...{ at: new Date().toISOString(), by: actor.displayName, schedule, drafts },
			hops: lines.map(({ id, name, sites: names }) => ({ id, name, sites: names })),
			crews: crews.map(({ id, name }) => ({ id, name }))
		}
	};
	await keep({ done: 100 });
	await endWith(async (unit) => {
		await keepSchedule(projectId, JSON.stringify(kept), { read, basis }, unit);
		const { finish, unplaced } = schedule;
		const detail = { hops: hops.length, finish, unplaced: unplaced.length };
		await audit(actor.userId, 'schedule-project', `project:${projectId}`, detail, unit);
		return { unplaced: unplaced.length };
	});
	return undefined;
};
