import { randomUUID } from 'node:crypto';
import { QueryTypes } from 'sequelize';
import { beforeAll, describe, expect, it } from 'vitest';
import { endpoints } from '$lib/server/api/endpoints';
import { db } from '$lib/server/db/connection';
import {
	call,
	closingDb,
	hopBody,
	newCaller,
	newHop,
	newSite,
	record,
	type Caller,
	type TestHop
} from './world';

closingDb();

let planner: Caller;
let hop: TestHop;
beforeAll(async () => {
	planner = await newCaller('planner');
	hop = await newHop(planner);
});

async function countRows(): Promise<Record<string, number>> {
	const [row] = await db().query<Record<string, number>>(
		`SELECT (SELECT COUNT(*) FROM sites) AS sites, (SELECT COUNT(*) FROM hops) AS hops,
		(SELECT COUNT(*) FROM plan_revisions) AS revisions, (SELECT COUNT(*) FROM field_records) AS records`,
		{ type: QueryTypes.SELECT }
	);
	return row!;
}

const SITE = { name: 'New place', latitudeDeg: 10, longitudeDeg: 10, groundAmslM: 5 };

describe('a site', () => {
	it.each([
		['latitudeDeg', { ...SITE, latitudeDeg: 91 }],
		['latitudeDeg', { ...SITE, latitudeDeg: 'north' }],
		['longitudeDeg', { ...SITE, longitudeDeg: '1e309' }],
		['groundAmslM', { ...SITE, groundAmslM: -9000 }],
		['name', { ...SITE, name: '' }],
		['name', { ...SITE, name: 'x'.repeat(300) }],
		['colour', { ...SITE, colour: 'red' }]
	])('with a wrong %s is refused at that field and changes nothing', async (field, body) => {
		const before = await countRows();
		const answer = await call(planner, 'POST', '/sites', body);
		expect(answer.status).toBe(422);
		expect(answer.error.fields.map((f) => f.field)).toContain(field);
		expect(answer.error.fields[0]!.message).toMatch(/^[A-Z].*\.$/);
		expect(await countRows()).toEqual(before);
	});

	it('named or placed as another is refused at the field', async () => {
		const first = { ...SITE, name: `Twin ${randomUUID()}`, latitudeDeg: 33.123456 };
		expect((await call(planner, 'POST', '/sites', first)).status).toBe(201);
		const sameName = await call(planner, 'POST', '/sites', { ...first, latitudeDeg: 12 });
		expect([sameName.status, sameName.error.fields[0]!.field]).toEqual([409, 'name']);
		const samePlace = await call(planner, 'POST', '/sites', {
			...first,
			name: `T ${randomUUID()}`
		});
		expect([samePlace.status, samePlace.error.fields[0]!.field]).toEqual([409, 'latitudeDeg']);
	});

	it('changed on the base of an old version is refused', async () => {
		const id = await newSite(planner);
		const change = {
			...SITE,
			name: `V ${randomUUID()}`,
			latitudeDeg: 50.5,
			longitudeDeg: 3 + Math.random(),
			version: 1
		};
		expect((await call(planner, 'PUT', `/sites/${id}`, change)).status).toBe(200);
		const late = await call(planner, 'PUT', `/sites/${id}`, {
			...change,
			name: `W ${randomUUID()}`
		});
		expect([late.status, late.error.code]).toEqual([409, 'changed-meanwhile']);
	});
});

describe('a hop', () => {
	it('has two different ends', async () => {
		const id = await newSite(planner);
		const answer = await call(planner, 'POST', '/hops', hopBody(id, id));
		expect(answer.status).toBe(422);
		expect(answer.error.fields).toEqual([
			{ field: 'siteBId', message: 'Site B is the same site as A: a hop has two ends.' }
		]);
	});

	it('names every wrong field at once', async () => {
		const body = hopBody(randomUUID(), 'nowhere') as {
			plan: { ends: { A: Record<string, unknown> } };
		};
		body.plan.ends.A.antennaHeightAglM = -3;
		body.plan.ends.A.transmitFrequencyGhz = 'high';
		const answer = await call(planner, 'POST', '/hops', body);
		expect(answer.error.fields.map((f) => f.field).sort()).toEqual([
			'plan.ends.A.antennaHeightAglM',
			'plan.ends.A.transmitFrequencyGhz',
			'siteBId'
		]);
	});

	it('of sites that do not exist is refused at both', async () => {
		const answer = await call(planner, 'POST', '/hops', hopBody(randomUUID(), randomUUID()));
		expect(answer.error.fields.map((f) => f.field)).toEqual(['siteAId', 'siteBId']);
	});

	it('with a frequency outside its radio is kept as a draft but not issued', async () => {
		const body = hopBody(await newSite(planner), await newSite(planner)) as {
			plan: { ends: { A: { transmitFrequencyGhz: number } } };
		};
		body.plan.ends.A.transmitFrequencyGhz = 30;
		const made = await call<TestHop>(planner, 'POST', '/hops', body);
		expect(made.status).toBe(201);
		const issued = await call(planner, 'POST', `/hops/${made.body.id}/revisions`, {
			id: randomUUID(),
			version: 1
		});
		expect(issued.status).toBe(422);
		expect(issued.error.fields.map((f) => f.field)).toContain('plan.ends.A.transmitFrequencyGhz');
	});
});

