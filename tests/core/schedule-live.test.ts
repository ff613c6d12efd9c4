import { describe, expect, it } from 'vitest';
import durations from '#catalog/durations.json';
import { chancesOf } from '#core/schedule/chance';
import { hindrancesOf, type Hindrance } from '#core/schedule/hindrance';
import type { FieldRecord } from '#core/record/records';
import { lightSpans } from '#core/schedule/hours';
import type { ScheduleProblem } from '#core/schedule/problem';
import { observedKinds, observedMinutes, withProgress } from '#core/schedule/progress';
import { solve } from '#core/schedule/solve';
import { hopTasks, type HopTask } from '#core/schedule/tasks';
import { waitsOf } from '#core/schedule/waits';
import { windowKey } from '#core/schedule/problem';
import { makeRandomStream, normalDeviate } from '#core/simulate/random';
import { timeAt } from '#core/schedule/spread';
import { buildSteps } from '#core/tower/buildSteps';
import { feed, locksOf, ready, stateAfter, type Made } from './feed';
import { hopInput, soundPlan } from './planFixture';
import { crew, job, problem, task } from './scheduleFixture';

const EFFORT = { tries: 100, seed: 1 };

describe('who waits', () => {
	const ends = [job('a', { crew: 'x' }), job('b', { crew: 'y' })];
	const gate = (minutesB: number): ScheduleProblem =>
		problem({
			jobs: ends,
			crews: [crew('x'), crew('y')],
			tasks: [
				task('build a', { job: 'a', place: 'p', minutes: 60 }),
				task('build b', { job: 'b', place: 'q', minutes: minutesB }),
				task('sweep', {
					...{ job: 'a', place: 'p', after: ['build a', 'build b'], minutes: 30 },
					attends: { job: 'b', place: 'q' }
				})
			]
		});

	it('is the crew that is ready first, for the other one, as long as it takes that one more', () => {
		const of = gate(100);
		expect(waitsOf(of, solve(of, EFFORT))).toEqual([
			{
				crew: 'x',
				from: 60,
				to: 100,
				task: 'sweep',
				on: { kind: 'crew', crew: 'y', task: 'build b' }
			}
		]);
		const other = gate(20);
		expect(waitsOf(other, solve(other, EFFORT))).toMatchObject([
			{ crew: 'y', from: 20, to: 60, on: { kind: 'crew', crew: 'x' } }
		]);
		const even = gate(60);
		expect(waitsOf(even, solve(even, EFFORT))).toEqual([]);
	});

	it('for weather, and for what was pinned, are told from that', () => {
		const climb = task('climb', { limits: ['climb'], after: ['ground'] });
		const of = problem({
			tasks: [task('ground'), climb],
			windows: new Map([[windowKey(climb), [{ from: 150, to: 400 }]]])
		});
		expect(waitsOf(of, solve(of, EFFORT))).toMatchObject([
			{ from: 60, to: 150, on: { kind: 'window' } }
		]);
		const pinned = problem({
			tasks: [task('ground'), task('met', { after: ['ground'], pin: 90 })]
		});
		expect(waitsOf(pinned, solve(pinned, EFFORT))).toMatchObject([
			{ from: 60, to: 90, on: { kind: 'pin' } }
		]);
	});
});

describe('what cannot be done', () => {
	const why = (
		of: ScheduleProblem,
		without: Parameters<typeof hindrancesOf>[2] = () => undefined
	): Record<string, Hindrance> => {
		const schedule = solve(of, EFFORT);
		return Object.fromEntries(hindrancesOf(of, schedule, without));
	};

	it('for want of people says what each crew lacks', () => {
		const of = problem({
			jobs: [job('j', { people: 3, skills: { climber: 1, rigger: 1, acceptor: 0 } })],
			crews: [crew('x'), crew('y', { people: 3, skills: { climber: 1, rigger: 0, acceptor: 0 } })],
			tasks: [task('hoist'), task('next', { after: ['hoist'] })]
		});
		expect(why(of).hoist).toEqual({
			kind: 'no-crew',
			lacks: [
				{ crew: 'x', what: ['people (it takes 3)'] },
				{ crew: 'y', what: ['a rigger'] }
			]
		});
	});

	it('names the rule that is in its way, each that alone would do, and the task that holds up the next', () => {
		const climb = task('climb', { limits: ['climb'], light: true, minutes: 120 });
		const of = problem({
			to: 1000,
			crews: [crew('c', { hours: [{ from: 0, to: 480 }] })],
			tasks: [climb, task('after', { after: ['climb'] })],
			// A storm from 60 on; light until 600.
			windows: new Map([[windowKey(climb), [{ from: 0, to: 60 }]]])
		});
		const light = [{ from: 0, to: 600 }];
		const found = why(of, (_, rule) => (rule === 'climb' ? light : [{ from: 0, to: 60 }]));
		expect(found).toEqual({
			climb: { kind: 'rule', frees: ['climb', 'end'] },
			after: { kind: 'after', task: 'climb' }
		});
	});

	it('says the hours, the way, or when a pinned task could begin', () => {
		const hours = problem({
			to: 1000,
			crews: [crew('c', { hours: [{ from: 0, to: 200 }] })],
			tasks: [task('long', { minutes: 300 })]
		});
		expect(why(hours).long).toEqual({ kind: 'rule', frees: ['hours'] });
		const way = problem({
			to: 100,
			ways: { legs: new Map(), otherwiseMin: 70 },
			crews: [crew('c', { returns: true, hours: [{ from: 0, to: 100 }] })],
			tasks: [task('far')]
		});
		expect(why(way).far).toEqual({ kind: 'rule', frees: ['way'] });
		const pin = problem({ tasks: [task('first'), task('met', { pin: 30, after: ['first'] })] });
		expect(why(pin).met).toEqual({ kind: 'pin', earliest: 60 });
	});
});

