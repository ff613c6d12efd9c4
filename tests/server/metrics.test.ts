import { afterEach, describe, expect, it } from 'vitest';
import { metricsAnswer } from '$lib/server/services/health';
import { call, closingDb, newCaller, newHop, reading, record } from './world';

closingDb();
afterEach(() => {
	delete process.env.SKIAXIS_METRICS_TOKEN;
});

const TOKEN = 'for whoever watches';
const shown = (authorization?: string): Promise<Response> =>
	metricsAnswer(
		new Request('http://127.0.0.1/metrics', { headers: authorization ? { authorization } : {} })
	);

/** A figure of the text by its name and labels; 0 where it is not there. */
async function figure(line: string): Promise<number> {
	const text = await (await shown(`Bearer ${TOKEN.replaceAll(' ', '-')}`)).text();
	const found = text.split('\n').find((one) => one.startsWith(`${line} `));
	return Number(found?.split(' ').at(-1) ?? 0);
}

describe('the figures of a process', () => {
	it('are for nobody without a token in the settings, and only for who shows it', async () => {
		expect((await shown(`Bearer ${TOKEN}`)).status).toBe(404);
		process.env.SKIAXIS_METRICS_TOKEN = 'right-token';
		expect((await shown()).status).toBe(401);
		expect((await shown('Bearer right')).status).toBe(401);
		expect((await shown('Basic right-token')).status).toBe(401);
		const answer = await shown('Bearer right-token');
		expect([answer.status, answer.headers.get('content-type')]).toEqual([
			200,
			expect.stringMatching(/^text\/plain; version=0\.0\.4/)
		]);
	});

	it('count requests by what they ask for and how they end, and records once', async () => {
		process.env.SKIAXIS_METRICS_TOKEN = TOKEN.replaceAll(' ', '-');
		const crew = await newCaller('technician');
		const hop = await newHop(await newCaller('planner'), [crew]);
		const asked = (status: number): string =>
			`skiaxis_request_seconds_count{method="POST",route="/api/v1/hops/:hopId/records",status="${status}"}`;
		const before = [await figure(asked(200)), await figure(asked(404))];
		const stored = await figure('skiaxis_records_stored_total');
		const made = {
			records: [record('A', 'reading', reading(-50)), record('B', 'note', { text: 'x' })]
		};
		await call(crew, 'POST', `/hops/${hop.id}/records`, made);
		await call(crew, 'POST', `/hops/${hop.id}/records`, made);
		await call(await newCaller('technician'), 'POST', `/hops/${hop.id}/records`, made);
		expect([await figure(asked(200)), await figure(asked(404))]).toEqual([
			before[0]! + 2,
			before[1]! + 1
		]);
		expect(await figure('skiaxis_records_stored_total')).toBe(stored + 2);
	});

	it('name no person, hop or place, whatever was asked', async () => {
		process.env.SKIAXIS_METRICS_TOKEN = TOKEN.replaceAll(' ', '-');
		const crew = await newCaller('technician');
		const hop = await newHop(await newCaller('planner'), [crew]);
		await call(crew, 'GET', `/hops/${hop.id}`);
		await call(crew, 'GET', `/nowhere/${hop.id}`);
		const text = await (await shown(`Bearer ${TOKEN.replaceAll(' ', '-')}`)).text();
		expect(text).toContain('route="/api/v1/unknown"');
		for (const secret of [hop.id, crew.userId, crew.token]) expect(text).not.toContain(secret);
		for (const name of [
			'nodejs_eventloop_lag_p99_seconds',
			'skiaxis_open_streams',
			'skiaxis_watched_hops',
			'skiaxis_worker_queue',
			'skiaxis_jobs_held',
			'skiaxis_database_connections_used'
		]) {
			expect(text).toMatch(new RegExp(`^${name}`, 'm'));
		}
	});
});
