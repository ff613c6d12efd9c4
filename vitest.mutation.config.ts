import { defineConfig } from 'vitest/config';

const rooms: Record<string, string[]> = {
	record: ['hop-state', 'fold-record', 'baton', 'after-acceptance', 'procedure', 'visits'],
	accept: ['judgement', 'hop-state', 'after-acceptance', 'field-work', 'building', 'figures'],
	polarization: ['polarization', 'polarization-step', 'feed-advice'],
	path: ['path', 'path-details', 'figures', 'plan', 'geodesy'],
	guide: [
		'next-step',
		'guidance-by-map',
		'guidance-details',
		'hop-state',
		'fold-record',
		'diagnosis'
	],
	budget: [
		'budget-details',
		'plan',
		'plan-fields',
		'parts-catalogue',
		'plan-office',
		'outage',
		'figures',
		'site-sheet',
		'antenna-radio'
	]
};
/** Tests of one room alone, by SKIAXIS_ROOM: each mutant loads the files that reach it. */
const named = rooms[process.env.SKIAXIS_ROOM ?? ''];

/** The core's quick tests alone: each mutant runs those that reach it. */
export default defineConfig({
	test: {
		env: { SKIAXIS_RUNS: '25' },
		include: named?.map((name) => `tests/core/${name}.test.ts`) ?? ['tests/core/**/*.test.ts'],
		exclude: [
			'tests/core/sweep.test.ts',
			'tests/core/sweep-cases.test.ts',
			'tests/core/sweep-marks.test.ts',
			'tests/core/architecture.test.ts',
			'tests/core/meter.test.ts'
		],
		testNamePattern:
			'^(?!.*(seeded|closed loop|thousand|whoever follows|followed|with noise|never called)).*$'
	}
});
