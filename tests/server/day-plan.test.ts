import { beforeAll, describe, expect, it } from 'vitest';
import { usualDayPlan, type DayPlan } from '#core/schedule/dayPlan';
import type { KeptDayPlan } from '$lib/server/services/dayPlans';
import { call, closingDb, newCaller, newHop, said, type Answer, type Caller } from './world';

closingDb();

let planner: Caller;
let crew: Caller;
const usual = usualDayPlan('2026-06-15', 'Etc/UTC');
beforeAll(async () => {
	planner = await newCaller('planner');
	crew = await newCaller('technician');
});

const save = (
	hopId: string,
	version: number,
	plan: object = usual,
	who = crew
): Promise<Answer<KeptDayPlan>> =>
	call<KeptDayPlan>(who, 'PUT', `/hops/${hopId}/day-plan`, { version, plan });
const read = async (hopId: string, who = crew): Promise<KeptDayPlan | null> =>
	(await call<{ dayPlan: KeptDayPlan | null }>(who, 'GET', `/hops/${hopId}/day-plan`)).body.dayPlan;

describe('the timetable of a hop', () => {
	it('is none at first, then what was saved last, with who did it', async () => {
		const { id } = await newHop(planner, [crew]);
		expect(await read(id)).toBeNull();
		const first = await save(id, 0);
		expect([first.status, first.body.version]).toEqual([200, 1]);
		const changed: DayPlan = {
			...usual,
			...{ days: 9, awayByMin: 960, awayBy: 'Last boat' },
			pins: [{ task: `${id}/A/raise`, at: '2026-06-16T08:00:00.000Z' }],
			weather: [
				{
					...{ end: 'B', at: '2026-06-16T08:00:00.000Z', windMs: 14.5, gustMs: null },
					...{ rainMmH: 0, lightning: false }
				}
			]
		};
		expect((await save(id, 1, changed, planner)).body.version).toBe(2);
		expect(await read(id)).toMatchObject({ plan: changed, version: 2 });
	});

	it('is not written over what somebody else has saved meanwhile, not even as the first', async () => {
		const { id } = await newHop(planner, [crew]);
		const both = await Promise.all([save(id, 0), save(id, 0, { ...usual, days: 3 }, planner)]);
		expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
		const late = await save(id, 7);
		expect(said(late).slice(0, 2)).toEqual([409, 'changed-meanwhile']);
		expect((await read(id))!.version).toBe(1);
	});

	it('is seen by those who work on the hop alone', async () => {
		const { id } = await newHop(planner, [crew]);
		const stranger = await newCaller('technician');
		expect((await call(stranger, 'GET', `/hops/${id}/day-plan`)).status).toBe(404);
		expect((await save(id, 0, usual, stranger)).status).toBe(404);
	});

	it('is changed by a trainee on a hop for practice alone', async () => {
		const trainee = await newCaller('trainee');
		const [practice, real] = [
			await newHop(planner, [trainee], { practice: true }),
			await newHop(planner, [trainee], { practice: false })
		];
		expect((await save(practice.id, 0, usual, trainee)).status).toBe(200);
		expect((await save(real.id, 0, usual, trainee)).status).toBe(403);
	});

	it.each<[string, object, string]>([
		['a zone that there is not', { zone: 'Here/There' }, 'plan.zone'],
		['a day that is none', { firstDay: '2026-13-40' }, 'plan.firstDay'],
		['more days than are looked at', { days: 40 }, 'plan.days'],
		['no working day', { workdays: [] }, 'plan.workdays'],
		['no crew', { crews: [] }, 'plan.crews'],
		[
			'a crew that ends before it begins',
			{ crews: [{ ...usual.crews[0], toMin: 60 }] },
			'plan.crews.0.toMin'
		],
		[
			'a wind that blows backwards',
			{ limits: { ...usual.limits, climbWindMs: -1 } },
			'plan.limits.climbWindMs'
		],
		[
			'a task pinned twice',
			{ pins: [1, 2].map(() => ({ task: 'x', at: '2026-06-16T08:00:00Z' })) },
			'plan.pins.1'
		],
		['what it does not know', { moon: 1 }, 'plan.moon']
	])('is refused with %s, at its field, and stays as it was', async (_, change, field) => {
		const { id } = await newHop(planner, [crew]);
		const answer = await save(id, 0, { ...usual, ...change });
		expect([answer.status, answer.error.fields.map((one) => one.field)]).toEqual([422, [field]]);
		expect(await read(id)).toBeNull();
	});

	it('goes with a hop that is deleted', async () => {
		const { id } = await newHop(planner, [crew], { issue: false });
		expect((await save(id, 0)).status).toBe(200);
		expect((await call(planner, 'DELETE', `/hops/${id}`)).status).toBe(204);
		expect((await call(planner, 'GET', `/hops/${id}/day-plan`)).status).toBe(404);
	});
});
