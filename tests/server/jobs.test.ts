import { randomUUID } from 'node:crypto';
import { afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import type { AuditAction } from '$lib/server/auditActions';
import { audit, isAudited } from '$lib/server/repositories/audit';
import {
	endJob,
	findJob,
	insertJob,
	keepProgress,
	renewLease,
	requestCancel,
	takeJob,
	type JobRow
} from '$lib/server/repositories/jobs';
import { createSite } from '$lib/server/services/sites';
import { importJob } from '$lib/server/services/importJob';
import { runJobs, stopJobs, type JobContext, type JobKind } from '$lib/server/services/jobRunner';
import type { Job } from '$lib/server/api/answers';
import { replanJob } from '$lib/server/services/replans';
import { siteSchema } from '$lib/server/schemas/inputs';
import { validate } from '$lib/server/schemas/joi';
import { anotherProcess, call, closingDb, newCaller, newHop, type Caller } from './world';

closingDb();

let planner: Caller;
beforeAll(async () => {
	planner = await newCaller('planner');
});
afterEach(() => stopJobs());

async function ended(caller: Caller, id: string): Promise<Job> {
	return vi.waitFor(
		async () => {
			const { body } = await call<Job>(caller, 'GET', `/jobs/${id}`);
			if (body.status === 'running') throw new Error('still running');
			return body;
		},
		{ timeout: 20_000, interval: 50 }
	);
}

describe('planning every hop again', () => {
	beforeEach(() => runJobs({ replan: replanJob }));

	it('runs in workers, counts them all, and names the hop whose site was moved under it', async () => {
		const own = await newCaller('planner');
		const hops = [];
		for (let i = 0; i < 5; i++) hops.push(await newHop(own));
		const { siteBId, name } = hops[2]!.body as { siteBId: string; name: string };
		const site = await call<{ latitudeDeg: number }>(own, 'GET', `/sites/${siteBId}`);
		await call(own, 'PUT', `/sites/${siteBId}`, {
			...site.body,
			id: undefined,
			latitudeDeg: site.body.latitudeDeg - 0.02
		});
		const id = randomUUID();
		const started = await call<Job>(own, 'POST', '/replans', { id });
		expect([started.status, started.body.total]).toEqual([202, 5]);
		const run = (await ended(own, id)) as Extract<Job, { kind: 'replan' }>;
		expect([run.status, run.done, run.result!.moved]).toEqual(['done', 5, 1]);
		expect(run.result!.notable.map((outcome) => outcome.name)).toEqual([name]);
		// The same id again gives the run of the first time.
		expect((await call<Job>(own, 'POST', '/replans', { id })).body.status).toBe('done');
		const { body } = await call<{ jobs: { id: string; kind: string }[] }>(own, 'GET', '/jobs');
		expect(body.jobs.map((job) => [job.id, job.kind])).toEqual([[id, 'replan']]);
	});

	it('stops when asked, and is nobody else’s', async () => {
		const own = await newCaller('planner');
		for (let i = 0; i < 3; i++) await newHop(own, [], { issue: false });
		const id = randomUUID();
		await call(own, 'POST', '/replans', { id });
		expect((await call(planner, 'GET', `/jobs/${id}`)).status).toBe(404);
		expect((await call(planner, 'POST', `/jobs/${id}/cancel`)).status).toBe(404);
		await call(own, 'POST', `/jobs/${id}/cancel`);
		expect(['cancelled', 'done']).toContain((await ended(own, id)).status);
		const crew = await newCaller('technician');
		expect((await call(crew, 'POST', '/replans', { id: randomUUID() })).status).toBe(403);
	});

	it('goes on after the hop where a process that died had come to', async () => {
		const own = await newCaller('planner');
		const ids = [];
		for (let i = 0; i < 4; i++) ids.push((await newHop(own)).id);
		ids.sort();
		await stopJobs();
		const id = randomUUID();
		const dead = randomUUID();
		await insertJob(
			{ ...{ id, kind: 'replan', input: '{}', total: 4 }, startedBy: own.userId },
			new Date()
		);
		expect((await takeJob(dead, 0, ['replan']))!.id).toBe(id);
		const before = { notable: [], moved: 7, withErrors: 0, withOpenWarnings: 0 };
		await keepProgress(
			dead,
			{ done: 2, total: 4, state: { after: ids[1], result: before } },
			new Date()
		);
		runJobs({ replan: replanJob });
		const run = (await ended(own, id)) as Extract<Job, { kind: 'replan' }>;
		expect([run.status, run.done, run.result!.moved]).toEqual(['done', 4, 7]);
	});
});

describe('taking in a file', () => {
	const lines = (tag: string, count: number): string =>
		[
			'name,latitude_deg,longitude_deg,ground_amsl_m',
			...Array.from(
				{ length: count },
				(_, i) => `${tag} ${i},${(-60 + i * 1e-3).toFixed(4)},${(30 + Math.random()).toFixed(6)},5`
			)
		].join('\n');
	const begin = (text: string, takeGood = false, id: string = randomUUID()): Promise<string> =>
		call(planner, 'POST', '/imports', {
			...{ id, subject: 'sites', format: 'csv', text, takeGood }
		}).then(({ status, text: said }) => {
			if (status !== 202) throw new Error(said);
			return id;
		});
	/** Counted page by page: more than a thousand are not counted by the list. */
	const there = async (tag: string): Promise<number> => {
		type Sites = { rows: { name: string }[]; next: string | null };
		const names = new Set<string>();
		let after = '';
		for (let page = 1; ; page++) {
			const { body } = await call<Sites>(planner, 'GET', `/sites?q=${tag}&page=${page}${after}`);
			for (const { name } of body.rows) names.add(name);
			if (body.next === null) return names.size;
			after = `&after=${encodeURIComponent(body.next)}`;
		}
	};
	const tagOf = (): string => `I${randomUUID().slice(0, 8)}`;
	type Import = Extract<Job, { kind: 'import' }>;

	it('writes every row once, also when it is begun twice, and says how many', async () => {
		runJobs({ import: importJob });
		const tag = tagOf();
		const text = lines(tag, 1234);
		const id = await begin(text);
		await begin(text, false, id);
		const job = (await ended(planner, id)) as Import;
		expect([job.status, job.total, job.result!.imported]).toEqual(['done', 1234, 1234]);
		expect(await there(tag)).toBe(1234);
		// Once more they are there already: each is named, a bounded number of them.
		const again = (await ended(planner, await begin(text))) as Import;
		expect([again.result!.imported, again.result!.bad]).toEqual([0, 1234]);
		expect(again.result!.rows).toHaveLength(200);
		expect(again.result!.rows[0]!.problems[0]!.message).toContain('already');
	});

	it('takes nothing where a row is bad, and the good ones where that is asked for', async () => {
		runJobs({ import: importJob });
		const tag = tagOf();
		const text = `${lines(tag, 3)}\n${tag} bad,91,2,5`;
		const look = (await ended(planner, await begin(text))) as Import;
		expect([look.status, look.result!.imported, look.result!.bad]).toEqual(['done', 0, 1]);
		expect(look.result!.rows.map((row) => row.line)).toEqual([5]);
		expect(await there(tag)).toBe(0);
		const good = (await ended(planner, await begin(text, true))) as Import;
		expect([good.result!.imported, await there(tag)]).toEqual([3, 3]);
	});

	it('takes nothing where it is stopped', async () => {
		const tag = tagOf();
		const id = await begin(lines(tag, 500));
		await call(planner, 'POST', `/jobs/${id}/cancel`);
		runJobs({ import: importJob });
		const job = (await ended(planner, id)) as Import;
		expect([job.status, job.result!.imported, await there(tag)]).toEqual(['cancelled', 0, 0]);
	});

	it('takes back what was written when it is stopped in the middle, or its lease is gone', async () => {
		const tag = tagOf();
		const text = lines(tag, 350);
		const input = { subject: 'sites', format: 'csv', text, takeGood: false } as const;
		const actor = { userId: planner.userId, displayName: 'P', role: 'planner' as const };
		const said: number[] = [];
		const context = {
			...{ actor, input, state: undefined, done: 0 },
			keep: ({ done }: { done: number }) => Promise.resolve(said.push(done) < 3)
		};
		const { inTransaction } = await import('$lib/server/db/transaction');
		const result = await importJob({
			...context,
			endWith: (work) =>
				inTransaction(async (unit) => {
					await work(unit);
				})
		});
		expect(said).toEqual([0, 100, 200]);
		expect([(result as Import['result'])!.imported, await there(tag)]).toEqual([0, 0]);
		await expect(
			importJob({
				...context,
				keep: () => Promise.resolve(true),
				endWith: (work) =>
					inTransaction(async (unit) => {
						await work(unit);
						throw new Error('another process has it by now');
					})
			})
		).rejects.toThrow('another process');
		expect(await there(tag)).toBe(0);
	});

	it('says in words what came in its way meanwhile, and takes nothing', async () => {
		const tag = tagOf();
		const actor = { userId: planner.userId, displayName: 'P', role: 'planner' as const };
		const clash = validate<Parameters<typeof createSite>[1]>(siteSchema, {
			...{ name: `${tag} 120`, latitudeDeg: -59.5, longitudeDeg: 12, groundAmslM: 1 }
		});
		const meddling: JobKind = (context) =>
			importJob({
				...(context as unknown as Parameters<typeof importJob>[0]),
				keep: async ({ done }) => {
					// Somebody adds one of the sites while the file is being taken in.
					if (done === 0) await createSite(actor, clash);
					return true;
				}
			});
		runJobs({ import: meddling });
		const job = await ended(planner, await begin(lines(tag, 200)));
		expect([job.status, job.result]).toEqual(['failed', null]);
		expect(job.trouble).toMatch(/name|site/i);
		expect(await there(tag)).toBe(1);
	});

	it('is one at a time for each person', async () => {
		const first = await begin(lines(tagOf(), 2));
		const second = await call(planner, 'POST', '/imports', {
			...{ id: randomUUID(), subject: 'sites', format: 'csv', text: lines(tagOf(), 2) }
		});
		expect([second.status, second.error.code]).toEqual([409, 'job-running']);
		runJobs({ import: importJob });
		await ended(planner, first);
		await ended(planner, await begin(lines(tagOf(), 2)));
	});
});

describe('a job', () => {
	const KIND = 'replan';
	const add = async (by = planner): Promise<string> => {
		const id = randomUUID();
		await insertJob(
			{ ...{ id, kind: KIND, input: '{"n":1}', total: 10 }, startedBy: by.userId },
			new Date()
		);
		return id;
	};
	/** A job as the table keeps it once it has ended: what these give is no answer of the API. */
	const endedRow = (id: string): Promise<Omit<JobRow, 'result'> & { result: unknown }> =>
		vi.waitFor(
			async () => {
				const row = (await findJob(id, planner.userId))!;
				if (row.status === 'running') throw new Error('still running');
				return { ...row, result: row.result ? (JSON.parse(row.result) as unknown) : null };
			},
			{ timeout: 20_000, interval: 50 }
		);
	type Context = JobContext<{ n: number }, { at: number }>;
	/** A kind of job that the test leads by the hand. */
	function led(): {
		kind: JobKind;
		begun: Promise<Context>;
		end: (result: object) => void;
	} {
		let end: (result: object) => void = () => undefined;
		let begin: (context: Context) => void = () => undefined;
		const begun = new Promise<Context>((go) => (begin = go));
		const result = new Promise<object>((go) => (end = go));
		const kind = (context: Context): Promise<object> => {
			begin(context);
			return result;
		};
		return { kind: kind, begun, end };
	}

	it('is taken up by one of many who reach for it at a time', async () => {
		const id = await add();
		const { world } = await anotherProcess();
		expect(world.call).not.toBe(call);
		const elsewhere = await import('$lib/server/repositories/jobs');
		expect(elsewhere.takeJob).not.toBe(takeJob);
		const reached = await Promise.all(
			Array.from({ length: 12 }, (_, i) =>
				(i % 2 ? takeJob : elsewhere.takeJob)(randomUUID(), 60, ['replan'])
			)
		);
		const got = reached.filter((job) => job !== undefined);
		expect(got.map((job) => job.id)).toEqual([id]);
		await endJob(got[0]!.holder!, { status: 'done', result: {} }, new Date());
	});

	it('is gone on with elsewhere when its process has died, and the dead one changes nothing more', async () => {
		const id = await add();
		const dead = randomUUID();
		await takeJob(dead, 0, ['replan']);
		await keepProgress(dead, { done: 4, total: 10, state: { at: 4 } }, new Date());
		const other = led();
		runJobs({ [KIND]: other.kind });
		const context = await other.begun;
		expect([context.input, context.state, context.done]).toEqual([{ n: 1 }, { at: 4 }, 4]);
		expect(await renewLease(dead, 60)).toEqual({ held: false, stop: false });
		await keepProgress(dead, { done: 1, total: 10, state: { at: 1 } }, new Date());
		expect(await endJob(dead, { status: 'failed', result: null }, new Date())).toBe(false);
		const row = await findJob(id, planner.userId);
		expect([row!.status, row!.done, row!.tries]).toEqual(['running', 4, 2]);
		other.end({ fine: true });
		const job = await endedRow(id);
		expect([job.status, job.result]).toEqual(['done', { fine: true }]);
	});

	it('is let go when its process ends in order, and another goes on at once', async () => {
		const id = await add();
		const here = led();
		runJobs({ [KIND]: here.kind });
		const context = await here.begun;
		expect(await context.keep({ done: 3, total: 12, state: { at: 3 } })).toBe(true);
		const { runner } = await anotherProcess();
		const leaving = stopJobs();
		await vi.waitFor(async () => expect((await findJob(id, planner.userId))!.holder).toBeNull());
		await expect(context.keep({ done: 4 })).rejects.toThrow();
		here.end({ late: true });
		await leaving;
		// A try that ended in order counts for none.
		expect((await findJob(id, planner.userId))!.tries).toBe(0);
		const there = led();
		runner.runJobs({ [KIND]: there.kind });
		expect((await there.begun).state).toEqual({ at: 3 });
		there.end({ by: 'the other' });
		const job = await endedRow(id);
		expect([job.status, job.total, job.result]).toEqual(['done', 12, { by: 'the other' }]);
	});

	it('writes what it writes and that it is done as one', async () => {
		const id = await add();
		const here = led();
		runJobs({ [KIND]: here.kind });
		const context = await here.begun;
		// Its lease has run out, and somebody else has it.
		const { change } = await import('$lib/server/db/sql');
		await change('UPDATE jobs SET leased_until = NOW(3) - INTERVAL 1 SECOND WHERE id = ?', [id]);
		const other = randomUUID();
		expect((await takeJob(other, 60, ['replan']))!.id).toBe(id);
		// An action that nothing else does.
		const lost = `lost-${randomUUID().slice(0, 8)}` as AuditAction;
		await expect(
			context.endWith(async (unit) => {
				await keepProgress(other, { done: 9, total: 10 }, new Date());
				await audit(null, lost, `job:${id}`, {}, unit);
				return { mine: true };
			})
		).rejects.toThrow();
		expect(await isAudited(lost)).toBe(false);
		expect((await findJob(id, planner.userId))!.result).toBeNull();
		here.end({});
		await endJob(other, { status: 'done', result: { theirs: true } }, new Date());
		expect((await endedRow(id)).result).toEqual({ theirs: true });
	});

	it('is left for later, not failed, where the database goes away under it', async () => {
		const id = await add();
		const gone = Object.assign(new Error('gone'), { name: 'SequelizeConnectionRefusedError' });
		let tried = 0;
		runJobs({
			[KIND]: () => {
				tried += 1;
				return Promise.reject(gone);
			}
		});
		await vi.waitFor(() => expect(tried).toBe(1));
		await stopJobs();
		const row = await findJob(id, planner.userId);
		expect([row!.status, row!.trouble]).toEqual(['running', null]);
		// Its lease runs out, and it is gone on with.
		const { change } = await import('$lib/server/db/sql');
		await change('UPDATE jobs SET leased_until = NOW(3) - INTERVAL 1 SECOND WHERE id = ?', [id]);
		const later = led();
		runJobs({ [KIND]: later.kind });
		await later.begun;
		later.end({ fine: true });
		expect((await endedRow(id)).status).toBe('done');
	});

	it('of a kind that this process does not know waits for one that does', async () => {
		const id = await add();
		expect(await takeJob(randomUUID(), 60, ['import'])).toBeUndefined();
		const known = led();
		runJobs({ [KIND]: known.kind });
		await known.begun;
		known.end({});
		expect((await endedRow(id)).status).toBe('done');
	});

	it('learns that it shall stop', async () => {
		const id = await add();
		const here = led();
		runJobs({ [KIND]: here.kind });
		const context = await here.begun;
		await requestCancel(id);
		expect(await context.keep({ done: 5, total: 10 })).toBe(false);
		// Said too soon after to be written by itself: it is told at the end.
		expect(await context.keep({ done: 6 })).toBe(false);
		here.end({ upTo: 6 });
		const job = await endedRow(id);
		expect([job.status, job.done, job.result]).toEqual(['cancelled', 6, { upTo: 6 }]);
	});

	it('fails in words when it throws, is left by dying processes again and again, or is of a blocked account', async () => {
		const thrown = await add();
		runJobs({ [KIND]: () => Promise.reject(new Error('secret detail')) });
		expect(await endedRow(thrown)).toMatchObject({
			status: 'failed',
			trouble: 'Something went wrong here.'
		});
		await stopJobs();
		const deadly = await add();
		for (let i = 0; i < 3; i++) await takeJob(randomUUID(), 0, ['replan']);
		const never = led();
		runJobs({ [KIND]: never.kind });
		expect((await endedRow(deadly)).trouble).toBe('It was broken off 3 times.');
		await stopJobs();
		const admin = await newCaller('administrator');
		const blocked = await newCaller('planner');
		const id = await add(blocked);
		await call(admin, 'PUT', `/people/${blocked.userId}/access`, { disabled: true });
		runJobs({ [KIND]: never.kind });
		await vi.waitFor(async () =>
			expect((await findJob(id, blocked.userId))!.trouble).toBe(
				'The account that began it is blocked.'
			)
		);
	});
});
