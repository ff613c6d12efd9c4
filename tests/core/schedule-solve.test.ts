import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { lowerBound } from '#core/schedule/bound';
import {
	windowKey,
	type Placed,
	type ScheduleProblem,
	type WorkTask
} from '#core/schedule/problem';
import { better, solve } from '#core/schedule/solve';
import { without } from '#core/schedule/spans';
import { arrival, waysOf, type Leg } from '#core/schedule/travel';
import { manyHops } from './manyHops';
import { crew, job, problem, task, violations } from './scheduleFixture';

const EFFORT = { tries: 200, seed: 7 };
const settled = (of: ScheduleProblem): ReturnType<typeof solve> => {
	const schedule = solve(of, EFFORT);
	expect(violations(of, schedule.placed, schedule.crewOf)).toEqual([]);
	return schedule;
};
const startsOf = (of: ScheduleProblem): Record<string, number> =>
	Object.fromEntries([...settled(of).placed.values()].map(({ task: id, from }) => [id, from]));

describe('a schedule', () => {
	it('puts tasks behind those they wait for, and crews on their way between places', () => {
		const ways = waysOf([], 30);
		expect(
			startsOf(
				problem({
					ways,
					tasks: [task('b', { place: 'q', after: ['a'] }), task('a'), task('c', { after: ['b'] })]
				})
			)
		).toEqual({ a: 30, b: 120, c: 210 });
	});

	it('waits for both crews where one attends at the far end', () => {
		const ends = [job('a', { crew: 'x' }), job('b', { crew: 'y' })];
		const starts = startsOf(
			problem({
				jobs: ends,
				crews: [crew('x'), crew('y', { hours: [{ from: 200, to: 900 }] })],
				tasks: [
					task('build a', { job: 'a', place: 'p' }),
					task('sweep a', {
						...{ job: 'a', place: 'p', after: ['build a'], minutes: 20 },
						attends: { job: 'b', place: 'q' }
					}),
					task('build b', { job: 'b', place: 'q' })
				]
			})
		);
		// The sweep of A could begin at 60; B is there from 200 on, and sweeps before it builds or after.
		expect(starts['sweep a']).toBeGreaterThanOrEqual(200);
	});

	it('keeps to the windows of weather and light, and to the hours of the crew', () => {
		const climb = task('climb', { limits: ['climb'], light: true, minutes: 100 });
		const windows = new Map([
			[
				windowKey(climb),
				[
					{ from: 0, to: 90 },
					{ from: 150, to: 260 },
					{ from: 400, to: 520 }
				]
			]
		]);
		const hours = [
			{ from: 50, to: 240 },
			{ from: 390, to: 800 }
		];
		expect(startsOf(problem({ tasks: [climb], windows, crews: [crew('c', { hours })] }))).toEqual({
			climb: 400
		});
	});

	it('is back at its base when its hours end, by the last boat there is', () => {
		const boat = (...at: number[]): Leg => ({
			kind: 'boat',
			departures: at.map((moment) => ({ at: moment, minutes: 30 }))
		});
		const ways = waysOf(
			[
				{ from: 'base', to: 'p', leg: boat(60, 1500) },
				{ from: 'p', to: 'base', leg: boat(300, 1900) }
			],
			Infinity
		);
		const of = problem({
			ways,
			crews: [
				crew('c', {
					returns: true,
					hours: [
						{ from: 0, to: 400 },
						{ from: 1440, to: 2000 }
					]
				})
			],
			tasks: [task('one', { minutes: 200 }), task('two', { minutes: 60 })]
		});
		expect(startsOf(of)).toEqual({ one: 90, two: 1530 });
	});

	it('leaves a task where a person pinned it, and does the rest round it', () => {
		const of = problem({
			tasks: [
				task('fixed', { pin: 100 }),
				task('long', { minutes: 150 }),
				task('short', { minutes: 90 })
			]
		});
		expect(startsOf(of)).toEqual({ short: 0, fixed: 100, long: 160 });
	});

	it('gives jobs to crews that have who and what they ask for', () => {
		const of = problem({
			jobs: [job('j', { skills: { climber: 2, rigger: 0, acceptor: 0 }, equipment: ['winch'] })],
			crews: [
				crew('no climbers', {
					skills: { climber: 1, rigger: 0, acceptor: 0 },
					equipment: ['winch']
				}),
				crew('no winch'),
				crew('good', { equipment: ['winch'] })
			],
			tasks: [task('a')]
		});
		expect(settled(of).crewOf.get('j')).toBe('good');
	});

	it('says which tasks there is no place for', () => {
		const of = problem({
			to: 100,
			crews: [crew('c', { hours: [{ from: 0, to: 100 }] })],
			tasks: [task('a'), task('b', { after: ['a'] }), task('c', { minutes: 30 })]
		});
		const schedule = settled(of);
		expect(schedule.unplaced).toEqual(['b']);
		expect(schedule.bound).toBe(Infinity);
	});

	it('lets what is done or begun stand, and goes on from there', () => {
		const of = problem({
			from: 200,
			tasks: [
				task('done', { real: { from: 10, to: 90, done: true } }),
				task('begun', { after: ['done'], real: { from: 100, to: 250, done: false } }),
				task('next', { after: ['begun'] })
			]
		});
		expect(startsOf(of)).toEqual({ done: 10, begun: 100, next: 250 });
	});

	it('knows a crew to be where it worked last, and at its base again the next morning', () => {
		const morning = { from: 0, to: 480 };
		const of = (now: number): ScheduleProblem =>
			problem({
				from: now,
				ways: waysOf([], 30),
				crews: [crew('c', { returns: true, hours: [morning, { from: 1440, to: 1920 }] })],
				tasks: [
					task('earlier', { place: 'q', real: { from: 10, to: 60, done: true } }),
					task('done', { real: { from: 100, to: 190, done: true } }),
					task('next', { after: ['done'] })
				]
			});
		// It stands there already: no way. After the night it comes from its base.
		// The checker knows nothing of what lies before now; the figures are few enough to be said.
		const nextOf = (now: number): number => solve(of(now), EFFORT).placed.get('next')!.from;
		expect([nextOf(200), nextOf(460)]).toEqual([200, 1470]);
	});

	it('gives two ends to two crews, so that nobody drives between them', () => {
		const chain = ['a1', 'b1', 'a2', 'b2', 'a3', 'b3', 'a4', 'b4', 'a5', 'b5'];
		const of = problem({
			jobs: [job('a'), job('b')],
			crews: [crew('x', { base: 'A' }), crew('y', { base: 'B' })],
			ways: { legs: new Map(), otherwiseMin: 45 },
			tasks: chain.map((id, i) => {
				const own = id.startsWith('a') ? 'a' : 'b';
				const far = own === 'a' ? 'b' : 'a';
				return task(id, {
					...{ job: own, place: own.toUpperCase(), minutes: 10 },
					after: i ? [chain[i - 1]!] : [],
					attends: { job: far, place: far.toUpperCase() }
				});
			})
		});
		const { cost, crewOf } = settled(of);
		expect(cost.finish).toBe(100);
		expect([crewOf.get('a'), crewOf.get('b')]).toEqual(['x', 'y']);
	});

	it('is the same for the same problem and seed', () => {
		const tasks = Array.from({ length: 14 }, (_, i) =>
			task(`t${i}`, { job: `j${i % 4}`, place: `p${i % 4}`, minutes: 20 + ((i * 7) % 30) })
		);
		const of = problem({
			tasks,
			jobs: [0, 1, 2, 3].map((i) => job(`j${i}`)),
			crews: [crew('x'), crew('y')],
			ways: { legs: new Map(), otherwiseMin: 15 }
		});
		expect(solve(of, EFFORT).cost).toEqual(solve(of, EFFORT).cost);
		let calls = 0;
		const stopped = solve(of, { ...EFFORT, onward: () => ++calls < 2 });
		expect(calls).toBe(2);
		expect(stopped.unplaced).toEqual([]);
	});
});

