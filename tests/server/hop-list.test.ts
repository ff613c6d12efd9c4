import { randomUUID } from 'node:crypto';
import { beforeAll, describe, expect, it } from 'vitest';
import type { HopSummary } from '$lib/server/services/hops';
import type { Page } from '$lib/server/services/paging';
import { asOwner, call, closingDb, newCaller, newHop, newSite, type Caller } from './world';

closingDb();

let planner: Caller;
let crew: Caller;
beforeAll(async () => {
	planner = await newCaller('planner');
	crew = await newCaller('technician');
});

async function list(who: Caller, query = ''): Promise<Page<HopSummary>> {
	const answer = await call<Page<HopSummary>>(who, 'GET', `/hops${query}`);
	expect(answer.status).toBe(200);
	return answer.body;
}
const idsIn = async (who: Caller, query: string): Promise<string[]> =>
	(await list(who, query)).rows.map(({ id }) => id);

const snag = { snagId: randomUUID(), text: 'Label', owner: 'Ada', due: '2026-01-01', photoIds: [] };
const record = (
	hopId: string,
	kind: string,
	payload: object,
	who = crew
): ReturnType<typeof call> =>
	call(who, 'POST', `/hops/${hopId}/records`, {
		records: [{ id: randomUUID(), end: 'B', kind, payload, recordedAt: new Date().toISOString() }]
	});

describe('the list of hops', () => {
	it('says band, distance, who was there last and what has to be seen to', async () => {
		const hop = await newHop(planner, [crew]);
		const row = async (): Promise<HopSummary> =>
			(await list(crew)).rows.find(({ id }) => id === hop.id)!;
		const fresh = await row();
		expect(fresh).toMatchObject({ frequencyGhz: 26.2, last: null, trouble: [], archived: false });
		// The sites of a test stand 0.08° apart at 46° south (`newSite`): 6.1 to 6.3 km.
		expect(fresh.distanceKm).toBeGreaterThan(6);
		expect(fresh.distanceKm).toBeLessThan(6.5);

		expect((await record(hop.id, 'snag', snag)).status).toBe(200);
		expect(await row()).toMatchObject({
			last: { end: 'B' },
			trouble: ['1 snag open, 1 overdue'],
			records: 1
		});
		expect((await row()).last!.by).toContain('technician');
		expect(await idsIn(crew, '?standing=trouble')).toEqual([hop.id]);
		await record(hop.id, 'snag-closed', { snagId: snag.snagId, note: 'Put on.' });
		expect((await row()).trouble).toEqual([]);
		expect(await idsIn(crew, '?standing=trouble')).toEqual([]);
	});

	it('finds hops by how far they are, each under one of them', async () => {
		const own = await newCaller('planner');
		const draft = await newHop(own, [], { issue: false });
		const issued = await newHop(own);
		const field = await newHop(own, [own]);
		await record(field.id, 'crew-mode', { crews: 1 }, own);
		expect(await idsIn(own, '?standing=draft')).toEqual([draft.id]);
		expect(await idsIn(own, '?standing=issued')).toEqual([issued.id]);
		expect(await idsIn(own, '?standing=field')).toEqual([field.id]);
		expect(await idsIn(own, '?standing=accepted')).toEqual([]);
		expect(new Set(await idsIn(own, ''))).toEqual(new Set([draft.id, issued.id, field.id]));
		expect((await call(own, 'GET', '/hops?standing=elsewhere')).status).toBe(422);
	});

	it('goes by name as well, and from page to page without a gap in either order', async () => {
		const own = await newCaller('planner');
		const a = await newSite(own);
		const b = await newSite(own);
		const body = (await newHop(own, [], { issue: false })).body;
		const names = Array.from(
			{ length: 24 },
			(_, i) => `Row ${String((i * 7) % 24).padStart(2, '0')}`
		);
		const tag = randomUUID().slice(0, 6);
		for (const name of names) {
			const made = await call(own, 'POST', '/hops', {
				...body,
				...{ siteAId: a, siteBId: b, name: `${name} ${tag}` }
			});
			expect(made.status).toBe(201);
		}
		for (const sort of ['name', 'changed']) {
			const first = await list(own, `?q=${tag}&sort=${sort}`);
			const second = await list(
				own,
				`?q=${tag}&sort=${sort}&page=2&after=${encodeURIComponent(first.next!)}`
			);
			expect([first.rows.length, second.rows.length, second.next]).toEqual([20, 4, null]);
			const all = [...first.rows, ...second.rows].map(({ name }) => name);
			expect(new Set(all).size).toBe(24);
			if (sort === 'name') expect(all).toEqual(all.toSorted());
		}
	});
});

