/** `npm run bench:diagnosis [-- faults]`: seeded faults, the tests the tool names, a confusion table. */
import { pathToFileURL } from 'node:url';
import { bundle } from './lib/bundle.mjs';

const { diagnosisTable } = await import(pathToFileURL(await bundle('diagnosisTable')).href);
console.log(diagnosisTable(Number(process.argv[2] ?? 2000)));
