import ICAL from 'ical.js';
import { describe, expect, it } from 'vitest';
import durations from '#catalog/durations.json';
import { timetableOf, usualDayPlan } from '#core/schedule/dayPlan';
import { hopJobs, hopTasks } from '#core/schedule/tasks';
import { calendarText, entriesOf } from '$lib/ui/timetable/calendar';
import { clockMinute, clockText, dayFormOf, planOf } from '$lib/ui/timetable/dayForm';
import { neighbour, railDays, waitsOn } from '$lib/ui/timetable/railBlocks';
import {
	hindranceWords,
	lengthWords,
	readyTimes,
	shareWords,
	waitWords
} from '$lib/ui/timetable/timetableWords';
import { hoursBetween, readWeather, withHours } from '$lib/ui/timetable/weatherFile';
import { hopInput, soundPlan } from '../core/planFixture';

const ZONE = 'Europe/Berlin';
const plan = usualDayPlan('2026-06-15', ZONE);
const input = hopInput();
const hop = {
	...{ id: 'h', input, plan: soundPlan(input), places: { A: 'A', B: 'B' }, acceptOnSite: false }
};
const tasks = hopTasks(hop, durations);
const table = timetableOf({
	...{ hopId: 'h', tasks, jobs: hopJobs(hop), plan, now: 0 },
	places: { A: { latitudeDeg: 54, longitudeDeg: 10 }, B: { latitudeDeg: 54.1, longitudeDeg: 10 } }
});
const named = { task: (id: string) => `[${id}]`, crew: (id: string) => `<${id}>` };

describe('the form of a timetable', () => {
	it('gives back the plan it was made from', () => {
		const full = {
			...plan,
			...{ awayByMin: 960, awayBy: 'Last boat' },
			pins: [{ task: 'h/A/raise', at: '2026-06-16T08:00:00.000Z' }],
			weather: hoursBetween(0, 3_600_000, ['A'], {
				...{ windMs: 3, gustMs: null, rainMmH: 0, lightning: true }
			})
		};
		expect(planOf(dayFormOf(full))).toEqual({ plan: full });
	});

	it.each([
		['7:30', 450],
		['0730', 450],
		['07.30', 450],
		['26:00', 1560],
		['24:60', undefined],
		['half past', undefined],
		['49:00', undefined]
	])('reads %s as a time of day', (text, minute) => {
		expect(clockMinute(text)).toBe(minute);
		if (minute !== undefined) expect(clockMinute(clockText(minute))).toBe(minute);
	});

	it('names each field that is wrong, and gives no plan then', () => {
		const form = dayFormOf(plan);
		form.zone = 'Nowhere';
		form.days = 'many';
		form.workdays = [];
		form.crews[0]!.to = '06:00';
		form.crews[1]!.people = '2,5';
		form.limits.liftWindMs = '-1';
		form.awayBy = 'soon';
		const typed = planOf(form);
		expect('problems' in typed && typed.problems.map(({ field }) => field)).toEqual([
			...['plan.zone', 'plan.workdays', 'plan.crews.0.toMin', 'plan.crews.1.people', 'plan.days'],
			...['plan.limits.liftWindMs', 'plan.awayByMin']
		]);
	});
});

