import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { QueryTypes } from 'sequelize';
import { beforeAll, describe, expect, it } from 'vitest';
import { db } from '$lib/server/db/connection';
import type { Endpoint } from '$lib/server/api/endpoint';
import { endpoints } from '$lib/server/api/endpoints';
import described from '$lib/server/api/answers.schema.json';
import { answerSchema, exampleFrom } from '$lib/server/api/openapi';
import { sheetPdf } from '$lib/server/pdf/sheetPdf';
import { prepareSheet } from '$lib/server/services/sheets';
import { readiness, rightsBeyondNeed } from '$lib/server/services/health';
import { answerSchemas } from '../../scripts/answers.mjs';
import {
	acceptWarnings,
	asOwner,
	call,
	closingDb,
	newCaller,
	newHop,
	requireDescribed,
	type Caller
} from './world';

closingDb();

let trainee: Caller;
beforeAll(async () => {
	trainee = await newCaller('trainee');
});

const folder = new URL('../core/data/sweeps/', import.meta.url);
const cases = JSON.parse(readFileSync(new URL('index.json', folder), 'utf8')) as {
	id: string;
	axis: string;
	frequency_ghz: number;
	dish_diameter_m: number;
	planned_level_dbm: number;
	beamwidth_deg_rule: number;
	level_curve: { dbm_volts: number[][] };
	truth: { kind: string; on_main_lobe: boolean | null; boresight_position_deg: number | null };
}[];

describe('what the endpoints answer', () => {
	it('is described for every one that answers with JSON', () => {
		const silent = endpoints.filter(
			(endpoint) =>
				!answerSchema(endpoint) && endpoint.produces === undefined && endpoint.status !== 204
		);
		expect(silent.map(({ method, path }) => `${method} ${path}`)).toEqual([]);
	});

	it('is described for no endpoint that there is not', () => {
		const there = new Set(endpoints.map(({ method, path }) => `${method} ${path}`));
		expect(Object.keys(described.answers).filter((key) => !there.has(key))).toEqual([]);
	});

	it('is described by schemas made from the types as they are now', () => {
		const kept = readFileSync('src/lib/server/api/answers.schema.json', 'utf8');
		expect(kept === answerSchemas()).toBe(true);
	});

	it.each([
		['a member too many', (me: object) => ({ ...me, passwordHash: 'x' })],
		['a member too few', (me: object) => ({ ...me, role: undefined })],
		['a member of another type', (me: object) => ({ ...me, displayName: 7 })],
		['a word that is none of those', (me: object) => ({ ...me, role: 'king' })]
	])('is caught with %s', async (_, spoil) => {
		const { body } = await call(trainee, 'GET', '/me');
		expect(() => requireDescribed('GET', 'me', 200, body)).not.toThrow();
		expect(() => requireDescribed('GET', 'me', 200, spoil(body))).toThrow();
	});

	it('is caught where it is wrong deep inside', async () => {
		const { body } = await call<{ causes: { probability: unknown }[] }>(
			trainee,
			'POST',
			'/diagnosis',
			{ plannedDbm: { A: -40, B: -40 }, measuredDbm: { A: -41, B: null } }
		);
		body.causes[3]!.probability = 'likely';
		expect(() => requireDescribed('POST', 'diagnosis', 200, body)).toThrow(/causes\/3/);
	});
});

describe('POST /sweeps/analyse', () => {
	it.each(cases)('answers $id by its contract', async (recorded) => {
		const samples = readFileSync(new URL(`${recorded.id}.csv`, folder), 'utf8')
			.trim()
			.split(/\r?\n/)
			.slice(1)
			.map((line) => line.split(',').map(Number))
			.map(([elapsedS, positionDeg, levelV]) => ({ elapsedS, positionDeg, levelV }));
		const answer = await call(trainee, 'POST', '/sweeps/analyse', {
			axis: recorded.axis,
			frequencyGhz: recorded.frequency_ghz,
			dishDiameterM: recorded.dish_diameter_m,
			plannedLevelDbm: recorded.planned_level_dbm,
			levelCurve: recorded.level_curve.dbm_volts,
			samples
		});
		expect(answer.status).toBe(200);
		for (const key of [
			'verdict',
			'centreDeg',
			'peakLevelDbm',
			'shortfallDb',
			'lobes',
			'reasons',
			'confidence'
		]) {
			expect(answer.body).toHaveProperty(key);
		}
		if (recorded.truth.kind === 'pickup') expect(answer.body.verdict).toBe('implausible-reading');
		if (recorded.truth.on_main_lobe === true) expect(answer.body.verdict).toBe('main-lobe');
		if (recorded.truth.on_main_lobe === false) expect(answer.body.verdict).toBe('beside-main-lobe');
		if (recorded.truth.boresight_position_deg !== null) {
			const error = Math.abs(
				(answer.body.centreDeg as number) - recorded.truth.boresight_position_deg
			);
			expect(error).toBeLessThan(recorded.beamwidth_deg_rule / 4);
		}
	});

	it.each([
		[
			'levelCurve',
			{
				levelCurve: [
					[-90, 1],
					[-50, 1]
				]
			}
		],
		['dishDiameterM', { dishDiameterM: -0.6 }],
		['samples', { samples: [] }],
		[
			'samples.0.levelV',
			{ samples: Array.from({ length: 6 }, () => ({ positionDeg: 1, levelV: 'x' })) }
		],
		['axis', { axis: 'roll' }]
	])('names %s when it is wrong', async (field, change) => {
		const example = endpoints.find((e) => e.path === '/sweeps/analyse')!;
		const body = { ...exampleOf(example.body), ...change };
		const answer = await call(trainee, 'POST', '/sweeps/analyse', body);
		expect(answer.status).toBe(422);
		expect(answer.error.fields.map((f) => f.field)).toContain(field);
	});
});