describe('a hop that is duplicated, put away or deleted', () => {
	it('is copied with its plan, and nothing that was issued or recorded', async () => {
		const hop = await newHop(planner, [crew]);
		const name = `Copy ${randomUUID().slice(0, 8)}`;
		const copy = await call<{ id: string; plan: object }>(planner, 'POST', `/hops/${hop.id}/copy`, {
			name
		});
		expect(copy.status).toBe(201);
		const of = async (id: string): Promise<{ plan: object; sites: object; practice: boolean }> =>
			(
				await call<{ plan: object; sites: object; practice: boolean }>(
					planner,
					'GET',
					`/hops/${id}`
				)
			).body;
		const { plan, sites, practice } = await of(hop.id);
		expect(await of(copy.body.id)).toMatchObject({ plan, sites, practice, name });
		expect(await idsIn(planner, `?q=${name.slice(5)}&standing=draft`)).toEqual([copy.body.id]);
		// A name that is taken is said at its field, and nothing is made.
		const again = await call(planner, 'POST', `/hops/${hop.id}/copy`, { name });
		expect([again.status, again.error.fields[0]?.field]).toEqual([409, 'name']);
		expect((await call(crew, 'POST', `/hops/${hop.id}/copy`, { name: 'Mine' })).status).toBe(403);
	});

	it('leaves the list when it is put away, and comes back', async () => {
		const own = await newCaller('planner');
		const hop = await newHop(own, [crew]);
		const put = (archived: boolean, who = own): Promise<{ status: number }> =>
			call(who, 'PUT', `/hops/${hop.id}/archived`, { archived });
		expect((await put(true, crew)).status).toBe(403);
		expect((await put(true)).status).toBe(204);
		expect((await put(true)).status).toBe(204);
		expect(await idsIn(own, '')).toEqual([]);
		expect(await idsIn(own, '?standing=issued')).toEqual([]);
		expect(await idsIn(own, '?standing=archived')).toEqual([hop.id]);
		// What is on its way from a tower still arrives.
		expect((await record(hop.id, 'crew-mode', { crews: 1 })).status).toBe(200);
		expect((await put(false)).status).toBe(204);
		expect(await idsIn(own, '')).toEqual([hop.id]);
	});

	it('is deleted only while nothing is issued; the site only while no hop stands there', async () => {
		const own = await newCaller('planner');
		const issued = await newHop(own);
		const refused = await call(own, 'DELETE', `/hops/${issued.id}`);
		expect([refused.status, refused.error.code]).toEqual([409, 'hop-has-history']);
		expect((await call(own, 'GET', `/hops/${issued.id}`)).status).toBe(200);

		const draft = await newHop(own, [crew], { issue: false });
		const { siteAId } = draft.body as { siteAId: string };
		const inUse = await call(own, 'DELETE', `/sites/${siteAId}`);
		expect([inUse.status, inUse.error.code]).toEqual([409, 'site-in-use']);
		expect(inUse.error.message).toContain('1 hop stands');
		expect((await call(crew, 'DELETE', `/hops/${draft.id}`)).status).toBe(403);
		expect((await call(own, 'DELETE', `/hops/${draft.id}`)).status).toBe(204);
		expect((await call(own, 'DELETE', `/hops/${draft.id}`)).status).toBe(404);
		expect((await call(crew, 'DELETE', `/sites/${siteAId}`)).status).toBe(403);
		expect((await call(own, 'DELETE', `/sites/${siteAId}`)).status).toBe(204);
		expect((await call(own, 'GET', `/sites/${siteAId}`)).status).toBe(404);
	});

	it('keeps the snags of feeds that are older than the column', async () => {
		const hop = await newHop(planner, [crew]);
		await record(hop.id, 'snag', { ...snag, snagId: randomUUID() });
		await asOwner('UPDATE hop_feeds SET open_snags = NULL WHERE hop_id = ?', [hop.id]);
		const row = (await list(crew, '')).rows.find(({ id }) => id === hop.id)!;
		expect(row.trouble).toEqual([]);
		const { up } = await import('../../migrations/0015-hop-list.mjs');
		const { Sequelize } = await import('sequelize');
		const owner = new Sequelize(process.env.SKIAXIS_OWNER_DATABASE_URL!, {
			dialect: 'mysql',
			logging: false
		});
		await up({ context: owner });
		await owner.close();
		const after = (await list(crew, '')).rows.find(({ id }) => id === hop.id)!;
		expect(after.trouble).toEqual(['1 snag open, 1 overdue']);
	});
});

