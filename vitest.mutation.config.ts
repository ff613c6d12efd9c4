import { defineConfig } from 'vitest/config';

/** The core's quick tests alone: each mutant runs those that reach it. */
export default defineConfig({
	test: {
		include: ['tests/core/**/*.test.ts'],
		exclude: [
			'tests/core/sweep.test.ts',
			'tests/core/sweep-cases.test.ts',
			'tests/core/sweep-marks.test.ts',
			'tests/core/architecture.test.ts',
			'tests/core/meter.test.ts'
		],
		testNamePattern: '^(?!.*(seeded|closed loop|thousand|follow)).*$'
	}
});