describe('the chance to be done in time', () => {
	const spread = { low: 40, likely: 60, high: 110 };
	const chain = problem({
		tasks: [
			task('first', { minutes: 60, spread }),
			task('second', { minutes: 10, spread: { low: 9, likely: 10, high: 11 }, after: ['first'] })
		]
	});
	const schedule = solve(chain, EFFORT);

	it('is what it is by the law of one time, and says which task decides', () => {
		// Half of the days the first takes less than an hour; the second hardly scatters.
		const [even, sure] = chancesOf(
			chain,
			schedule,
			[
				{ key: 'even', at: 70, tasks: ['second'] },
				{ key: 'sure', at: 400, tasks: ['second'] }
			],
			{ days: 4000, seed: 3 }
		);
		expect(Math.abs(even!.share - 0.5)).toBeLessThan(0.03);
		expect(even!.decides).toMatchObject({ task: 'first' });
		expect(even!.decides!.difference).toBeGreaterThan(0.9);
		expect(sure).toMatchObject({ share: 1, decides: null });
	});

	it('is calibrated: of many problems what is said to hold in a share of the days does so', () => {
		const random = makeRandomStream(11);
		const bins = new Map<number, { n: number; made: number; stated: number }>();
		for (let i = 0; i < 300; i += 1) {
			const tasks = ['a', 'b', 'c', 'd'].map((id, k) => {
				const likely = 20 + 60 * random();
				return task(id, {
					...{
						job: k % 2 ? 'q' : 'p',
						minutes: Math.round(likely),
						after: k > 1 ? ['a', 'b'] : []
					},
					spread: { low: likely * (0.5 + 0.4 * random()), likely, high: likely * (1.2 + random()) }
				});
			});
			const of = problem({
				tasks,
				jobs: [job('p', { crew: 'x' }), job('q', { crew: 'y' })],
				crews: [crew('x'), crew('y')]
			});
			const at = 80 + 120 * random();
			const all = tasks.map(({ id }) => id);
			const [said] = chancesOf(of, solve(of, EFFORT), [{ key: 'k', at, tasks: all }], {
				...{ days: 300, seed: i }
			});
			// One day of its own, by the law that is stated: each crew with its day, each task with its time.
			const day = { x: normalDeviate(random), y: normalDeviate(random) };
			const minutes = Object.fromEntries(
				tasks.map(({ id, spread: of, job: who }) => {
					const common = who === 'p' ? day.x : day.y;
					return [id, timeAt(of, Math.sqrt(0.3) * common + Math.sqrt(0.7) * normalDeviate(random))];
				})
			);
			const gate = Math.max(minutes.a!, minutes.b!);
			const made = gate + Math.max(minutes.c!, minutes.d!) <= at;
			const bin = Math.min(4, Math.floor(said!.share * 5));
			const old = bins.get(bin) ?? { n: 0, made: 0, stated: 0 };
			bins.set(bin, {
				...{ n: old.n + 1, made: old.made + Number(made), stated: old.stated + said!.share }
			});
		}
		for (const { n, made, stated } of bins.values()) {
			// Three standard deviations of what a bin of its size scatters by.
			const p = stated / n;
			expect(Math.abs(made / n - p)).toBeLessThan(3 * Math.sqrt((p * (1 - p) + 0.01) / n));
		}
	});

	it('is none for what has no place before the end', () => {
		const of = problem({
			to: 100,
			crews: [crew('c', { hours: [{ from: 0, to: 100 }] })],
			tasks: [task('a', { minutes: 300 })]
		});
		const [none] = chancesOf(of, solve(of, EFFORT), [{ key: 'k', at: 99, tasks: ['a'] }], {
			...{ days: 10, seed: 1 }
		});
		expect(none!.share).toBe(0);
	});
});

