import { ENDS, type End, type PerEnd } from '#core/ends';
import { skillsOf, type Crew } from '#core/schedule/crew';
import { daysOf } from '#core/schedule/hours';
import type { ProjectHop, ProjectSite } from '#core/schedule/projectDays';
import type { Durations } from '#core/schedule/tasks';
import { inWorker } from '../jobs/pool';
import { findLatestAcceptance } from '../repositories/acceptances';
import { assignmentsOf, type Assignment } from '../repositories/assignments';
import type { HopRead } from '../repositories/projects';
import { sitesOfHops } from '../repositories/sites';
import { durationsInUse } from './durations';
import { readAllRecords } from './feed';
import { findingsOf } from './findings';
import { findLatestRevision } from './plans';

/** A hop of a project as it stands, and how far it was read. */
export interface ReadHop {
	hop: ProjectHop;
	read: HopRead;
	sites: ProjectSite[];
}

/** What hops of one project are read with. */
export interface HopReading {
	/** Minutes since 1970 UTC. */
	now: number;
	acceptOnSite: boolean;
	durations: Durations;
	assigned: readonly Assignment[];
	/** Day from which on an assignment counts. */
	today: string;
	/** Crews that can build: who only signs takes no end. */
	builders: ReadonlySet<string>;
}

/** What hops are read with, now. */
export async function hopReading(
	hopIds: readonly string[],
	crews: readonly (Crew & { id: string })[],
	{ now, zone, acceptOnSite }: { now: number; zone: string; acceptOnSite: boolean }
): Promise<HopReading> {
	return {
		...{ now, acceptOnSite },
		durations: await durationsInUse(),
		assigned: await assignmentsOf(hopIds),
		today: daysOf({ from: now, to: now + 1 }, zone)[0] ?? '',
		builders: new Set(crews.filter((crew) => skillsOf(crew).climber > 0).map(({ id }) => id))
	};
}

/** A hop with what is done and left to do there; undefined where no plan of it is issued. */
export async function readHopToSchedule(
	hopId: string,
	{ now, acceptOnSite, durations, ...who }: HopReading
): Promise<ReadHop | undefined> {
	const revision = await findLatestRevision(hopId);
	const found = (await sitesOfHops([hopId])).get(hopId);
	if (!revision || !found) return undefined;
	const places = { A: found.A.id, B: found.B.id };
	const records = await readAllRecords(hopId);
	const accepted = (await findLatestAcceptance(hopId)) !== undefined;
	const { tasks, jobs } = await inWorker('hop-tasks', {
		...{ id: hopId, input: revision.input, plan: revision.plan, places, records, now, durations },
		findings: await findingsOf(revision, records),
		...{ accepted, acceptOnSite }
	});
	return {
		hop: { id: hopId, tasks, jobs, places, crews: crewsOf(hopId, who) },
		read: { seq: records.at(-1)?.seq ?? 0, revision: revision.number, accepted },
		sites: ENDS.map((end) => {
			const { id, name, latitudeDeg, longitudeDeg } = found[end];
			return { id, name, latitudeDeg, longitudeDeg };
		})
	};
}

/** The crew of each end from today on, where it is one and the same. */
function crewsOf(
	hopId: string,
	{ assigned, today, builders }: Pick<HopReading, 'assigned' | 'today' | 'builders'>
): PerEnd<string | null> {
	const at = (end: End): string | null => {
		const there = new Set(
			assigned
				.filter((one) => one.hopId === hopId && one.end === end && one.day >= today)
				.map(({ crewId }) => crewId)
				.filter((crewId) => builders.has(crewId))
		);
		return there.size === 1 ? ([...there][0] ?? null) : null;
	};
	return { A: at('A'), B: at('B') };
}
