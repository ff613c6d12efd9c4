import { describe, expect, it } from 'vitest';
import { usualProjectDays, type ProjectDays } from '#core/schedule/projectDays';
import type { ProjectSchedule } from '#core/schedule/projectSchedule';
import { askedOf, boardSearch } from '$lib/ui/crew/boardQuery';
import { crewBody, crewFormOf, emptyCrewForm } from '$lib/ui/crew/crewForm';
import { dayWords } from '$lib/ui/crew/dayWords';
import { outsideWords } from '$lib/ui/crew/outsideWords';
import {
	projectDaysOf,
	projectFormOf,
	readSiteWeather,
	readWays,
	waysText
} from '$lib/ui/crew/projectForm';
import { columnsByCrew, columnsByHop, wallDays, within } from '$lib/ui/crew/wallColumns';

const usual = usualProjectDays('2026-06-15', 'Etc/UTC', ['c1']);
const full: ProjectDays = {
	...usual,
	ways: [
		{ from: 'Quay, east', to: 'Rock', minutes: 35, departures: [480, 990] },
		{ from: 'Rock', to: 'Quay, east', minutes: 20, departures: [] }
	],
	weather: [
		{
			...{ site: 'Rock', at: '2026-06-15T08:00:00.000Z', windMs: 12, gustMs: null },
			...{ rainMmH: 0, lightning: true }
		}
	],
	awayByMin: 960,
	needs: [{ equipment: 'Capstan winch', tool: 'lifting-gear' }],
	pins: [{ task: 'h/A/raise', at: '2026-06-16T08:15:00.000Z' }],
	acceptOnSite: true
};

describe('the days of a project as they are typed', () => {
	it('come back as they were, also names with a comma in them', () => {
		expect(projectDaysOf(projectFormOf(full))).toEqual({ days: full });
		expect(projectDaysOf(projectFormOf(usual))).toEqual({ days: usual });
		expect(readWays(waysText(full.ways))).toEqual({ ways: full.ways });
	});

	it('say at each field what is wrong', () => {
		const wrong: [Partial<ReturnType<typeof projectFormOf>>, string][] = [
			[{ zone: 'Nowhere/Atoll' }, 'days.zone'],
			[{ firstDay: '' }, 'days.firstDay'],
			[{ days: '0' }, 'days.days'],
			[{ days: '2.5' }, 'days.days'],
			[{ workdays: [] }, 'days.workdays'],
			[{ crewIds: [] }, 'days.crewIds'],
			[{ roadKmH: 'fast' }, 'days.roadKmH'],
			[{ detour: '0.5' }, 'days.detour'],
			[{ ways: 'Rock' }, 'days.ways'],
			[{ awayBy: '25:00' }, 'days.awayByMin'],
			[{ climbWindMs: '' }, 'days.limits.climbWindMs']
		];
		for (const [change, field] of wrong) {
			const read = projectDaysOf({ ...projectFormOf(full), ...change });
			expect('problems' in read && read.problems.map((one) => one.field)).toEqual([field]);
		}
	});

	it('read ways line by line, and name the line that is wrong', () => {
		expect(readWays('')).toEqual({ ways: [] });
		expect(readWays('Quay,Rock,35,16:30 08:00 08:00')).toEqual({
			ways: [{ from: 'Quay', to: 'Rock', minutes: 35, departures: [480, 990] }]
		});
		for (const [text, line] of [
			['Quay,Rock,35\nQuay,,5', 'Line 2'],
			['from,to,minutes,departures\nQuay,Rock,soon', 'Line 2'],
			['Quay,Rock,5,noon', 'Line 1'],
			['Quay,Rock,5,24:10', 'Line 1']
		] as const) {
			const read = readWays(text);
			expect('problem' in read && read.problem, text).toContain(line);
		}
	});

	it('read weather of sites from CSV and JSON alike', () => {
		const csv = 'site,time,wind_m_s,gust_m_s,rain_mm_h,lightning\nRock,2026-06-15T08:20Z,12,,0,yes';
		const json = JSON.stringify([
			{ site: 'Rock', time: '2026-06-15T08:20Z', wind_m_s: 12, rain_mm_h: 0, lightning: true }
		]);
		for (const [text, name] of [
			[csv, 'w.csv'],
			[json, 'w.json']
		] as const) {
			expect(readSiteWeather(text, name)).toEqual({ hours: full.weather });
		}
		for (const text of ['', 'time\nnow', `${csv}\n,2026-06-15T09:00Z`, `${csv}\nRock,now`]) {
			expect('problem' in readSiteWeather(text, 'w.csv'), text).toBe(true);
		}
	});
});

