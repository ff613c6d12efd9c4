import { randomUUID } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Crew } from '#core/schedule/crew';
import { STAGES } from '#core/stage/stages';
import { ALL_REMAINING } from '#core/tower/buildState';
import type { Assignment } from '$lib/server/services/assignments';
import type { Board, BoardRow, BoardView } from '$lib/server/services/board';
import type { KeptCrew } from '$lib/server/services/crews';
import type { MyWork, PlaceOfWork } from '$lib/server/services/myWork';
import type { KeptProject, ProjectLine } from '$lib/server/services/projects';
import { usualDayPlan } from '#core/schedule/dayPlan';
import {
	call,
	closingDb,
	goCards,
	newCaller,
	newHop,
	READY,
	record as madeRecord,
	said,
	type Answer,
	type Caller
} from './world';

closingDb();

let planner: Caller;
let climber: Caller;
let other: Caller;
beforeAll(async () => {
	planner = await newCaller('planner');
	climber = await newCaller('technician');
	other = await newCaller('technician');
});

const DAY_MS = 86_400_000;
const day = (on: number): string => new Date(Date.now() + on * DAY_MS).toISOString().slice(0, 10);

const crewOf = (who: Caller | undefined, change: Partial<Crew> = {}): Crew => ({
	name: `Crew ${randomUUID().slice(0, 8)}`,
	...{ region: 'North', zone: 'Etc/UTC', fromMin: 420, toMin: 1020, base: null },
	equipment: ['Capstan winch'],
	people: [
		{
			id: randomUUID(),
			...{ name: 'Ada Reef', phone: '+00 12 345', userId: who?.userId ?? null },
			skills: ['climber', 'rigger']
		},
		{ id: randomUUID(), name: 'Bo Quay', phone: '', userId: null, skills: ['climber'] }
	],
	...change
});
const saveCrew = (
	crew: object,
	{
		id = randomUUID(),
		version = 0,
		who = planner
	}: { id?: string; version?: number; who?: Caller } = {}
): Promise<Answer<KeptCrew>> => call(who, 'PUT', `/crews/${id}`, { version, crew });
const newCrew = async (who?: Caller, change: Partial<Crew> = {}): Promise<KeptCrew> =>
	(await saveCrew(crewOf(who, change))).body;

const saveProject = (
	project: object,
	{ id = randomUUID(), version = 0 }: { id?: string; version?: number } = {}
): Promise<Answer<KeptProject>> => call(planner, 'PUT', `/projects/${id}`, { version, project });
const newProject = async (change: object = {}): Promise<KeptProject> =>
	(
		await saveProject({
			...{ name: `Project ${randomUUID().slice(0, 8)}`, region: 'Sound', dueDay: null, note: '' },
			...change
		})
	).body;

const assign = (
	hopId: string,
	crewId: string,
	change: object = {},
	{ id = randomUUID(), who = planner }: { id?: string; who?: Caller } = {}
): Promise<Answer<Assignment>> =>
	call(who, 'PUT', `/hops/${hopId}/assignments/${id}`, {
		...{ end: 'A', crewId, day: day(0), fromMin: null, note: '' },
		...change
	});
const assigned = async (hopId: string): Promise<Assignment[]> =>
	(await call<{ assignments: Assignment[] }>(planner, 'GET', `/hops/${hopId}/assignments`)).body
		.assignments;

const board = async (who: Caller, query = ''): Promise<Board> => {
	const answer = await call<Board>(who, 'GET', `/board?${query}`);
	expect(answer.status).toBe(200);
	return answer.body;
};
/** The board once everything that was recorded is read. */
async function settled(who: Caller, query = ''): Promise<Board> {
	return expect
		.poll(() => board(who, query), { timeout: 30_000 })
		.toMatchObject({ behind: 0 })
		.then(() => board(who, query));
}
const rowOf = async (who: Caller, hopId: string, query = ''): Promise<BoardRow> => {
	const row = (await settled(who, query)).rows.find(({ id }) => id === hopId);
	if (!row) throw new Error('not on the board');
	return row;
};
const record = (
	hopId: string,
	end: 'A' | 'B',
	kind: string,
	payload: object,
	who = climber
): ReturnType<typeof call> =>
	call(who, 'POST', `/hops/${hopId}/records`, {
		records: [{ id: randomUUID(), end, kind, payload, recordedAt: new Date().toISOString() }]
	});
