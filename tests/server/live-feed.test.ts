import { randomUUID } from 'node:crypto';
import { beforeAll, describe, expect, it, onTestFinished, vi } from 'vitest';
import type { FieldRecord } from '#core/record/records';
import { db } from '$lib/server/db/connection';
import { appendUnlessMoved, readFeed } from '$lib/server/repositories/feeds';
import { digestOfRow } from '$lib/server/services/feed';
import { hopFeeds } from '$lib/server/services/liveFeed';
import {
	anotherProcess,
	bothReady,
	call,
	closingDb,
	newCaller,
	newHop,
	reading,
	record,
	type Caller,
	type TestHop
} from './world';

closingDb();

let planner: Caller;
let crew: Caller;
beforeAll(async () => {
	planner = await newCaller('planner');
	crew = await newCaller('technician');
});

const recordsOf = async (hop: TestHop): Promise<FieldRecord[]> =>
	(await call<{ records: FieldRecord[] }>(crew, 'GET', `/hops/${hop.id}/records`)).body.records;

const post = async (hop: TestHop, ...records: object[]): Promise<void> => {
	const answer = await call(crew, 'POST', `/hops/${hop.id}/records`, { records });
	if (answer.status !== 200) throw new Error(answer.text);
};

const note = (text: string): object => record('A', 'note', { text });

/** A follower that has come up to what is there. */
async function following(hop: TestHop): Promise<FieldRecord[]> {
	const seen: FieldRecord[] = [];
	onTestFinished(hopFeeds.follow(hop.id, 0, (records) => seen.push(...records)));
	await post(hop, note('Is somebody there?'));
	await vi.waitFor(() => expect(seen).toHaveLength(1), { timeout: 5000 });
	return seen;
}

describe('what this process takes in', () => {
	it('is told to whoever follows before it is answered for, as it is read afterwards', async () => {
		const hop = await newHop(planner, [crew]);
		const seen = await following(hop);
		await post(hop, record('B', 'reading', reading(-61.25)));
		expect(seen.map(({ seq }) => seq)).toEqual([1, 2]);
		await bothReady(crew, hop.id);
		await call(planner, 'POST', `/hops/${hop.id}/revisions`, {
			id: randomUUID(),
			version: hop.version
		});
		const older = { ...record('A', 'note', { text: 'Grüße ⛰ “so”' }), revisionNumber: 1 };
		await call(crew, 'POST', `/hops/${hop.id}/records`, { records: [older], keepOlder: true });
		// By a device whose clock is ten minutes ahead.
		const early = { ...note('two'), recordedAt: new Date(Date.now() + 600_000).toISOString() };
		await post(hop, note('one'), early);
		// One before anybody followed, a reading, six cards, two confirmations, and the three last.
		expect(seen.map(({ seq }) => seq)).toEqual(seen.map((_, i) => i + 1));
		expect(seen).toHaveLength(13);
		expect(seen.map(({ revisionNumber }) => revisionNumber)).toEqual([
			...seen.slice(2).map(() => 1),
			2,
			2
		]);
		expect(seen.slice(0, -1).every((one) => !('clockAheadS' in one))).toBe(true);
		expect(seen.at(-1)!.clockAheadS).toBeGreaterThan(590);
		expect(seen).toEqual(await recordsOf(hop));
	});

	it('is not told where it was refused or is there already', async () => {
		const hop = await newHop(planner, [crew]);
		const seen = await following(hop);
		const made = note('once');
		await post(hop, made);
		await post(hop, made);
		const move = { axis: 'tilt', toTurns: 1, viaTurns: [], source: 'hand' };
		const records = [note('with what is refused'), record('A', 'move', move)];
		const refused = await call(crew, 'POST', `/hops/${hop.id}/records`, { records });
		expect(refused.error.code).toBe('not-in-alignment-state');
		await post(hop, note('last'));
		expect(seen.map(({ seq }) => seq)).toEqual([1, 2, 3]);
	});
});

