/** `npm run bench:feed [-- hops]`: where the feed-rotation finder leaves the feeds of simulated hops. */
import { pathToFileURL } from 'node:url';
import { bundle } from './lib/bundle.mjs';

const { feedTable } = await import(pathToFileURL(await bundle('feedTable')).href);
console.log(feedTable(Number(process.argv[2] ?? 400)));
