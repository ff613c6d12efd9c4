import { randomUUID } from 'node:crypto';
import { beforeAll, describe, expect, it, onTestFinished, vi } from 'vitest';
import type { HubRecord, HubRecordKind, HubRecordPayloads } from '#core/bringup/hubRecords';
import type { HubWork } from '#core/bringup/bringUp';
import { verifyDatabase } from '$lib/server/commands/verify';
import type { TerminalAcceptance } from '$lib/server/services/hubAcceptance';
import type { Hub } from '$lib/server/services/hubs';
import { hubFeeds, type HubRevision } from '$lib/server/services/hubWork';
import {
	buildStation,
	keepAt,
	lookAt,
	postRecords,
	readyHub,
	recordsOfHub,
	workOfHub
} from './hubBuilt';
import {
	asOwner,
	call,
	closingDb,
	goCard,
	hubRecord,
	newCaller,
	newHub,
	said,
	type Answer,
	type Caller
} from './world';

closingDb();

let planner: Caller;
let crew: Caller;
let acceptor: Caller;
let trainee: Caller;

beforeAll(async () => {
	planner = await newCaller('planner');
	crew = await newCaller('technician');
	acceptor = await newCaller('acceptor');
	trainee = await newCaller('trainee');
});

const fieldsOf = ({ error }: Answer<unknown>): string[] => error.fields.map(({ field }) => field);
const post = (hubId: string, records: object[], more: object = {}): Promise<Answer> =>
	postRecords(crew, hubId, records, more);
const recordsOf = (hubId: string): Promise<HubRecord[]> => recordsOfHub(crew, hubId);
const workOf = (hubId: string): Promise<HubWork> => workOfHub(crew, hubId);
const keep = <K extends HubRecordKind>(
	hubId: string,
	station: string,
	kind: K,
	payload: HubRecordPayloads[K]
): Promise<void> => keepAt(crew, hubId, station, kind, payload);
const build = (hubId: string, station: string): Promise<void> => buildStation(crew, hubId, station);
const look = (hubId: string, station: string, what: string, more: object = {}): Promise<Answer> =>
	lookAt(crew, hubId, station, what, more);
const issue = (
	hub: { id: string; version: number },
	id = randomUUID()
): Promise<Answer<HubRevision>> =>
	call<HubRevision>(planner, 'POST', `/hubs/${hub.id}/revisions`, { id, version: hub.version });

describe('the plan of a hub that is worked by', () => {
	it('is frozen with its parts, numbered, and issued once for a request that comes twice', async () => {
		const hub = await newHub(planner, { issue: false });
		expect(said(await post(hub.id, [hubRecord('t1', 'note', { text: 'x' })])).slice(0, 2)).toEqual([
			409,
			'hub-not-issued'
		]);
		const id = randomUUID();
		const first = await issue(hub, id);
		expect([first.status, first.body.number]).toEqual([201, 1]);
		expect(first.body.hub.units[0]!.part.code).toBe('HS-60-90');
		expect((await issue(hub, id)).body).toEqual(first.body);
		expect((await issue(hub)).body.number).toBe(2);
		const { body } = await call<{ revision: HubRevision }>(crew, 'GET', `/hubs/${hub.id}/revision`);
		expect(body.revision.number).toBe(2);
		expect(body.revision.hub).toEqual(first.body.hub);
	});

	it('is not issued with errors, each at its field, nor from a version that was looked at before', async () => {
		const hub = await newHub(planner, { issue: false });
		const { body } = await call<Hub>(planner, 'GET', `/hubs/${hub.id}`);
		const wall = { ...body.plan.units[0]!, how: 'wall' };
		const sent = { name: body.name, siteId: body.site.id, ...body.plan, units: [wall] };
		await call(planner, 'PUT', `/hubs/${hub.id}`, { ...sent, version: 1 });
		expect(said(await issue(hub)).slice(0, 2)).toEqual([409, 'changed-meanwhile']);
		const answer = await issue({ ...hub, version: 2 });
		expect([...said(answer).slice(0, 2), fieldsOf(answer)]).toEqual([
			422,
			'plan-has-errors',
			expect.arrayContaining(['units.0.wallBearingDeg'])
		]);
	});

	it('keeps the hub: one that was issued is not deleted', async () => {
		const hub = await newHub(planner);
		const answer = await call(planner, 'DELETE', `/hubs/${hub.id}`);
		expect(said(answer).slice(0, 2)).toEqual([409, 'hub-has-history']);
		expect((await call(crew, 'GET', `/hubs/${hub.id}`)).status).toBe(200);
	});
});

