import fc from 'fast-check';
import type Joi from 'joi';
import { dispatch } from '$lib/server/api/dispatch';
import type { Endpoint } from '$lib/server/api/endpoint';
import type { Caller } from './world';

/** A request as somebody may send it, mostly of the right shape and wrong somewhere. */
export interface FuzzRequest {
	endpoint: Endpoint;
	path: string;
	headers: Record<string, string>;
	body: string | Uint8Array | undefined;
}

interface Described {
	type?: string;
	flags?: { only?: boolean; presence?: string; unknown?: boolean };
	allow?: unknown[];
	examples?: unknown[];
	rules?: { name: string; args?: { limit?: unknown } }[];
	keys?: Record<string, Described>;
	items?: Described[];
	matches?: { schema?: Described }[];
}

/** What breaks programs: of any type, where another is expected. */
const NASTY = fc.oneof(
	fc.constantFrom<unknown>(
		null,
		'',
		' ',
		'\ud800',
		'😀'.repeat(60),
		'x'.repeat(6000),
		'0x10',
		'1e309',
		'2026-13-45T99:00:00Z',
		'../../etc/passwd',
		"'; DROP TABLE hops; --",
		'%00',
		'\u0000',
		-1,
		0,
		1e308,
		-1e308,
		2 ** 53 + 2,
		0.1 + 0.2,
		true,
		[],
		{},
		[[[[]]]],
		{ constructor: { prototype: { polluted: true } } },
		JSON.parse('{"__proto__":{"polluted":true}}') as unknown,
		Array.from({ length: 400 }, () => ({}))
	),
	fc.uuid(),
	fc.jsonValue({ maxDepth: 2 })
);

const limitOf = (described: Described, name: string, otherwise: number): number => {
	const limit = described.rules?.find((rule) => rule.name === name)?.args?.limit;
	return typeof limit === 'number' && Number.isFinite(limit) ? limit : otherwise;
};

function sound(described: Described): fc.Arbitrary<unknown> {
	const words = (described.allow ?? []).filter(
		(word) => typeof word !== 'object' || word === null || !('override' in word)
	);
	if (described.flags?.only && words.length) return fc.constantFrom(...words);
	if (described.examples?.length) return fc.constantFrom(...described.examples, ...words);
	switch (described.type) {
		case 'object':
			return objectOf(described.keys ?? {});
		case 'array': {
			const item = described.items?.[0];
			const maxLength = Math.min(4, limitOf(described, 'max', 4));
			const least = limitOf(described, 'length', limitOf(described, 'min', 0));
			return fc.array(item ? valueOf(item) : NASTY, {
				minLength: Math.min(least, 4),
				maxLength: Math.max(maxLength, Math.min(least, 4))
			});
		}
		case 'number': {
			const min = limitOf(described, 'min', -1000);
			const max = Math.max(min, limitOf(described, 'max', 1000));
			return described.rules?.some(({ name }) => name === 'integer')
				? fc.integer({ min: Math.ceil(Math.max(min, -1e9)), max: Math.floor(Math.min(max, 1e9)) })
				: fc.double({ min, max, noNaN: true });
		}
		case 'boolean':
			return fc.boolean();
		case 'date':
			return fc.constant('2026-11-24T08:00:00.000Z');
		case 'alternatives': {
			const each = (described.matches ?? []).flatMap(({ schema }) =>
				schema ? [valueOf(schema)] : []
			);
			return each.length ? fc.oneof(...each) : NASTY;
		}
		case 'string':
			if (described.rules?.some(({ name }) => name === 'guid')) return fc.uuid({ version: 4 });
			return fc.string({
				minLength: Math.min(limitOf(described, 'min', 1), 40),
				maxLength: Math.min(limitOf(described, 'max', 20), 40)
			});
		default:
			return NASTY;
	}
}

function valueOf(described: Described): fc.Arbitrary<unknown> {
	return fc.oneof({ weight: 14, arbitrary: sound(described) }, { weight: 1, arbitrary: NASTY });
}

