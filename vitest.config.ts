import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

// `$lib` is the kit's own name; `#core` and the others stand in package.json.
const alias = { $lib: fileURLToPath(new URL('src/lib', import.meta.url)) };

export default defineConfig({
	resolve: { alias },
	test: {
		projects: [
			{
				resolve: { alias },
				test: {
					name: 'core',
					include: [
						'tests/core/**/*.test.ts',
						'tests/ui/**/*.test.ts',
						'tests/imports/**/*.test.ts'
					],
					testTimeout: 30_000
				}
			},
			{
				resolve: { alias },
				test: {
					name: 'server',
					include: ['tests/server/**/*.test.ts'],
					globalSetup: ['tests/server/globalSetup.ts'],
					testTimeout: 120_000,
					hookTimeout: 240_000,
					fileParallelism: false
				}
			},
			{
				// By `npm test -- cluster` alone: three database servers and two of the application.
				resolve: { alias },
				test: {
					name: 'cluster',
					include: ['tests/cluster/**/*.test.ts'],
					testTimeout: 300_000,
					hookTimeout: 240_000,
					fileParallelism: false
				}
			},
			{
				resolve: { alias },
				test: {
					name: 'bench',
					include: [],
					benchmark: { include: ['bench/**/*.bench.ts'] },
					globalSetup: ['tests/server/globalSetup.ts'],
					fileParallelism: false
				}
			}
		]
	}
});