/** A small problem in units of minutes that can be gone through one by one. */
const small = fc
	.record({
		jobs: fc.array(fc.constantFrom(null, 'x', 'y'), { minLength: 1, maxLength: 2 }),
		tasks: fc.array(
			fc.record({
				job: fc.nat(1),
				minutes: fc.integer({ min: 1, max: 5 }),
				after: fc.option(fc.nat(4), { nil: null }),
				climb: fc.boolean(),
				attends: fc.boolean(),
				pin: fc.option(fc.integer({ min: 5, max: 12 }), { nil: null, freq: 8 })
			}),
			{ minLength: 1, maxLength: 4 }
		),
		hours: fc.array(fc.tuple(fc.nat(6), fc.integer({ min: 4, max: 14 })), {
			minLength: 2,
			maxLength: 2
		}),
		second: fc.nat(8),
		returns: fc.tuple(fc.boolean(), fc.boolean()),
		road: fc.nat(3),
		boat: fc.boolean(),
		storm: fc.tuple(fc.nat(14), fc.nat(6))
	})
	.map(({ jobs, tasks, hours, second, returns, road, boat, storm }): ScheduleProblem => {
		const to = 40;
		const at = (i: number): string => (i === 0 ? 'p' : 'q');
		const departures = [2, 7, 15, 22].map((moment) => ({ at: moment, minutes: 2 }));
		const leg: Leg = { kind: 'boat', departures };
		const boats = boat ? ['base', 'p'].map((from) => ({ from, to: 'q', leg })) : [];
		const made = tasks.map((one, i) => {
			const own = Math.min(one.job, jobs.length - 1);
			const far = jobs.length === 2 && one.attends ? 1 - own : undefined;
			return task(`t${i}`, {
				...{ job: `j${own}`, place: at(own), minutes: one.minutes },
				limits: one.climb ? ['climb'] : [],
				after: one.after !== null && one.after < i ? [`t${one.after}`] : [],
				attends: far === undefined ? null : { job: `j${far}`, place: at(far) },
				pin: one.pin
			});
		});
		const calm = without([{ from: 0, to }], [{ from: storm[0], to: storm[0] + storm[1] }]);
		const windows = new Map(['p', 'q'].map((place) => [`${place}|climb|`, calm]));
		return problem({
			to,
			tasks: made,
			jobs: jobs.map((who, i) => job(`j${i}`, { crew: who })),
			crews: ['x', 'y'].map((id, i) => {
				const [from, length] = hours[i]!;
				return crew(id, {
					returns: returns[i]!,
					hours: [
						{ from, to: from + length },
						{ from: from + length + second, to: Math.max(from + length + second, to) }
					]
				});
			}),
			ways: waysOf(boats, road),
			windows
		});
	});

