/** `npm run bench:reliability [-- cases]`: what the map states beside what is found, by situation and readings. */
import { pathToFileURL } from 'node:url';
import { bundle } from './lib/bundle.mjs';

const { reliabilityTable } = await import(pathToFileURL(await bundle('reliabilityTable')).href);
console.log(reliabilityTable(Number(process.argv[2] ?? 400)));