describe('the audit trail', () => {
	interface Line {
		by: string | null;
		did: string;
		about: string | null;
		more: string | null;
	}
	it('tells administrators who did what to what, newest first, and nobody else', async () => {
		const boss = await newCaller('administrator');
		const own = await newCaller('planner');
		const hop = await newHop(own, [], { issue: false });
		const { name } = hop.body as { name: string };
		await call(own, 'DELETE', `/hops/${hop.id}`);
		await call(boss, 'PUT', `/people/${own.userId}/role`, { role: 'technician' });
		const asked = async (query: string): Promise<Page<Line>> =>
			(await call<Page<Line>>(boss, 'GET', `/audit?${query}`)).body;

		const mine = await asked(`q=${encodeURIComponent(own.signInName)}`);
		expect(mine.rows.map(({ did, about }) => [did, about]).slice(0, 2)).toEqual([
			['deleted the hop', name],
			['made the hop', name]
		]);
		const [role] = (await asked('action=change-role')).rows;
		expect(role).toMatchObject({ did: 'changed the role of', more: 'from planner to technician' });
		expect(role!.about).toContain('planner');
		await call(boss, 'DELETE', '/me/sessions');
		const [ended] = (await asked('action=end-sessions')).rows;
		expect(ended).toMatchObject({ did: 'ended sessions of their own', about: null });
		expect((await asked('q=nobody-of-this-name')).rows).toEqual([]);
		expect((await call(boss, 'GET', '/audit?action=fly')).status).toBe(422);
		expect((await call(planner, 'GET', '/audit')).status).toBe(403);
	});

	it('goes on from page to page without a gap', async () => {
		const boss = await newCaller('administrator');
		const own = await newCaller('planner');
		for (let i = 0; i < 23; i += 1) await newSite(own);
		const path = `/audit?q=${encodeURIComponent(own.signInName)}`;
		const first = (await call<Page<Line & { id: number }>>(boss, 'GET', path)).body;
		const second = (
			await call<Page<Line & { id: number }>>(boss, 'GET', `${path}&page=2&after=${first.next!}`)
		).body;
		const ids = [...first.rows, ...second.rows].map(({ id }) => id);
		expect([first.count, ids.length, second.next]).toEqual([23, 23, null]);
		expect(ids).toEqual([...new Set(ids)].toSorted((p, q) => q - p));
	});
});

describe('a hop that the acceptor sends back', () => {
	it('says so with the reason in the record and the list, and only an acceptor may', async () => {
		const acceptor = await newCaller('acceptor');
		const hop = await newHop(planner, [crew, acceptor]);
		const id = randomUUID();
		type Sent = { seq: number; repeated: boolean };
		const send = (
			who: Caller,
			reason = 'The cable is not labelled.'
		): ReturnType<typeof call<Sent>> =>
			call<Sent>(who, 'POST', `/hops/${hop.id}/sent-back`, { id, end: 'A', reason });
		expect((await send(crew)).status).toBe(403);
		expect((await record(hop.id, 'sent-back', { reason: 'Forged.' })).status).toBe(403);
		expect((await send(acceptor, ' ')).error.fields[0]).toMatchObject({ field: 'reason' });
		const first = await send(acceptor);
		expect([first.status, first.body.seq]).toEqual([200, 1]);
		// A repeat after a lost answer does nothing.
		expect((await send(acceptor)).body).toMatchObject({ seq: 1, repeated: true });
		const { records } = (
			await call<{ records: { kind: string; recordedBy: string }[] }>(
				crew,
				'GET',
				`/hops/${hop.id}/records`
			)
		).body;
		expect(records.map(({ kind }) => kind)).toEqual(['sent-back']);
		expect(records[0]!.recordedBy).toContain('acceptor');
		const row = (await list(crew, '?standing=trouble')).rows.find((one) => one.id === hop.id)!;
		expect(row.trouble).toEqual(['Sent back by the acceptor']);
	});
});
