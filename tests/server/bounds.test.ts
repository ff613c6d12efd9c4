import Joi from 'joi';
import { describe, expect, it } from 'vitest';
import { SMALL_BODY_BYTES } from '$lib/server/api/endpoint';
import { endpoints } from '$lib/server/api/endpoints';
import { ATTEMPTS_PER_ADDRESS } from '$lib/server/auth/signInLimit';
import { errorResponse } from '$lib/server/api/dispatch';
import { isDatabaseGone } from '$lib/server/errors';
import { getHop } from '$lib/server/services/hops';
import { safeNext } from '$lib/server/safeNext';
import { measure } from '$lib/server/schemas/bounds';
import { validate } from '$lib/server/schemas/joi';
import { call, closingDb, newCaller, newHop, record } from './world';

closingDb();

/** Counts how often a schema's items are looked at. */
function counting(most: number): { schema: Joi.ObjectSchema; looked: () => number } {
	let count = 0;
	const item = Joi.number().custom((value: number) => {
		count += 1;
		return value;
	});
	return {
		schema: Joi.object({ list: Joi.array().items(item).max(most).label('List') }),
		looked: () => count
	};
}

const problemsOf = (work: () => unknown): { field: string; message: string }[] => {
	try {
		work();
	} catch (error) {
		return (error as { fields: { field: string; message: string }[] }).fields;
	}
	return [];
};

describe('what is out of all bounds', () => {
	it('is refused before any item is looked at', () => {
		const { schema, looked } = counting(100);
		const list = Array.from({ length: 50_000 }, (_, i) => i);
		expect(problemsOf(() => validate(schema, { list }))).toEqual([
			{ field: 'list', message: 'List may have at most 100 entries.' }
		]);
		expect(looked()).toBe(0);
	});

	it('costs no more with a mistake in each of many items than with one', () => {
		const { schema, looked } = counting(60_000);
		const list = Array.from({ length: 50_000 }, () => 'x');
		const problems = problemsOf(() => validate(schema, { list }));
		expect(problems).toHaveLength(1);
		expect(problems[0]!.field).toBe('list.0');
		expect(looked()).toBe(0);
	});

	it('names every mistake where the input is as long as somebody types', () => {
		const { schema } = counting(100);
		const problems = problemsOf(() => validate(schema, { list: ['x', 1, 'y'] }));
		expect(problems.map(({ field }) => field)).toEqual(['list.0', 'list.2']);
	});

	it('is a heap of members that are not known', () => {
		const heap = Object.fromEntries(Array.from({ length: 100_000 }, (_, i) => [`k${i}`, 1]));
		const { problems } = measure(Joi.object({ name: Joi.string() }), heap);
		expect(problems).toHaveLength(20);
		expect(problems[0]).toEqual({ field: 'k0', message: 'k0 is not known here.' });
		expect(measure(Joi.object(), heap).problems).toEqual([]);
	});

	it('is more than any input has altogether, and what is nested without end', () => {
		const rows = Array.from({ length: 9000 }, () => Array.from({ length: 60 }, () => 1));
		expect(measure(Joi.object(), { rows }).problems).toHaveLength(1);
		let deep: object = {};
		for (let i = 0; i < 60; i++) deep = { deep };
		expect(measure(Joi.object(), deep).problems).toHaveLength(1);
	});

	it('takes what any of several forms would take', () => {
		const schema = Joi.object({
			kind: Joi.string(),
			payload: Joi.when('kind', {
				is: 'a',
				then: Joi.object({ list: Joi.array().max(3) }),
				otherwise: Joi.object({ list: Joi.array().max(5), more: Joi.array().max(2) })
			})
		});
		const of = (payload: object): number => measure(schema, { kind: 'a', payload }).problems.length;
		expect(of({ list: [1, 2, 3, 4, 5] })).toBe(0);
		expect(of({ list: [1, 2, 3, 4, 5, 6] })).toBe(1);
		expect(of({ more: [1, 2, 3] })).toBe(1);
	});

	it.each([
		['/guidance/next', { readings: Array.from({ length: 60_000 }, () => ({})) }, 'readings'],
		['/sweeps/analyse', { samples: Array.from({ length: 60_000 }, () => ({})) }, 'samples'],
		['/hops/:hopId/records', { records: Array.from({ length: 30_000 }, () => ({})) }, 'records']
	])('%s refuses a list that is too long by that alone', async (path, body, field) => {
		const planner = await newCaller('planner');
		const hop = path.includes(':hopId') ? await newHop(planner) : undefined;
		const answer = await call(planner, 'POST', path.replace(':hopId', hop?.id ?? ''), body);
		expect(answer.status).toBe(422);
		expect(answer.error.fields.map((one) => one.field)).toEqual([field]);
	});
});