describe('records of a hub', () => {
	it('come back in order, once for a retry, and not under an id with another content', async () => {
		const { id } = await newHub(planner);
		const first = hubRecord('t1', 'note', { text: 'Ladder is short' });
		const second = hubRecord('u1', 'lamp', { state: 'dark', source: 'hand' });
		await post(id, [first, second]);
		const again = await post(id, [second, first]);
		expect(again.body).toMatchObject({
			results: [
				{ seq: 2, repeated: true },
				{ seq: 1, repeated: true }
			]
		});
		const changed = { ...first, payload: { text: 'Another text' } };
		expect(said(await post(id, [changed])).slice(0, 2)).toEqual([409, 'id-used']);
		expect((await recordsOf(id)).map(({ seq, station, kind }) => [seq, station, kind])).toEqual([
			[1, 't1', 'note'],
			[2, 'u1', 'lamp']
		]);
	});

	it.each([
		['of a station that the plan has not', 't9', 'note', { text: 'x' }, 'records.1.station'],
		[
			'of a link at a unit',
			'u1',
			'link-test',
			{ test: 'raining', value: 'no', source: 'hand' },
			'records.1.station'
		],
		[
			'of a lamp that there is none',
			't1',
			'lamp',
			{ state: 'pink', source: 'hand' },
			'records.1.payload.state'
		],
		[
			'simulated, at a real hub',
			't1',
			'lamp',
			{ state: 'linked', source: 'simulated' },
			'records.1.payload.source'
		],
		[
			'that feeds a unit from what burns it',
			't1',
			'build-step',
			{
				...{ step: 'station-power', value: null, note: '', photoIds: [] },
				source: { kind: 'dc', voltageV: 48, powerW: 30 }
			},
			'records.1.payload.source'
		]
	] as const)(
		'%s are refused at their field, and those beside them with them',
		async (_, station, kind, payload, field) => {
			const { id } = await newHub(planner);
			await keep(id, 't1', 'stop-card', goCard('transmit'));
			const answer = await post(id, [
				hubRecord('t1', 'note', { text: 'Before it' }),
				hubRecord(station, kind, payload as never)
			]);
			expect([answer.status >= 400, fieldsOf(answer)]).toEqual([true, [field]]);
			expect(await recordsOf(id)).toHaveLength(1);
		}
	);

	it('of a step behind a card wait for its answer, at that station', async () => {
		const { id } = await newHub(planner);
		const bands = hubRecord('t1', 'build-step', {
			...{ step: 'station-bands', value: 48, note: '', photoIds: [] }
		});
		await keep(id, 'u1', 'stop-card', goCard('climb'));
		const answer = await post(id, [bands]);
		expect(said(answer).slice(0, 2)).toEqual([409, 'card-not-answered']);
		expect(answer.error.message).toContain('Net loft');
		await keep(id, 't1', 'stop-card', goCard('climb'));
		expect((await post(id, [bands])).status).toBe(200);
	});

	it('made against an older plan are kept so once somebody says so', async () => {
		const hub = await newHub(planner);
		await issue(hub);
		const older = { ...hubRecord('t1', 'note', { text: 'x' }), revisionNumber: 1 };
		expect(said(await post(hub.id, [older])).slice(0, 2)).toEqual([409, 'plan-revised']);
		expect((await post(hub.id, [older], { keepOlder: true })).status).toBe(200);
		expect((await recordsOf(hub.id))[0]!.revisionNumber).toBe(1);
		const unknown = { ...hubRecord('t1', 'note', { text: 'x' }), revisionNumber: 9 };
		expect(fieldsOf(await post(hub.id, [unknown]))).toEqual(['records.0.revisionNumber']);
	});

	it('of two crews at once get places without gaps, and reach whoever follows, each once', async () => {
		const { id } = await newHub(planner);
		const other = await newCaller('technician');
		const seen: HubRecord[] = [];
		onTestFinished(hubFeeds.follow(id, 0, (records) => seen.push(...records)));
		await Promise.all(
			Array.from({ length: 12 }, (_, i) =>
				call(i % 2 ? crew : other, 'POST', `/hubs/${id}/records`, {
					records: [hubRecord(i % 2 ? 't1' : 'u1', 'note', { text: `note ${i}` })]
				})
			)
		);
		await vi.waitFor(() => expect(seen).toHaveLength(12), { timeout: 5000 });
		expect(seen.map(({ seq }) => seq)).toEqual(seen.map((_, i) => i + 1));
		expect(seen).toEqual(await recordsOf(id));
	});

	it('are a chain: what was changed in the database shows', async () => {
		const { id } = await newHub(planner);
		for (const text of ['one', 'two', 'three']) await keep(id, 't1', 'note', { text });
		const check = (): Promise<Answer<{ records: number; problems: string[] }>> =>
			call(crew, 'GET', `/hubs/${id}/records/check`);
		expect((await check()).body).toMatchObject({ records: 3, problems: [] });
		await asOwner('DROP TRIGGER hub_records_no_update');
		await asOwner(
			`UPDATE hub_records SET payload = '{"text":"2"}' WHERE hub_id = '${id}' AND seq = 2`
		);
		await asOwner(
			`CREATE TRIGGER hub_records_no_update BEFORE UPDATE ON hub_records
			FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'hub_records is append-only'`
		);
		expect((await check()).body.problems[0]).toContain('Entry 2');
		// The command that looks through the database says it, too.
		const lines: string[] = [];
		expect(await verifyDatabase((line) => lines.push(line))).toBeGreaterThan(0);
		expect(lines.join('\n')).toMatch(new RegExp(`${id}\\): Entry 2 is not as it was recorded`));
		expect(lines.at(-1)).toMatch(/^\d+ hubs, \d+ records: 1 not whole\.$/);
		await asOwner('DROP TRIGGER hub_records_no_update');
		await asOwner(
			`UPDATE hub_records SET payload = '{"text":"two"}' WHERE hub_id = '${id}' AND seq = 2`
		);
		await asOwner(
			`CREATE TRIGGER hub_records_no_update BEFORE UPDATE ON hub_records
			FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'hub_records is append-only'`
		);
		expect((await check()).body.problems).toEqual([]);
	});
});

