import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { QueryTypes, Sequelize } from 'sequelize';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ChainCheck, CHAIN_START, recordDigest } from '$lib/server/formats/recordChain';
import { migrate } from '../../scripts/lib/migrator.mjs';

/** A database as an earlier version left it, with two hops at work, one of them accepted. */
const url = process.env.SKIAXIS_EARLIER_DATABASE_URL!;
const FILES = {
	radio: 'radios',
	dish: 'dishes',
	mount: 'mounts',
	coupling: 'couplings',
	feeder: 'feeders',
	cable: 'cables'
};
type Row = Record<string, unknown>;
let db: Sequelize;
const rows = (sql: string, replacements: unknown[] = []): Promise<Row[]> =>
	db.query<Row>(sql, { replacements, type: QueryTypes.SELECT });
const insert = async (table: string, row: Record<string, unknown>): Promise<void> => {
	const columns = Object.keys(row);
	await db.query(
		`INSERT INTO ${table} (${columns.join(', ')}) VALUES (${columns.map(() => '?').join(', ')})`,
		{ replacements: Object.values(row) }
	);
};
const compiledIn = (file: string): { code: string; name: string }[] =>
	JSON.parse(readFileSync(`catalog/${file}.json`, 'utf8')) as { code: string; name: string }[];

const at = new Date('2026-05-01T08:00:00Z');
const user = randomUUID();
const [accepted, open] = [randomUUID(), randomUUID()];
const recordIds = Array.from({ length: 41 }, () => randomUUID());
const acceptance = {
	id: randomUUID(),
	hop_id: accepted,
	last_seq: 41,
	judgement: '{"verdict":"accepted"}',
	causes: '[]',
	signature: '{"name":"Acceptor"}',
	signed_by: user,
	signed_at: at
};

async function hopOf(id: string, name: string, siteIds: string[]): Promise<string> {
	const revision = randomUUID();
	await insert('hops', {
		id,
		name,
		site_a_id: siteIds[0],
		site_b_id: siteIds[1],
		plan_draft: '{}',
		created_by: user,
		created_at: at,
		updated_at: at
	});
	await insert('hop_feeds', { hop_id: id, last_seq: 41, ready_a: 1, ready_b: 1 });
	await insert('plan_revisions', {
		id: revision,
		hop_id: id,
		number: 1,
		input: '{}',
		plan: '{}',
		issued_by: user,
		issued_at: at
	});
	return revision;
}

beforeAll(async () => {
	db = new Sequelize(url, { dialect: 'mysql', logging: false });
	await insert('users', {
		id: user,
		sign_in_name: 'planner',
		display_name: 'Planner',
		role: 'planner',
		password_hash: 'none',
		created_at: at
	});
	const sites = [randomUUID(), randomUUID()];
	for (const [i, id] of sites.entries()) {
		await insert('sites', {
			id,
			name: `Site ${i}`,
			latitude_deg: 10 + i,
			longitude_deg: 10,
			ground_amsl_m: 50,
			created_by: user,
			created_at: at,
			updated_at: at
		});
	}
	const revision = await hopOf(accepted, 'Accepted', sites);
	await hopOf(open, 'At work', sites);
	await insert('acceptances', { ...acceptance, revision_id: revision });
	for (const [i, id] of recordIds.entries()) {
		await insert('field_records', {
			id,
			hop_id: accepted,
			seq: i + 1,
			revision_id: revision,
			end: i % 2 ? 'B' : 'A',
			kind: 'note',
			payload: `{"text": "Note ${i} – μ 😀", "z": ${i / 7}, "a": [1, null]}`,
			recorded_at: new Date(at.getTime() + i),
			received_at: at,
			recorded_by: user
		});
	}
	await insert('audit_trail', {
		at: new Date('2026-06-01T08:00:00Z'),
		user_id: user,
		action: 'import-hop',
		subject: `hop:${accepted}`,
		detail: '{"records":41,"photos":2}'
	});
	expect(await migrate(url)).toContain('0005-visits-and-parts');
});
afterAll(() => db.close());