describe('a crew', () => {
	it('is kept with its people in their order, and changed on top of its version', async () => {
		const crew = crewOf(climber);
		const id = randomUUID();
		const made = await saveCrew(crew, { id });
		expect([made.status, made.body]).toEqual([200, { ...crew, id, version: 1 }]);
		const turned = {
			...crew,
			...{ people: [...crew.people].reverse(), toMin: 1500 },
			base: { latitudeDeg: -46.25, longitudeDeg: -118.5 }
		};
		const changed = await saveCrew(turned, { id, version: 1 });
		expect(changed.body).toEqual({ ...turned, id, version: 2 });
		const late = await saveCrew(crew, { id, version: 1 });
		expect(said(late).slice(0, 2)).toEqual([409, 'changed-meanwhile']);
	});

	it('is made once, however often it is sent', async () => {
		const crew = crewOf(undefined);
		const id = randomUUID();
		const first = await saveCrew(crew, { id });
		const again = await saveCrew(crew, { id });
		expect([again.status, again.body]).toEqual([200, first.body]);
		expect(said(await saveCrew({ ...crew, region: 'South' }, { id })).slice(0, 2)).toEqual([
			409,
			'changed-meanwhile'
		]);
		const named = await saveCrew({ ...crewOf(undefined), name: crew.name });
		expect(said(named)).toEqual([409, 'name-taken', 'crew.name']);
	});

	it('is refused at the field that is wrong, and nothing of it is kept', async () => {
		const crew = crewOf(climber);
		const person = crew.people[0]!;
		const wrong: [object, string][] = [
			[{ ...crew, name: ' ' }, 'crew.name'],
			[{ ...crew, zone: 'Nowhere/Atoll' }, 'crew.zone'],
			[{ ...crew, toMin: 400 }, 'crew.toMin'],
			[{ ...crew, toMin: 'late' }, 'crew.toMin'],
			[{ ...crew, people: [] }, 'crew.people'],
			[{ ...crew, people: [{ ...person, name: '' }] }, 'crew.people.0.name'],
			[{ ...crew, people: [{ ...person, phone: 'call me' }] }, 'crew.people.0.phone'],
			[{ ...crew, people: [{ ...person, skills: ['diver'] }] }, 'crew.people.0.skills.0'],
			[{ ...crew, people: [{ ...person, userId: randomUUID() }] }, 'crew.people.0.userId'],
			[{ ...crew, people: [person, { ...person, id: randomUUID() }] }, 'crew.people.1'],
			[{ ...crew, base: { latitudeDeg: 91, longitudeDeg: 0 } }, 'crew.base.latitudeDeg']
		];
		for (const [sent, field] of wrong) {
			expect(said(await saveCrew(sent)), field).toEqual([422, 'invalid-input', field]);
		}
		expect((await call(planner, 'PUT', '/crews/mine', { version: 0, crew })).status).toBe(404);
		const { crews } = (await call<{ crews: KeptCrew[] }>(planner, 'GET', '/crews')).body;
		expect(crews.map(({ name }) => name)).not.toContain(crew.name);
	});

	it('goes only while it is assigned nowhere', async () => {
		const crew = await newCrew();
		const hop = await newHop(planner);
		const { body } = await assign(hop.id, crew.id);
		const kept = await call(planner, 'DELETE', `/crews/${crew.id}`);
		expect(said(kept).slice(0, 2)).toEqual([409, 'crew-in-use']);
		const path = `/hops/${hop.id}/assignments/${body.id}`;
		expect((await call(planner, 'DELETE', path)).status).toBe(204);
		// A repeat does nothing more.
		expect((await call(planner, 'DELETE', path)).status).toBe(204);
		expect((await call(planner, 'DELETE', `/crews/${crew.id}`)).status).toBe(204);
		expect((await call(planner, 'GET', `/crews/${crew.id}`)).status).toBe(404);
	});
});