describe('a hub for practice', () => {
	it('is brought up against what stands in for it, with a trouble that is found and set right', async () => {
		const hub = await newHub(planner, {
			...{ practice: true, planted: [{ terminal: 't1', cause: 'channel' }] }
		});
		await build(hub.id, 'u1');
		await build(hub.id, 't1');
		await look(hub.id, 'u1', 'lamp');
		await look(hub.id, 't1', 'lamp');
		const lampOf = async (): Promise<unknown> =>
			(await recordsOf(hub.id)).findLast(
				({ kind, station }) => kind === 'lamp' && station === 't1'
			)!.payload;
		expect(await lampOf()).toEqual({ state: 'searching', source: 'simulated' });
		expect(said(await look(hub.id, 't1', 'page')).slice(0, 2)).toEqual([409, 'hub-no-link']);
		await look(hub.id, 't1', 'test', { test: 'same-channel' });
		expect((await recordsOf(hub.id)).at(-1)!.payload).toEqual({
			...{ test: 'same-channel', value: 'no', source: 'simulated' }
		});
		await keep(hub.id, 't1', 'link-remedy', { cause: 'channel' });
		await look(hub.id, 't1', 'lamp');
		expect(await lampOf()).toMatchObject({ state: 'linked' });
		expect((await look(hub.id, 't1', 'page')).status).toBe(200);
	});

	it('tells its troubles to who plans and to nobody else, and is not turned real', async () => {
		const planted = [{ terminal: 't1', cause: 'cable' }];
		const { id } = await newHub(planner, { practice: true, planted });
		const read = async (who: Caller): Promise<Hub> =>
			(await call<Hub>(who, 'GET', `/hubs/${id}`)).body;
		expect(await read(planner)).toMatchObject({ practice: true, planted });
		expect(await read(trainee)).toMatchObject({ practice: true, planted: [] });
		const set = (body: object): Promise<Answer> =>
			call(planner, 'PUT', `/hubs/${id}/practice`, body);
		expect(
			fieldsOf(await set({ practice: true, planted: [{ terminal: 't7', cause: 'rain' }] }))
		).toEqual(['planted.0.terminal']);
		await keep(id, 't1', 'note', { text: 'x' });
		expect(said(await set({ practice: false })).slice(0, 2)).toEqual([409, 'hub-practice-fixed']);
		expect((await set({ practice: true })).status).toBe(200);
	});

	it('a real one has nothing that stands in for it', async () => {
		const { id } = await newHub(planner);
		expect(said(await look(id, 't1', 'lamp')).slice(0, 2)).toEqual([409, 'hub-not-practice']);
	});

	it('a look that comes twice is one record', async () => {
		const { id } = await newHub(planner, { practice: true });
		const one = { id: randomUUID(), station: 't1', look: 'lamp' };
		const first = await call(crew, 'POST', `/hubs/${id}/stand-in`, one);
		const again = await call(crew, 'POST', `/hubs/${id}/stand-in`, one);
		expect([first.body, again.body]).toMatchObject([
			{ seq: 1, repeated: false },
			{ seq: 1, repeated: true }
		]);
	});
});