describe('an installation of an earlier version', () => {
	it.each(Object.entries(FILES))('keeps every %s it planned with', async (kind, file) => {
		const kept = await rows('SELECT code, name, version, data FROM parts WHERE kind = ?', [kind]);
		const before = compiledIn(file);
		expect(before.length).toBeGreaterThan(0);
		expect(kept.map(({ code }) => code).sort()).toEqual(before.map(({ code }) => code).sort());
		for (const part of before) {
			const row = kept.find(({ code }) => code === part.code)!;
			expect([row.name, row.version]).toEqual([part.name, 1]);
			expect(row.data).toEqual(part);
		}
	});

	it('has a first version of each, that nothing changes any more', async () => {
		const without = await rows(
			`SELECT p.code FROM parts p LEFT JOIN part_versions v
			ON v.part_id = p.id AND v.version = 1 AND v.data = p.data WHERE v.part_id IS NULL`
		);
		expect(without).toEqual([]);
		await expect(db.query("UPDATE part_versions SET note = 'other'")).rejects.toThrow(
			'append-only'
		);
		await expect(db.query('DELETE FROM part_versions')).rejects.toThrow('append-only');
	});

	it('keeps what was signed as the first acceptance, and takes a second one', async () => {
		const [kept] = await rows('SELECT * FROM acceptances WHERE hop_id = ?', [accepted]);
		expect(kept).toMatchObject({
			...acceptance,
			judgement: { verdict: 'accepted' },
			causes: [],
			signature: { name: 'Acceptor' },
			number: 1
		});
		const again = { ...acceptance, id: randomUUID(), revision_id: kept!.revision_id };
		await expect(insert('acceptances', { ...again, number: 1 })).rejects.toThrow();
		await insert('acceptances', { ...again, number: 2 });
	});

	it('lets no dish of an accepted hop move before its state is entered again', async () => {
		const ready = async (id: string): Promise<unknown> =>
			(await rows('SELECT ready_a, ready_b, open_visit FROM hop_feeds WHERE hop_id = ?', [id]))[0];
		expect(await ready(accepted)).toEqual({ ready_a: 0, ready_b: 0, open_visit: null });
		expect(await ready(open)).toEqual({ ready_a: 1, ready_b: 1, open_visit: null });
	});

	it('gets the chain of its record, as it is checked from then on, and nothing else is touched', async () => {
		const records = await rows('SELECT * FROM field_records WHERE hop_id = ? ORDER BY seq', [
			accepted
		]);
		expect(records.map(({ id }) => id)).toEqual(recordIds);
		const chain = new ChainCheck(recordDigest);
		for (const row of records) {
			chain.add(
				{
					hopId: accepted,
					id: String(row.id),
					seq: Number(row.seq),
					revisionId: String(row.revision_id),
					end: String(row.end),
					kind: String(row.kind),
					payload: row.payload,
					recordedAt: (row.recorded_at as Date).toISOString(),
					receivedAt: (row.received_at as Date).toISOString(),
					recordedBy: String(row.recorded_by)
				},
				row.digest as string
			);
		}
		expect(chain.brokenAt).toBeUndefined();
		const feeds = await rows('SELECT hop_id, digest FROM hop_feeds ORDER BY hop_id');
		expect(new Map(feeds.map(({ hop_id, digest }) => [hop_id, digest]))).toEqual(
			new Map([
				[accepted, chain.digest],
				[open, CHAIN_START]
			])
		);
		await expect(db.query('UPDATE field_records SET digest = NULL')).rejects.toThrow('append-only');
	});

	it('marks the hops that it had taken in from elsewhere', async () => {
		expect(await rows('SELECT * FROM hop_imports')).toMatchObject([
			{
				hop_id: accepted,
				imported_by: user,
				source_key: null,
				last_seq: 41,
				revisions: 1,
				acceptances: 1,
				photos: 2
			}
		]);
	});

	it('has nothing left to do when it starts again', async () => {
		const count = async (): Promise<unknown> => (await rows('SELECT COUNT(*) AS n FROM parts'))[0];
		const before = await count();
		expect(await migrate(url)).toEqual([]);
		expect(await count()).toEqual(before);
	});
});

describe('a new installation', () => {
	it('begins with no parts', async () => {
		const fresh = new Sequelize(process.env.SKIAXIS_EMPTY_DATABASE_URL!, {
			dialect: 'mysql',
			logging: false
		});
		try {
			expect(
				await fresh.query('SELECT code FROM parts WHERE updated_by IS NULL', {
					type: QueryTypes.SELECT
				})
			).toEqual([]);
		} finally {
			await fresh.close();
		}
	});
});

describe('a migration that was broken off', () => {
	const url = process.env.SKIAXIS_BROKEN_DATABASE_URL!;
	const names = ['0001-first-schema', '0002-planning-office', '0003-planted-fault', '0004-photos'];

	it.each([...names, undefined])('goes on from where it stood: %s', async (upTo) => {
		const broken = new Sequelize(url, { dialect: 'mysql', logging: false });
		try {
			await migrate(url, upTo);
			// It was killed after its last statement and before it was noted as done.
			await broken.query('DELETE FROM migrations ORDER BY name DESC LIMIT 1');
			const again = await migrate(url, upTo);
			expect(again).toHaveLength(1);
			// And one that was killed amid its statements: everything up to it stands already.
			await broken.query('DELETE FROM migrations');
			expect((await migrate(url, upTo)).length).toBeGreaterThan(0);
			const triggers = await broken.query<{ name: string }>(
				'SELECT TRIGGER_NAME AS name FROM information_schema.TRIGGERS WHERE TRIGGER_SCHEMA = DATABASE()',
				{ type: QueryTypes.SELECT }
			);
			expect(triggers.map(({ name }) => name)).toContain('field_records_no_delete');
		} finally {
			await broken.close();
		}
	});
});