/** The best finish there is: every crew for every job, every order, every minute, by what is wrong with it alone. */
function bruteForce(of: ScheduleProblem): { unplaced: number; finish: number } {
	let best = { unplaced: Infinity, finish: Infinity };
	const tries = of.jobs.reduce<Map<string, string>[]>(
		(all, asked) =>
			all.flatMap((one) =>
				of.crews
					.filter(({ id }) => asked.crew === null || asked.crew === id)
					.map(({ id }) => new Map<string, string>([...one, [asked.id, id]]))
			),
		[new Map<string, string>()]
	);
	for (const crewOf of tries) {
		const go = (
			left: readonly WorkTask[],
			placed: ReadonlyMap<string, Placed>,
			finish: number
		): void => {
			const better =
				left.length < best.unplaced || (left.length === best.unplaced && finish < best.finish);
			if (better) best = { unplaced: left.length, finish };
			for (const one of left) {
				if (one.after.some((id) => left.some((other) => other.id === id))) continue;
				for (let from = one.pin ?? of.from; from < of.to; from += 1) {
					const to = from + one.minutes;
					const next = new Map(placed);
					next.set(one.id, { task: one.id, crew: crewOf.get(one.job)!, from, to });
					const tasks = of.tasks.filter(({ id }) => next.has(id));
					if (violations({ ...of, tasks }, next, crewOf).length === 0) {
						go(
							left.filter((other) => other !== one),
							next,
							Math.max(finish, to)
						);
						break;
					}
					if (one.pin !== null) break;
				}
			}
		};
		go(of.tasks, new Map(), of.from);
	}
	return best;
}

describe('many hops', () => {
	it('come within a tenth of what none is done before, soon', () => {
		const of = manyHops(20, 4, 5);
		const found = solve(of, { tries: 250, seed: 1 });
		expect(violations(of, found.placed, found.crewOf)).toEqual([]);
		expect(found.unplaced).toEqual([]);
		expect((found.cost.finish - of.from) / (found.bound - of.from)).toBeLessThan(1.1);
	});
});

