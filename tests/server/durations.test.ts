import { beforeAll, describe, expect, it } from 'vitest';
import usual from '#catalog/durations.json';
import type { Durations } from '#core/schedule/tasks';
import type { WorkTime } from '#core/schedule/workTimes';
import { durationsInUse, type TimesOfWork } from '$lib/server/services/durations';
import { lock } from './accepted';
import {
	call,
	closingDb,
	goCards,
	newCaller,
	newHop,
	READY,
	record,
	said,
	type Answer,
	type Caller
} from './world';

closingDb();

let planner: Caller;
let crew: Caller;
beforeAll(async () => {
	planner = await newCaller('planner');
	crew = await newCaller('technician');
});

const read = async (): Promise<TimesOfWork> => {
	for (;;) {
		const { body } = await call<TimesOfWork>(planner, 'GET', '/durations');
		if (body.behind === 0) return body;
	}
};
const timeOf = ({ times }: TimesOfWork, kind: string): WorkTime =>
	times.find((time) => time.kind === kind)!;
const put = (version: number, what: Durations | object): Promise<Answer<TimesOfWork>> =>
	call<TimesOfWork>(planner, 'PUT', '/durations', { version, said: what });

/** A hop at whose end A fixing took some minutes, by its records. */
async function fixedIn(minutes: number, practice = false): Promise<void> {
	const hop = await newHop(planner, [crew], { practice });
	const from = Date.now() - minutes * 60_000;
	const made = [record('A', 'alignment-state', READY), ...[0, 1, 2, 3].map((i) => lock('A', i))];
	const records = made.map((one, i) => ({
		...one,
		recordedAt: new Date(from + (i * minutes * 60_000) / 4).toISOString()
	}));
	const answer = await call(crew, 'POST', `/hops/${hop.id}/records`, {
		records: [...goCards('A'), ...goCards('B'), record('B', 'alignment-state', READY), ...records]
	});
	expect(answer.status).toBe(200);
}

describe('times of work', () => {
	it('are as usual until the firm says others, each change on top of the one before', async () => {
		const { version, times } = await read();
		expect(times.map(({ kind }) => kind)).toEqual(Object.keys(usual));
		const hoist = { low: 31, likely: 62, high: 124 };
		const done = await put(version, { hoist });
		expect(done.status).toBe(200);
		expect(timeOf(done.body, 'hoist')).toMatchObject({ usual: usual.hoist, said: hoist });
		expect(done.body).toMatchObject({ version: version + 1 });
		expect(done.body.changedBy).not.toBeNull();
		// Somebody who looked before that loses nothing, and changes nothing.
		expect(said(await put(version, {}))).toEqual([409, 'changed-meanwhile', undefined]);
		expect(timeOf(await read(), 'hoist').said).toEqual(hoist);
		expect((await durationsInUse()).hoist).toEqual(hoist);
		const back = await put(version + 1, {});
		expect(timeOf(back.body, 'hoist').said).toBeNull();
	});

	it.each([
		[{ hoist: { low: 5, likely: 4, high: 9 } }, 'said.hoist.likely'],
		[{ hoist: { low: 0, likely: 4, high: 9 } }, 'said.hoist.low'],
		[{ hoist: { low: 1, likely: 4, high: 90_000 } }, 'said.hoist.high'],
		[{ hoist: { low: 1, likely: 4 } }, 'said.hoist.high'],
		[{ nap: { low: 1, likely: 4, high: 9 } }, 'said.nap']
	])('%j is refused at its field', async (what, field) => {
		const { version } = await read();
		const answer = await put(version, what);
		expect(said(answer)).toEqual([422, 'invalid-input', field]);
		expect((await read()).version).toBe(version);
	});

	it('are learned from the records of the firm’s hops, not from practice, and once', async () => {
		const before = timeOf(await read(), 'fix');
		await fixedIn(80);
		await fixedIn(80, true);
		const after = timeOf(await read(), 'fix');
		expect(after.seen).toBe(before.seen + 1);
		expect(after.used.likely).toBeGreaterThan(before.used.likely);
		expect(after.used.likely).toBeLessThan(80);
		expect(timeOf(await read(), 'fix').seen).toBe(after.seen);
	});
});