describe('what is issued, recorded and signed of a hub', () => {
	it.each(['hub_revisions', 'hub_records', 'hub_acceptances'])(
		'in %s is neither changed nor deleted, not even by who owns the database',
		async (table) => {
			const { id } = await newHub(planner);
			await keep(id, 't1', 'note', { text: 'x' });
			if (table === 'hub_acceptances') {
				await asOwner(
					`INSERT INTO hub_acceptances SELECT UUID(), r.hub_id, 't1', 1, r.id, 0, '{}', '{}', '{}',
						r.issued_by, NOW(3), REPEAT('0', 64), NULL FROM hub_revisions r WHERE r.hub_id = '${id}'`
				);
			}
			for (const change of ['UPDATE %s SET id = id', 'DELETE FROM %s']) {
				const sql = `${change.replace('%s', table)} WHERE hub_id = '${id}'`;
				await expect(asOwner(sql)).rejects.toThrow('append-only');
			}
		}
	);
});

describe('a link of two small radios', () => {
	it('is pointed by what its display shows, step by step, and a heading is asked for', async () => {
		const { id, version } = await newHub(planner, { issue: false });
		const { body } = await call<Hub>(planner, 'GET', `/hubs/${id}`);
		const small = { partCode: 'SL-58-D', how: 'pole' };
		const [unit] = body.plan.units;
		const [terminal] = body.plan.terminals;
		const changed = await call(planner, 'PUT', `/hubs/${id}`, {
			...{ name: body.name, siteId: body.site.id, ...body.plan, version },
			// Weak enough that not every bar is lit anyway.
			...{ channelWidthMhz: 40, eirpLimitDbm: 16 },
			units: [{ ...unit, ...small, frequencyGhz: 5.8, heightAglM: 12 }],
			terminals: [{ ...terminal, ...small, groundAmslM: 100, heightAglM: 12 }]
		});
		expect(changed.status).toBe(200);
		await call(planner, 'PUT', `/hubs/${id}/practice`, { practice: true });
		expect((await issue({ id, version: version + 1 })).status).toBe(201);
		await build(id, 'u1');
		await build(id, 't1');
		const without = await look(id, 't1', 'pointing');
		expect([without.status, fieldsOf(without)]).toEqual([422, ['headingDeg']]);
		const planned = (await workOf(id)).stations[1]!.aim.headingDeg;
		const shownAt = async (offDeg: number): Promise<number> => {
			const headingDeg = Math.round((planned + offDeg) * 10) / 10;
			expect((await look(id, 't1', 'pointing', { headingDeg })).status).toBe(200);
			const { payload } = (await recordsOf(id)).at(-1)!;
			expect(payload).toMatchObject({ headingDeg, source: 'simulated', levelDbm: null });
			return (payload as HubRecordPayloads['pointing']).step ?? 0;
		};
		const straight = await shownAt(0);
		expect(straight).toBeGreaterThan(0);
		expect(await shownAt(14)).toBeLessThan(straight);
	});
});

