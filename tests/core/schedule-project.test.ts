import { describe, expect, it } from 'vitest';
import durations from '#catalog/durations.json';
import type { Crew } from '#core/schedule/crew';
import { ENDS } from '#core/ends';
import {
	projectProblem,
	usualProjectDays,
	type ProjectDays,
	type ProjectHop,
	type ProjectQuestion,
	type SiteWeather
} from '#core/schedule/projectDays';
import {
	moveProject,
	scheduleProject,
	workOutProject,
	type Stint
} from '#core/schedule/projectSchedule';
import { stretchOf } from '#core/schedule/dayPlan';
import { solve } from '#core/schedule/solve';
import { hopJobs, hopTasks } from '#core/schedule/tasks';
import { arrival } from '#core/schedule/travel';
import { EVERY_HOP } from './endFixture';
import { hopInput, soundPlan } from './planFixture';
import { violations } from './scheduleFixture';

const at = (iso: string): number => Date.parse(iso) / 60_000;
const EFFORT = { tries: 20, seed: 1 };

const crewOf = (id: string, change: Partial<Crew> = {}): Crew & { id: string } => ({
	...{ id, name: `Crew ${id}`, region: '', zone: 'Europe/Berlin', fromMin: 420, toMin: 1080 },
	...{ base: { latitudeDeg: 54, longitudeDeg: 10 }, equipment: [] },
	people: ['a', 'b', 'c'].map((one) => ({
		...{ id: id + one, name: one, phone: '', userId: null },
		skills: ['climber', 'rigger'] as const
	})),
	...change
});

function hopOf(id: string, index: number, input = hopInput()): ProjectHop {
	const places = { A: `${id}a`, B: `${id}b` };
	const hop = { id, input, plan: soundPlan(input), places, acceptOnSite: false };
	return {
		...{ id, places, tasks: hopTasks(hop, durations), jobs: hopJobs(hop) },
		crews: { A: null, B: null }
	};
}

function questionOf(
	hops: readonly ProjectHop[],
	change: Partial<ProjectDays> = {},
	crews: readonly (Crew & { id: string })[] = [crewOf('1'), crewOf('2')]
): ProjectQuestion {
	const sites = hops.flatMap(({ id, places }, i) =>
		ENDS.map((end, side) => ({
			...{ id: places[end], name: `Site ${id}${end}` },
			...{ latitudeDeg: 54.05 + 0.03 * i, longitudeDeg: 10 + 0.15 * side }
		}))
	);
	const days = usualProjectDays(
		'2026-06-15',
		'Europe/Berlin',
		crews.map(({ id }) => id)
	);
	return {
		...{ hops, sites, crews, now: at('2026-06-14T00:00Z'), dueDay: null },
		days: { ...days, ...change }
	};
}
const three = [hopOf('h1', 0), hopOf('h2', 1), hopOf('h3', 2)];
const last = (stints: readonly Stint[]): number => Math.max(...stints.map(({ to }) => to));
/** Every hour of a day at a site. */
const stormAt = (site: string, day: string, windMs: number): SiteWeather[] =>
	Array.from({ length: 24 }, (_, hour) => ({
		...{ site, windMs, gustMs: null, rainMmH: null, lightning: false },
		at: `${day}T${String(hour).padStart(2, '0')}:00:00Z`
	}));

