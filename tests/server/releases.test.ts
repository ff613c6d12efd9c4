import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { createReadStream, readdirSync } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import { afterAll, describe, expect, it } from 'vitest';
import { verifyDatabase } from '$lib/server/commands/verify';
import { closeDb } from '$lib/server/db/connection';
import { select } from '$lib/server/db/sql';
import { readiness } from '$lib/server/services/health';
import { findProgram } from '../../scripts/lib/mariadb.mjs';
import { migrate } from '../../scripts/lib/migrator.mjs';
import { grantRights } from '../../scripts/lib/rights.mjs';
import { call, closingDb, download, record, requireDescribed, type Caller } from './world';

closingDb();

const DEMO_PASSWORD = 'salt-wind-and-rope';
const FOLDER = 'tests/server/releases';
const home = process.env.SKIAXIS_DATABASE_URL!;
afterAll(() => {
	process.env.SKIAXIS_DATABASE_URL = home;
});

/** Reads a dump into a database as its owner would. */
async function load(dump: string, ownerUrl: string): Promise<void> {
	const { username, password, hostname, port, pathname } = new URL(ownerUrl);
	const client = spawn(
		findProgram('mariadb', 'mysql')!,
		[
			'--no-defaults',
			`--host=${hostname}`,
			`--port=${port}`,
			`--user=${username}`,
			pathname.slice(1)
		],
		{ env: { ...process.env, MYSQL_PWD: password }, stdio: ['pipe', 'inherit', 'inherit'] }
	);
	const ended = once(client, 'exit');
	await pipeline(createReadStream(dump), createGunzip(), client.stdin);
	expect((await ended)[0]).toBe(0);
}

async function signIn(name: string): Promise<Caller> {
	const { body, status, text } = await call<{ token: string }>(undefined, 'POST', '/tokens', {
		...{ signInName: name, password: DEMO_PASSWORD }
	});
	if (status !== 201) throw new Error(text);
	const caller = { token: body.token, userId: '', signInName: name };
	const me = await call<{ userId: string }>(caller, 'GET', '/me');
	return { ...caller, userId: me.body.userId };
}

interface Hop {
	id: string;
	name: string;
	signed: boolean;
	revision: number | null;
	records: number;
}

const dumps = readdirSync(FOLDER).filter((name) => name.endsWith('.sql.gz'));
const urls = JSON.parse(process.env.SKIAXIS_RELEASE_URLS!) as { url: string; ownerUrl: string }[];

describe.each(dumps.map((dump, i) => [dump, urls[i]!] as const))(
	'%s',
	(dump, { url, ownerUrl }) => {
		let hops: Hop[] = [];
		const text = (bytes: Uint8Array): string => new TextDecoder('latin1').decode(bytes.slice(0, 5));

		it('is brought up to date, and everything in it opens and prints', async () => {
			await load(`${FOLDER}/${dump}`, ownerUrl);
			expect((await migrate(ownerUrl)).length).toBeGreaterThan(0);
			await grantRights(ownerUrl, url);
			await closeDb();
			process.env.SKIAXIS_DATABASE_URL = url;
			expect(await readiness()).toMatchObject({ ready: true, rights: 'narrow' });
			const planner = await signIn('planner');
			hops = (await call<{ rows: Hop[] }>(planner, 'GET', '/hops')).body.rows;
			expect(hops.length).toBeGreaterThan(1);
			for (const hop of hops) {
				const open = async (path: string): Promise<void> => {
					const answer = await call(planner, 'GET', `/hops/${hop.id}${path}`);
					expect([hop.name, path, answer.status]).toEqual([hop.name, path, 200]);
				};
				await open('');
				await open('/review');
				await open('/records');
				await open('/revisions');
				await open('/acceptances');
				if (hop.revision !== null) await open('/plan');
				if (hop.records > 0) await open('/judgement');
				if (hop.signed) {
					expect(text(await download(planner, `/hops/${hop.id}/pack.pdf`))).toBe('%PDF-');
					await open('/as-built.json');
				}
				expect(text(await download(planner, `/hops/${hop.id}/archive.zip`)).slice(0, 2)).toBe('PK');
			}
		});

		it('is found by name and on the map, and its record holds', async () => {
			const planner = await signIn('planner');
			for (const hop of hops) {
				const q = encodeURIComponent(hop.name);
				const found = await call<{ rows: Hop[] }>(planner, 'GET', `/hops?q=${q}`);
				expect(found.body.rows.map(({ id }) => id)).toContain(hop.id);
			}
			const map = await call<{ siteCount: number }>(
				planner,
				'GET',
				'/map?west=-180&east=180&south=-90&north=90'
			);
			const [{ count } = { count: -1 }] = await select<{ count: number }>(
				'SELECT COUNT(*) AS count FROM sites'
			);
			expect(map.body.siteCount).toBe(count);
			const said: string[] = [];
			expect([await verifyDatabase((line) => said.push(line)), said]).toEqual([0, said]);
		});

		it('is worked on with: recorded, planned anew, issued', async () => {
			const crew = await signIn('crew-a');
			const planner = await signIn('planner');
			const open = hops.find(({ signed, revision }) => !signed && revision !== null)!;
			const stored = await call(crew, 'POST', `/hops/${open.id}/records`, {
				records: [record('A', 'note', { text: 'Found as it was left.' })]
			});
			expect([stored.status, stored.error]).toEqual([200, undefined]);
			const { body: hop } = await call<{ version: number }>(planner, 'GET', `/hops/${open.id}`);
			const review = await call<{ findings: { severity: string; code: string }[] }>(
				planner,
				'GET',
				`/hops/${open.id}/review`
			);
			expect(review.status).toBe(200);
			const issued = await call(planner, 'POST', `/hops/${open.id}/revisions`, {
				...{ id: randomUUID(), version: hop.version, note: 'Issued again after the upgrade.' }
			});
			// Issued, or told in words what keeps it: never a fault of ours.
			expect([201, 409, 422]).toContain(issued.status);
			requireDescribed('POST', `hops/${open.id}/revisions`, issued.status, issued.body);
		});
	}
);