describe('an assignment', () => {
	it('lets who is in the crew see the hop, and nobody else', async () => {
		const crew = await newCrew(climber);
		const hop = await newHop(planner);
		expect((await call(climber, 'GET', `/hops/${hop.id}`)).status).toBe(404);
		expect((await assign(hop.id, crew.id)).status).toBe(200);
		expect((await call(climber, 'GET', `/hops/${hop.id}`)).status).toBe(200);
		expect((await call(other, 'GET', `/hops/${hop.id}`)).status).toBe(404);
	});

	it('is kept once under its id, changed under it, and no crew is twice at an end on a day', async () => {
		const crew = await newCrew();
		const hop = await newHop(planner);
		const id = randomUUID();
		const first = await assign(hop.id, crew.id, {}, { id });
		expect((await assign(hop.id, crew.id, {}, { id })).body).toEqual(first.body);
		await assign(hop.id, crew.id, { end: 'B', fromMin: 480, note: 'Key at the gate' }, { id });
		expect(await assigned(hop.id)).toEqual([
			{ ...first.body, end: 'B', fromMin: 480, note: 'Key at the gate' }
		]);
		const twice = await assign(hop.id, crew.id, { end: 'B' });
		expect(said(twice)).toEqual([409, 'assigned-already', 'crewId']);
		const elsewhere = await newHop(planner);
		const moved = await assign(elsewhere.id, crew.id, {}, { id });
		expect(said(moved).slice(0, 2)).toEqual([409, 'id-used']);
		expect(said(await assign(hop.id, randomUUID()))).toEqual([422, 'invalid-input', 'crewId']);
		expect(said(await assign(hop.id, crew.id, { day: '2026-02-30' }))).toEqual([
			422,
			'invalid-input',
			'day'
		]);
		expect(await assigned(hop.id)).toHaveLength(1);
	});
});

describe('a project', () => {
	it('counts its hops that somebody sees, and lets them go when it is deleted', async () => {
		const project = await newProject({ dueDay: day(3) });
		const hops = [await newHop(planner, [climber]), await newHop(planner)];
		const put = (hopIds: string[], who = planner): Promise<Answer> =>
			call(who, 'PUT', '/project-hops', { projectId: project.id, hopIds });
		expect((await put(hops.map(({ id }) => id))).status).toBe(204);
		const countFor = async (who: Caller): Promise<number> =>
			(await call<{ projects: ProjectLine[] }>(who, 'GET', '/projects')).body.projects.find(
				({ id }) => id === project.id
			)!.hops;
		expect([await countFor(planner), await countFor(climber)]).toEqual([2, 1]);
		expect((await rowOf(planner, hops[0]!.id)).project).toMatchObject({ name: project.name });
		// A hop that one does not see is put nowhere.
		const strange = await newCaller('planner');
		expect((await put([hops[0]!.id], strange)).status).toBe(404);
		expect((await call(planner, 'DELETE', `/projects/${project.id}`)).status).toBe(204);
		expect((await rowOf(planner, hops[0]!.id)).project).toBeNull();
	});

	it('is changed on top of its version, and has a name of its own', async () => {
		const one = await newProject();
		const values = { name: one.name, region: 'Fjord', dueDay: '2027-03-01', note: 'Boats only' };
		const changed = await saveProject(values, { id: one.id, version: 1 });
		expect(changed.body).toEqual({ ...values, id: one.id, version: 2 });
		expect((await saveProject(values, { id: one.id, version: 1 })).body).toEqual(changed.body);
		const late = await saveProject({ ...values, region: 'x' }, { id: one.id, version: 1 });
		expect(said(late).slice(0, 2)).toEqual([409, 'changed-meanwhile']);
		expect(said(await saveProject(values))).toEqual([409, 'name-taken', 'project.name']);
		const wrong = await saveProject({ ...values, name: 'Other', dueDay: 'soon' });
		expect(said(wrong)).toEqual([422, 'invalid-input', 'project.dueDay']);
	});
});