describe('what another process takes in', () => {
	it('comes in order and once, also where both take in records of one hop at a time', async () => {
		const hop = await newHop(planner, [crew]);
		const seen = await following(hop);
		const elsewhere = (await anotherProcess()).world.call;
		const posted = Array.from({ length: 30 }, (_, i) =>
			(i % 3 ? call : elsewhere)(crew, 'POST', `/hops/${hop.id}/records`, {
				records: [note(String(i))]
			})
		);
		expect((await Promise.all(posted)).map(({ status }) => status)).toEqual(posted.map(() => 200));
		await vi.waitFor(() => expect(seen).toHaveLength(31), { timeout: 5000 });
		expect(seen.map(({ seq }) => seq)).toEqual(Array.from({ length: 31 }, (_, i) => i + 1));
		expect(seen).toEqual(await recordsOf(hop));
	});

	it('is looked for in one statement for all hops that are followed', async () => {
		const hops: TestHop[] = [];
		for (let i = 0; i < 5; i++) hops.push(await newHop(planner, [crew]));
		const feeds: FieldRecord[][] = [];
		for (const hop of hops) feeds.push(await following(hop));
		const statements: string[] = [];
		const { options } = db() as unknown as { options: { logging: unknown } };
		options.logging = (sql: string) => statements.push(sql);
		onTestFinished(() => {
			options.logging = false;
		});
		await vi.waitFor(() => expect(statements.length).toBeGreaterThan(3), { timeout: 10_000 });
		for (const statement of statements) {
			expect(hops.map(({ id }) => statement.includes(id))).toEqual(hops.map(() => true));
		}
		const elsewhere = (await anotherProcess()).world.call;
		const records = [note('from elsewhere')];
		await elsewhere(crew, 'POST', `/hops/${hops[2]!.id}/records`, { records });
		await vi.waitFor(() => expect(feeds[2]).toHaveLength(2), { timeout: 5000 });
		expect(feeds.map((seen) => seen.length)).toEqual([1, 1, 2, 1, 1]);
	});
});

describe('the short way into the record', () => {
	it('writes nothing where the feed has moved on, or the hop is accepted by now', async () => {
		const hop = await newHop(planner, [crew]);
		await post(hop, note('first'));
		const before = await readFeed(hop.id);
		const [rows] = await db().query('SELECT * FROM field_records WHERE hop_id = ?', {
			replacements: [hop.id]
		});
		const [stored] = rows as { revision_id: string; recorded_by: string }[];
		const row = {
			...{ id: randomUUID(), hopId: hop.id, seq: 2, revisionId: stored!.revision_id },
			...{ end: 'A' as const, kind: 'note' as const, payload: '{"text":"late"}' },
			...{ recordedAt: new Date(), receivedAt: new Date(), recordedBy: stored!.recorded_by }
		};
		const digest = digestOfRow(before.digest, row);
		const after = { ...before, lastSeq: 2, digest };
		for (const elsewhere of [
			{ ...before, lastSeq: 0 },
			{ ...before, digest: 'e'.repeat(64) },
			{ ...before, accepted: true }
		]) {
			expect(await appendUnlessMoved([{ ...row, digest }], elsewhere, after)).toBe(false);
			expect(await readFeed(hop.id)).toEqual(before);
			expect(await recordsOf(hop)).toHaveLength(1);
		}
		expect(await appendUnlessMoved([{ ...row, digest }], before, after)).toBe(true);
		expect(await readFeed(hop.id)).toEqual(after);
	});

	it('leaves its connection free for others when the database refuses it', async () => {
		const hop = await newHop(planner, [crew]);
		const before = await readFeed(hop.id);
		const row = {
			...{ id: randomUUID(), hopId: hop.id, seq: 1, revisionId: randomUUID() },
			...{ end: 'A' as const, kind: 'note' as const, payload: '{}' },
			...{ recordedAt: new Date(), receivedAt: new Date() },
			...{ recordedBy: crew.userId, digest: 'd'.repeat(64) }
		};
		const after = { ...before, lastSeq: 1, digest: row.digest };
		// No such revision: nothing of it stays, and no lock either, on any connection of the pool.
		for (let i = 0; i < 12; i++) {
			await expect(appendUnlessMoved([row], before, after)).rejects.toThrow(/foreign key/i);
		}
		expect(await readFeed(hop.id)).toEqual(before);
		await Promise.all(Array.from({ length: 12 }, () => post(hop, note('goes on'))));
		expect((await readFeed(hop.id)).lastSeq).toBe(12);
	});
});
