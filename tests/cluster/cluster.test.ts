import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { QueryTypes, Sequelize } from 'sequelize';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Job } from '$lib/server/api/answers';
import { startCluster } from '../../scripts/lib/cluster.mjs';
import { migrate } from '../../scripts/lib/migrator.mjs';
import { grantRights } from '../../scripts/lib/rights.mjs';
import { ROOT } from '../../scripts/lib/setup.mjs';
import { startServer, type RunningServer } from '../browser/server';
import type { Caller, TestHop } from '../server/world';

/**
 * Three database servers that replicate to each other, two processes of the application on two of them, and
 * this one on the third. Nodes and processes are ended as by a power cut while two crews record.
 */
const SECRET = 'cluster-tests-only-secret';

let cluster: Awaited<ReturnType<typeof startCluster>>;
let nodes: Awaited<ReturnType<typeof cluster.database>>;
let world: typeof import('../server/world');
const processes: RunningServer[] = [];
const pause = (ms: number): Promise<unknown> => new Promise((go) => setTimeout(go, ms));

const startOn = (node: number, port?: number): Promise<RunningServer> =>
	startServer(port, {
		SKIAXIS_DATABASE_URL: nodes[node]!.url,
		SKIAXIS_SECRET: SECRET,
		SKIAXIS_DEMO: '',
		// What a process could not answer is said here with its cause.
		SKIAXIS_LOG_LEVEL: 'error'
	});

beforeAll(async () => {
	cluster = await startCluster(join(ROOT, '.data', 'test-cluster'), 3);
	nodes = await cluster.database('skiaxis_cluster');
	await migrate(nodes[0]!.ownerUrl);
	await grantRights(nodes[0]!.ownerUrl, nodes[0]!.url);
	process.env.SKIAXIS_DATABASE_URL = nodes[2]!.url;
	process.env.SKIAXIS_OWNER_DATABASE_URL = nodes[2]!.ownerUrl;
	process.env.SKIAXIS_SECRET = SECRET;
	process.env.SKIAXIS_LOG_LEVEL = 'silent';
	world = await import('../server/world');
	for (const node of [0, 1]) processes.push(await startOn(node));
});
afterAll(async () => {
	for (const running of processes) await running.kill();
	const { closeDb } = await import('$lib/server/db/connection');
	await closeDb();
	await cluster.stop();
});

/** Asks the processes in turn, as behind a proxy, until one of them has answered for the request. */
async function ask<T>(
	caller: Caller,
	method: string,
	path: string,
	body?: object,
	first = 0
): Promise<T> {
	for (let attempt = 0; attempt < 600; attempt++) {
		const { address } = processes[(first + attempt) % processes.length]!;
		try {
			const answer = await fetch(`${address}/api/v1${path}`, {
				method,
				headers: {
					authorization: `Bearer ${caller.token}`,
					'content-type': 'application/json'
				},
				...(body ? { body: JSON.stringify(body) } : {}),
				signal: AbortSignal.timeout(5000)
			});
			if (answer.ok) return (await answer.json()) as T;
			const text = await answer.text();
			if (answer.status < 500) throw new Refused(`${answer.status} ${text}`);
			if (answer.status !== 503) unexpected.push(`${answer.status} ${text}`);
		} catch (error) {
			if (error instanceof Refused) throw error;
		}
		await pause(50);
	}
	throw new Error(`${method} ${path}: nobody answered`);
}
class Refused extends Error {}
/** Answers that no fault of a node or process excuses. */
const unexpected: string[] = [];

/** A crew that records without end; what it was answered for, by id. */
function recording(
	caller: Caller,
	hop: TestHop,
	end: 'A' | 'B',
	first: number
): { count: () => number; stop: () => Promise<string[]> } {
	const stored: string[] = [];
	const asked = { toStop: false };
	const work = (async (): Promise<void> => {
		while (!asked.toStop) {
			const made = world.record(end, 'reading', world.reading(-60 - (stored.length % 9)));
			await ask(caller, 'POST', `/hops/${hop.id}/records`, { records: [made] }, first);
			stored.push(made.id);
			await pause(20);
		}
	})();
	return {
		count: () => stored.length,
		stop: async () => {
			asked.toStop = true;
			await work;
			return stored;
		}
	};
}

/** Follows a hop's feed as a page does: resumes where it was cut off, on whichever process answers. */
function following(
	caller: Caller,
	hop: TestHop,
	first: number
): { seen: number[]; stop: () => Promise<void> } {
	const seen: number[] = [];
	const leaving = new AbortController();
	const follow = async (): Promise<void> => {
		for (let attempt = first; ; attempt++) {
			if (leaving.signal.aborted) return;
			try {
				const { address } = processes[attempt % processes.length]!;
				const answer = await fetch(
					`${address}/api/v1/hops/${hop.id}/feed?after=${seen.at(-1) ?? 0}`,
					{ headers: { authorization: `Bearer ${caller.token}` }, signal: leaving.signal }
				);
				if (!answer.ok || !answer.body) throw new Error(String(answer.status));
				let text = '';
				const decoder = new TextDecoder();
				for await (const part of answer.body) {
					text += decoder.decode(part, { stream: true });
					const events = text.split('\n\n');
					text = events.pop() ?? '';
					for (const event of events) {
						const id = /^id: (\d+)$/m.exec(event)?.[1];
						if (id) seen.push(Number(id));
					}
				}
			} catch {
				await pause(100);
			}
		}
	};
	const work = follow();
	return {
		seen,
		stop: async () => {
			leaving.abort();
			await work;
		}
	};
}