describe('the board', () => {
	it('shows where each end stands by its records, for whom it waits and since when', async () => {
		const own = await newCaller('planner');
		const hop = await newHop(own, [climber]);
		const draft = await newHop(own, [], { issue: false });
		expect(await rowOf(own, draft.id)).toMatchObject({
			ends: { A: { stage: 'prepare', waitsFor: 'planner' }, B: { stage: 'prepare' } }
		});
		expect((await rowOf(own, hop.id)).ends.A).toMatchObject({
			...{ stage: 'build', state: 'open', waitsFor: null, since: null }
		});
		const built = { step: ALL_REMAINING, cause: 'Built before', authorisedBy: 'Ada Reef' };
		await record(hop.id, 'A', 'step-skipped', built);
		const ready = [...goCards('A'), madeRecord('A', 'alignment-state', READY)];
		await call(climber, 'POST', `/hops/${hop.id}/records`, { records: ready });
		const row = await rowOf(own, hop.id);
		expect(row.ends.A).toMatchObject({ stage: 'align', state: 'waiting', waitsFor: 'far-end' });
		expect(row.ends.A.since).toBe(ready.at(-1)!.recordedAt);
		expect(row.ends.B).toMatchObject({ stage: 'build', waitsFor: null });
		expect(row.last).toMatchObject({ end: 'A' });
		const { counts } = await settled(own);
		expect(counts).toMatchObject({ hops: 2, waits: { planner: 2 } });
		expect(STAGES.reduce((sum, stage) => sum + counts.stages[stage], 0)).toBe(4);
		const waiting = await board(own, 'waits=far-end');
		expect(waiting.rows.map(({ id }) => id)).toEqual([hop.id]);
	});

	it('is narrowed by project, crew, region, stage and what is late, and says what it narrows', async () => {
		const own = await newCaller('planner');
		const ids = [
			(await newHop(own)).id,
			(await newHop(own)).id,
			(await newHop(own, [], { issue: false })).id
		];
		const put = (projectId: string | null, hopIds: string[], dueDay?: string): Promise<Answer> =>
			call(own, 'PUT', '/project-hops', { projectId, hopIds, dueDay });
		const late = await newProject({ region: 'Outer', dueDay: day(-2) });
		const calm = await newProject({ region: 'Inner', dueDay: day(9) });
		await put(late.id, [ids[0]!]);
		await put(calm.id, [ids[1]!]);
		const crew = await newCrew();
		await assign(ids[1]!, crew.id, {}, { who: own });
		await assign(ids[0]!, crew.id, { day: day(-3) }, { who: own });
		const shown = async (query: string): Promise<string[]> =>
			(await settled(own, query)).rows.map(({ id }) => id);
		expect(await shown(`project=${late.id}`)).toEqual([ids[0]]);
		expect(await shown('project=none')).toEqual([ids[2]]);
		expect(await shown('region=Inner')).toEqual([ids[1]]);
		// Who was there before is not asked for.
		expect(await shown(`crew=${crew.id}`)).toEqual([ids[1]]);
		expect(await shown('stage=prepare')).toEqual([ids[2]]);
		expect(await shown('flag=overdue')).toEqual([ids[0]]);
		expect(await shown('sort=due')).toEqual(ids);
		expect(await shown('q=no such hop anywhere')).toEqual([]);
		const row = await rowOf(own, ids[0]!);
		expect(row).toMatchObject({ overdue: true, dueDay: day(-2) });
		expect((await settled(own)).counts).toMatchObject({ hops: 3, overdue: 1 });
		expect((await call(own, 'GET', '/board?stage=roof')).status).toBe(422);
		// A hop may be due at another day than its project.
		await put(late.id, [ids[0]!], day(4));
		expect((await rowOf(own, ids[0]!)).overdue).toBe(false);
	});

	it('keeps views for the person alone, each under one name', async () => {
		const own = await newCaller('planner');
		const id = randomUUID();
		const keep = (view: object, at = id, who = own): Promise<Answer<{ views: BoardView[] }>> =>
			call(who, 'PUT', `/me/board-views/${at}`, view);
		const view = { name: 'Late ones', query: 'flag=overdue' };
		await keep(view);
		expect((await keep(view)).body.views).toEqual([{ ...view, id }]);
		expect(said(await keep(view, randomUUID()))).toEqual([409, 'name-taken', 'name']);
		expect((await keep(view, randomUUID(), other)).body.views).toHaveLength(1);
		await call(other, 'DELETE', `/me/board-views/${id}`);
		const { views } = (await call<{ views: BoardView[] }>(own, 'GET', '/me/board-views')).body;
		expect(views).toEqual([{ ...view, id }]);
		expect((await call(own, 'DELETE', `/me/board-views/${id}`)).status).toBe(204);
	});
});

