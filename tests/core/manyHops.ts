import durations from '#catalog/durations.json';
import type { ScheduleProblem } from '#core/schedule/problem';
import { windowKey } from '#core/schedule/problem';
import { joined, type Span } from '#core/schedule/spans';
import { hopJobs, hopTasks, type HopToSchedule } from '#core/schedule/tasks';
import { waysOf, type Leg } from '#core/schedule/travel';
import { makeRandomStream } from '#core/simulate/random';
import { EVERY_HOP } from './endFixture';
import { soundPlan } from './planFixture';
import { crew } from './scheduleFixture';

const DAY = 1440;

/**
 * A job of many hops: sites scattered over an area, crews that work by day, a stormy day in between.
 *
 * @param hops how many; every third has a configuration of its own
 */
export function manyHops(hops: number, crews: number, seed: number): ScheduleProblem {
	const random = makeRandomStream(seed);
	const kinds = EVERY_HOP.filter((_, i) => i % 4 === 0);
	const plans = kinds.map(({ input }) => ({ input, plan: soundPlan(input) }));
	const places = new Map<string, [number, number]>([['base', [0, 0]]]);
	const made = Array.from({ length: hops }, (_, i): HopToSchedule => {
		const at: [number, number] = [60 * (random() - 0.5), 60 * (random() - 0.5)];
		places.set(`${i}a`, at);
		places.set(`${i}b`, [at[0] + 15 * (random() - 0.5), at[1] + 15 * (random() - 0.5)]);
		const { input, plan } = plans[i % 3 === 0 ? (i / 3) % plans.length : 0]!;
		return { id: `h${i}`, input, plan, places: { A: `${i}a`, B: `${i}b` }, acceptOnSite: false };
	});
	const tasks = made.flatMap((hop) => hopTasks(hop, durations));
	const days = Math.ceil((hops * 3) / crews) + 10;
	const to = days * DAY;
	const calm: Span[] = Array.from({ length: days }, (_, day) => ({
		from: day * DAY + 360,
		to: day * DAY + 1200
	})).filter((_, day) => day !== 1);
	const windows = new Map(
		tasks.filter(({ light }) => light).map((one) => [windowKey(one), joined(calm)])
	);
	const legs: { from: string; to: string; leg: Leg }[] = [];
	for (const [from, p] of places) {
		for (const [into, q] of places) {
			const minutes = Math.round(5 + 1.2 * Math.hypot(p[0] - q[0], p[1] - q[1]));
			if (from !== into) legs.push({ from, to: into, leg: { kind: 'road', minutes } });
		}
	}
	return {
		...{ from: 0, to, tasks, windows, ways: waysOf(legs, 60) },
		jobs: made.flatMap((hop) => hopJobs(hop)),
		crews: Array.from({ length: crews }, (_, i) =>
			crew(`c${i}`, {
				people: 3,
				hours: Array.from({ length: days }, (__, day) => ({
					from: day * DAY + 420,
					to: day * DAY + 1020
				}))
			})
		)
	};
}
