import { join } from 'node:path';
import { build } from 'vite';
import { ROOT } from '../../scripts/lib/setup.mjs';

/** Builds one TypeScript file of bench/ for Node.js and gives the path of what came out. */
export async function bundle(name) {
	const outDir = join(ROOT, '.data', 'bench', name);
	await build({
		configFile: false,
		logLevel: 'error',
		resolve: { alias: { $core: join(ROOT, 'src/core') } },
		build: {
			ssr: true,
			target: 'node20',
			outDir,
			emptyOutDir: true,
			rolldownOptions: {
				input: { [name]: join(ROOT, 'bench', `${name}.ts`) },
				output: { entryFileNames: '[name].js' }
			}
		}
	});
	return join(outDir, `${name}.js`);
}