describe('requests', () => {
	it('that are no JSON, no object, or of another type are refused', async () => {
		expect((await call(planner, 'POST', '/sites', '{"name":')).status).toBe(422);
		expect((await call(planner, 'POST', '/sites', '[]')).status).toBe(422);
		expect((await call(planner, 'POST', '/sites', 'null')).status).toBe(422);
		const form = await call(planner, 'POST', '/sites', 'a=1', { 'content-type': 'text/plain' });
		expect(form.status).toBe(415);
	});

	it('that another site’s page could send unasked are no files, at any address that takes one', async () => {
		const before = await countRows();
		const takers = endpoints.filter(({ upload }) => upload);
		expect(takers.length).toBeGreaterThan(3);
		for (const { method, path } of takers) {
			const address = path.replace(/:\w+/g, hop.id);
			for (const type of ['text/plain', 'multipart/form-data; boundary=x', '']) {
				const answer = await call(planner, method, address, 'II*', { 'content-type': type });
				expect([path, type, answer.status]).toEqual([path, type, 415]);
				expect(answer.error.message).toContain('application/octet-stream');
			}
		}
		expect(await countRows()).toEqual(before);
	});

	it('of 50 MB are refused before they are read', async () => {
		const answer = await call(
			planner,
			'POST',
			'/sweeps/analyse',
			`{"x":"${'y'.repeat(50_000_000)}"}`
		);
		expect(answer.status).toBe(413);
	});

	it('to unknown addresses, methods and ids get 404 and 405', async () => {
		expect((await call(planner, 'GET', '/hopps')).status).toBe(404);
		expect((await call(planner, 'DELETE', '/sites')).status).toBe(405);
		expect((await call(planner, 'GET', '/hops/1')).status).toBe(404);
		expect((await call(planner, 'GET', '/hops/%27%20OR%201=1')).status).toBe(404);
		expect((await call(planner, 'GET', `/hops/${randomUUID()}`)).status).toBe(404);
	});

	it('searches take the signs of SQL literally', async () => {
		const all = await call<{ count: number }>(planner, 'GET', '/sites?q=%25');
		expect(all.body.count).toBe(0);
		expect((await call(planner, 'GET', '/sites?page=0')).status).toBe(422);
		expect((await call(planner, 'GET', "/sites?q='%3B DROP TABLE sites%3B--")).status).toBe(200);
	});

	it.each(endpoints.filter((e) => e.body).map((e) => [`${e.method} ${e.path}`, e] as const))(
		'%s with an empty body is refused with fields',
		async (_, endpoint) => {
			const caller = endpoint.path.includes('acceptance') ? planner : planner;
			const path = endpoint.path.replace(':hopId', hop.id).replace(/:\w+/, randomUUID());
			const answer = await call(caller, endpoint.method, path, {});
			expect(answer.status).toBe(422);
			expect(answer.error.fields.length).toBeGreaterThan(0);
		}
	);
});

describe('a field record', () => {
	it.each([
		['an unknown kind', record('A', 'wish', {})],
		[
			'a reading without a value',
			record('A', 'reading', { volts: null, levelDbm: null, source: 'hand', purpose: 'watch' })
		],
		[
			'a level of 1e308',
			record('A', 'reading', { volts: null, levelDbm: 1e308, source: 'hand', purpose: 'watch' })
		],
		['a third end', { ...record('A', 'note', { text: 'x' }), end: 'C' }],
		[
			'a sweep of two samples',
			record('A', 'sweep', {
				axis: 'tilt',
				otherAxisDeg: 0,
				source: 'hand',
				samples: [
					{ positionDeg: 0, levelV: 1 },
					{ positionDeg: 1, levelV: 1 }
				]
			})
		],
		['no id', { ...record('A', 'note', { text: 'x' }), id: '' }]
	])('with %s is refused, and with it the whole batch', async (_, bad) => {
		const before = await countRows();
		const answer = await call(planner, 'POST', `/hops/${hop.id}/records`, {
			records: [record('A', 'note', { text: 'good' }), bad]
		});
		expect(answer.status).toBe(422);
		expect(answer.error.fields[0]!.field).toMatch(/^records\.1/);
		expect(await countRows()).toEqual(before);
	});
});
