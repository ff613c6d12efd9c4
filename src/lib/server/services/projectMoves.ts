import { createHash } from 'node:crypto';
import type { ProjectHop } from '#core/schedule/projectDays';
import type { MovedSchedule } from '#core/schedule/projectSchedule';
import { viewerOf, type Actor } from '../auth/actor';
import { inWorker } from '../jobs/pool';
import { crewsWith } from '../repositories/crews';
import { seenOf } from '../repositories/hops';
import {
	basisOfProject,
	paceOfProject,
	scheduleOfProject,
	type HopRead
} from '../repositories/projects';
import { hopReading, readHopToSchedule } from './projectHops';
import { getProject } from './projects';
import type { KeptSchedule } from './projectSchedule';

/** Where a project's schedule has moved to. */
export interface ScheduleNow {
	/** Says what it is moved by: who knows it already asks with it. */
	key: string;
	/** Null where nothing has changed since that key, or nothing was worked out yet. */
	moved: MovedSchedule | null;
}

const MINUTE_MS = 60_000;
/** As time passes without a record the rest comes later: told anew every so often. */
const TICK_MIN = 5;
/** Projects whose moved schedule is held. */
const MOST_HELD = 40;

const held = new Map<string, { key: string; moved: Promise<MovedSchedule | null> }>();

/**
 * The schedule of a project as it has moved by what was recorded since it was worked out; one work for all who watch.
 *
 * @param known key of the answer that the asker has
 */
export async function scheduleNow(
	actor: Actor,
	projectId: string,
	known: string | undefined
): Promise<ScheduleNow> {
	await getProject(actor, projectId);
	const { madeAt, hops } = await paceOfProject(projectId);
	if (madeAt === null) return { key: '', moved: null };
	const now = Math.floor(Date.now() / MINUTE_MS / TICK_MIN) * TICK_MIN;
	const key = keyOf(madeAt, hops, now);
	if (key === known) return { key, moved: null };
	const there = held.get(projectId);
	const work = there?.key === key ? there.moved : moveTo(projectId, hops, now);
	if (there?.key !== key) {
		held.delete(projectId);
		held.set(projectId, { key, moved: work });
		if (held.size > MOST_HELD) held.delete([...held.keys()][0] ?? '');
		// What went wrong is tried again, and told to whoever asked.
		work.catch(() => held.delete(projectId));
	}
	const moved = await work;
	return { key, moved: moved && (await seenPart(actor, moved)) };
}

function keyOf(madeAt: string, hops: ReadonlyMap<string, HopRead>, now: number): string {
	const hash = createHash('sha256').update(`${madeAt} ${now}`);
	for (const [id, read] of [...hops].sort(([p], [q]) => p.localeCompare(q))) {
		hash.update(`${id} ${read.seq} ${read.revision} ${read.accepted}`);
	}
	return hash.digest('base64url').slice(0, 22);
}

/** Reads the hops that went on since the schedule was worked out, and moves it by them. */
async function moveTo(
	projectId: string,
	pace: ReadonlyMap<string, HopRead>,
	now: number
): Promise<MovedSchedule | null> {
	const kept = await basisOfProject(projectId);
	const text = await scheduleOfProject(projectId);
	if (!kept || !text) return null;
	const { days } = JSON.parse(text) as KeptSchedule;
	const changed = Object.entries(kept.read).filter(([id, read]) => {
		const its = pace.get(id);
		return (
			its &&
			(its.seq > read.seq || its.revision !== read.revision || its.accepted !== read.accepted)
		);
	});
	const ids = changed.map(([id]) => id);
	const reading = await hopReading(ids, await crewsWith(days.crewIds), { now, ...days });
	const hops: ProjectHop[] = [];
	for (const id of ids) {
		const read = await readHopToSchedule(id, reading);
		if (read) hops.push(read.hop);
	}
	return inWorker('move-schedule', { basis: new Uint8Array(kept.basis), hops, now });
}

/** Of hops that somebody does not see nothing is told. */
async function seenPart(actor: Actor, moved: MovedSchedule): Promise<MovedSchedule> {
	const all = [...moved.stints, ...moved.lost].map(({ hop }) => hop);
	const seen = await seenOf(viewerOf(actor), [...new Set(all)]);
	const mine = ({ hop }: { hop: string }): boolean => seen.has(hop);
	return {
		...moved,
		stints: moved.stints.filter(mine),
		gates: moved.gates.filter(mine),
		lost: moved.lost.filter(mine)
	};
}