describe('a crew as it is typed', () => {
	it('goes out as it came in; what cannot be read goes as it is typed', () => {
		const crew = {
			...{ name: 'North', region: 'Sound', zone: 'Etc/UTC', fromMin: 420, toMin: 1500 },
			base: { latitudeDeg: -46.2, longitudeDeg: -118.4 },
			equipment: ['Winch', 'Meter'],
			people: [
				{ id: 'p', name: 'Ada', phone: '+00', userId: null, skills: ['climber'] as const },
				{ id: 'q', name: 'Bo', phone: '', userId: 'u', skills: [] }
			]
		};
		expect(crewBody(crewFormOf(crew))).toEqual(crew);
		const typed = { ...emptyCrewForm('Etc/UTC', 'p'), to: 'late', latitude: 'north' };
		expect(crewBody(typed)).toMatchObject({
			...{ toMin: 'late', base: { latitudeDeg: 'north', longitudeDeg: '' } }
		});
	});
});

describe('the address of the board', () => {
	it('says only what is not usual, and a change of it goes back to the first page', () => {
		const query = { q: '', flag: 'all', sort: 'due', stage: 'fix', page: 3 };
		expect(boardSearch(askedOf(query))).toBe('stage=fix&sort=due');
		expect(boardSearch(askedOf(query), { stage: '', q: 'a b' })).toBe('q=a+b&sort=due');
		expect(boardSearch({ flag: 'all', sort: 'waiting' })).toBe('');
	});
});

describe('the wall of rails', () => {
	const base = Date.UTC(2026, 5, 15) / 60_000;
	const stint = (
		crew: string,
		hop: string,
		end: 'A' | 'B',
		from: number,
		to: number
	): ProjectSchedule['stints'][number] => ({
		...{ crew, hop, end, from: base + from, to: base + to, titles: ['x'] },
		...{ done: false, begun: false, desk: false, first: `${hop}/${end}/x`, pinned: false }
	});
	const schedule: ProjectSchedule = {
		span: { from: base, to: base + 3 * 1440 },
		stints: [
			stint('c1', 'late', 'A', 1440 + 610, 1440 + 700),
			stint('c1', 'soon', 'A', 490, 560),
			stint('c2', 'soon', 'B', 500, 655)
		],
		...{ unplaced: [], gates: [{ hop: 'soon', at: base + 600 }], finish: null, bound: null },
		...{ waitingMin: 0, travelMin: 0, chances: [] }
	};
	const sites = { A: 'Rock', B: 'Quay' };
	const named = {
		hops: ['late', 'soon', 'idle'].map((id) => ({ id, name: `Hop ${id}`, sites })),
		crews: ['c1', 'c2', 'c3'].map((id) => ({ id, name: `Crew ${id}` }))
	};

	it('has two rails a hop that has work, the first to begin first, with when both are ready', () => {
		const columns = columnsByHop(schedule, named);
		expect(columns.map(({ key, gate }) => [key, gate])).toEqual([
			['soon', base + 600],
			['late', null]
		]);
		expect(columns[0]!.lanes.map(({ end, stints }) => [end, stints.length])).toEqual([
			['A', 1],
			['B', 1]
		]);
		expect(columnsByCrew(schedule, named).map(({ lanes }) => lanes[0]!.stints.length)).toEqual([
			...[2, 1, 0]
		]);
	});

	it('draws of each day the hours in which somebody works, and of a stint what lies in them', () => {
		const days = wallDays(schedule, 'Etc/UTC');
		expect(days).toEqual([
			{ day: '2026-06-15', from: base + 480, to: base + 660 },
			{ day: '2026-06-16', from: base + 1440 + 600, to: base + 1440 + 720 }
		]);
		const night = { from: base + 650, to: base + 1440 + 605 };
		expect(within(night, days[0]!)).toEqual({ from: base + 650, to: base + 660 });
		expect(within(schedule.stints[0]!, days[0]!)).toBeUndefined();
	});
});

describe('a day outside in words', () => {
	const noon = Date.UTC(2026, 5, 15, 12) / 60_000;
	it('tells the light, and what the weather forbids; silence is no good weather', () => {
		const light = [{ from: noon - 300, to: noon + 360 }];
		const unknown = outsideWords({ light, forbidden: [], weatherKnown: false }, 'Etc/UTC');
		expect(unknown.light).toBe('07:00 to 18:00.');
		expect(unknown.weather).toContain('Nobody has said');
		const forbidden = [{ limit: 'climb' as const, spans: [{ from: noon, to: noon + 60 }] }];
		expect(outsideWords({ light, forbidden, weatherKnown: true }, 'Etc/UTC')).toMatchObject({
			...{ weather: 'No climbing 12:00 to 13:00.', forbids: true }
		});
		expect(outsideWords({ light: [], forbidden: [], weatherKnown: true }, 'Etc/UTC')).toMatchObject(
			{ light: 'Dark all day.', forbids: false }
		);
		const polar = [{ from: noon - 720, to: noon + 720 }];
		expect(outsideWords({ light: polar, forbidden: [], weatherKnown: true }, 'Etc/UTC').light).toBe(
			'Light all day.'
		);
	});

	it('tells a day of the calendar by its name, in whichever zone it is read', () => {
		expect(dayWords('2026-12-01')).toBe('Tue 1 December');
		expect(dayWords('soon')).toBe('soon');
	});
});