describe('weather from a file', () => {
	const csv = `time,wind_m_s,gust_m_s,rain_mm_h,lightning,end
2026-06-15T08:20Z,7.5,11,,no,
2026-06-15T09:00Z,,,2.5,yes,B`;

	it('is of both ends unless it says which, by whole hours', () => {
		expect(readWeather(csv, 'w.csv')).toEqual({
			hours: [
				...(['A', 'B'] as const).map((end) => ({
					...{ end, at: '2026-06-15T08:00:00.000Z', windMs: 7.5, gustMs: 11 },
					...{ rainMmH: null, lightning: false }
				})),
				{
					...{ end: 'B', at: '2026-06-15T09:00:00.000Z', windMs: null, gustMs: null },
					...{ rainMmH: 2.5, lightning: true }
				}
			]
		});
		const json = JSON.stringify([
			{ time: '2026-06-15T08:00Z', wind_m_s: 4, lightning: true, end: 'a' }
		]);
		expect(readWeather(json, 'W.JSON')).toMatchObject({
			hours: [{ end: 'A', windMs: 4, gustMs: null, lightning: true }]
		});
	});

	it.each([
		['no table', 'a,b\n1,2', 'w.csv', /no list of hours/],
		['a time that is none', 'time,wind_m_s\nnoon,3', 'w.csv', /^line 2: “time”/],
		[
			'a wind that is none',
			'time,wind_m_s\n2026-06-15T08:00Z,strong',
			'w.csv',
			/^line 2: “wind_m_s”/
		],
		['an end that there is not', 'time,end\n2026-06-15T08:00Z,C', 'w.csv', /“end” is A or B/],
		['nothing', 'time,wind_m_s', 'w.csv', /holds no hour/],
		['an object', '{"time":1}', 'w.json', /no list of hours/],
		['text', 'nothing', 'w.json', /no list of hours/]
	])('that is %s is refused with its line', (_, text, name, words) => {
		const found = readWeather(text, name);
		expect('problem' in found && found.problem).toMatch(words);
	});

	it('takes the place of what was known of the same hours alone', () => {
		const calm = { windMs: 2, gustMs: null, rainMmH: null, lightning: false };
		const known = hoursBetween(0, 3 * 3_600_000, ['A', 'B'], calm);
		const merged = withHours(
			known,
			hoursBetween(3_600_000, 7_200_000, ['B'], { ...calm, windMs: 20 })
		);
		expect(merged).toHaveLength(6);
		expect(merged.filter(({ windMs }) => windMs === 20)).toEqual([
			{ end: 'B', at: '1970-01-01T01:00:00.000Z', ...calm, windMs: 20 }
		]);
	});
});

describe('the rails', () => {
	const days = railDays(table, tasks, { zone: ZONE, pins: [{ task: 'h/A/raise' }], crews: 2 });

	it('hold every task once, on the rail of its end and on its day', () => {
		const blocks = days.flatMap(({ blocks: of }) => [...of.A, ...of.B]);
		expect(blocks.map(({ task }) => task.id).sort()).toEqual(tasks.map(({ id }) => id).sort());
		for (const day of days) {
			for (const end of ['A', 'B'] as const) {
				for (const { task, from, to } of day.blocks[end]) {
					expect(task.end).toBe(end);
					expect(from >= day.from && to <= day.to).toBe(true);
				}
			}
		}
		expect(blocks.filter(({ pinned }) => pinned).map(({ task }) => task.id)).toEqual(['h/A/raise']);
	});

	it('show an end standing by while the other one moves, where there are two crews', () => {
		const coarse = table.placed.find(({ task }) => task === 'h/A/sweep-coarse')!;
		const day = days.find(({ from, to }) => coarse.from >= from && coarse.to <= to)!;
		expect(day.standBy.B.some(({ from, to }) => coarse.from >= from && coarse.to <= to)).toBe(true);
		const one = railDays(table, tasks, { zone: ZONE, pins: [], crews: 1 });
		expect(one.every(({ standBy }) => standBy.A.length + standBy.B.length === 0)).toBe(true);
	});

	it('tell crews that wait until the same moment together, and no wait of another day', () => {
		const day = { from: 0, to: 600 };
		const wait = (crew: string, from: number, to: number): (typeof table.waits)[number] => ({
			...{ crew, from, to, task: 't', on: { kind: 'window' } }
		});
		const waits = [
			wait('x', 60, 200),
			wait('y', 90, 200),
			wait('x', 300, 330),
			wait('y', 700, 800),
			wait('x', 400, 402)
		];
		expect(waitsOn(day, waits, (id) => id.toUpperCase())).toEqual([
			{ from: 60, to: 200, who: 'Both wait' },
			{ from: 300, to: 330, who: 'X waits' }
		]);
	});

	it('are gone along by keys, each on its own side', () => {
		const first = days[0]!.blocks.A[0]!.task.id;
		const second = neighbour(days, first, 1);
		expect(second.startsWith('h/A/')).toBe(true);
		expect(neighbour(days, second, -1)).toBe(first);
		expect(neighbour(days, first, -1)).toBe(first);
	});
});

