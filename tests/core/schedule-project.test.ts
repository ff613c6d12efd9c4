import { describe, expect, it } from 'vitest';
import durations from '#catalog/durations.json';
import type { Crew } from '#core/schedule/crew';
import { ENDS } from '#core/ends';
import {
	projectProblem,
	scheduleProject,
	usualProjectDays,
	type ProjectDays,
	type ProjectHop,
	type ProjectQuestion,
	type SiteWeather,
	type Stint
} from '#core/schedule/projectDays';
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
		...{ hops, sites, crews, now: at('2026-06-14T00:00Z') },
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
			lacks: [{ crew: '1', what: ['2 people', 'a climber', 'a rigger'] }]
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