async function until(what: string, done: () => boolean | Promise<boolean>): Promise<void> {
	for (let i = 0; i < 1200; i++) {
		if (await done()) return;
		await pause(100);
	}
	throw new Error(`never: ${what}`);
}

const upTo = (last: number): number[] => Array.from({ length: last }, (_, i) => i + 1);

async function onNode<Row extends object>(
	node: number,
	sql: string,
	values: unknown[]
): Promise<Row[]> {
	const own = new Sequelize(nodes[node]!.ownerUrl, { dialect: 'mysql', logging: false });
	try {
		return await own.query<Row>(sql, { replacements: values, type: QueryTypes.SELECT });
	} finally {
		await own.close();
	}
}

describe('a cluster', () => {
	it('loses nothing, doubles nothing and keeps the order while nodes and processes are killed in turn', async () => {
		const planner = await world.newCaller('planner');
		const crews = [await world.newCaller('technician'), await world.newCaller('technician')];
		const hop = await world.newHop(planner, crews);
		const followers = [0, 1].map((i) => following(crews[i]!, hop, i));
		const work = (['A', 'B'] as const).map((end, i) => recording(crews[i]!, hop, end, i));
		const more = async (): Promise<void> => {
			const from = work.map(({ count }) => count());
			await until('both go on', () => work.every(({ count }, i) => count() >= from[i]! + 25));
		};
		await more();
		// A node goes; its process says so and the other one answers for both.
		await cluster.kill(1);
		await more();
		await cluster.restart(1);
		await until('the process is well again', async () => {
			const answer = await fetch(`${processes[1]!.address}/readyz`).catch(() => undefined);
			return answer?.status === 200;
		});
		await more();
		// A process goes and comes again.
		const { port } = processes[0]!;
		await processes[0]!.kill();
		await more();
		processes[0] = await startOn(0, port);
		await more();
		// The node that founded the cluster goes, and joins the others.
		await cluster.kill(0);
		await more();
		await cluster.restart(0);
		await more();

		const stored = (await Promise.all(work.map(({ stop }) => stop()))).flat();
		await until('both have seen all', () =>
			followers.every(({ seen }) => seen.length >= stored.length)
		);
		for (const follower of followers) await follower.stop();
		expect(stored.length).toBeGreaterThan(300);
		for (const { seen } of followers) expect(seen).toEqual(upTo(stored.length));
		const sql = 'SELECT seq, id, digest FROM field_records WHERE hop_id = ? ORDER BY seq';
		const feeds = [];
		for (const node of [0, 1, 2]) {
			feeds.push(await onNode<{ seq: number; id: string }>(node, sql, [hop.id]));
		}
		expect(feeds[0]!.map(({ seq }) => seq)).toEqual(upTo(stored.length));
		expect(feeds[0]!.map(({ id }) => id).sort()).toEqual([...stored].sort());
		expect(feeds[1]).toEqual(feeds[0]);
		expect(feeds[2]).toEqual(feeds[0]);
		const { verifyDatabase } = await import('$lib/server/commands/verify');
		expect(await verifyDatabase(() => undefined)).toBe(0);
		expect(unexpected).toEqual([]);
	});

	it('has long work done by one process, and by the other once that one is killed', async () => {
		const planner = await world.newCaller('planner');
		const tag = `C${randomUUID().slice(0, 8)}`;
		const rows = Array.from(
			{ length: 4000 },
			(_, i) => `${tag} ${i},${(-60 + i * 1e-3).toFixed(4)},${(30 + Math.random()).toFixed(6)},5`
		);
		const text = ['name,latitude_deg,longitude_deg,ground_amsl_m', ...rows].join('\n');
		const id = randomUUID();
		const body = { id, subject: 'sites', format: 'csv', text, takeGood: false };
		await ask<Job>(planner, 'POST', '/imports', body, 0);
		const holder = async (): Promise<string | null> =>
			(await onNode<{ holder: string | null }>(2, 'SELECT holder FROM jobs WHERE id = ?', [id]))[0]!
				.holder;
		await until('somebody works on it', async () => (await holder()) !== null);
		const dead = await holder();
		// Whoever works on it: the process that was asked has taken it up at once.
		const { port } = processes[0]!;
		await processes[0]!.kill();
		let job: Job | undefined;
		await until('it has ended', async () => {
			job = await ask<Job>(planner, 'GET', `/jobs/${id}`, undefined, 1);
			return job.status !== 'running';
		});
		processes[0] = await startOn(0, port);
		expect([job!.status, job!.done, job!.result]).toMatchObject([
			'done',
			4000,
			{ imported: 4000, bad: 0 }
		]);
		const [row] = await onNode<{ holder: string; tries: number }>(
			2,
			'SELECT holder, tries FROM jobs WHERE id = ?',
			[id]
		);
		expect([row!.tries, row!.holder === dead]).toEqual([2, false]);
		const sql = 'SELECT COUNT(*) AS count FROM sites WHERE name LIKE ?';
		for (const node of [0, 1, 2]) {
			expect(await onNode(node, sql, [`${tag} %`])).toEqual([{ count: 4000 }]);
		}
		expect(unexpected).toEqual([]);
	});
});
