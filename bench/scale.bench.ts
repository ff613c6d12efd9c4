import { randomUUID } from 'node:crypto';
import { afterAll, bench, describe } from 'vitest';
import type { Actor } from '$lib/server/auth/actor';
import { closeDb } from '$lib/server/db/connection';
import { listHops } from '$lib/server/services/hops';
import { mapContent, type MapView } from '$lib/server/services/map';
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
const fewList = await listHops(few, { q: '', page: 1 });
if (fewList.count !== Math.min(FEW, 1000)) throw new Error('the small network is not whole');

/** Degrees of a view with some eighty sites, wherever in a network it lies. */
const near = (west: number, south: number): MapView => ({
	...{ west, east: west + 1 },
	...{ south, north: south + 0.16 }
});
const wide = (west: number): MapView => ({ west: west - 1, east: west + 14, south: 9, north: 21 });

/** What a planner asks for, of a network that lies at `west`. */
const questions = (
	actor: Actor,
	name: string,
	west: number,
	south: number
): Record<string, () => Promise<unknown>> => ({
	'first page of hops': () => listHops(actor, { q: '', page: 1 }),
	'hops by a rare word': () => listHops(actor, { q: `${name} 711`, page: 1 }),
	'hops by a common word': () => listHops(actor, { q: `${name} hop`, page: 1 }),
	'first page of sites': () => listSites(actor, { q: '', page: 1 }),
	'sites by a rare word': () => listSites(actor, { q: '711', page: 1 }),
	'map near': () => mapContent(actor, near(west, south)),
	'map wide': () => mapContent(actor, wide(west)),
	'map of everything': () => mapContent(actor, { west: 0, east: 180, south: -60, north: 60 })
});

/** Milliseconds of each question, the middle of many. */
async function timesOf(
	asked: Record<string, () => Promise<unknown>>
): Promise<Map<string, number>> {
	const times = new Map<string, number>();
	for (const [name, ask] of Object.entries(asked)) {
		const taken: number[] = [];
		for (let i = 0; i < 41; i++) {
			const started = performance.now();
			await ask();
			taken.push(performance.now() - started);
		}
		times.set(name, taken.sort((a, b) => a - b)[20] ?? NaN);
	}
	return times;
}

const besideFew = await timesOf(questions(few, 'Few', 20.5, 10));

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
const besideMany = await timesOf(questions(many, 'Many', 44.5, 14));
for (const [name, ms] of besideMany) {
	const before = besideFew.get(name) ?? NaN;
	process.stdout.write(
		`${name}: ${before.toFixed(1)} ms beside ${FEW}, ${ms.toFixed(1)} ms beside ${MANY}: ${(ms / before).toFixed(2)} times.\n`
	);
}
process.stdout.write(
	`\nReplanning, cost per hop: ${REPLANNED} hops take ${(perHopTen / perHopFew).toFixed(2)} times that of ${FEW} hops.\n`
);

afterAll(() => closeDb());

describe('the first page of hops', () => {
	bench(`of ${MANY}`, async () => {
		await listHops(many, { q: '', page: 1 });
	});
});

describe('sites far in', () => {
	bench('page 2400 by number', async () => {
		await listSites(many, { q: '', page: 2400 });
	});
	bench('the same by where the page before ended', async () => {
		await listSites(many, { q: '', page: 2400, after: 'Many 9' });
	});
});
