import { bench, describe } from 'vitest';
import { lowerBound } from '#core/schedule/bound';
import { solve } from '#core/schedule/solve';
import { manyHops } from '../tests/core/manyHops';
import { violations } from '../tests/core/scheduleFixture';

/** Hops and crews; each searched as far as a page or a job would. */
const SIZES = [
	[1, 2, 400],
	[4, 2, 400],
	[20, 4, 400],
	[20, 6, 400]
] as const;
const made = SIZES.map(([hops, crews, tries]) => ({
	...{ hops, crews, tries, problem: manyHops(hops, crews, 5) }
}));

describe('one schedule is made, against working out the bound of one hop', () => {
	const [one] = made;
	bench('bound of one hop', () => void lowerBound(one!.problem));
	for (const { hops, crews, problem } of made) {
		bench(`${hops} hops, ${crews} crews, ${problem.tasks.length} tasks`, () => {
			solve(problem, { tries: 0, seed: 1 });
		});
	}
});

describe('how far a search comes', () => {
	for (const { hops, crews, tries, problem } of made) {
		const { cost, bound, placed, crewOf } = solve(problem, { tries, seed: 1 });
		const above = (100 * (cost.finish - problem.from)) / (bound - problem.from) - 100;
		const wrong = violations(problem, placed, crewOf).length;
		// eslint-disable-next-line no-console -- what a bench is for
		console.log(
			`${hops} hops, ${crews} crews: ${above.toFixed(1)} % above the bound after ${tries} tries, ${wrong} faults`
		);
	}
	bench('nothing', () => undefined);
});