describe('the schedule of a project', () => {
	it('breaks no rule, and has every task of every hop in a stint of one crew', () => {
		const question = questionOf(three);
		const problem = projectProblem(question);
		const schedule = solve(problem, EFFORT);
		expect(violations(problem, schedule.placed, schedule.crewOf)).toEqual([]);
		const { stints, unplaced, finish, bound, gates } = scheduleProject(question, EFFORT);
		expect(unplaced).toEqual([]);
		expect(finish).toBe(last(stints));
		expect(bound).toBeLessThanOrEqual(finish!);
		const titles = stints.flatMap((stint) => stint.titles);
		const tasks = three.flatMap((hop) => hop.tasks);
		expect(titles.length).toBe(tasks.length);
		for (const { from, to } of stints) expect(to).toBeGreaterThan(from);
		// Both ends are ready before any dish is swept there.
		expect(gates.map(({ hop }) => hop).sort()).toEqual(['h1', 'h2', 'h3']);
		for (const { hop, at: ready } of gates) {
			const sweeps = stints.filter(
				(one) => one.hop === hop && one.titles.includes('Coarse sweeps')
			);
			expect(sweeps.length).toBeGreaterThan(0);
			expect(Math.max(...sweeps.map(({ to }) => to))).toBeGreaterThan(ready);
		}
	});

	it.each(EVERY_HOP.filter((_, i) => i % 5 === 0))('takes $name as any other', ({ input }) => {
		const question = questionOf([hopOf('x', 0, input)]);
		const problem = projectProblem(question);
		const { placed, crewOf: who, unplaced } = solve(problem, { tries: 5, seed: 1 });
		expect(unplaced).toEqual([]);
		expect(violations(problem, placed, who)).toEqual([]);
	});

	it('climbs in no storm, also where it takes days longer', () => {
		const days = ['2026-06-15', '2026-06-16', '2026-06-17', '2026-06-18', '2026-06-19'];
		const weather = days.flatMap((day) => stormAt('Site h1A', day, 25));
		const one = [three[0]!];
		const calm = scheduleProject(questionOf(one), EFFORT);
		const stormy = scheduleProject(questionOf(one, { weather }), EFFORT);
		// The next working day after the storm is Monday the 22nd.
		expect(calm.finish).toBeLessThan(at('2026-06-20T00:00Z'));
		expect(stormy.finish).toBeGreaterThan(at('2026-06-22T00:00Z'));
		// A storm at another site holds nothing up here.
		const elsewhere = weather.map((hour) => ({ ...hour, site: 'Site of nobody' }));
		expect(scheduleProject(questionOf(one, { weather: elsewhere }), EFFORT).finish).toBe(
			calm.finish
		);
	});

	it('leaves an end to the crew that somebody has assigned to it, not to one of another project', () => {
		const fixed = { ...three[0]!, crews: { A: '2', B: '1' } };
		const { stints } = scheduleProject(questionOf([fixed]), EFFORT);
		for (const { end, crew } of stints) expect(crew).toBe(fixed.crews[end]);
		const gone = { ...three[0]!, crews: { A: 'somebody else', B: null } };
		expect(scheduleProject(questionOf([gone]), EFFORT).unplaced).toEqual([]);
	});

	it('says what each crew lacks, and what would free what has no place', () => {
		const nobody = crewOf('1', {
			people: [{ id: 'p', name: 'Ada', phone: '', userId: null, skills: [] }]
		});
		const { unplaced, finish } = scheduleProject(questionOf([three[0]!], {}, [nobody]), EFFORT);
		expect(finish).toBeNull();
		expect(unplaced[0]!.why).toEqual({
			kind: 'no-crew',
			lacks: [{ crew: '1', what: ['people (it takes 2)', 'a climber', 'a rigger'] }]
		});
		const short = scheduleProject(questionOf(three, { days: 1 }), EFFORT);
		expect(short.finish).toBeNull();
		const own = short.unplaced.filter(({ why }) => why.kind === 'rule');
		expect(own.length).toBeGreaterThan(0);
	});

	it('goes by boat only when one goes, and is back before the last one', () => {
		const way = (from: string, to: string): ProjectDays['ways'][number] => ({
			...{ from, to, minutes: 40, departures: [540, 900] }
		});
		const ways = ENDS.flatMap((end) =>
			['Crew 1', 'Crew 2', `Site h1${end === 'A' ? 'B' : 'A'}`].flatMap((other) => [
				way(other, `Site h1${end}`),
				way(`Site h1${end}`, other)
			])
		);
		const question = questionOf([three[0]!], { ways });
		const problem = projectProblem(question);
		// 09:00 by a clock two hours ahead.
		const morning = at('2026-06-15T07:00Z');
		expect(arrival(problem.ways, 'base-1', 'h1a', morning)).toBe(morning + 40);
		expect(arrival(problem.ways, 'base-1', 'h1a', morning + 1)).toBe(morning + 360 + 40);
		const { stints } = scheduleProject(question, EFFORT);
		const dayOf = (minute: number): number => Math.floor((minute + 120) / 1440);
		expect(stints.some(({ desk }) => desk)).toBe(true);
		for (const { from, to, desk } of stints) {
			// What is set up on a desk is nowhere.
			if (desk) continue;
			expect(from).toBeGreaterThanOrEqual(dayOf(from) * 1440 - 120 + 540);
			expect(to).toBeLessThanOrEqual(dayOf(from) * 1440 - 120 + 1080);
		}
	});

	it('is away by the hour that is said, and works on working days alone', () => {
		const question = questionOf(three, { awayByMin: 900, workdays: [2, 4] });
		const { stints } = scheduleProject(question, EFFORT);
		expect(stints.length).toBeGreaterThan(0);
		for (const { from, to } of stints) {
			const local = new Date((from + 120) * 60_000);
			expect([2, 4]).toContain(local.getUTCDay());
			expect((to + 120) % 1440).toBeLessThanOrEqual(900);
		}
	});

	it('lets stand what is done, and plans nothing before now', () => {
		const [hop] = three as [ProjectHop];
		const first = hop.tasks[0]!;
		const begun = at('2026-06-15T08:00Z');
		const real = { from: begun, to: begun + 33, done: true };
		const tasks = hop.tasks.map((task) => (task === first ? { ...task, real } : task));
		const now = at('2026-06-16T10:00Z');
		const { stints } = scheduleProject({ ...questionOf([{ ...hop, tasks }]), now }, EFFORT);
		const done = stints.filter((stint) => stint.done);
		expect(done.map(({ from, to, titles }) => [from, to, titles])).toEqual([
			[begun, begun + 33, [first.title]]
		]);
		for (const stint of stints) if (!stint.done) expect(stint.from).toBeGreaterThanOrEqual(now);
	});

	it('takes ways by their distance, and a crew without a place as near to all', () => {
		const question = questionOf([three[0]!], { roadKmH: 60, detour: 1 }, [
			crewOf('1'),
			crewOf('2', { base: null })
		]);
		const { ways } = projectProblem(question);
		// 0.05° of latitude is 5.57 km: 5.57 min, and 5 for loading.
		expect(arrival(ways, 'base-1', 'h1a', 0)).toBe(11);
		expect(arrival(ways, 'base-2', 'h1a', 0)).toBe(30);
		expect(arrival(ways, 'h1a', 'base-1', 0)).toBe(11);
	});

	it('looks at whole days by the clock of the project, over a change of clocks too', () => {
		const days = { ...questionOf([]).days, firstDay: '2026-10-24', days: 2 };
		const { from } = stretchOf(days);
		expect(from).toBe(at('2026-10-23T22:00Z'));
	});
});