/** The example values that stand in a schema itself. */
function exampleOf(schema: Endpoint['body']): Record<string, unknown> {
	return exampleFrom(schema!) as Record<string, unknown>;
}

describe('the description of the API', () => {
	it('is OpenAPI 3.1 and names every endpoint with its fields', async () => {
		const answer = await call<{
			openapi: string;
			paths: Record<string, Record<string, { requestBody?: object }>>;
		}>(undefined, 'GET', '/openapi.json');
		expect(answer.body.openapi).toBe('3.1.0');
		for (const endpoint of endpoints.filter((e) => e.path !== '/openapi.json')) {
			const path = endpoint.path.replace(/:(\w+)/g, '{$1}');
			const operation = answer.body.paths[path]?.[endpoint.method.toLowerCase()];
			expect([endpoint.path, operation !== undefined]).toEqual([endpoint.path, true]);
			expect(Boolean(operation!.requestBody)).toBe(Boolean(endpoint.body ?? endpoint.upload));
		}
		expect(answer.text).toContain('plannedLevelDbm');
		for (const code of ['visit-open', 'not-holding-baton', 'name-taken: 409', 'internal: 500']) {
			expect(answer.text).toContain(code);
		}
	});

	it.each([
		'/sweeps/analyse',
		'/guidance/next',
		'/diagnosis',
		'/paths/geometry',
		'/propagation/attenuation',
		'/budgets',
		'/terrain/profile'
	])('has an example of %s that runs', async (path) => {
		const endpoint = endpoints.find((e) => e.path === path)!;
		const answer = await call(trainee, 'POST', path, exampleOf(endpoint.body));
		expect([answer.status, answer.text]).toEqual([200, answer.text]);
	});
});

describe('the site sheet', () => {
	it('becomes a PDF with the code that opens it', async () => {
		const planner = await newCaller('planner');
		const hop = await newHop(planner);
		const actor = { userId: planner.userId, displayName: 'P', role: 'planner' as const };
		const prepared = await prepareSheet(actor, hop.id, 'B', 'https://example.test');
		expect(prepared.address).toBe(`https://example.test/hops/${hop.id}/b/sheet`);
		expect(prepared.qr).toMatch(/^data:image\/png;base64,/);
		const pdf = await sheetPdf(prepared, 'metric');
		expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
		expect(pdf.length).toBeGreaterThan(10_000);
	});

	it('does not exist before a revision', async () => {
		const planner = await newCaller('planner');
		const hop = await newHop(planner, [], { issue: false });
		const actor = { userId: planner.userId, displayName: 'P', role: 'planner' as const };
		await expect(prepareSheet(actor, hop.id, 'A', 'https://example.test')).rejects.toThrow(
			/No plan revision/
		);
	});
});

it('a revision asked for twice with one id is issued once', async () => {
	const planner = await newCaller('planner');
	const hop = await newHop(planner, [], { issue: false });
	await acceptWarnings(planner, hop, hop.body);
	const request = { id: randomUUID(), version: hop.version, note: 'one' };
	const answers = await Promise.all(
		[1, 2, 3].map(() =>
			call<{ number: number }>(planner, 'POST', `/hops/${hop.id}/revisions`, request)
		)
	);
	expect(answers.map((a) => a.body.number)).toEqual([1, 1, 1]);
	expect((await call(planner, 'GET', `/hops/${hop.id}/revisions`)).body).toMatchObject({
		count: 1,
		rows: [{ number: 1, note: 'one' }]
	});
});

it('readiness knows the migrations of this build', async () => {
	expect(await readiness()).toEqual({
		ready: true,
		database: 'up',
		migrations: 'complete',
		frozen: 'guarded',
		rights: 'narrow'
	});
});

it('readiness tells when a trigger is gone, and when the application could take one away', async () => {
	await asOwner('DROP TRIGGER acceptances_no_delete');
	try {
		expect(await readiness()).toMatchObject({
			ready: false,
			frozen: 'missing acceptances_no_delete'
		});
	} finally {
		await asOwner(
			`CREATE TRIGGER acceptances_no_delete BEFORE DELETE ON acceptances
			FOR EACH ROW SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'acceptances is append-only'`
		);
	}
	const [{ account }] = (await db().query<{ account: string }>('SELECT CURRENT_USER() AS account', {
		type: QueryTypes.SELECT
	})) as [{ account: string }];
	const [name, host] = account.split('@');
	for (const [right, said] of [
		['UPDATE ON acceptances', 'UPDATE on acceptances'],
		['ALTER ON hops', 'ALTER on hops']
	] as const) {
		await asOwner(`GRANT ${right} TO '${name}'@'${host}'`);
		try {
			// Told, and not held against an installation that runs.
			expect(await readiness()).toMatchObject({ ready: true, rights: 'wider than needed' });
			expect(await rightsBeyondNeed()).toEqual([said]);
		} finally {
			await asOwner(`REVOKE ${right} FROM '${name}'@'${host}'`);
		}
	}
	expect(await rightsBeyondNeed()).toEqual([]);
});
