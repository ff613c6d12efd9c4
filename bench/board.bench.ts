import { afterAll, bench, describe } from 'vitest';
import type { Actor } from '$lib/server/auth/actor';
import { closeDb, db } from '$lib/server/db/connection';
import { readBoard, type BoardQuery } from '$lib/server/services/board';
import { newCaller } from '../tests/server/world';
import { network } from './lib/network';

/** The board of five hundred hops and of five thousand, whose ends stand in all bays and wait for all: ratios within one run. */
const FEW = 500;
const MANY = 5000;

async function person(count: number, west: number, name: string): Promise<Actor> {
	const { userId } = await newCaller('planner');
	const ids = await network({ userId }, count, west, name);
	// Each hop stands somewhere else, by its place in the list.
	await db().query(
		`INSERT INTO hop_stands (hop_id, last_seq, revision, acceptances, stage_a, state_a, note_a, waits_a, since_a,
			stage_b, state_b, note_b, waits_b, since_b, short_parts)
		SELECT id, 0, 1, 0, ELT(1 + n % 7, 'prepare', 'build', 'power', 'align', 'polarize', 'fix', 'accept'),
			IF(n % 11 = 0, 'trouble', 'open'), '', ELT(1 + n % 5, NULL, 'far-end', 'parts', 'acceptor', NULL),
			NOW() - INTERVAL n MINUTE, ELT(1 + n % 6, 'build', 'power', 'align', 'polarize', 'fix', 'accept'), 'open', '',
			ELT(1 + n % 3, NULL, 'parts', 'far-end'), NOW() - INTERVAL 2 * n MINUTE, n % 4
		FROM (SELECT id, ROW_NUMBER() OVER (ORDER BY name) AS n FROM hops WHERE id IN (?)) every_one`,
		{ replacements: [ids] }
	);
	return { userId, displayName: 'Bench', role: 'planner' };
}

const base: BoardQuery = { q: '', page: 1, flag: 'all', sort: 'waiting' } as BoardQuery;
const QUESTIONS: Record<string, Partial<BoardQuery>> = {
	'who waits longest': {},
	'by name': { sort: 'name' },
	'changed last': { sort: 'changed' },
	'in trouble': { flag: 'trouble' },
	'short of parts': { flag: 'parts' },
	'one stage': { stage: 'align' },
	'a word': { q: '311' },
	'far in': { page: 9 }
};

async function timesOf(actor: Actor): Promise<Map<string, number>> {
	const times = new Map<string, number>();
	for (const [name, change] of Object.entries(QUESTIONS)) {
		const taken: number[] = [];
		for (let i = 0; i < 15; i += 1) {
			const started = performance.now();
			await readBoard(actor, { ...base, ...change });
			taken.push(performance.now() - started);
		}
		times.set(name, taken.sort((p, q) => p - q)[7] ?? NaN);
	}
	return times;
}

const few = await person(FEW, 20, 'Few');
const besideFew = await timesOf(few);
const many = await person(MANY, 60, 'Many');
const besideMany = await timesOf(many);
for (const [name, ms] of besideMany) {
	const before = besideFew.get(name) ?? NaN;
	process.stdout.write(
		`${name}: ${before.toFixed(1)} ms of ${FEW}, ${ms.toFixed(1)} ms of ${MANY}: ${(ms / before).toFixed(2)} times.\n`
	);
}

afterAll(() => closeDb());

describe('the board', () => {
	bench(`of ${MANY}`, async () => {
		await readBoard(many, base);
	});
});