describe('the chances of a project', () => {
	const spread = (hop: ProjectHop, factor: number): ProjectHop => ({
		...hop,
		tasks: hop.tasks.map((task) => ({
			...task,
			spread: { low: task.minutes, likely: task.minutes, high: task.minutes * factor }
		}))
	});

	it('are of the day it is planned for and the day it is due, and name what decides', () => {
		const question = { ...questionOf(three), dueDay: '2026-06-26' };
		const { schedule } = workOutProject(question, EFFORT, 60);
		const [day, due] = schedule.chances;
		expect(schedule.chances.map(({ what }) => what)).toEqual(['that-day', 'due']);
		expect(day!.at).toBeGreaterThan(schedule.finish!);
		expect(day!.at - schedule.finish!).toBeLessThan(1440);
		expect(due!.at).toBe(at('2026-06-26T22:00Z'));
		expect(due!.share).toBeGreaterThanOrEqual(day!.share);
		expect(day!.share).toBeLessThan(1);
		expect(day!.runs).toBe(60);
		expect(['h1', 'h2', 'h3']).toContain(day!.decides!.hop);
	});

	it('are certain where nothing scatters, and less the more it does', () => {
		const shareOf = (factor: number): number => {
			const question = questionOf(three.map((hop) => spread(hop, factor)));
			return workOutProject(question, EFFORT, 40).schedule.chances[0]!.share;
		};
		expect(shareOf(1)).toBe(1);
		expect(shareOf(6)).toBeLessThan(shareOf(1.3));
	});

	it('are not told of what cannot be done, nor without runs', () => {
		expect(workOutProject(questionOf(three), EFFORT, 0).schedule.chances).toEqual([]);
		const short = questionOf(three, { days: 1 });
		expect(workOutProject(short, EFFORT, 10).schedule.chances).toEqual([]);
	});
});

