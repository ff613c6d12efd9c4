import { randomUUID } from 'node:crypto';
import { QueryTypes } from 'sequelize';
import { afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { SILENCE_S } from '#core/record/baton';
import type { FieldRecord } from '#core/record/records';
import { updateSimulation } from '$lib/server/repositories/hops';
import { requireRevision } from '$lib/server/services/feed';
import { db } from '$lib/server/db/connection';
import { hopFeeds } from '$lib/server/services/liveFeed';
import { closingLook, finish, lock, operating, signAll } from './accepted';
import {
	asOwner,
	bothReady,
	call,
	closingDb,
	newCaller,
	newHop,
	newSite,
	reading,
	record,
	type Answer,
	type Caller,
	type TestHop
} from './world';

closingDb();

let planner: Caller;
let crew: Caller;
let acceptor: Caller;
beforeAll(async () => {
	[planner, crew, acceptor] = await Promise.all([
		newCaller('planner'),
		newCaller('technician'),
		newCaller('acceptor')
	]);
});

const hopWith = (): Promise<TestHop> => newHop(planner, [crew, acceptor]);
const post = (
	hop: TestHop,
	...records: object[]
): Promise<Answer<{ results: { seq: number; repeated: boolean }[] }>> =>
	call<{ results: { seq: number; repeated: boolean }[] }>(crew, 'POST', `/hops/${hop.id}/records`, {
		records
	});
const read = async (hop: TestHop, after = 0): Promise<FieldRecord[]> =>
	(
		await call<{ records: FieldRecord[] }>(
			crew,
			'GET',
			`/hops/${hop.id}/records?after=${after}&limit=2000`
		)
	).body.records;

describe('the field record', () => {
	it('keeps when it was made to the thousandth of a second', async () => {
		const hop = await newHop(planner, [crew]);
		const made = {
			...record('A', 'note', { text: 'Now.' }),
			recordedAt: '2026-11-24T08:00:00.347Z'
		};
		await call(crew, 'POST', `/hops/${hop.id}/records`, { records: [made] });
		expect((await read(hop))[0]!.recordedAt).toBe('2026-11-24T08:00:00.347Z');
		const [row] = await db().query<{ odd: string }>(
			`SELECT SUM(MICROSECOND(at) > 0) AS odd FROM audit_trail
			WHERE at > NOW() - INTERVAL 1 HOUR`,
			{ type: QueryTypes.SELECT }
		);
		expect(Number(row!.odd)).toBeGreaterThan(0);
	});

	it.each([
		'0001-01-01T00:00:00Z',
		'1989-05-01T08:00:00Z',
		'2101-01-01T00:00:00Z',
		'9999-12-31T00:00:00Z'
	])('refuses a time that no clock here shows: %s', async (recordedAt) => {
		const hop = await newHop(planner, [crew]);
		const made = { ...record('A', 'note', { text: 'When?' }), recordedAt };
		const answer = await call(crew, 'POST', `/hops/${hop.id}/records`, { records: [made] });
		expect([answer.status, answer.error.fields[0]!.field]).toEqual([422, 'records.0.recordedAt']);
	});

	it('refuses one id on two hops at once: on one of them it stands, the other is told', async () => {
		const [first, second] = [await newHop(planner, [crew]), await newHop(planner, [crew])];
		const made = record('A', 'note', { text: 'Twice.' });
		const answers = await Promise.all(
			[first, second].map((hop) =>
				call(crew, 'POST', `/hops/${hop.id}/records`, { records: [made] })
			)
		);
		expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
		expect(answers.find(({ status }) => status === 409)!.error.code).toBe('id-used');
		expect((await read(first)).length + (await read(second)).length).toBe(1);
	});

	it('takes a repeat without doubling and refuses another content under the same id', async () => {
		const hop = await hopWith();
		const one = record('A', 'reading', reading(-60));
		expect((await post(hop, one)).body.results).toEqual([{ id: one.id, seq: 1, repeated: false }]);
		expect(
			(await post(hop, one, record('A', 'note', { text: 'next' }))).body.results.map((r) => [
				r.seq,
				r.repeated
			])
		).toEqual([
			[1, true],
			[2, false]
		]);
		const other = await post(hop, { ...one, payload: reading(-50) });
		expect([other.status, other.error.code]).toEqual([409, 'id-used']);
		const foreign = await hopWith();
		expect((await post(foreign, one)).status).toBe(409);
		expect(await read(hop)).toHaveLength(2);
	});

	it('needs an issued revision and remembers which one', async () => {
		const draft = await newHop(planner, [crew], { issue: false });
		expect((await post(draft, record('A', 'note', { text: 'early' }))).error.code).toBe(
			'no-revision'
		);
		const hop = await hopWith();
		await post(hop, record('A', 'note', { text: 'first' }));
		await call(planner, 'POST', `/hops/${hop.id}/revisions`, {
			id: randomUUID(),
			version: hop.version
		});
		await post(hop, record('A', 'note', { text: 'second' }));
		expect((await read(hop)).map((r) => r.revisionNumber)).toEqual([1, 2]);
	});

	it('gives places without a gap to records that arrive at once from many sides', async () => {
		const hop = await hopWith();
		const all = Array.from({ length: 40 }, () => record('B', 'reading', reading(-70)));
		const answers = await Promise.all(all.map((r) => post(hop, r)));
		expect(answers.every((answer) => answer.status === 200)).toBe(true);
		expect((await read(hop)).map((r) => r.seq)).toEqual(
			Array.from({ length: 40 }, (_, i) => i + 1)
		);
	});

	it('cannot be changed or deleted in the database, nor can what is frozen', async () => {
		const hop = await hopWith();
		await post(hop, record('A', 'note', { text: 'true' }));
		for (const table of ['field_records', 'plan_revisions', 'audit_trail']) {
			for (const sql of [`UPDATE ${table} SET id = id`, `DELETE FROM ${table}`]) {
				// The application has no right to it, and a trigger refuses it even to who owns the table.
				await expect(db().query(sql)).rejects.toThrow(/command denied/);
				await expect(asOwner(sql)).rejects.toThrow(/append-only/);
			}
			for (const sql of [
				`TRUNCATE ${table}`,
				`DROP TABLE ${table}`,
				`ALTER TABLE ${table} ADD x INT`
			]) {
				await expect(db().query(sql)).rejects.toThrow(/command denied/);
			}
			const trigger = `DROP TRIGGER ${table}_no_update`;
			await expect(db().query(trigger)).rejects.toThrow(/command denied/);
		}
	});
});

describe('the baton', () => {
	const move = (end: 'A' | 'B'): object =>
		record(end, 'move', { axis: 'tilt', toTurns: 1, viaTurns: [], source: 'hand' });

	it('lets no dish move before both ends are ready, then only the holder’s', async () => {
		const hop = await hopWith();
		expect((await post(hop, move('A'))).error.code).toBe('not-in-alignment-state');
		await bothReady(crew, hop.id);
		expect((await post(hop, move('A'))).status).toBe(200);
		expect((await post(hop, move('B'))).error.code).toBe('not-holding-baton');
		expect((await post(hop, record('A', 'baton', { to: 'B' }), move('B'))).status).toBe(200);
		expect((await post(hop, record('A', 'baton', { to: 'B' }))).error.code).toBe(
			'not-holding-baton'
		);
		expect((await post(hop, record('B', 'baton', { to: 'B' }))).error.code).toBe('baton-to-self');
	});

	it('is passed once when the same hand-over comes twice', async () => {
		const hop = await hopWith();
		await bothReady(crew, hop.id);
		const over = record('A', 'baton', { to: 'B' });
		await Promise.all([post(hop, over), post(hop, over), post(hop, over)]);
		expect((await read(hop)).filter((r) => r.kind === 'baton')).toHaveLength(1);
	});

	describe('taken over', () => {
		afterEach(() => {
			vi.useRealTimers();
		});
		const silentFor = (seconds: number): void => {
			vi.useFakeTimers({ toFake: ['Date'], now: Date.now() + seconds * 1000 });
		};
		const taken = (end: 'A' | 'B'): object => record(end, 'baton', { to: end, how: 'taken' });

		it('only after its holder has been silent for long, and only by the other end', async () => {
			const hop = await hopWith();
			await bothReady(crew, hop.id);
			await post(hop, record('A', 'reading', reading(-60)));
			const early = await post(hop, taken('B'));
			expect([early.status, early.error.code]).toEqual([409, 'not-silent']);
			expect((await post(hop, taken('A'))).error.code).toBe('baton-to-self');
			silentFor(SILENCE_S + 5);
			expect((await post(hop, record('B', 'baton', { to: 'A', how: 'taken' }))).error.code).toBe(
				'baton-to-self'
			);
			const answer = await post(hop, taken('B'), move('B'));
			expect(answer.status).toBe(200);
			expect((await post(hop, move('A'))).error.code).toBe('not-holding-baton');
		});

		it('leaves room for what its last holder did before and could not send', async () => {
			const hop = await hopWith();
			await bothReady(crew, hop.id);
			const at = (iso: string, made: object): object => ({ ...made, recordedAt: iso });
			const before = at('2026-11-24T08:01:00.000Z', move('A'));
			silentFor(SILENCE_S + 5);
			const over = at('2026-11-24T08:05:00.000Z', taken('B'));
			expect((await post(hop, over)).status).toBe(200);
			expect((await post(hop, before)).status).toBe(200);
			const after = at('2026-11-24T08:05:01.000Z', move('A'));
			expect((await post(hop, after)).error.code).toBe('not-holding-baton');
			// Handed on in the usual way, nothing is late any more.
			await post(hop, record('B', 'baton', { to: 'A' }), record('A', 'baton', { to: 'B' }));
			const stale = at('2026-11-24T08:01:00.000Z', move('A'));
			expect((await post(hop, stale)).error.code).toBe('not-holding-baton');
		});
	});

	it('leaves nothing half-written when one of a batch breaks a rule', async () => {
		const hop = await hopWith();
		await bothReady(crew, hop.id);
		const before = (await read(hop)).length;
		await post(hop, record('A', 'note', { text: 'kept?' }), move('B'));
		expect(await read(hop)).toHaveLength(before);
	});
});

describe('the live feed', () => {
	const collect = (hop: TestHop, after: number): { seen: number[]; stop: () => void } => {
		const seen: number[] = [];
		const stop = hopFeeds.follow(hop.id, after, (records) =>
			seen.push(...records.map((r) => r.seq))
		);
		return { seen, stop };
	};
	const until = async (done: () => boolean): Promise<void> => {
		for (let i = 0; i < 200 && !done(); i++)
			await new Promise((resolve) => setTimeout(resolve, 50));
	};

	it('brings every record once and in order to all who follow, whenever they join', async () => {
		const hop = await hopWith();
		await post(hop, record('A', 'note', { text: '1' }));
		const early = collect(hop, 0);
		for (let i = 0; i < 8; i++) await post(hop, record('A', 'note', { text: String(i) }));
		const late = collect(hop, 0);
		const resumed = collect(hop, 6);
		for (let i = 0; i < 8; i++) await post(hop, record('A', 'note', { text: String(i) }));
		await until(() => [early, late, resumed].every((f) => f.seen.includes(17)));
		const all = Array.from({ length: 17 }, (_, i) => i + 1);
		expect(early.seen).toEqual(all);
		expect(late.seen).toEqual(all);
		expect(resumed.seen).toEqual(all.slice(6));
		for (const follower of [early, late, resumed]) follower.stop();
	});

	it('is silent after it was left', async () => {
		const hop = await hopWith();
		const follower = collect(hop, 0);
		follower.stop();
		await post(hop, record('A', 'note', { text: 'unheard' }));
		await new Promise((resolve) => setTimeout(resolve, 700));
		expect(follower.seen).toEqual([]);
	});
});

describe('the simulated meter', () => {
	interface SimulatorAnswer {
		volts: number;
		levelDbm: number | null;
		results: { seq: number; repeated: boolean }[];
		samples: unknown[];
	}
	const act = (hop: TestHop, body: object): Promise<Answer<SimulatorAnswer>> =>
		call<SimulatorAnswer>(crew, 'POST', `/hops/${hop.id}/simulator`, {
			end: 'A',
			id: randomUUID(),
			readingId: randomUUID(),
			...body
		});

	it('moves, reads and keeps both, and answers a repeat as the first time', async () => {
		const hop = await hopWith();
		await bothReady(crew, hop.id);
		const request = {
			action: 'turn',
			axis: 'azimuth',
			turns: [1, 2, 3],
			id: randomUUID(),
			readingId: randomUUID()
		};
		const first = await act(hop, request);
		expect(first.body.samples).toHaveLength(3);
		const again = await act(hop, request);
		expect(again.body.volts).toBe(first.body.volts);
		expect(again.body.results[0]!.repeated).toBe(true);
		expect((await read(hop)).map((r) => r.kind).filter((kind) => kind !== 'stop-card')).toEqual([
			'alignment-state',
			'alignment-state',
			'move',
			'reading'
		]);
	});

	it('keeps a watched level only when it is worth it', async () => {
		const hop = await hopWith();
		for (let i = 0; i < 6; i++) await act(hop, { action: 'watch' });
		expect((await read(hop)).length).toBeLessThan(6);
		expect((await read(hop)).length).toBeGreaterThan(0);
	});

	it('has the fault that was planted, tells it to no crew, and loses it when it is set right', async () => {
		const made = await hopWith();
		const hop = await call<{ version: number; plantedFault: string }>(
			planner,
			'GET',
			`/hops/${made.id}`
		);
		expect(hop.body.plantedFault).toBeNull();
		const draft = await call(planner, 'GET', `/hops/${made.id}`);
		const { sites, plan, name } = draft.body as {
			sites: Record<'A' | 'B', { id: string }>;
			plan: object;
			name: string;
		};
		const change = (plantedFault: unknown): Promise<Answer<{ version: number }>> =>
			call<{ version: number }>(planner, 'PUT', `/hops/${made.id}`, {
				name,
				siteAId: sites.A.id,
				siteBId: sites.B.id,
				practice: true,
				plan,
				plantedFault
			});
		const refused = await change('gremlins');
		expect(refused.error.fields[0]!.field).toBe('plantedFault');
		expect((await change('pick-up')).status).toBe(200);
		const seen = await call(crew, 'GET', `/hops/${made.id}`);
		expect(seen.body).not.toHaveProperty('plantedFault');

		await bothReady(crew, made.id);
		expect((await act(made, { action: 'read' })).body.levelDbm).toBeNull();
		const look = async (test: string): Promise<unknown> => {
			await act(made, { action: 'test', test });
			return (await read(made)).at(-1);
		};
		expect(await look('films')).toMatchObject({ kind: 'test-result', payload: { value: 'yes' } });
		expect(await look('follows-pointing')).toMatchObject({ payload: { value: 'no' } });
		expect((await act(made, { action: 'test', test: 'tea-leaves' })).status).toBe(422);
		await post(made, record('A', 'remedy', { cause: 'rain' }));
		expect((await act(made, { action: 'read' })).body.levelDbm).toBeNull();
		await post(made, record('A', 'remedy', { cause: 'pick-up' }));
		expect((await act(made, { action: 'read' })).body.levelDbm).toBeLessThan(0);
		expect(await look('follows-pointing')).toMatchObject({ payload: { value: 'yes' } });
	});

	it('has two faults at once, each at the end that was named, and none that it cannot have', async () => {
		const made = await hopWith();
		const { body: draft } = await call<{
			name: string;
			plan: object;
			sites: Record<'A' | 'B', { id: string }>;
		}>(planner, 'GET', `/hops/${made.id}`);
		const plant = (plantedFault: string): Promise<Answer<{ plantedFault: string }>> =>
			call<{ plantedFault: string }>(planner, 'PUT', `/hops/${made.id}`, {
				...{ name: draft.name, siteAId: draft.sites.A.id, siteBId: draft.sites.B.id },
				...{ practice: true, plan: draft.plan, plantedFault }
			});
		for (const wrong of ['rain@A', 'rain+rain', 'rain+obstruction+film-left-in', 'wrong-arm']) {
			expect((await plant(wrong)).error.fields[0]!.field).toBe('plantedFault');
		}
		const both = 'adaptive-modulation-on@A+moved-while-locking@B';
		expect((await plant(both)).body.plantedFault).toBe(both);
		expect((await plant('pick-up@B+wrong-dish@A')).status).toBe(200);
		await bothReady(crew, made.id);
		expect((await act(made, { action: 'read' })).body.levelDbm).not.toBeNull();
		expect((await act(made, { end: 'B', action: 'read' })).body.levelDbm).toBeNull();
		for (const test of ['dishes', 'follows-pointing']) {
			await act(made, { action: 'test', test });
			expect((await read(made)).at(-1)).toMatchObject({ payload: { test, value: 'no' } });
		}
	});

	it('turns its whole mount, which moves the level and centres the adjuster', async () => {
		const hop = await hopWith();
		await bothReady(crew, hop.id);
		await act(hop, { action: 'turn', axis: 'azimuth', turns: [4] });
		expect((await act(hop, { action: 'turn-mount' })).error.fields[0]!.field).toBe('byDeg');
		const turned = await act(hop, { action: 'turn-mount', byDeg: -2.5, compassDeg: 87.5 });
		expect(turned.status).toBe(200);
		expect((await read(hop)).slice(-2)).toMatchObject([
			{ kind: 'mount-turn', payload: { byDeg: -2.5, compassDeg: 87.5, source: 'simulated' } },
			{ kind: 'reading' }
		]);
	});

	it('reads every other carrier of the dish at the port of its own radio', async () => {
		const hop = await newHop(planner, [crew], {
			plan: {
				configuration: { kind: 'hot-standby', cancellerDb: 0 },
				end: { couplingCode: 'CU-26' }
			}
		});
		// A start from which much is heard.
		await updateSimulation(hop.id, 15, null);
		const { plan } = await requireRevision(hop.id);
		const planned = (n: number): number => plan.carriers[n - 1]!.received.A.plannedLevelDbm;
		expect(planned(1) - planned(2)).toBeGreaterThan(3);
		const first = (await act(hop, { action: 'read' })).body.levelDbm!;
		const second = await act(hop, { action: 'carrier', carrier: 2 });
		expect(second.body.levelDbm! - first).toBeCloseTo(planned(2) - planned(1), -0.3);
		expect((await read(hop)).at(-1)).toMatchObject({
			kind: 'carrier-level',
			payload: { carrier: 2, levelDbm: second.body.levelDbm, source: 'simulated' }
		});
		for (const carrier of [undefined, 1, 3]) {
			const refused = await act(hop, { action: 'carrier', carrier });
			expect([refused.status, refused.error.fields[0]!.field]).toEqual([422, 'carrier']);
		}
	});

	it('is not there on a real hop, and needs the baton to move', async () => {
		const real = await newHop(planner, [crew], { practice: false });
		expect((await act(real, { action: 'read' })).error.code).toBe('not-a-practice-hop');
		const hop = await hopWith();
		expect((await act(hop, { action: 'turn', axis: 'tilt', turns: [1] })).error.code).toBe(
			'not-in-alignment-state'
		);
	});
});

describe('acceptance', () => {
	const sign = (hop: TestHop, change: object = {}): Promise<Answer> =>
		call(acceptor, 'POST', `/hops/${hop.id}/acceptance`, {
			id: randomUUID(),
			signature: { name: 'Ada Signer', method: 'typed' },
			...change
		});

	it('is refused while lines are missing, needs a cause for each deviation, then freezes everything', async () => {
		const hop = await hopWith();
		await bothReady(crew, hop.id);
		const early = await sign(hop, { lastSeq: (await read(hop)).length });
		expect([early.status, early.error.code]).toEqual([422, 'acceptance-incomplete']);
		const done = await post(
			hop,
			...[0, 1, 2, 3].map((i) => lock('A', i)),
			record('A', 'baton', { to: 'B' }),
			...[0, 1, 2, 3].map((i) => lock('B', i)),
			record('A', 'operating-state', operating),
			record('B', 'operating-state', operating),
			closingLook('A'),
			closingLook('B'),
			record('A', 'crew-signature', { name: 'Ada Crew', method: 'typed' }),
			record('A', 'reading', reading(-60, 'final')),
			record('B', 'reading', reading(-60, 'final'))
		);
		expect(done.status).toBe(200);
		const lastSeq = done.body.results.at(-1)!.seq;
		const uncaused = await sign(hop, { lastSeq });
		expect(uncaused.status).toBe(422);
		const fields = uncaused.error.fields.map((f) => f.field);
		expect(fields).toContain('causes.level-A');
		expect(fields).toContain('causes.main-lobe-B');
		const causes = Object.fromEntries(
			fields.map((f) => [f.replace('causes.', ''), 'Agreed on site.'])
		);
		const behind = await sign(hop, { lastSeq: lastSeq - 1, causes });
		expect(behind.error.code).toBe('record-moved-on');

		const request = { id: randomUUID(), lastSeq, causes };
		expect((await sign(hop, request)).status).toBe(201);
		expect((await sign(hop, request)).status).toBe(201);
		expect((await sign(hop, { lastSeq, causes })).error.code).toBe('already-signed');
		expect((await post(hop, record('A', 'note', { text: 'late' }))).error.code).toBe(
			'hop-accepted'
		);
		await expect(asOwner('UPDATE acceptances SET causes = causes')).rejects.toThrow(/append-only/);
		const issue = await call(planner, 'POST', `/hops/${hop.id}/revisions`, {
			id: randomUUID(),
			version: hop.version
		});
		expect(issue.error.fields[0]!.field).toBe('note');

		const built = await call<{ acceptance: { causes: object }; records: unknown[] }>(
			crew,
			'GET',
			`/hops/${hop.id}/as-built.json`
		);
		expect(built.body.acceptance.causes).toEqual(causes);
		expect(built.body.records).toHaveLength(lastSeq);
		const csv = await call(crew, 'GET', `/hops/${hop.id}/as-built.csv`);
		expect(csv.text.split('\r\n')[0]).toContain('planned,measured,verdict');
		expect(csv.text).toContain('Agreed on site.');
	});

	/** A hop with everything recorded that an acceptance asks for; its last place in the feed. */
	async function finished(): Promise<{ hop: TestHop; lastSeq: number }> {
		const hop = await hopWith();
		return { hop, lastSeq: await finish(crew, hop) };
	}
	async function signed(): Promise<{ hop: TestHop; lastSeq: number }> {
		const { hop, lastSeq } = await finished();
		expect((await signAll(acceptor, hop, lastSeq)).status).toBe(201);
		return { hop, lastSeq };
	}
	const issueAgain = async (hop: TestHop, note: string): Promise<Answer> =>
		call(planner, 'POST', `/hops/${hop.id}/revisions`, {
			id: randomUUID(),
			version: hop.version,
			note
		});
	const visit = (visitId: string): object =>
		record('A', 'visit-opened', {
			visitId,
			purpose: 'storm-check',
			why: 'Gale on Tuesday',
			people: ['Bo']
		});
	const closing = (visitId: string): object =>
		record('A', 'visit-closed', { visitId, found: 'All sound', name: 'Bo', method: 'typed' });

	const change = (hop: TestHop, to: object): Promise<Answer> =>
		call(planner, 'PUT', `/hops/${hop.id}`, { ...hop.body, version: hop.version, ...to });

	it('fixes the name and the sites that were signed; the plan goes on by revisions', async () => {
		const { hop } = await signed();
		const elsewhere = await newSite(planner);
		for (const [field, to] of [
			['name', { name: `Another ${hop.id.slice(0, 8)}` }],
			['siteBId', { siteBId: elsewhere }]
		] as const) {
			const answer = await change(hop, to);
			expect([answer.status, answer.error.code]).toEqual([409, 'accepted-fixed']);
			expect(answer.error.fields[0]!.field).toBe(field);
		}
		expect((await change(hop, {})).status).toBe(200);
	});

	it('of a real hop cannot rest on simulated readings, nor a practice hop become a real one', async () => {
		const real = await newHop(planner, [crew], { practice: false });
		const simulated = record('A', 'reading', { ...reading(-50), source: 'simulated' });
		const refused = await call(crew, 'POST', `/hops/${real.id}/records`, { records: [simulated] });
		expect([refused.status, refused.error.code]).toEqual([422, 'simulated-on-real']);
		expect(refused.error.fields[0]!.field).toBe('records.0.payload.source');
		expect(await read(real)).toEqual([]);

		const practised = await newHop(planner, [crew]);
		expect((await change(practised, { practice: false })).status).toBe(200);
		expect(
			(await change(practised, { practice: true, version: practised.version + 1 })).status
		).toBe(200);
		const note = record('A', 'note', { text: 'Practised.' });
		await call(crew, 'POST', `/hops/${practised.id}/records`, { records: [note] });
		const turned = await change(practised, { practice: false, version: practised.version + 2 });
		expect([turned.status, turned.error.code]).toEqual([409, 'practice-fixed']);
		expect(turned.error.fields[0]!.field).toBe('practice');
	});

	it('names the revision it judged, also when a newer one is issued; then it is due again', async () => {
		const { hop, lastSeq } = await signed();
		expect((await issueAgain(hop, 'A smaller power is licensed.')).status).toBe(201);
		const accepted = await call<{ revisionNumber: number; number: number }>(
			crew,
			'GET',
			`/hops/${hop.id}/acceptance`
		);
		expect(accepted.body).toMatchObject({ revisionNumber: 1, number: 1 });
		expect((await signAll(acceptor, hop, lastSeq)).status).toBe(201);
		const all = await call<{ acceptances: { number: number; revisionNumber: number }[] }>(
			crew,
			'GET',
			`/hops/${hop.id}/acceptances`
		);
		expect(all.body.acceptances.map((one) => [one.number, one.revisionNumber])).toEqual([
			[1, 1],
			[2, 2]
		]);
		expect((await signAll(acceptor, hop, lastSeq)).error.code).toBe('already-signed');
		for (const [query, status] of [
			['?acceptance=1', 200],
			['?acceptance=3', 404],
			['?acceptance=x', 422]
		] as const) {
			const pack = await call(crew, 'GET', `/hops/${hop.id}/pack.pdf${query}`);
			expect(pack.status, query).toBe(status);
		}
	});

	it('and issuing never both pass over the same judgement', async () => {
		for (let i = 0; i < 4; i++) {
			const { hop, lastSeq } = await finished();
			const [signature, issue] = await Promise.all([
				signAll(acceptor, hop, lastSeq),
				issueAgain(hop, 'At the same moment.')
			]);
			expect(issue.status).toBe(201);
			const all = await call<{ acceptances: { revisionNumber: number }[] }>(
				crew,
				'GET',
				`/hops/${hop.id}/acceptances`
			);
			if (signature.status === 201) {
				// Whichever came first: what is signed is what was judged, and never a mixture.
				const revision = all.body.acceptances[0]!.revisionNumber;
				const [row] = await db().query<{ revision: number }>(
					`SELECT r.number AS revision FROM acceptances a
					JOIN plan_revisions r ON r.id = a.revision_id WHERE a.hop_id = ?`,
					{ replacements: [hop.id], type: QueryTypes.SELECT }
				);
				expect(row!.revision).toBe(revision);
				// Both lines of the trail are written under the lock: signing came first.
				const trail = await db().query<{ action: string }>(
					'SELECT action FROM audit_trail WHERE subject = ? ORDER BY id',
					{ replacements: [`hop:${hop.id}`], type: QueryTypes.SELECT }
				);
				const actions = trail.map(({ action }) => action);
				if (revision === 1) {
					expect(actions.indexOf('sign-acceptance')).toBeLessThan(
						actions.lastIndexOf('issue-revision')
					);
				}
			} else {
				expect(signature.error.code).toBe('plan-revised');
				expect(all.body.acceptances).toEqual([]);
			}
		}
	});

	it('is followed by visits: records only in one, one at a time, harmless to repeat', async () => {
		const { hop } = await signed();
		const visitId = randomUUID();
		const read = (): object => record('B', 'reading', reading(-62));
		expect((await post(hop, read())).error.code).toBe('hop-accepted');
		expect((await post(hop, closing(visitId))).error.code).toBe('visit-not-open');
		const opening = visit(visitId);
		expect((await post(hop, opening)).status).toBe(200);
		expect((await post(hop, opening)).status).toBe(200);
		expect((await post(hop, visit(randomUUID()))).error.code).toBe('visit-open');
		expect((await post(hop, read())).status).toBe(200);
		const inVisit = await sign(hop, { lastSeq: await lastPlace(hop) });
		expect(inVisit.error.code).toBe('visit-open');
		const seen = await call<{
			visits: { purpose: string }[];
			judgement: { lines: { code: string; verdict: string }[] };
		}>(crew, 'GET', `/hops/${hop.id}/visits`);
		expect(seen.body.visits.map(({ purpose }) => purpose)).toEqual(['installation', 'storm-check']);
		const verdicts = Object.fromEntries(
			seen.body.judgement.lines.map(({ code, verdict }) => [code, verdict])
		);
		expect(verdicts).toMatchObject({ 'visit-level-A': 'not-read', 'visit-level-B': 'changed' });
		expect((await post(hop, closing(visitId))).status).toBe(200);
		expect((await post(hop, read())).error.code).toBe('hop-accepted');
		// The baseline stands as it was signed.
		expect((await sign(hop, { lastSeq: await lastPlace(hop) })).error.code).toBe('already-signed');
	});

	it('is not before a visit, and a visit that leaves a dish loose is not closed', async () => {
		const open = await hopWith();
		expect((await post(open, visit(randomUUID()))).error.code).toBe('not-accepted-yet');
		const { hop } = await signed();
		const visitId = randomUUID();
		expect((await post(hop, visit(visitId))).status).toBe(200);
		const move = { axis: 'tilt', toTurns: 1, viaTurns: [], source: 'hand' };
		// Back in operation, no dish moves before both ends have entered the alignment state again.
		expect((await post(hop, record('A', 'move', move))).error.code).toBe('not-in-alignment-state');
		await bothReady(crew, hop.id);
		const { baton } = await holder(hop);
		expect((await post(hop, record(baton, 'move', move))).status).toBe(200);
		const refused = await post(hop, closing(visitId));
		expect([refused.status, refused.error.code]).toEqual([409, 'visit-not-safe']);
		expect(refused.error.message).toContain('at torque');
		const mended = await post(
			hop,
			...[0, 1, 2, 3].map((i) => lock(baton, i)),
			record(baton, 'reading', reading(-60)),
			closing(visitId)
		);
		expect(mended.status).toBe(200);
		// What hangs there now is not what was signed: it is accepted anew, once it is whole again.
		const again = await signAll(acceptor, hop, await lastPlace(hop));
		expect(again.error.code).toBe('acceptance-incomplete');
	});

	const lastPlace = async (hop: TestHop): Promise<number> => (await holder(hop)).lastSeq;
	async function holder(hop: TestHop): Promise<{ baton: 'A' | 'B'; lastSeq: number }> {
		const [row] = await db().query<{ baton: 'A' | 'B'; last_seq: number }>(
			'SELECT baton, last_seq FROM hop_feeds WHERE hop_id = ?',
			{ replacements: [hop.id], type: QueryTypes.SELECT }
		);
		return { baton: row!.baton, lastSeq: row!.last_seq };
	}

	it('keeps an audit trail of who issued and signed', async () => {
		const rows = await db().query<{ action: string; user_id: string }>(
			"SELECT action, user_id FROM audit_trail WHERE action IN ('issue-revision', 'sign-acceptance')",
			{ type: QueryTypes.SELECT }
		);
		expect(
			rows.some((row) => row.action === 'sign-acceptance' && row.user_id === acceptor.userId)
		).toBe(true);
		expect(
			rows.some((row) => row.action === 'issue-revision' && row.user_id === planner.userId)
		).toBe(true);
	});
});
