/** `npm run bench:diagnosis [-- faults]`: seeded faults, the tests the tool names, a confusion table. */
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'vite';
import { ROOT } from '../scripts/lib/setup.mjs';

const outDir = join(ROOT, '.data', 'bench-diagnosis');
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
			input: { table: join(ROOT, 'bench/diagnosisTable.ts') },
			output: { entryFileNames: '[name].js' }
		}
	}
});
const { diagnosisTable } = await import(pathToFileURL(join(outDir, 'table.js')).href);
console.log(diagnosisTable(Number(process.argv[2] ?? 2000)));
