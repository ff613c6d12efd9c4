import { createHmac, randomBytes } from 'node:crypto';
import { farEnd } from '#core/ends';
import { clockMoment } from '#core/schedule/hours';
import { requireMay, viewerOf, type Actor } from '../auth/actor';
import { config } from '../config';
import { TakenError } from '../db/taken';
import { invalid, notFound, refusal } from '../errors';
import { workCalendar, type WorkDay } from '../formats/workCalendar';
import { assignmentsOf, assignmentsOfCrews } from '../repositories/assignments';
import { audit } from '../repositories/audit';
import { linesOf } from '../repositories/board';
import {
	addAddress,
	addressByHash,
	addressesOf,
	noteUse,
	removeAddress
} from '../repositories/calendarAddresses';
import { allCrews, findCrew, type KeptCrew } from '../repositories/crews';
import { seenOf } from '../repositories/hops';
import { sitesOfHops } from '../repositories/sites';
import { findPerson } from '../repositories/users';

/** An address under which a calendar program follows somebody's days; its secret is shown once, when it is made. */
export interface CalendarAddress {
	id: string;
	/** Whose days it gives; null for those of the person. */
	crewId: string | null;
	madeAt: Date;
	/** When it was read last; null while it was not. */
	usedAt: Date | null;
}

const SECRET_BYTES = 32;
const MOST_ADDRESSES = 20;
const DAYS_BACK = 14;
const DAYS_ON = 120;
const MOST_DAYS = 500;
const DAY_MS = 86_400_000;
const MINUTE_MS = 60_000;

const hashOf = (secret: string): string =>
	createHmac('sha256', config.secret).update(secret).digest('hex');

export async function listCalendars(actor: Actor): Promise<CalendarAddress[]> {
	const rows = await addressesOf(actor.userId);
	return rows.map(({ id, crewId, madeAt, usedAt }) => ({ id, crewId, madeAt, usedAt }));
}

/** Makes an address; its path is told this once. */
export async function makeCalendar(
	actor: Actor,
	{ id, crewId }: { id: string; crewId: string | null }
): Promise<{ path: string }> {
	requireMay(actor, 'read-hops');
	if (crewId !== null && !(await findCrew(crewId))) {
		throw invalid([{ field: 'crewId', message: 'There is no such crew.' }]);
	}
	if ((await addressesOf(actor.userId)).length >= MOST_ADDRESSES) {
		throw refusal('too-many-calendars', MOST_ADDRESSES);
	}
	const secret = randomBytes(SECRET_BYTES).toString('base64url');
	const row = { id, userId: actor.userId, crewId, tokenHash: hashOf(secret), usedAt: null };
	try {
		await addAddress({ ...row, madeAt: new Date() });
	} catch (error) {
		if (error instanceof TakenError) throw refusal('id-used', 'calendar');
		throw error;
	}
	await audit(actor.userId, 'make-calendar', `user:${actor.userId}`, { id, crewId });
	return { path: `/api/v1/calendars/${secret}` };
}

/** Takes an address back: whoever has it reads nothing more. A repeat does nothing. */
export async function withdrawCalendar(actor: Actor, id: string): Promise<void> {
	const gone = await removeAddress(actor.userId, id);
	if (gone > 0) await audit(actor.userId, 'withdraw-calendar', `user:${actor.userId}`, { id });
}

/** What an address gives, for whoever has it; 404 where there is none, or its person is let in no more. */
export async function calendarAt(secret: string, origin: string): Promise<string> {
	const row = await addressByHash(hashOf(secret));
	const person = row && (await findPerson(row.userId));
	if (!row || !person || person.disabled) throw notFound('calendar');
	await noteUse(row.id, new Date());
	const actor = { userId: person.id, displayName: person.displayName, role: person.role };
	return calendarOf(actor, row.crewId, origin);
}

/**
 * The days of a person's crews, or of one crew, as iCalendar: hops that the person does not see are not in it.
 *
 * @param origin of the addresses in it
 */
export async function calendarOf(
	actor: Actor,
	crewId: string | null,
	origin: string
): Promise<string> {
	requireMay(actor, 'read-hops');
	const everyCrew = await allCrews();
	const chosen = everyCrew.filter(({ id, people }) =>
		crewId === null ? people.some(({ userId }) => userId === actor.userId) : id === crewId
	);
	const crewOf = new Map(everyCrew.map((crew) => [crew.id, crew]));
	const now = Date.now();
	const day = (by: number): string => new Date(now + by * DAY_MS).toISOString().slice(0, 10);
	const ids = chosen.map(({ id }) => id);
	const assigned = await assignmentsOfCrews(ids, day(-DAYS_BACK), day(DAYS_ON), MOST_DAYS);
	const seen = await seenOf(
		viewerOf(actor),
		assigned.map(({ hopId }) => hopId)
	);
	const lines = new Map((await linesOf([...seen], day(0))).map((line) => [line.id, line] as const));
	const all = await assignmentsOf([...seen]);
	const sites = await sitesOfHops([...seen]);
	const days: WorkDay[] = [];
	for (const one of assigned) {
		const line = lines.get(one.hopId);
		const crew = crewOf.get(one.crewId);
		const site = sites.get(one.hopId)?.[one.end];
		if (!line || !crew || !site) continue;
		const far = all.filter(
			({ hopId, end, day: on }) => hopId === one.hopId && end === farEnd(one.end) && on === one.day
		);
		days.push({
			...{ id: one.id, hopName: line.name, end: one.end, crew: crew.name, note: one.note },
			...hoursOf(one, crew),
			siteName: site.name,
			site: { latitudeDeg: site.latitudeDeg, longitudeDeg: site.longitudeDeg },
			far: far.map((other) => crewOf.get(other.crewId)?.name ?? '').join(', '),
			url: `${origin}/hops/${one.hopId}/${one.end.toLowerCase()}/timetable`
		});
	}
	const name = crewId === null ? actor.displayName : (chosen[0]?.name ?? '');
	return workCalendar(`Skiaxis, ${name}`, days, new Date());
}

/** When a crew is at an end on its day: from when it was told to be there until its hours are over. */
function hoursOf(
	{ day, fromMin }: { day: string; fromMin: number | null },
	{ zone, fromMin: begins, toMin }: KeptCrew
): { from: Date; to: Date } {
	const at = fromMin ?? begins;
	const from = clockMoment(day, at, zone);
	const to = Math.max(clockMoment(day, toMin, zone), from + 60);
	return { from: new Date(from * MINUTE_MS), to: new Date(to * MINUTE_MS) };
}
