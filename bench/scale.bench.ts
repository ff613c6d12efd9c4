import { randomUUID } from 'node:crypto';
import { afterAll, bench, describe } from 'vitest';
import type { Actor } from '$lib/server/auth/actor';
import { closeDb } from '$lib/server/db/connection';
import { listHops } from '$lib/server/services/hops';
import { mapContent } from '$lib/server/services/map';
import { getJob } from '$lib/server/services/jobs';
import { runJobs } from '$lib/server/services/jobRunner';
import { replanJob, startReplan } from '$lib/server/services/replans';
import { listSites } from '$lib/server/services/sites';
import { newCaller } from '../tests/server/world';
import { network } from './lib/network';

/**
 * The same questions beside a thousand and beside fifty thousand sites and hops, and replanning of a
 * thousand and of ten thousand: ratios within one run. `npm run bench`.
 */
const FEW = 1000;
const MANY = 50_000;
const REPLANNED = 10_000;

async function person(): Promise<Actor> {
	const caller = await newCaller('planner');
	return { userId: caller.userId, displayName: 'Bench', role: 'planner' };
}

runJobs({ replan: replanJob });
const few = await person();
const many = await person();
const replanned = await person();
await network(few, FEW, 20, 'Few');
const beside = { west: 20, east: 21, south: 10, north: 11 };
const fewList = await listHops(few, { q: '', page: 1 });
if (fewList.count !== FEW) throw new Error('the small network is not whole');

async function replan(actor: Actor): Promise<number> {
	const id = randomUUID();
	const started = performance.now();
	await startReplan(actor, id);
	for (;;) {
		const run = await getJob(actor, id);
		if (run.status === 'done') return (performance.now() - started) / run.total;
		if (run.status !== 'running') throw new Error(run.status);
		await new Promise((resolve) => setTimeout(resolve, 20));
	}
}

const perHopFew = await replan(few);
await network(replanned, REPLANNED, 100, 'Replanned');
const perHopTen = await replan(replanned);
await network(many, MANY, 40, 'Many');
process.stdout.write(
	`\nReplanning, cost per hop: ${REPLANNED} hops take ${(perHopTen / perHopFew).toFixed(2)} times that of ${FEW} hops.\n`
);

afterAll(() => closeDb());

describe('the first page of hops', () => {
	bench(`of ${FEW}`, async () => {
		await listHops(few, { q: '', page: 1 });
	});
	bench(`of ${MANY}`, async () => {
		await listHops(many, { q: '', page: 1 });
	});
	bench(`searched in ${MANY}`, async () => {
		await listHops(many, { q: 'hop 4711', page: 1 });
	});
});

describe('the first page of sites', () => {
	bench('by name', async () => {
		await listSites(few, { q: '', page: 1 });
	});
	bench('the last page', async () => {
		await listSites(few, { q: '', page: 2400 });
	});
});

describe('the map', () => {
	bench(`a degree about, ${FEW} near`, async () => {
		await mapContent(few, beside);
	});
	bench(`a degree about, ${MANY} near`, async () => {
		await mapContent(many, { west: 44, east: 45, south: 14, north: 15 });
	});
	bench('everything, as groups', async () => {
		await mapContent(many, { west: 0, east: 180, south: 0, north: 60 });
	});
});