describe('what a request may hold', () => {
	const withBody = endpoints.filter(({ body }) => body);

	it('is small unless the endpoint says why it must be more', () => {
		const large = withBody.filter(
			({ mostBodyBytes = SMALL_BODY_BYTES }) => mostBodyBytes > SMALL_BODY_BYTES
		);
		expect(large.map(({ method, path }) => `${method} ${path}`).sort()).toEqual([
			'POST /budgets',
			'POST /guidance/next',
			'POST /hops',
			'POST /hops/:hopId/acceptance',
			'POST /hops/:hopId/records',
			// A hub of 256 terminals, each with the ground on its way.
			'POST /hubs',
			'POST /hubs/:hubId/acceptances',
			'POST /hubs/:hubId/records',
			'POST /hubs/reading',
			'POST /import',
			'POST /imports',
			'POST /parts',
			'POST /parts/import',
			'POST /projects/:projectId/schedule',
			'POST /sweeps/analyse',
			'PUT /hops/:hopId',
			'PUT /hops/:hopId/day-plan',
			'PUT /hubs/:hubId',
			'PUT /parts/:partId'
		]);
	});

	it('is not read beyond that', async () => {
		const planner = await newCaller('planner');
		for (const { method, path, mostBodyBytes = SMALL_BODY_BYTES } of withBody) {
			const id = '00000000-0000-4000-8000-000000000001';
			const address = path.replace(/:\w+/g, id);
			const answer = await call(planner, method, address, { x: 'x'.repeat(mostBodyBytes) });
			expect([path, answer.status, answer.error.code]).toEqual([path, 413, 'too-large']);
		}
	});
});

describe('signing in a script', () => {
	it('counts an attempt of an address before anything of it is read', async () => {
		const trash = { x: 'x'.repeat(SMALL_BODY_BYTES) };
		const attempt = (): ReturnType<typeof call> =>
			call(undefined, 'POST', '/tokens', trash, {}, '127.0.0.77');
		const statuses: number[] = [];
		for (let i = 0; i < ATTEMPTS_PER_ADDRESS + 2; i++) statuses.push((await attempt()).status);
		expect(statuses[0]).toBe(413);
		expect(statuses.at(-1)).toBe(429);
	});
});

describe('half a character', () => {
	it('is mended, kept and shown', async () => {
		const crew = await newCaller('technician');
		const planner = await newCaller('planner');
		const hop = await newHop(planner, [crew]);
		const half = record('A', 'note', { text: 'Wind \ud83d from west' });
		const sent = await call(crew, 'POST', `/hops/${hop.id}/records`, { records: [half] });
		expect(sent.status).toBe(200);
		const { body } = await call<{ records: { payload: { text: string } }[] }>(
			crew,
			'GET',
			`/hops/${hop.id}/records`
		);
		expect(body.records[0]!.payload.text).toBe('Wind \ufffd from west');
		// The same again is a repeat, not another record.
		const again = await call<{ results: { repeated: boolean }[] }>(
			crew,
			'POST',
			`/hops/${hop.id}/records`,
			{ records: [half] }
		);
		expect(again.body.results[0]!.repeated).toBe(true);
	});

	it('is mended in a name too', async () => {
		const planner = await newCaller('planner');
		const hop = await newHop(planner, [], { issue: false });
		const answer = await call<{ name: string; version: number }>(
			planner,
			'PUT',
			`/hops/${hop.id}`,
			{
				...hop.body,
				name: `Half \udc00 ${hop.id.slice(0, 8)}`,
				version: hop.version
			}
		);
		expect([answer.status, answer.body.name.isWellFormed()]).toEqual([200, true]);
	});
});

describe('where somebody goes on to after signing in', () => {
	it.each([
		['/hops/1?x=2#y', '/hops/1?x=2#y'],
		['/', '/'],
		[null, '/'],
		['', '/'],
		['//evil.example', '/'],
		['/\\evil.example', '/'],
		['/\t/evil.example', '/'],
		['/\n/evil.example', '/'],
		['/ /evil.example', '/'],
		['/.//evil.example', '/'],
		['/x/..//evil.example', '/'],
		['https://evil.example', '/'],
		['javascript:alert(1)', '/'],
		['/\u202e/evil.example', '/']
	])('%j leads to %s', (next, path) => expect(safeNext(next)).toBe(path));
});