describe('a schedule that moves', () => {
	const question = questionOf(three);
	const { schedule, order } = workOutProject(question, EFFORT, 0);
	/** The hops with some tasks as they really went. */
	const gone = (real: Readonly<Record<string, [number, number]>>): ProjectHop[] =>
		three.map((hop) => ({
			...hop,
			tasks: hop.tasks.map((task) => {
				const its = real[task.id];
				return its ? { ...task, real: { from: its[0], to: its[1], done: true } } : task;
			})
		}));
	const placed = new Map(order.map((one) => [one.task, one]));

	it('stays where it is as long as nothing was recorded', () => {
		const moved = moveProject(question, order);
		expect(moved.stints).toEqual(schedule.stints);
		expect(moved.gates).toEqual(schedule.gates);
		expect(moved.finish).toBe(schedule.finish);
		expect(moved.lost).toEqual([]);
	});

	it('comes later where one crew is late, at the far end too, and breaks no rule', () => {
		const first = order.filter(({ crew }) => crew === order[0]!.crew)[0]!;
		const late = first.to + 300;
		const now = { ...question, hops: gone({ [first.task]: [first.from, late] }), now: late };
		const moved = moveProject(now, order);
		expect(moved.finish).toBeGreaterThan(schedule.finish!);
		expect(moved.stints.find((one) => one.done)).toMatchObject({ from: first.from, to: late });
		// The far end of that hop is aligned later too: its gate waits for both.
		const hop = first.task.split('/')[0]!;
		const gate = (list: { hop: string; at: number }[]): number =>
			list.find((one) => one.hop === hop)!.at;
		expect(gate(moved.gates)).toBeGreaterThan(gate(schedule.gates));
		for (const { from, done } of moved.stints) if (!done) expect(from).toBeGreaterThanOrEqual(late);
	});

	it('keeps who does what and in which order', () => {
		const first = order[0]!;
		const hops = gone({ [first.task]: [first.from, first.to + 90] });
		const now = { ...question, hops, now: first.to + 90 };
		const moved = moveProject(now, order);
		const crews = (stints: readonly Stint[]): string[] =>
			[...new Set(stints.map(({ hop, end, crew }) => `${hop}${end} ${crew}`))].sort();
		expect(crews(moved.stints)).toEqual(crews(schedule.stints));
	});

	it('loses what has no place any more, with all that waits for it', () => {
		const days = { ...question.days, days: 5 };
		const worked = workOutProject({ ...question, days }, EFFORT, 0);
		expect(worked.schedule.finish).not.toBeNull();
		const now = at('2026-06-19T09:00Z');
		const moved = moveProject({ ...question, days, now }, worked.order);
		expect(moved.finish).toBeNull();
		expect(moved.lost.length).toBeGreaterThan(0);
		expect(moved.lost.map(({ title }) => title)).toContain('Close');
	});

	it('goes on with what is begun until now at least', () => {
		const first = order[0]!;
		const now = first.to + 240;
		const hops = three.map((hop) => ({
			...hop,
			tasks: hop.tasks.map((task) =>
				task.id === first.task
					? { ...task, real: { from: first.from, to: first.to, done: false } }
					: task
			)
		}));
		const moved = moveProject({ ...question, hops, now }, order);
		const begun = moved.stints.find((one) => one.first === first.task)!;
		expect([begun.done, begun.begun]).toEqual([false, true]);
		// What follows it stands by itself: it can be put elsewhere.
		expect(begun.titles).toHaveLength(1);
		expect(begun.to).toBeGreaterThanOrEqual(now);
		expect(placed.get(first.task)!.to).toBeLessThan(now);
	});
});