describe('against every schedule there is', () => {
	it('small problems are solved to the best finish, and the bound is never above it', () => {
		fc.assert(
			fc.property(small, (of) => {
				const schedule = solve(of, EFFORT);
				expect(violations(of, schedule.placed, schedule.crewOf)).toEqual([]);
				const best = bruteForce(of);
				expect(schedule.unplaced.length).toBe(best.unplaced);
				expect(schedule.proven).toBe(true);
				if (best.unplaced > 0) return;
				expect(schedule.cost.finish).toBe(best.finish);
				expect(lowerBound(of)).toBeLessThanOrEqual(best.finish);
			}),
			{ numRuns: 300, seed: 15 }
		);
	});

	/** Crews that go home every day, over several days, also in the middle of one. */
	const daily = fc
		.record({
			tasks: fc.array(
				fc.record({
					place: fc.constantFrom('p', 'q', null),
					minutes: fc.integer({ min: 1, max: 9 }),
					job: fc.nat(1)
				}),
				{ minLength: 1, maxLength: 6 }
			),
			crews: fc.integer({ min: 1, max: 2 }),
			ways: fc.tuple(fc.nat(5), fc.nat(5), fc.nat(5), fc.nat(5)),
			length: fc.integer({ min: 12, max: 20 }),
			from: fc.nat(15),
			begun: fc.option(fc.integer({ min: 1, max: 6 }), { nil: null })
		})
		.map(({ tasks, crews, ways, length, from, begun }): ScheduleProblem => {
			const legs = [
				...[['base', 'p'] as const, ['p', 'base'] as const],
				...[['base', 'q'] as const, ['q', 'base'] as const]
			].map(([one, other], i) => ({
				...{ from: one, to: other },
				leg: { kind: 'road', minutes: ways[i]! } satisfies Leg
			}));
			return problem({
				...{ from, to: 400, ways: waysOf(legs, 6) },
				tasks: tasks.map(({ place, minutes, job: own }, i) =>
					task(`t${i}`, {
						...{ job: `j${own}`, place, minutes },
						real:
							i === 0 && begun !== null && place !== null
								? { from: Math.max(0, from - 2), to: from + begun, done: false }
								: null
					})
				),
				jobs: [job('j0'), job('j1')],
				crews: Array.from({ length: crews }, (_, i) =>
					crew(`c${i}`, {
						returns: true,
						hours: Array.from({ length: 10 }, (__, day) => ({
							from: day * 30,
							to: day * 30 + length
						}))
					})
				)
			});
		});

	it('the bound is never above the best where crews go home every day, and near it where the way is long', () => {
		fc.assert(
			fc.property(daily, (of) => {
				const { cost, proven } = solve(of, EFFORT);
				expect(proven).toBe(true);
				if (cost.unplaced === 0) expect(lowerBound(of)).toBeLessThanOrEqual(cost.finish);
			}),
			{ numRuns: 400, seed: 17 }
		);
		const far = waysOf(
			[
				{ from: 'base', to: 'p', leg: { kind: 'road', minutes: 150 } },
				{ from: 'p', to: 'base', leg: { kind: 'road', minutes: 150 } }
			],
			0
		);
		const hours = Array.from({ length: 9 }, (_, day) => ({
			from: day * 1440,
			to: day * 1440 + 600
		}));
		const tasks = Array.from({ length: 8 }, (_, i) => task(`t${i}`, { minutes: 150 }));
		// Of ten hours five go on the way: two tasks a day, four days.
		const of = problem({ ...{ tasks, ways: far }, crews: [crew('c', { returns: true, hours })] });
		expect(solve(of, EFFORT).cost.finish).toBe(3 * 1440 + 450);
		expect(lowerBound(of)).toBeGreaterThan(3 * 1440);
		// Something to do at home as well makes no way to the far place shorter.
		const both = problem({
			...{ tasks: [...tasks, task('h', { place: 'base', minutes: 30 })], ways: far },
			crews: [crew('c', { returns: true, hours })]
		});
		expect(lowerBound(both)).toBeGreaterThan(3 * 1440);
	});

	it('the search without proof finds nothing better, and nothing that is wrong', () => {
		fc.assert(
			fc.property(small, (of) => {
				// Nine tasks more that are done already: too many to go through, and in nobody's way.
				const exact = solve(of, EFFORT);
				const open = Array.from({ length: 9 }, (_, i) =>
					task(`w${i}`, { job: 'w', place: null, minutes: 0 })
				);
				const wider = {
					...of,
					tasks: [...of.tasks, ...open],
					jobs: [...of.jobs, job('w', { crew: 'w', people: 0 })],
					crews: [...of.crews, crew('w', { people: 0 })]
				};
				const found = solve(wider, { tries: 60, seed: 3 });
				expect(found.proven).toBe(false);
				expect(violations(wider, found.placed, found.crewOf)).toEqual([]);
				expect(
					better(
						{ ...found.cost, waitingMin: 0, travelMin: 0 },
						{ ...exact.cost, waitingMin: 0, travelMin: 0 }
					)
				).toBeGreaterThanOrEqual(0);
			}),
			{ numRuns: 150, seed: 16 }
		);
	});
});

it('who sets out later never comes sooner', () => {
	const departures = [
		{ at: 10, minutes: 50 },
		{ at: 20, minutes: 10 },
		{ at: 70, minutes: 5 }
	];
	const ways = waysOf([{ from: 'a', to: 'b', leg: { kind: 'boat', departures } }], 7);
	expect([0, 15, 21, 71].map((at) => arrival(ways, 'a', 'b', at))).toEqual([30, 30, 75, Infinity]);
	expect(arrival(ways, 'b', 'a', 3)).toBe(10);
	expect(arrival(ways, 'b', 'b', 3)).toBe(3);
});