function objectOf(keys: Record<string, Described>): fc.Arbitrary<unknown> {
	const members = Object.fromEntries(
		Object.entries(keys).map(([key, own]) => [
			key,
			fc.option(valueOf(own), { freq: own.flags?.presence === 'required' ? 14 : 2, nil: undefined })
		])
	);
	return fc
		.tuple(fc.record(members), fc.option(NASTY, { freq: 1, nil: undefined }), fc.nat(20))
		.map(([value, odd, chance]) => (chance === 0 ? { ...value, unasked: odd } : value));
}

const described = (schema: Joi.ObjectSchema): Described => schema.describe();

const BYTES = fc.oneof(
	fc.uint8Array({ maxLength: 200 }),
	...['504b0304', '49492a00', '4d4d002a', '89504e470d0a1a0a', 'ffd8ffe0', '25504446'].map((head) =>
		fc
			.uint8Array({ maxLength: 400 })
			.map((rest) => new Uint8Array([...Buffer.from(head, 'hex'), ...rest]))
	)
);

/**
 * Requests to one endpoint, by its own description.
 *
 * @param known ids that are there, by the name of the parameter
 */
export function requestsTo(
	endpoint: Endpoint,
	known: Readonly<Record<string, readonly string[]>>
): fc.Arbitrary<FuzzRequest> {
	const names = endpoint.path.match(/:\w+/g) ?? [];
	const params = fc.tuple(
		...names.map((name) =>
			fc.oneof(
				{ weight: 6, arbitrary: fc.constantFrom(...(known[name.slice(1)] ?? ['none'])) },
				{ weight: 2, arbitrary: fc.uuid({ version: 4 }) },
				{
					weight: 1,
					arbitrary: fc.constantFrom('x', '%C3%A9', '%00', '..%2F..', '-1', 'NaN', '9'.repeat(400))
				}
			)
		)
	);
	const query = endpoint.query ? valueOf(described(endpoint.query)) : fc.constant({});
	const body: fc.Arbitrary<string | Uint8Array | undefined> = endpoint.upload
		? BYTES
		: endpoint.body
			? fc.oneof(
					{
						weight: 20,
						arbitrary: valueOf(described(endpoint.body)).map((value) => JSON.stringify(value))
					},
					{ weight: 1, arbitrary: fc.constantFrom('', '{', 'null', '[]', '"\\ud800"', '\u0000') }
				)
			: fc.constant(undefined);
	const headers = fc.constantFrom<Record<string, string>>(
		{},
		{},
		{},
		{},
		{},
		{ origin: 'https://elsewhere.example' },
		{ 'content-type': 'text/plain' },
		{ 'x-skiaxis-as': 'somebody' },
		{ 'last-event-id': 'x' }
	);
	return fc.tuple(params, query, body, headers).map(([ids, asked, content, more]) => {
		let at = 0;
		const path = endpoint.path.replace(/:\w+/g, () => ids[at++] ?? 'x');
		const isPlain = typeof asked === 'object' && asked !== null && !Array.isArray(asked);
		const search = new URLSearchParams(
			Object.entries(isPlain ? asked : { odd: asked })
				.filter(([, value]) => value !== undefined)
				.map(([name, value]) => [name, typeof value === 'string' ? value : JSON.stringify(value)])
		).toString();
		return {
			endpoint,
			path: search ? `${path}?${search}` : path,
			headers: {
				...(content === undefined
					? {}
					: { 'content-type': endpoint.upload ? 'application/octet-stream' : 'application/json' }),
				...more
			},
			body: content
		};
	});
}

/** Sends a request as somebody, or as nobody; gives its status. Streams are left at once. */
export async function send(
	{ endpoint, path, headers, body }: FuzzRequest,
	caller: Caller | undefined
): Promise<number> {
	const url = new URL(`http://127.0.0.1/api/v1${path}`);
	const gone = new AbortController();
	const response = await dispatch({
		request: new Request(url, {
			method: endpoint.method,
			headers: { ...headers, ...(caller ? { authorization: `Bearer ${caller.token}` } : {}) },
			...(body === undefined || endpoint.method === 'GET'
				? {}
				: { body: typeof body === 'string' ? body : new Blob([new Uint8Array(body)]) }),
			signal: gone.signal
		}),
		path: url.pathname.slice('/api/v1/'.length),
		url,
		sessionToken: undefined,
		address: '127.0.0.66'
	});
	if (response.headers.get('content-type') === 'text/event-stream') gone.abort();
	else await response.arrayBuffer();
	return response.status;
}
