import { describe, expect, it } from 'vitest';
import durations from '#catalog/durations.json';
import { inOrder } from '#core/schedule/bound';
import {
	BENCH_KINDS,
	hopJobs,
	hopTasks,
	jobId,
	type HopTask,
	type HopToSchedule
} from '#core/schedule/tasks';
import { durationsOf, workTimes } from '#core/schedule/workTimes';
import { gathered, learned, sumOf, timeAt } from '#core/schedule/spread';
import { makeRandomStream, normalDeviate } from '#core/simulate/random';
import { buildSteps } from '#core/tower/buildSteps';
import { EVERY_HOP } from './endFixture';
import { soundPlan } from './planFixture';

const hopOf = ({ input }: (typeof EVERY_HOP)[number], acceptOnSite = true): HopToSchedule => ({
	...{ id: 'h', input, plan: soundPlan(input), places: { A: 'a', B: 'b' }, acceptOnSite }
});
/** Every task that a task waits for, in the end. */
function before(tasks: readonly HopTask[], id: string): Set<string> {
	const byId = new Map(tasks.map((one) => [one.id, one]));
	const found = new Set<string>();
	const visit = (at: string): void => {
		for (const one of byId.get(at)!.after) {
			if (found.has(one)) continue;
			found.add(one);
			visit(one);
		}
	};
	visit(id);
	return found;
}

describe.each(EVERY_HOP)('the tasks of a hop ($name)', (kind) => {
	const hop = hopOf(kind);
	const tasks = hopTasks(hop, durations);

	it('hold every step of both ends once, and each behind the steps it waits for', () => {
		for (const end of ['A', 'B'] as const) {
			const steps = buildSteps(hop.input, hop.plan, end);
			const own = tasks.filter((one) => one.end === end);
			expect(own.flatMap((one) => one.steps)).toEqual(steps.map(({ key }) => key));
			const taskOf = new Map(own.flatMap((one) => one.steps.map((key) => [key, one.id])));
			for (const step of steps) {
				for (const { key } of step.after) {
					const [here, there] = [taskOf.get(step.key)!, taskOf.get(key)!];
					expect(here === there || before(tasks, here).has(there)).toBe(true);
				}
			}
		}
	});

	it('can be put in an order, and every one has a time of its own kind', () => {
		expect(inOrder(tasks)).toHaveLength(tasks.length);
		expect(new Set(tasks.map(({ id }) => id)).size).toBe(tasks.length);
		for (const { spread, minutes } of tasks) {
			expect(spread.low).toBeLessThan(spread.likely);
			expect(spread.likely).toBeLessThan(spread.high);
			expect(Math.abs(minutes - spread.likely)).toBeLessThanOrEqual(0.5);
		}
		const steps = (['A', 'B'] as const).flatMap((end) => buildSteps(hop.input, hop.plan, end));
		for (const { base } of [...steps, ...BENCH_KINDS.map((bench) => ({ base: bench }))]) {
			expect(durations, `no duration of “${base}”`).toHaveProperty([base]);
		}
	});

	it('begin on the desk, then with what was counted', () => {
		for (const end of ['A', 'B'] as const) {
			const own = tasks.filter((one) => one.end === end && one.phase);
			const of = (phase: string): string[] =>
				own.filter((one) => one.phase === phase).map(({ id }) => id);
			for (const one of own) {
				const earlier = before(tasks, one.id);
				if (one.phase === 'office') continue;
				for (const id of of('office')) expect(earlier).toContain(id);
				if (one.phase === 'receive') continue;
				for (const id of of('receive')) expect(earlier).toContain(id);
			}
		}
	});

	it('have the gates across the ends: no sweep before both are up, one dish at a time, both fixed before the end', () => {
		const moving = tasks.filter(({ moves }) => moves);
		for (const one of moving) {
			const earlier = before(tasks, one.id);
			for (const end of ['A', 'B']) expect(earlier).toContain(`h/${end}/alignment-state`);
			expect(one.attends?.job).toBe(jobId('h', one.end === 'A' ? 'B' : 'A'));
			expect(one).toMatchObject({ light: true, limits: ['climb'] });
		}
		// Of any two that move something, one comes before the other.
		moving.forEach((p, i) =>
			moving.slice(i + 1).forEach((q) => {
				expect(before(tasks, q.id).has(p.id) || before(tasks, p.id).has(q.id)).toBe(true);
			})
		);
		const last = before(tasks, 'h/A/accept');
		for (const { id } of tasks) if (id !== 'h/A/accept') expect(last).toContain(id);
	});

	it('ask for people who may climb, and one who may run a lift where there is one', () => {
		const [a, b, accept] = hopJobs(hop, { A: 'crew 1' });
		expect([a!.crew, b!.crew]).toEqual(['crew 1', null]);
		const most = Math.max(...buildSteps(hop.input, hop.plan, 'A').map(({ people }) => people));
		expect(a).toMatchObject({ people: most, skills: { climber: 1, rigger: 1, acceptor: 0 } });
		expect(accept).toMatchObject({ skills: { climber: 0, rigger: 0, acceptor: 1 } });
		expect(hopJobs({ ...hop, acceptOnSite: false })).toHaveLength(2);
	});
});

