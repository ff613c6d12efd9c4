import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

const at = (path: string): string => fileURLToPath(new URL(path, import.meta.url));

/** The server's worker threads, built beside the application. */
export default defineConfig({
	publicDir: false,
	resolve: {
		alias: { $lib: at('src/lib'), 'web-worker': at('src/lib/server/jobs/noWorker.ts') }
	},
	// Built in, so that its own helper for worker threads can be left out.
	ssr: { noExternal: ['geotiff'] },
	build: {
		ssr: true,
		target: 'node20',
		outDir: 'build/workers',
		emptyOutDir: true,
		rolldownOptions: {
			input: {
				replan: at('src/lib/server/replan/worker.ts'),
				schedule: at('src/lib/server/schedule/worker.ts'),
				work: at('src/lib/server/jobs/worker.ts'),
				verify: at('src/lib/server/commands/verify.ts')
			},
			output: { entryFileNames: '[name].js' }
		}
	}
});
