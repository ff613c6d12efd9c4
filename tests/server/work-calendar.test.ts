import { randomUUID } from 'node:crypto';
import ICAL from 'ical.js';
import { beforeAll, describe, expect, it } from 'vitest';
import type { CalendarAddress } from '$lib/server/services/workCalendars';
import { call, closingDb, newCaller, newHop, said, type Answer, type Caller } from './world';

closingDb();

let planner: Caller;
let admin: Caller;
beforeAll(async () => {
	planner = await newCaller('planner');
	admin = await newCaller('administrator');
});

const day = (on: number): string =>
	new Date(Date.now() + on * 86_400_000).toISOString().slice(0, 10);

async function newCrew(member: Caller): Promise<string> {
	const id = randomUUID();
	await call(planner, 'PUT', `/crews/${id}`, {
		version: 0,
		crew: {
			...{ name: `Crew ${id.slice(0, 8)}`, region: '', zone: 'Pacific/Chatham', fromMin: 420 },
			...{ toMin: 1020, base: null, equipment: [] },
			people: [
				{ id: randomUUID(), name: 'Ada', phone: '', userId: member.userId, skills: ['climber'] }
			]
		}
	});
	return id;
}
const assign = (hopId: string, crewId: string, change: object = {}): Promise<Answer> =>
	call(planner, 'PUT', `/hops/${hopId}/assignments/${randomUUID()}`, {
		...{ end: 'A', crewId, day: day(2), fromMin: null, note: '' },
		...change
	});
const make = async (who: Caller, crewId: string | null = null): Promise<string> => {
	const answer = await call<{ path: string }>(who, 'POST', '/me/calendars', {
		...{ id: randomUUID(), crewId }
	});
	expect(answer.status).toBe(201);
	return answer.body.path.replace('/api/v1', '');
};
const addresses = async (who: Caller): Promise<CalendarAddress[]> =>
	(await call<{ calendars: CalendarAddress[] }>(who, 'GET', '/me/calendars')).body.calendars;
/** What a calendar program reads, without any account. */
const follow = (path: string): Promise<Answer> => call(undefined, 'GET', path);
const eventsIn = (text: string): InstanceType<typeof ICAL.Event>[] =>
	new ICAL.Component(ICAL.parse(text) as unknown[])
		.getAllSubcomponents('vevent')
		.map((one) => new ICAL.Event(one));

describe('the calendar of a person', () => {
	it('is read by its address alone, with every day and where it is, by the clock of the crew', async () => {
		const person = await newCaller('technician');
		const crew = await newCrew(person);
		const hop = await newHop(planner);
		await assign(hop.id, crew, { end: 'B', fromMin: 450, note: 'Gate; code, four' });
		const path = await make(person);
		const { status, text } = await follow(path);
		expect(status).toBe(200);
		const [event, ...more] = eventsIn(text);
		expect(more).toEqual([]);
		expect(event!.summary).toContain('B ');
		expect(event!.description).toContain('Gate; code, four');
		// 07:30 by a clock 12 h 45 or 13 h 45 ahead of UTC, until five.
		expect(event!.startDate.toJSDate().toISOString().slice(11, 16)).toMatch(/^1[78]:45$/);
		expect(event!.duration.toSeconds()).toBe((1020 - 450) * 60);
		// The same entry each time: a program changes it rather than showing two.
		expect(eventsIn((await follow(path)).text)[0]!.uid).toBe(event!.uid);
		const own = await call(person, 'GET', '/me/calendar.ics');
		expect(eventsIn(own.text).map(({ uid }) => uid)).toEqual([event!.uid]);
		expect((await addresses(person))[0]!.usedAt).not.toBeNull();
	});

	it('is nobody’s any more once it is withdrawn, and its secret is told once', async () => {
		const person = await newCaller('technician');
		const path = await make(person);
		const [kept] = await addresses(person);
		expect(JSON.stringify(kept)).not.toContain(path.split('/').at(-1)!);
		const again = await call(person, 'POST', '/me/calendars', { id: kept!.id, crewId: null });
		expect(said(again).slice(0, 2)).toEqual([409, 'id-used']);
		// Somebody else withdraws nothing.
		await call(planner, 'DELETE', `/me/calendars/${kept!.id}`);
		expect((await follow(path)).status).toBe(200);
		expect((await call(person, 'DELETE', `/me/calendars/${kept!.id}`)).status).toBe(204);
		expect((await follow(path)).status).toBe(404);
		expect((await follow('/calendars/guessed')).status).toBe(404);
	});

	it('tells nothing of a hop that the person may not see, nor anything once they are blocked', async () => {
		const person = await newCaller('technician');
		const crew = await newCrew(person);
		const hop = await newHop(planner);
		await assign(hop.id, crew);
		const stranger = await newCaller('technician');
		const ofCrew = await make(stranger, crew);
		expect(eventsIn((await follow(ofCrew)).text)).toEqual([]);
		const own = await make(person, crew);
		expect(eventsIn((await follow(own)).text)).toHaveLength(1);
		await call(planner, 'PUT', `/hops/${hop.id}/members`, { memberIds: [] });
		expect(eventsIn((await follow(own)).text)).toEqual([]);
		await call(admin, 'PUT', `/people/${person.userId}/access`, { disabled: true });
		expect((await follow(own)).status).toBe(404);
		const nowhere = await call(stranger, 'POST', '/me/calendars', {
			...{ id: randomUUID(), crewId: randomUUID() }
		});
		expect(said(nowhere)).toEqual([422, 'invalid-input', 'crewId']);
	});
});
