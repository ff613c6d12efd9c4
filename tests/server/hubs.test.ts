import { randomUUID } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Hub } from '$lib/server/services/hubs';
import { call, closingDb, download, hubBody, newCaller, newSite, said, type Caller } from './world';

closingDb();

let planner: Caller;
let crew: Caller;
let siteId: string;

beforeAll(async () => {
	planner = await newCaller('planner');
	crew = await newCaller('technician');
	siteId = await newSite(planner);
});

type Typed = Record<string, unknown> & {
	units: Record<string, unknown>[];
	terminals: Record<string, unknown>[];
};
const typed = (change: Record<string, unknown> = {}): Typed => hubBody(siteId, change) as Typed;
const fieldsOf = (answer: { error?: { fields?: { field: string }[] } | undefined }): string[] =>
	(answer.error?.fields ?? []).map(({ field }) => field);

describe('a hub', () => {
	it('comes back as it was sent, with its site and what was not said', async () => {
		const body = typed();
		const made = await call<Hub>(planner, 'POST', '/hubs', body);
		expect(made.status).toBe(201);
		const read = await call<Hub>(crew, 'GET', `/hubs/${made.body.id}`);
		expect(read.body).toEqual(made.body);
		const { plan, site } = read.body;
		expect(site.id).toBe(siteId);
		expect(plan.units[0]).toEqual({ ...body.units[0], wallBearingDeg: null, poleMm: null });
		expect(plan.terminals[0]).toEqual({
			...body.terminals[0],
			...{ wallBearingDeg: null, poleMm: null, unitId: '', obstacles: [], profile: null }
		});
		expect(plan).toMatchObject({ reserveDb: 3, targetPercent: 99.9, polarization: 'vertical' });
	});

	it('is changed from the version it was looked at in, and from no older one', async () => {
		const { body: hub } = await call<Hub>(planner, 'POST', '/hubs', typed());
		const change = { name: hub.name, reserveDb: 5, version: 1 };
		const first = await call<Hub>(planner, 'PUT', `/hubs/${hub.id}`, typed(change));
		expect([first.status, first.body.version, first.body.plan.reserveDb]).toEqual([200, 2, 5]);
		const late = await call(planner, 'PUT', `/hubs/${hub.id}`, typed({ ...change, reserveDb: 9 }));
		expect(said(late).slice(0, 2)).toEqual([409, 'changed-meanwhile']);
		const { body: kept } = await call<Hub>(planner, 'GET', `/hubs/${hub.id}`);
		expect(kept.plan.reserveDb).toBe(5);
	});

	it('has a name of its own, which is said at the name', async () => {
		const { body: hub } = await call<Hub>(planner, 'POST', '/hubs', typed());
		const again = await call(planner, 'POST', '/hubs', typed({ name: hub.name }));
		expect([again.status, fieldsOf(again)]).toEqual([409, ['name']]);
	});

	it('lies on the map at its site, with how many terminals it has', async () => {
		const { body: hub } = await call<Hub>(planner, 'POST', '/hubs', typed());
		const { latitudeDeg, longitudeDeg } = hub.site;
		const view = new URLSearchParams({
			west: String(longitudeDeg - 1e-5),
			east: String(longitudeDeg + 1e-5),
			south: String(latitudeDeg - 1e-5),
			north: String(latitudeDeg + 1e-5)
		});
		const { body } = await call<{ hubs: object[] }>(crew, 'GET', `/map?${view}`);
		expect(body.hubs).toContainEqual({
			...{ id: hub.id, name: hub.name, latitudeDeg, longitudeDeg, terminals: 1 }
		});
	});

	it('is found by a word of its name or of its site', async () => {
		const name = `Basin ${randomUUID().slice(0, 8)}`;
		await call(planner, 'POST', '/hubs', typed({ name }));
		const word = encodeURIComponent(name.slice(6));
		const found = await call<{ rows: { name: string; terminals: number }[] }>(
			crew,
			'GET',
			`/hubs?q=${word}`
		);
		expect(found.body.rows).toMatchObject([{ name, units: 1, terminals: 1 }]);
		const none = await call<{ rows: object[] }>(crew, 'GET', '/hubs?q=%25_nothing');
		expect(none.body.rows).toEqual([]);
	});

	it('keeps its site from being deleted, and is gone when it is deleted', async () => {
		const site = await newSite(planner);
		const { body: hub } = await call<Hub>(planner, 'POST', '/hubs', hubBody(site));
		const kept = await call(planner, 'DELETE', `/sites/${site}`);
		expect(kept.status).toBe(409);
		expect(kept.error.message).toBe('1 hub stands at this site: it stays as long as that does.');
		expect((await call(planner, 'DELETE', `/hubs/${hub.id}`)).status).toBe(204);
		expect((await call(planner, 'GET', `/hubs/${hub.id}`)).status).toBe(404);
		expect((await call(planner, 'DELETE', `/sites/${site}`)).status).toBe(204);
	});

	it('refuses what cannot be, at its field, and changes nothing', async () => {
		const one = typed();
		const wrong: [Record<string, unknown>, string][] = [
			[{ siteId: randomUUID() }, 'siteId'],
			[{ channelWidthMhz: 'wide' }, 'channelWidthMhz'],
			[{ units: [{ ...one.units[0], partCode: 'HS-NONE' }] }, 'units.0.partCode'],
			// A hub unit is no terminal.
			[{ terminals: [{ ...one.terminals[0], partCode: 'HS-60-90' }] }, 'terminals.0.partCode'],
			[{ terminals: [{ ...one.terminals[0], latitudeDeg: 91 }] }, 'terminals.0.latitudeDeg'],
			[{ terminals: [one.terminals[0], { ...one.terminals[0], id: 't2' }] }, 'terminals.1.name'],
			[{ units: Array.from({ length: 5 }, () => one.units[0]) }, 'units'],
			[{ units: [{ ...one.units[0], how: 'rope' }] }, 'units.0.how'],
			[{ surprise: 1 }, 'surprise']
		];
		for (const [change, field] of wrong) {
			const name = `Wrong ${randomUUID().slice(0, 8)}`;
			const answer = await call(planner, 'POST', '/hubs', typed({ name, ...change }));
			expect([field, answer.status, fieldsOf(answer)]).toEqual([field, 422, [field]]);
			const found = await call<{ count: number }>(planner, 'GET', `/hubs?q=${name.slice(6)}`);
			expect(found.body.count).toBe(0);
		}
	});

	it('takes a profile of the ground, and none of which heights and distances do not go together', async () => {
		const at = { latitudeDeg: -46.2, longitudeDeg: -118.3 };
		const profile = {
			source: 'level',
			from: at,
			to: at,
			distancesM: [0, 50],
			groundsAmslM: [4, 5]
		};
		const [terminal] = typed().terminals;
		const good = await call<Hub>(
			planner,
			'POST',
			'/hubs',
			typed({ terminals: [{ ...terminal, profile }] })
		);
		expect(good.body.plan.terminals[0]!.profile).toEqual(profile);
		const bad = { ...profile, groundsAmslM: [4] };
		const refused = await call(
			planner,
			'POST',
			'/hubs',
			typed({ terminals: [{ ...terminal, profile: bad }] })
		);
		expect(refused.status).toBe(422);
	});

	it('goes out and comes back in every format with nothing lost', async () => {
		const at = { latitudeDeg: -46.2, longitudeDeg: -118.3 };
		const profile = {
			source: 'level',
			from: at,
			to: at,
			distancesM: [0, 50],
			groundsAmslM: [4, 5]
		};
		const shed = { name: 'Shed', kind: 'building', distanceKm: 0.02, lengthM: 8, heightM: 5 };
		const [terminal] = typed().terminals;
		const terminals = [
			{ ...terminal, profile, obstacles: [shed], unitId: 'u1' },
			{ ...terminal, id: 't2', name: '=SUM(A1)', how: 'wall', wallBearingDeg: 181.5, upMbitS: 0 }
		];
		const { body: hub } = await call<Hub>(planner, 'POST', '/hubs', typed({ terminals }));
		for (const format of ['csv', 'geojson', 'json']) {
			const file = await download(crew, `/hubs/${hub.id}/export?format=${format}`);
			const text = new TextDecoder().decode(file);
			if (format === 'csv') expect(text).toContain("'=SUM(A1)");
			const read = await call<{ plan: object | null; terminals: object[] }>(
				planner,
				'POST',
				'/hubs/reading',
				{ format, text }
			);
			const { terminals: kept, ...own } = hub.plan;
			expect([format, read.body.terminals]).toEqual([format, kept]);
			expect([format, read.body.plan]).toEqual([format, format === 'csv' ? null : own]);
		}
	});

	it('is not read from a file that is wrong: line and column are said', async () => {
		const head = 'name,latitude_deg,longitude_deg,ground_amsl_m,height_agl_m,part_code\n';
		const good = 'Loft,-46.2,-118.3,4,6,TM-60-S\n';
		const wrong: [string, string, string][] = [
			[
				'csv',
				`${head}${good}Quay,north,-118.3,4,6,TM-60-S\n`,
				'Terminal 2 of the file, latitude_deg'
			],
			['csv', head + good.repeat(257), '256 terminals at most; the file has 257'],
			['geojson', '{"features": 3}', 'has none'],
			['geojson', 'not json', 'no GEOJSON file'],
			['json', '{"format": "other"}', 'skiaxis-hub']
		];
		for (const [format, text, said] of wrong) {
			const answer = await call(planner, 'POST', '/hubs/reading', { format, text });
			expect(answer.status).toBe(422);
			expect(answer.error.fields[0]?.message).toContain(said);
		}
		const read = await call<{ terminals: { name: string; how: string }[] }>(
			planner,
			'POST',
			'/hubs/reading',
			{ format: 'csv', text: `\uFEFF${head}${good}` }
		);
		expect(read.body.terminals).toMatchObject([{ name: 'Loft', how: 'pole', downMbitS: 0 }]);
	});

	it('of 256 terminals with their ground is kept whole', async () => {
		const [terminal] = typed().terminals;
		const distancesM = Array.from({ length: 120 }, (_, i) => 8 * i);
		const at = { latitudeDeg: -46.2, longitudeDeg: -118.3 };
		const terminals = Array.from({ length: 256 }, (_, i) => ({
			...terminal,
			...{ id: `t${i}`, name: `Roof ${i}` },
			profile: {
				source: 'x',
				from: at,
				to: at,
				distancesM,
				groundsAmslM: distancesM.map(() => 4.25)
			}
		}));
		const made = await call<Hub>(planner, 'POST', '/hubs', typed({ terminals }));
		expect(made.status).toBe(201);
		const read = await call<Hub>(planner, 'GET', `/hubs/${made.body.id}`);
		expect(read.body.plan.terminals).toHaveLength(256);
		expect(read.body.plan.terminals[255]!.profile!.groundsAmslM).toHaveLength(120);
	});
});