describe('the acceptance of a terminal', () => {
	const signature = { name: 'A. Signer', method: 'typed' };
	const sign = (
		hubId: string,
		lastSeq: number,
		more: object = {}
	): Promise<Answer<TerminalAcceptance>> =>
		call<TerminalAcceptance>(acceptor, 'POST', `/hubs/${hubId}/acceptances`, {
			...{ id: randomUUID(), terminal: 't1', lastSeq, signature },
			...more
		});

	const ready = (): Promise<{ id: string; lastSeq: number }> => readyHub(planner, crew);

	it('is signed as it stands, once, with the judgement that was made of it', async () => {
		const { id, lastSeq } = await ready();
		const request = { id: randomUUID() };
		const signed = await sign(id, lastSeq, request);
		expect(signed.status).toBe(201);
		expect(signed.body).toMatchObject({
			...{ terminal: 't1', number: 1, revisionNumber: 1, lastSeq, signature },
			judgement: { verdict: 'good', terminal: { name: 'Net loft' }, unit: 'Sector 1' }
		});
		expect((await sign(id, lastSeq, request)).body).toEqual(signed.body);
		expect(said(await sign(id, lastSeq)).slice(0, 2)).toEqual([409, 'terminal-accepted']);
		const { body } = await call<{ acceptances: TerminalAcceptance[] }>(
			...([crew, 'GET', `/hubs/${id}/acceptances`] as const)
		);
		expect(body.acceptances).toEqual([signed.body]);
	});

	it('is not signed while something is open, after something came in, or with a deviation without a cause', async () => {
		const { id, lastSeq } = await ready();
		expect(said(await sign(id, lastSeq - 1)).slice(0, 2)).toEqual([409, 'record-moved-on']);
		await keep(id, 't1', 'step-reopened', { step: 'station-earth', reason: 'Loose' });
		const open = await sign(id, lastSeq + 1);
		expect([...said(open).slice(0, 2), fieldsOf(open)]).toEqual([
			...[422, 'acceptance-incomplete'],
			['lines.steps']
		]);
		await keep(id, 't1', 'step-skipped', { step: 'station-earth', cause: 'Plastic mast' });
		await keep(id, 't1', 'link-level', {
			...{ downDbm: -90, upDbm: -50, downMbitS: 900, upMbitS: 900, source: 'hand' }
		});
		const off = await sign(id, lastSeq + 3);
		expect([off.status, fieldsOf(off)]).toEqual([
			422,
			expect.arrayContaining(['causes.level-down'])
		]);
		const causes = Object.fromEntries(
			fieldsOf(off).map((field) => [field.replace('causes.', ''), 'Measured in rain'])
		);
		expect((await sign(id, lastSeq + 3, { causes })).status).toBe(201);
	});

	it('stands until what was signed for changes, whatever else is recorded or planned at the hub', async () => {
		const { id, lastSeq } = await ready();
		expect((await sign(id, lastSeq)).status).toBe(201);
		await keep(id, 't1', 'note', { text: 'Owner asks for a call' });
		await keep(id, 'u1', 'note', { text: 'Ladder left here' });
		expect(said(await sign(id, lastSeq + 2)).slice(0, 2)).toEqual([409, 'terminal-accepted']);
		// One more terminal is planned: nothing of the first changes.
		const { body } = await call<Hub>(planner, 'GET', `/hubs/${id}`);
		const [first] = body.plan.terminals;
		const more = { ...first!, id: 't2', name: 'Ice house', heightAglM: 9 };
		await call(planner, 'PUT', `/hubs/${id}`, {
			...{ name: body.name, siteId: body.site.id, ...body.plan, version: body.version },
			terminals: [first, more]
		});
		expect((await issue({ id, version: body.version + 1 })).body.number).toBe(2);
		expect(said(await sign(id, lastSeq + 2)).slice(0, 2)).toEqual([409, 'terminal-accepted']);
		await look(id, 't1', 'page');
		const again = await sign(id, lastSeq + 3);
		expect([again.status, again.body.number, again.body.revisionNumber]).toEqual([201, 2, 2]);
	});
});