describe('a hop as it really goes', () => {
	const input = hopInput();
	const plan = soundPlan(input);
	const tasks = hopTasks(
		{ id: 'h', input, plan, places: { A: 'a', B: 'b' }, acceptOnSite: false },
		durations
	);
	const steps = (end: 'A' | 'B'): Made[] =>
		buildSteps(input, plan, end)
			.filter(({ work }) => work === 'confirm')
			.map(({ key, quantity }): Made => [
				end,
				'build-step',
				{ step: key, value: quantity?.expected ?? quantity?.low ?? null, note: '', photoIds: [] }
			]);
	/** Records ten minutes apart. */
	const slowly = (...made: Made[]): FieldRecord[] =>
		feed(...made).map((record, i) => ({
			...record,
			recordedAt: new Date(i * 600_000).toISOString()
		}));
	const after = (now: number, ...made: Made[]): Record<string, HopTask['real']> => {
		const records = slowly(...made);
		const state = stateAfter(input, records);
		return Object.fromEntries(
			withProgress(tasks, state, records, { now, durations, accepted: false }).map(
				({ id, real }) => [id.slice(2), real]
			)
		);
	};

	it('has nothing that is begun before its first record', () => {
		expect(Object.values(after(50)).every((real) => real === null)).toBe(true);
	});

	it('has tasks that are done at the times of their records, and one that is begun with what is left of it', () => {
		const own = steps('A');
		const raise = tasks.find(({ id }) => id === 'h/A/raise')!;
		const first = own.findIndex(([, , payload]) =>
			raise.steps.includes((payload as { step: string }).step)
		);
		const real = after(2000, ...own.slice(0, first + 1));
		expect(real['A/assemble']).toMatchObject({ done: true, to: (first - 1) * 10 });
		expect(real['A/raise']).toMatchObject({ done: false, from: first * 10, to: 2000 });
		expect(real['B/raise']).toBeNull();
		// Soon after the record it is expected to end by what is left.
		const soon = after(first * 10 + 1, ...own.slice(0, first + 1))['A/raise']!;
		expect(soon.to).toBeGreaterThan(first * 10 + 30);
		expect(soon.to).toBeLessThan(first * 10 + raise.minutes);
	});

	it('takes less where steps were left out, and nothing for what was left out whole', () => {
		const records = feed(['A', 'step-skipped', { step: '*', cause: 'Built before' }]);
		const state = stateAfter(input, records);
		const found = withProgress(tasks, state, records, {
			...{ now: 100, durations, accepted: false }
		});
		const of = (list: readonly HopTask[], id: string): HopTask =>
			list.find((one) => one.id === `h/A/${id}`)!;
		expect(of(found, 'cable').real).toMatchObject({ done: true });
		// A hoist is not left out by one stroke: what is left of the raising is still to come.
		expect(of(found, 'raise').real).toBeNull();
		expect(of(found, 'raise').minutes).toBeLessThan(of(tasks, 'raise').minutes);
		expect(of(found, 'raise').minutes).toBeGreaterThan(20);
	});

	it('takes states and fixing from their records', () => {
		const real = after(9000, ['A', 'alignment-state', ready], ...locksOf(input, 'A'));
		expect(real['A/alignment-state']).toEqual({ from: 0, to: 0, done: true });
		const locks = locksOf(input, 'A').length;
		expect(real['A/fix']).toEqual({ from: 10, to: locks * 10, done: true });
		expect(real['B/alignment-state']).toBeNull();
		expect(real['B/fix']).toBeNull();
	});

	it('counts a step’s minutes from the record before it at its end, and no pause', () => {
		const own = steps('A').slice(0, 3);
		const records = slowly(...own);
		const observed = observedMinutes(stateAfter(input, records), records);
		expect(observed.map(({ minutes }) => minutes)).toEqual([10, 10]);
		const bases = new Map(buildSteps(input, plan, 'A').map(({ key, base }) => [key, base]));
		expect(observed[0]!.kind).toBe(bases.get((own[1]![2] as { step: string }).step));
		const paused = records.map((record, i) => ({
			...record,
			recordedAt: new Date(i * 200 * 60_000).toISOString()
		}));
		expect(observedMinutes(stateAfter(input, paused), paused)).toEqual([]);
	});

	it('counts fixing from what was recorded before it to its last, and gathers each kind', () => {
		const records = slowly(['A', 'alignment-state', ready], ...locksOf(input, 'A'));
		const state = stateAfter(input, records);
		const minutes = 10 * locksOf(input, 'A').length;
		expect(observedMinutes(state, records)).toEqual([{ kind: 'fix', minutes }]);
		expect(observedKinds(state, records)).toEqual({
			fix: { n: 1, sumLog: Math.log(minutes), sumLog2: Math.log(minutes) ** 2 }
		});
	});

	it('moves the other end’s expected times when one is late', () => {
		const within = { from: 0, to: 20_000 };
		const hours = lightSpans({ latitudeDeg: 0, longitudeDeg: 0 }, 'sun', within);
		const planned = (own: readonly HopTask[]): ReturnType<typeof solve> =>
			solve(
				problem({
					...within,
					tasks: own,
					jobs: [job('h/A', { crew: 'x' }), job('h/B', { crew: 'y' })],
					crews: [crew('x', { hours, base: 'a' }), crew('y', { hours, base: 'b' })]
				}),
				EFFORT
			);
		const before = planned(tasks).placed.get('h/B/sweep-coarse')!.from;
		const late = tasks.map((one) =>
			one.id === 'h/A/raise' ? { ...one, real: { from: 300, to: 900, done: false } } : one
		);
		expect(planned(late).placed.get('h/B/sweep-coarse')!.from).toBeGreaterThan(before);
	});
});