describe('how long work takes', () => {
	const spread = { low: 20, likely: 30, high: 70 };
	const sample = (make: (random: () => number) => number, n = 40_000): number[] => {
		const random = makeRandomStream(5);
		return Array.from({ length: n }, () => make(random)).sort((p, q) => p - q);
	};
	const at = (sorted: number[], share: number): number =>
		sorted[Math.floor(share * sorted.length)]!;

	it('is shorter than the lower bound one time in ten, and longer than the upper one time in ten', () => {
		const times = sample((random) => timeAt(spread, normalDeviate(random)));
		expect(at(times, 0.1) / 20).toBeCloseTo(1, 1);
		expect(at(times, 0.5) / 30).toBeCloseTo(1, 1);
		expect(at(times, 0.9) / 70).toBeCloseTo(1, 1);
	});

	it('adds up as the sums of many days do', () => {
		const parts = [spread, { low: 5, likely: 10, high: 12 }, { low: 40, likely: 60, high: 90 }];
		const sums = sample((random) =>
			parts.reduce((sum, one) => sum + timeAt(one, normalDeviate(random)), 0)
		);
		const { low, likely, high } = sumOf(parts);
		expect(Math.abs(low / at(sums, 0.1) - 1)).toBeLessThan(0.05);
		expect(Math.abs(likely / at(sums, 0.5) - 1)).toBeLessThan(0.03);
		expect(Math.abs(high / at(sums, 0.9) - 1)).toBeLessThan(0.03);
		expect(sumOf([])).toEqual({ low: 0, likely: 0, high: 0 });
		const one = sumOf([{ low: 20, likely: 40, high: 80 }]);
		expect(one.likely).toBeCloseTo(40, 6);
	});

	it('is learned from what it really took: little by one, nearly all by a hundred', () => {
		expect(learned(spread, gathered([]))).toBe(spread);
		const one = learned(spread, gathered([60]));
		expect(one.likely).toBeGreaterThan(30);
		expect(one.likely).toBeLessThan(40);
		const random = makeRandomStream(9);
		const real = { low: 45, likely: 60, high: 80 };
		const many = learned(
			spread,
			gathered(Array.from({ length: 400 }, () => timeAt(real, normalDeviate(random))))
		);
		expect(Math.abs(many.likely / 60 - 1)).toBeLessThan(0.03);
		expect(Math.abs(many.low / 45 - 1)).toBeLessThan(0.06);
		expect(Math.abs(many.high / 80 - 1)).toBeLessThan(0.06);
		// Twice exactly the same is no proof that it is always so.
		const same = learned(spread, gathered(Array.from({ length: 2000 }, () => 60)));
		expect(same.high / same.low).toBeGreaterThan(1.25);
	});

	it('is learned from sums as from the times themselves, whosever they are', () => {
		const times = [12, 18, 25, 31, 44, 90];
		const [p, q] = [gathered(times.slice(0, 2)), gathered(times.slice(2))];
		const both = { n: p.n + q.n, sumLog: p.sumLog + q.sumLog, sumLog2: p.sumLog2 + q.sumLog2 };
		const whole = learned(spread, gathered(times));
		const summed = learned(spread, both);
		for (const key of ['low', 'likely', 'high'] as const) {
			expect(Math.abs(summed[key] / whole[key] - 1)).toBeLessThan(1e-9);
		}
	});
});

describe('how long the kinds of work take', () => {
	const usual = {
		hoist: { low: 20, likely: 40, high: 90 },
		fix: { low: 10, likely: 20, high: 40 }
	};

	it('is as usual, by the firm’s own word, and by what was seen on top of either', () => {
		const said = {
			hoist: { low: 30, likely: 60, high: 120 },
			unknown: { low: 1, likely: 1, high: 1 }
		};
		const seen = { fix: gathered(Array.from({ length: 200 }, (_, i) => 50 + (i % 21))) };
		const [hoist, fix] = workTimes(usual, said, seen);
		expect(hoist).toEqual({
			kind: 'hoist',
			usual: usual.hoist,
			said: said.hoist,
			seen: 0,
			used: said.hoist
		});
		expect(fix).toMatchObject({ kind: 'fix', said: null, seen: 200 });
		expect(fix!.used.likely).toBeGreaterThan(55);
		expect(fix!.used.likely).toBeLessThan(62);
		expect(durationsOf(workTimes(usual, said, seen))).toEqual({
			hoist: said.hoist,
			fix: fix!.used
		});
		const both = workTimes(usual, said, { hoist: gathered([100]) })[0]!;
		expect(both.used.likely).toBeGreaterThan(60);
		expect(both.used.likely).toBeLessThan(70);
	});

	it('takes no name of the language for a kind that was said or seen', () => {
		const [odd] = workTimes({ constructor: usual.fix }, {}, {});
		expect(odd).toMatchObject({ said: null, seen: 0, used: usual.fix });
	});
});