describe('what somebody put somewhere', () => {
	it('stays there, and the rest goes round it', () => {
		const free = scheduleProject(questionOf(three), EFFORT);
		const raise = `h2/A/raise`;
		const pins = [{ task: raise, at: '2026-06-18T09:15:00.000Z' }];
		const question = questionOf(three, { pins });
		const problem = projectProblem(question);
		const solved = solve(problem, EFFORT);
		expect(violations(problem, solved.placed, solved.crewOf)).toEqual([]);
		expect(solved.placed.get(raise)!.from).toBe(at('2026-06-18T09:15Z'));
		const { stints } = scheduleProject(question, EFFORT);
		const pinned = stints.filter((stint) => stint.pinned);
		expect(pinned.map(({ first, from }) => [first, from])).toEqual([
			[raise, at('2026-06-18T09:15Z')]
		]);
		expect(free.stints.some((stint) => stint.pinned)).toBe(false);
	});

	it('says where it cannot be, as by night', () => {
		const pins = [{ task: 'h2/A/raise', at: '2026-06-18T01:00:00.000Z' }];
		const { unplaced } = scheduleProject(questionOf(three, { pins }), EFFORT);
		expect(unplaced.find(({ title }) => title === 'Raise')).toMatchObject({
			...{ hop: 'h2', end: 'A', why: { kind: 'pin' } }
		});
	});
});

describe('what only some crews have', () => {
	const winch = crewOf('winch', { equipment: ['Capstan winch'] });
	const none = crewOf('none');

	it('is at the ends whose steps ask for the tool that it stands for, with its crew', () => {
		const needs = [{ equipment: 'Capstan winch', tool: 'lifting-gear' as const }];
		const question = questionOf(three.slice(0, 2), { needs }, [winch, none]);
		const { stints, unplaced } = scheduleProject(question, EFFORT);
		expect(unplaced).toEqual([]);
		// Every end of these hops lifts a dish.
		expect([...new Set(stints.map(({ crew }) => crew))]).toEqual(['winch']);
		const free = scheduleProject(questionOf(three.slice(0, 2), {}, [winch, none]), EFFORT);
		expect(new Set(free.stints.map(({ crew }) => crew)).size).toBe(2);
	});

	it('is told where nobody has it, and asked for by no step that needs none', () => {
		const needs = [{ equipment: 'Capstan winch', tool: 'lifting-gear' as const }];
		const { unplaced } = scheduleProject(questionOf([three[0]!], { needs }, [none]), EFFORT);
		expect(unplaced[0]!.why).toEqual({
			...{ kind: 'no-crew', lacks: [{ crew: 'none', what: ['Capstan winch'] }] }
		});
		const dry = [{ equipment: 'Dry-air pump', tool: 'pressure-gauge' as const }];
		// A radio on its dish has no waveguide to keep dry.
		expect(
			scheduleProject(questionOf([three[0]!], { needs: dry }, [none]), EFFORT).unplaced
		).toEqual([]);
	});
});

describe('an acceptance on site', () => {
	const on = {
		...{ id: 'h1', input: hopInput(), plan: soundPlan(hopInput()) },
		acceptOnSite: true
	};
	const places = { A: 'h1a', B: 'h1b' };
	const hop: ProjectHop = {
		...{ id: 'h1', places, crews: { A: null, B: null } },
		tasks: hopTasks({ ...on, places }, durations),
		jobs: hopJobs({ ...on, places })
	};
	const signs = crewOf('signs', {
		people: [{ id: 's', name: 'S', phone: '', userId: null, skills: ['acceptor'] }]
	});

	it('is done by who signs, after both ends are closed', () => {
		const { stints, unplaced } = scheduleProject(
			questionOf([hop], {}, [crewOf('1'), signs]),
			EFFORT
		);
		expect(unplaced).toEqual([]);
		const accepting = stints.filter(({ titles }) => titles.includes('Acceptance'));
		expect(accepting.map(({ crew }) => crew)).toEqual(['signs']);
		for (const { titles, to } of stints) {
			if (titles.includes('Close')) expect(accepting[0]!.from).toBeGreaterThanOrEqual(to);
		}
	});

	it('has no place without anybody who signs, and says what is lacking', () => {
		const { unplaced } = scheduleProject(questionOf([hop], {}, [crewOf('1')]), EFFORT);
		expect(unplaced).toEqual([
			{
				...{ hop: 'h1', end: 'A', title: 'Acceptance' },
				why: { kind: 'no-crew', lacks: [{ crew: '1', what: ['an acceptor'] }] }
			}
		]);
	});
});
