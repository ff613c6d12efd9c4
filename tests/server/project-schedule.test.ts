import { randomUUID } from 'node:crypto';
import { afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { usualProjectDays, type ProjectDays } from '#core/schedule/projectDays';
import { ALL_REMAINING } from '#core/tower/buildState';
import type { Stint } from '#core/schedule/projectSchedule';
import type { Skill } from '#core/schedule/problem';
import type { ScheduleNow } from '$lib/server/services/projectMoves';
import type { Job } from '$lib/server/api/answers';
import type { Assignment } from '$lib/server/services/assignments';
import { runJobs, stopJobs } from '$lib/server/services/jobRunner';
import { scheduleJob, type KeptSchedule } from '$lib/server/services/projectSchedule';
import {
	call,
	closingDb,
	newCaller,
	newHop,
	record,
	said,
	type Answer,
	type Caller,
	type TestHop
} from './world';

closingDb();

let planner: Caller;
beforeAll(async () => {
	planner = await newCaller('planner');
});
beforeEach(() => runJobs({ schedule: scheduleJob }));
afterEach(() => stopJobs());

async function newCrew(skills: readonly Skill[] = ['climber', 'rigger']): Promise<string> {
	const id = randomUUID();
	const people = ['Ada Reef', 'Bo Quay'].map((name) => ({
		...{ id: randomUUID(), name, phone: '', userId: null },
		skills
	}));
	await call(planner, 'PUT', `/crews/${id}`, {
		version: 0,
		crew: {
			...{ name: `Crew ${id.slice(0, 8)}`, region: '', zone: 'Etc/UTC', fromMin: 360 },
			...{ toMin: 1200, base: null, equipment: [], people }
		}
	});
	return id;
}

async function newProject(hopIds: readonly string[]): Promise<string> {
	const id = randomUUID();
	const project = { name: `Project ${id.slice(0, 8)}`, region: '', dueDay: null, note: '' };
	await call(planner, 'PUT', `/projects/${id}`, { version: 0, project });
	if (hopIds.length) await call(planner, 'PUT', '/project-hops', { projectId: id, hopIds });
	return id;
}

const tomorrow = new Date(Date.now() + 86_400_000).toISOString().slice(0, 10);
const daysFor = (crewIds: readonly string[], change: Partial<ProjectDays> = {}): ProjectDays => ({
	...usualProjectDays(tomorrow, 'Etc/UTC', crewIds),
	...change
});
const begin = (projectId: string, days: ProjectDays, id = randomUUID()): Promise<Answer<Job>> =>
	call<Job>(planner, 'POST', `/projects/${projectId}/schedule`, { id, days });
const kept = async (projectId: string): Promise<KeptSchedule | null> =>
	(await call<{ schedule: KeptSchedule | null }>(planner, 'GET', `/projects/${projectId}/schedule`))
		.body.schedule;
const ended = (id: string): Promise<Job> =>
	vi.waitFor(
		async () => {
			const { body } = await call<Job>(planner, 'GET', `/jobs/${id}`);
			if (body.status === 'running') throw new Error('still running');
			return body;
		},
		{ timeout: 90_000, interval: 100 }
	);

describe('a project', () => {
	it('is scheduled beside the requests, and its crews are assigned as the schedule says, once', async () => {
		const hops = [await newHop(planner), await newHop(planner)];
		const draft = await newHop(planner, [], { issue: false });
		const crews = [await newCrew(), await newCrew()];
		const projectId = await newProject([...hops.map(({ id }) => id), draft.id]);
		expect(await kept(projectId)).toBeNull();
		const days = daysFor(crews);
		const id = randomUUID();
		const started = await begin(projectId, days, id);
		expect([started.status, started.body.kind, started.body.total]).toEqual([202, 'schedule', 100]);
		expect(await ended(id)).toMatchObject({ status: 'done', done: 100, result: { unplaced: 0 } });
		// The same id again gives the run of the first time.
		expect((await begin(projectId, days, id)).body.status).toBe('done');
		const found = (await kept(projectId))!;
		expect(found.days).toEqual(days);
		const { schedule, drafts } = found.made!;
		expect(schedule.unplaced).toEqual([]);
		expect(schedule.finish).toBeGreaterThanOrEqual(schedule.bound!);
		expect(new Set(schedule.stints.map(({ hop }) => hop))).toEqual(
			new Set(hops.map((hop) => hop.id))
		);
		expect(drafts.map((one) => one.id)).toEqual([draft.id]);
		// Whoever sees one hop of it is told of that one alone.
		const member = await newCaller('technician');
		await call(planner, 'PUT', `/hops/${hops[0]!.id}/members`, { memberIds: [member.userId] });
		const { body } = await call<{ schedule: KeptSchedule }>(
			...([member, 'GET', `/projects/${projectId}/schedule`] as const)
		);
		const theirs = body.schedule.made!;
		expect(theirs.hops.map((one) => one.id)).toEqual([hops[0]!.id]);
		expect(theirs.drafts).toEqual([]);
		expect(new Set(theirs.schedule.stints.map(({ hop }) => hop))).toEqual(new Set([hops[0]!.id]));
		const theirCsv = (await call(member, 'GET', `/projects/${projectId}/schedule.csv`)).text;
		expect(theirCsv.trim().split('\n')).toHaveLength(theirs.schedule.stints.length + 1);
		// Nothing before the first day, and nothing twice at once by one crew.
		const first = Date.parse(tomorrow) / 60_000;
		for (const crew of crews) {
			const own = schedule.stints
				.filter((one) => one.crew === crew)
				.sort((p, q) => p.from - q.from);
			own.forEach((one, i) => {
				expect(one.from).toBeGreaterThanOrEqual(i ? own[i - 1]!.to : first);
			});
		}

		const csv = (await call(planner, 'GET', `/projects/${projectId}/schedule.csv`)).text;
		expect(csv.split('\n')[0]).toBe('crew,hop,end,site,from_utc,to_utc,done,work');
		expect(csv.trim().split('\n')).toHaveLength(schedule.stints.length + 1);

		const assignAll = async (): Promise<number> =>
			(
				await call<{ assigned: number }>(
					planner,
					'POST',
					`/projects/${projectId}/schedule/assignments`
				)
			).body.assigned;
		const assigned = await assignAll();
		expect(assigned).toBeGreaterThan(0);
		expect(await assignAll()).toBe(0);
		const at = (
			await call<{ assignments: Assignment[] }>(planner, 'GET', `/hops/${hops[0]!.id}/assignments`)
		).body.assignments;
		for (const { end, crewId, day, fromMin } of at) {
			const there = schedule.stints.filter(
				(one) =>
					one.hop === hops[0]!.id &&
					!one.desk &&
					one.end === end &&
					one.crew === crewId &&
					new Date(one.from * 60_000).toISOString().startsWith(day)
			);
			expect(there.map(({ from }) => from % 1440)).toContain(fromMin);
		}
	});

	it('moves by what was recorded since, for whoever watches, and tells them once', async () => {
		const hops = [await newHop(planner), await newHop(planner)];
		const crews = [await newCrew(), await newCrew()];
		const projectId = await newProject(hops.map(({ id }) => id));
		const now = async (known = '', who = planner): Promise<ScheduleNow> =>
			(
				await call<ScheduleNow>(
					...([who, 'GET', `/projects/${projectId}/schedule/now?known=${known}`] as const)
				)
			).body;
		expect(await now('x')).toEqual({ key: '', moved: null });
		const id = randomUUID();
		await begin(projectId, daysFor(crews), id);
		await ended(id);
		const { schedule } = (await kept(projectId))!.made!;
		expect(schedule.chances.map(({ what }) => what)).toEqual(['that-day']);
		const first = await now('x');
		// Nothing was recorded, and it begins tomorrow: it stands where it stood.
		expect(first.moved).toMatchObject({ stints: schedule.stints, finish: schedule.finish });
		expect(await now(first.key)).toEqual({ key: first.key, moved: null });

		const [hop] = hops as [TestHop];
		const built = { step: ALL_REMAINING, cause: 'Built before', authorisedBy: 'Ada Reef' };
		const answer = await call(planner, 'POST', `/hops/${hop.id}/records`, {
			records: [record('A', 'step-skipped', built)]
		});
		expect(answer.status).toBe(200);
		const later = await now(first.key);
		expect(later.key).not.toBe(first.key);
		const left = (list: readonly Stint[]): string[] =>
			list
				.filter((one) => one.hop === hop.id && one.end === 'A' && !one.done)
				.flatMap(({ titles }) => titles);
		expect(left(schedule.stints)).toContain('Raise');
		expect(left(later.moved!.stints)).not.toContain('Cables');
		// What goes out, and what crews are assigned by, is what the wall shows.
		const csv = (await call(planner, 'GET', `/projects/${projectId}/schedule.csv`)).text;
		expect(csv.trim().split('\n')).toHaveLength(later.moved!.stints.length + 1);
		// Whoever sees one hop of it is told of that one alone.
		const member = await newCaller('technician');
		await call(planner, 'PUT', `/hops/${hop.id}/members`, { memberIds: [member.userId] });
		const theirs = (await now('', member)).moved!;
		expect(new Set(theirs.stints.map((one) => one.hop))).toEqual(new Set([hop.id]));
		expect(theirs.gates.map((one) => one.hop)).toEqual([hop.id]);
	});

	it('has an acceptor come to the site where that is asked, whose day is no building day', async () => {
		const hop = await newHop(planner);
		const builders = await newCrew();
		const signers = await newCrew(['acceptor']);
		const projectId = await newProject([hop.id]);
		const days = daysFor([builders, signers], { acceptOnSite: true });
		const id = randomUUID();
		await begin(projectId, days, id);
		expect(await ended(id)).toMatchObject({ result: { unplaced: 0 } });
		const { stints } = (await kept(projectId))!.made!.schedule;
		expect(stints.filter(({ crew }) => crew === signers).map(({ titles }) => titles)).toEqual([
			['Acceptance']
		]);
		await call(planner, 'POST', `/projects/${projectId}/schedule/assignments`);
		// Both are at A on some day: who only signs does not take the end from who builds.
		const again = randomUUID();
		await begin(projectId, days, again);
		expect(await ended(again)).toMatchObject({ result: { unplaced: 0 } });
	});

	it('is refused where there is nothing to schedule, nobody to do it, or something is wrong', async () => {
		const crew = await newCrew();
		const empty = await newProject([]);
		expect(said(await begin(empty, daysFor([crew]))).slice(0, 2)).toEqual([409, 'project-empty']);
		const { id: hopId } = await newHop(planner);
		const projectId = await newProject([hopId]);
		expect(said(await begin(projectId, daysFor([randomUUID()])))).toEqual([
			...[422, 'crew-gone', 'days.crewIds']
		]);
		const wrong: [Partial<ProjectDays>, string][] = [
			[{ crewIds: [] }, 'days.crewIds'],
			[{ days: 0 }, 'days.days'],
			[{ zone: 'Nowhere/Atoll' }, 'days.zone'],
			[{ firstDay: '2026-02-30' }, 'days.firstDay'],
			[{ roadKmH: 0 }, 'days.roadKmH'],
			[{ pins: [{ task: 'x', at: 'soon' }] }, 'days.pins.0.at'],
			[{ needs: [{ equipment: 'Winch', tool: 'spoon' as 'knife' }] }, 'days.needs.0.tool'],
			[{ ways: [{ from: 'A', to: 'B', minutes: -1, departures: [] }] }, 'days.ways.0.minutes']
		];
		for (const [change, field] of wrong) {
			const answer = await begin(projectId, daysFor([crew], change));
			expect(said(answer), field).toEqual([422, 'invalid-input', field]);
		}
		const none = await call(planner, 'POST', `/projects/${projectId}/schedule/assignments`);
		expect(said(none).slice(0, 2)).toEqual([409, 'no-schedule']);
		expect(await kept(projectId)).toBeNull();
	});

	it('that was stopped keeps the schedule it had', async () => {
		const hops = [await newHop(planner), await newHop(planner)];
		const crews = [await newCrew(), await newCrew()];
		const projectId = await newProject(hops.map(({ id }) => id));
		const id = randomUUID();
		await begin(projectId, daysFor(crews), id);
		await call(planner, 'POST', `/jobs/${id}/cancel`);
		const { status } = await ended(id);
		if (status === 'cancelled') expect(await kept(projectId)).toBeNull();
		else expect(status).toBe('done');
	});
});
