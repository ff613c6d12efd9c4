import { randomUUID } from 'node:crypto';
import Papa from 'papaparse';
import { clockMoment, daysOf } from '#core/schedule/hours';
import type { Stint } from '#core/schedule/projectSchedule';
import { requireMay, type Actor } from '../auth/actor';
import { refusal } from '../errors';
import { FORMULA } from '../formats/importFile';
import { assignmentsOf, type Assignment } from '../repositories/assignments';
import { assign } from './assignments';
import { scheduleNow } from './projectMoves';
import { scheduleOf, type KeptSchedule } from './projectSchedule';

const MINUTE_MS = 60_000;

/** A schedule as it stands now: where it was worked out, moved by what was recorded since. */
async function standing(
	actor: Actor,
	projectId: string
): Promise<{ kept: KeptSchedule; made: NonNullable<KeptSchedule['made']>; stints: Stint[] }> {
	const kept = await scheduleOf(actor, projectId);
	if (!kept?.made) throw refusal('no-schedule');
	const { moved } = await scheduleNow(actor, projectId, undefined);
	return { kept, made: kept.made, stints: moved?.stints ?? kept.made.schedule.stints };
}

/** The schedule as a table: who is where, when, and what for; moments in UTC. */
export async function scheduleCsv(actor: Actor, projectId: string): Promise<string> {
	const { made, stints } = await standing(actor, projectId);
	const { hops, crews } = made;
	const hopOf = new Map(hops.map((hop) => [hop.id, hop]));
	const nameOf = new Map(crews.map(({ id, name }) => [id, name]));
	const rows = stints.map(({ crew, hop, end, from, to, titles, done, desk }) => ({
		crew: nameOf.get(crew) ?? '',
		hop: hopOf.get(hop)?.name ?? '',
		end,
		site: desk ? '' : (hopOf.get(hop)?.sites[end] ?? ''),
		from_utc: new Date(from * MINUTE_MS).toISOString(),
		to_utc: new Date(to * MINUTE_MS).toISOString(),
		done: done ? 'yes' : 'no',
		work: [...new Set(titles)].join('; ')
	}));
	return `${Papa.unparse(rows, { newline: '\n', escapeFormulae: FORMULA })}\n`;
}

/** Puts crews where the schedule has them, a day each. A repeat does nothing more. */
export async function assignBySchedule(
	actor: Actor,
	projectId: string
): Promise<{ assigned: number }> {
	requireMay(actor, 'edit-hops');
	const { kept, stints } = await standing(actor, projectId);
	const ids = [...new Set(stints.map(({ hop }) => hop))];
	const present = new Set((await assignmentsOf(ids)).map(keyOf));
	let assigned = 0;
	for (const { hop, end, crew, from, done, desk } of stints) {
		if (done || desk) continue;
		const day = daysOf({ from, to: from + 1 }, kept.days.zone)[0] ?? '';
		const wanted = { hopId: hop, end, crewId: crew, day };
		if (present.has(keyOf(wanted))) continue;
		present.add(keyOf(wanted));
		const fromMin = from - clockMoment(day, 0, kept.days.zone);
		const id = randomUUID();
		await assign(actor, { ...wanted, id, note: '', fromMin: Math.min(1439, Math.max(0, fromMin)) });
		assigned += 1;
	}
	return { assigned };
}

const keyOf = ({
	hopId,
	end,
	crewId,
	day
}: Pick<Assignment, 'hopId' | 'end' | 'crewId' | 'day'>): string =>
	`${hopId}/${end}/${crewId}/${day}`;
