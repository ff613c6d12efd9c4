/** `npm run bench:centre [-- cuts]`: the estimated centre of a cut against the Cramér–Rao bound of its samples. */
import { pathToFileURL } from 'node:url';
import { bundle } from './lib/bundle.mjs';

const { centreTable } = await import(pathToFileURL(await bundle('centreTable')).href);
console.log(centreTable(Number(process.argv[2] ?? 300)));
