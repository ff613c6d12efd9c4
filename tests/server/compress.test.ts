import { gunzipSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { compressed } from '$lib/server/compress';

const LONG = 'level at A, level at B, '.repeat(200);

function answer(
	accept: string | null,
	headers: Record<string, string>,
	body: BodyInit | null = LONG,
	status = 200
): Response {
	const asked = new Request('http://127.0.0.1/', {
		headers: accept === null ? {} : { 'accept-encoding': accept }
	});
	return compressed(asked, new Response(body, { status, headers }));
}
const JSON_TYPE = { 'content-type': 'application/json' };

describe('an answer on its way', () => {
	it.each([
		['text/html; charset=utf-8', 'gzip, deflate, br'],
		['application/json', 'br;q=1.0, gzip;q=0.5'],
		['application/geo+json', '*'],
		['text/csv; charset=utf-8', 'GZIP']
	])('%s is packed for who takes %s, and is the same unpacked', async (type, accept) => {
		const packed = answer(accept, {
			...{ 'content-type': type, 'content-length': String(LONG.length), etag: '"a1"' }
		});
		expect(packed.headers.get('content-encoding')).toBe('gzip');
		expect(packed.headers.get('content-length')).toBeNull();
		expect(packed.headers.get('vary')).toBe('accept-encoding');
		expect(packed.headers.get('etag')).toBe('W/"a1"');
		const bytes = Buffer.from(await packed.arrayBuffer());
		expect(bytes.byteLength).toBeLessThan(LONG.length / 10);
		expect(gunzipSync(bytes).toString()).toBe(LONG);
	});

	it.each([
		['who does not take it', null, JSON_TYPE],
		['who forbids it', 'gzip;q=0, br', JSON_TYPE],
		['who forbids all', '*;q=0', JSON_TYPE],
		['a stream of events', 'gzip', { 'content-type': 'text/event-stream' }],
		['a picture', 'gzip', { 'content-type': 'image/png' }],
		['a document that is packed itself', 'gzip', { 'content-type': 'application/pdf' }],
		['what is packed already', 'gzip', { ...JSON_TYPE, 'content-encoding': 'br' }],
		['what is short', 'gzip', { ...JSON_TYPE, 'content-length': '40' }]
	])('is left as it is for %s', async (_, accept, headers: Record<string, string>) => {
		const plain = answer(accept, headers);
		expect(plain.headers.get('content-encoding')).toBe(headers['content-encoding'] ?? null);
		expect(await plain.text()).toBe(LONG);
	});

	it('keeps its status, and an empty one stays empty', () => {
		expect(answer('gzip', JSON_TYPE, '{}', 422).status).toBe(422);
		expect(answer('gzip', JSON_TYPE, null, 204).body).toBeNull();
		const part = answer('gzip', JSON_TYPE, LONG, 206);
		expect(part.headers.has('content-encoding')).toBe(false);
	});
});