describe('the words of a timetable', () => {
	it('are those of people', () => {
		expect([35, 60, 125].map(lengthWords)).toEqual(['35 min', '1 h', '2 h 05 min']);
		expect([0, 0.26, 0.8, 1].map(shareWords)).toEqual([
			...['hardly ever', 'about 2.5 times in 10', 'about 8 times in 10', 'almost surely']
		]);
		const wait = { crew: 'x', from: 0, to: 45, task: 't' };
		expect(waitWords({ ...wait, on: { kind: 'crew', crew: 'y', task: 'u' } }, named)).toBe(
			'<x> waits 45 min for <y>: [u].'
		);
		expect(waitWords({ ...wait, on: { kind: 'window' } }, named)).toContain('light or weather');
		const clock = (minute: number): string => `(${minute})`;
		expect(hindranceWords({ kind: 'rule', frees: ['climb', 'end'] }, { ...named, clock })).toBe(
			'In the way: the wind or lightning limit for climbing; or the last day that is looked at.'
		);
		expect(hindranceWords({ kind: 'pin', earliest: 7 }, { ...named, clock })).toContain('(7)');
	});

	it('say when either end is ready to align', () => {
		const ready = readyTimes(table, tasks);
		const sweep = table.placed.find(({ task }) => task === 'h/A/sweep-coarse')!;
		expect(Math.max(ready.A!, ready.B!)).toBeLessThanOrEqual(sweep.from);
	});
});

describe('the calendar', () => {
	const of = {
		...{ hopName: 'Here, to there', url: 'https://skiaxis.example/x', madeAt: new Date(0) },
		siteOf: { A: 'North hill', B: 'South; hill' },
		crewOf: (id: string) => `Crew ${id}`
	};

	it('reads back with every stretch of work, its place and its time', async () => {
		const text = await calendarText(table, tasks, of);
		const events = new ICAL.Component(ICAL.parse(text) as never)
			.getAllSubcomponents('vevent')
			.map((one) => new ICAL.Event(one));
		const entries = entriesOf(table, tasks);
		expect(
			events.map(({ startDate, endDate, location }) => [
				startDate.toJSDate().getTime() / 60_000,
				endDate.toJSDate().getTime() / 60_000,
				location
			])
		).toEqual(entries.map(({ from, to, end }) => [from, to, of.siteOf[end]]));
		expect(events[0]!.summary).toContain('Here, to there');
		expect(new Set(events.map(({ uid }) => uid)).size).toBe(events.length);
		expect(text.split('\r\n').every((line) => new TextEncoder().encode(line).length <= 75)).toBe(
			true
		);
		// Every task is in one entry, and only there.
		const minutes = entries.flatMap(({ ids }) => ids);
		expect(minutes.sort()).toEqual(tasks.map(({ id }) => id).sort());
	});

	it('of one crew holds its work alone, and an entry keeps its id when it moves', async () => {
		const own = entriesOf(table, tasks, 'crew-2');
		expect(own.every(({ end }) => end === 'B')).toBe(true);
		const ids = async (placed: typeof table.placed): Promise<string[]> =>
			[
				...(await calendarText({ placed }, tasks, { ...of, crew: 'crew-2' })).matchAll(
					/^UID:(.*)$/gm
				)
			].map(([, uid]) => uid!.trim());
		const later = table.placed.map((one) => ({ ...one, from: one.from + 30, to: one.to + 30 }));
		expect(await ids(later)).toEqual(await ids(table.placed));
	});
});
