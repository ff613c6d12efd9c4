import { bench, describe } from 'vitest';
import { planHop } from '#core/budget/hopPlan';
import { reviewPlan } from '#core/review/reviewPlan';
import { freeSpaceLossDb } from '#core/propagation/freeSpace';
import { clearanceOf } from '#core/budget/pathFigures';
import { hopInput } from '../tests/core/planFixture';

/** A long profile at 20 m steps beside a plain pass over the same numbers. */
const long = hopInput();
const count = 5001;
const profile = {
	...long.path.profile!,
	distancesM: Array.from({ length: count }, (_, i) => (i / (count - 1)) * 9870),
	groundsAmslM: Array.from({ length: count }, (_, i) => 40 + 30 * Math.sin(i / 90))
};
const detailed = { ...long, path: { ...long.path, profile } };

describe('one hop, whole plan and review', () => {
	const short = hopInput();
	bench('free-space loss alone (the bare baseline)', () => {
		freeSpaceLossDb(26.2, 9.87);
	});
	bench('profile of 7 points', () => {
		const result = planHop(short);
		reviewPlan(short, result, [], {});
	});
	bench('profile of 5001 points', () => {
		const result = planHop(detailed);
		reviewPlan(detailed, result, [], {});
	});
});

describe('a drag on a profile of 5001 points', () => {
	bench('one plain pass over the heights', () => {
		let sum = 0;
		for (const height of profile.groundsAmslM) sum += height;
		if (sum < 0) throw new Error('unreachable');
	});
	bench('clearance by both rules', () => {
		clearanceOf(detailed, 9.87);
	});
});