describe('more work than there are hands', () => {
	it('is refused at once with the word to come again, and nothing else is kept waiting', async () => {
		const trainee = await newCaller('trainee');
		const cut = {
			axis: 'azimuth',
			frequencyGhz: 26,
			dishDiameterM: 0.6,
			plannedLevelDbm: -43,
			levelCurve: [
				[-90, 0.2],
				[-20, 4.5]
			],
			samples: Array.from({ length: 40 }, (_, i) => ({
				elapsedS: i,
				positionDeg: (i - 20) / 10,
				levelV: 1 + Math.exp(-(((i - 20) / 8) ** 2))
			}))
		};
		const answers = await Promise.all(
			Array.from({ length: 120 }, () => call(trainee, 'POST', '/sweeps/analyse', cut))
		);
		const codes = new Set(answers.map((one) => (one.status === 200 ? 200 : one.error.code)));
		expect([...codes].sort()).toEqual([200, 'busy']);
		expect(answers.every(({ status }) => status === 200 || status === 503)).toBe(true);
		const after = await call(trainee, 'POST', '/sweeps/analyse', cut);
		expect(after.status).toBe(200);
	});

	it('a mistake in a long body is named at its field, as in a short one', async () => {
		const crew = await newCaller('technician');
		const planner = await newCaller('planner');
		const hop = await newHop(planner, [crew]);
		const records = Array.from({ length: 150 }, (_, i) =>
			record('A', 'note', { text: i === 120 ? 7 : `A long note about nothing much ${i}` })
		);
		const answer = await call(crew, 'POST', `/hops/${hop.id}/records`, { records });
		expect([answer.status, answer.error.code]).toEqual([422, 'invalid-input']);
		expect(answer.error.fields[0]).toEqual({
			field: 'records.120.payload.text',
			message: 'Note must be a string.'
		});
		const none = await call<{ records: object[] }>(crew, 'GET', `/hops/${hop.id}/records`);
		expect(none.body.records).toEqual([]);
	});
});

describe('a page that was made for somebody else', () => {
	it('does nothing in the name of whoever is signed in by now', async () => {
		const crew = await newCaller('technician');
		const second = await newCaller('technician');
		const planner = await newCaller('planner');
		const hop = await newHop(planner, [crew, second]);
		const note = { records: [record('A', 'note', { text: 'Mine.' })] };
		const path = `/hops/${hop.id}/records`;
		const as = (userId: string): Record<string, string> => ({ 'x-skiaxis-as': userId });
		const refused = await call(second, 'POST', path, note, as(crew.userId));
		expect([refused.status, refused.error.code]).toEqual([409, 'other-person']);
		const reads = await call(second, 'GET', path, undefined, as(crew.userId));
		expect(reads.status).toBe(409);
		expect((await call(crew, 'POST', path, note, as(crew.userId))).status).toBe(200);
		const { body } = await call<{ records: object[] }>(second, 'GET', path);
		expect(body.records).toHaveLength(1);
	});
});

describe('what stands in an address', () => {
	it.each(['é', '1', '../x', "' OR 1=1", '00000000-0000-4000-8000-00000000000g', ''])(
		'%j is no hop, and no fault of the server',
		async (id) => {
			const { userId } = await newCaller('administrator');
			const actor = { userId, displayName: 'X', role: 'administrator' as const };
			await expect(getHop(actor, id)).rejects.toMatchObject({ status: 404, code: 'not-found' });
		}
	);
});

describe('a database that is away', () => {
	it.each([
		[{ name: 'SequelizeConnectionRefusedError' }, true],
		[{ name: 'SequelizeConnectionAcquireTimeoutError' }, true],
		[{ name: 'SequelizeDatabaseError', parent: { code: 'PROTOCOL_CONNECTION_LOST' } }, true],
		[{ name: 'SequelizeDatabaseError', parent: { code: 'ER_UNKNOWN_COM_ERROR' } }, true],
		[{ name: 'SequelizeDatabaseError', parent: { code: 'ER_PARSE_ERROR' } }, false],
		[new Error('something else'), false],
		[undefined, false]
	])('%j is told from a fault: %s', (error, gone) => expect(isDatabaseGone(error)).toBe(gone));
});

describe('others in the way', () => {
	it('are told as a server that is busy, to be asked again', async () => {
		const error = Object.assign(new Error('deadlock'), { parent: { code: 'ER_LOCK_DEADLOCK' } });
		const answer = errorResponse(error);
		expect([answer.status, answer.headers.get('retry-after')]).toEqual([503, '3']);
		const { error: told } = (await answer.json()) as { error: { code: string } };
		expect(told.code).toBe('busy');
	});
});

describe('a change asked for by a page of another site', () => {
	it('is refused, and one of our own or of a script is not', async () => {
		const planner = await newCaller('planner');
		const { body } = await newHop(planner, [], { issue: false });
		const change = (origin: string | undefined): ReturnType<typeof call> =>
			call(planner, 'POST', '/hops', body, origin ? { origin } : {});
		for (const origin of ['https://evil.example', 'null', 'http://127.0.0.1:1']) {
			const answer = await change(origin);
			expect([answer.status, answer.error.code]).toEqual([403, 'other-origin']);
		}
		// Only the name is taken: it went further than the origin.
		for (const origin of ['http://127.0.0.1', undefined]) {
			expect((await change(origin)).error.code).toBe('name-taken');
		}
		const read = await call(planner, 'GET', '/hops', undefined, { origin: 'https://evil.example' });
		expect(read.status).toBe(200);
	});
});