describe('my work', () => {
	const work = async (who: Caller): Promise<MyWork> =>
		(await call<MyWork>(who, 'GET', '/me/work')).body;

	it('is where a person’s crew is assigned, with who is at the other end and what to bring', async () => {
		const person = await newCaller('technician');
		const hop = await newHop(planner);
		const near = await newCrew(person, { zone: 'Pacific/Chatham' });
		const far = await newCrew(undefined, {
			people: [
				{ id: randomUUID(), name: 'Cy Stack', phone: '+00 99', userId: null, skills: ['climber'] }
			]
		});
		expect((await work(person)).places).toEqual([]);
		const today = (await work(person)).today;
		await assign(hop.id, near.id, { end: 'B', day: today, fromMin: 435, note: 'Gate code' });
		await assign(hop.id, far.id, { end: 'A', day: today });
		const { places, unfinished, others } = await work(person);
		expect([places.length, unfinished.length, others.length]).toEqual([1, 0, 0]);
		const [place] = places as [PlaceOfWork];
		expect(place).toMatchObject({
			...{ hopId: hop.id, end: 'B', crew: near.name, note: 'Gate code' },
			standing: { stage: 'build' },
			far: { crews: [{ name: far.name, people: [{ name: 'Cy Stack', phone: '+00 99' }] }] }
		});
		// 07:15 by a clock that is 12 h 45 or 13 h 45 ahead of UTC.
		expect(new Date(place.at).toISOString().slice(11, 16)).toMatch(/^(17|18):30$/);
		expect(place.outside.weatherKnown).toBe(false);
		expect(place.outside.light.length).toBeGreaterThan(0);
		expect(place.brief!.revision).toBe(1);
		const groups = new Set(place.brief!.bring.map(({ group }) => group));
		expect(groups).toEqual(new Set(['equipment', 'material', 'tool', 'consumable']));
	});

	it('says what the weather of the day forbids, by the limits of the hop', async () => {
		const person = await newCaller('technician');
		const hop = await newHop(planner, [person]);
		const crew = await newCrew(person);
		await assign(hop.id, crew.id);
		const usual = usualDayPlan(day(0), 'Etc/UTC');
		const hour = { end: 'A', windMs: 20, gustMs: null, rainMmH: null, lightning: false } as const;
		const weather = [{ ...hour, at: `${day(0)}T10:00:00.000Z` }];
		await call(planner, 'PUT', `/hops/${hop.id}/day-plan`, {
			version: 0,
			plan: { ...usual, weather }
		});
		const [place] = (await work(person)).places as [PlaceOfWork];
		expect(place.outside.weatherKnown).toBe(true);
		const from = Date.parse(`${day(0)}T10:00:00Z`) / 60_000;
		expect(place.outside.forbidden).toEqual(
			(['climb', 'lift'] as const).map((limit) => ({
				limit,
				spans: [{ from, to: from + 60 }]
			}))
		);
	});

	it('brings up what was left, not what was begun anew, and nothing one may not see any more', async () => {
		const person = await newCaller('technician');
		const crew = await newCrew(person);
		const left = await newHop(planner);
		const goesOn = await newHop(planner);
		await assign(left.id, crew.id, { day: day(-2) });
		await assign(left.id, crew.id, { day: day(-1) });
		await assign(goesOn.id, crew.id, { day: day(-1) });
		await assign(goesOn.id, crew.id, { day: day(1) });
		const before = await work(person);
		expect(before.unfinished.map(({ hopId, day: on }) => [hopId, on])).toEqual([
			[left.id, day(-1)]
		]);
		expect(before.places.map(({ hopId }) => hopId)).toEqual([goesOn.id]);
		await call(planner, 'PUT', `/hops/${goesOn.id}/members`, { memberIds: [] });
		expect((await work(person)).places).toEqual([]);
	});

	it('is, for who is in no crew, the hops they work on', async () => {
		const person = await newCaller('technician');
		const hop = await newHop(planner, [person]);
		const { crews, places, others } = await work(person);
		expect([crews, places, others.map(({ id }) => id)]).toEqual([[], [], [hop.id]]);
	});
});

describe('a message', () => {
	it('goes into the feed as any record, and says something', async () => {
		const hop = await newHop(planner, [climber]);
		const sent = await record(hop.id, 'A', 'message', { phrase: 'going-up', text: '' });
		expect(sent.status).toBe(200);
		const own = await record(hop.id, 'B', 'message', {
			phrase: null,
			text: '  Wait for the boat '
		});
		expect(own.status).toBe(200);
		const { records } = (
			await call<{ records: { payload: object }[] }>(planner, 'GET', `/hops/${hop.id}/records`)
		).body;
		expect(records.map(({ payload }) => payload)).toEqual([
			{ phrase: 'going-up', text: '' },
			{ phrase: null, text: 'Wait for the boat' }
		]);
		for (const [payload, field] of [
			[{ phrase: null, text: ' ' }, 'text'],
			[{ phrase: 'jump', text: '' }, 'phrase'],
			[{ phrase: null, text: 'x'.repeat(281) }, 'text']
		] as const) {
			const refused = await record(hop.id, 'A', 'message', payload);
			expect(said(refused)).toEqual([422, 'invalid-input', `records.0.payload.${field}`]);
		}
	});
});
