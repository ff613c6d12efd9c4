import { execFile, spawn } from 'node:child_process';
import { once } from 'node:events';
import { createReadStream } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, expect, it } from 'vitest';
import { closeDb, db } from '$lib/server/db/connection';
import { verifyDatabase } from '$lib/server/commands/verify';
import { readiness } from '$lib/server/services/health';
import { findProgram } from '../../scripts/lib/mariadb.mjs';
import { migrate } from '../../scripts/lib/migrator.mjs';
import { grantRights } from '../../scripts/lib/rights.mjs';
import { finish, signAll } from './accepted';
import { call, closingDb, newCaller, newHop, PASSWORD } from './world';

closingDb();

/** How a client of the database is told where it is, without the password among its arguments. */
function reach(url: string): { options: string[]; name: string; env: NodeJS.ProcessEnv } {
	const { username, password, hostname, port, pathname } = new URL(url);
	return {
		options: ['--no-defaults', `--host=${hostname}`, `--port=${port}`, `--user=${username}`],
		name: pathname.slice(1),
		env: { ...process.env, MYSQL_PWD: password }
	};
}

const home = process.env.SKIAXIS_DATABASE_URL!;
let folder: string | undefined;
afterAll(async () => {
	if (folder) await rm(folder, { recursive: true });
	process.env.SKIAXIS_DATABASE_URL = home;
});

it('a backup by the documented commands comes up on another database, whole, frozen and at work', async () => {
	const planner = await newCaller('planner');
	const crew = await newCaller('technician');
	const acceptor = await newCaller('acceptor');
	const hop = await newHop(planner, [crew, acceptor]);
	expect((await signAll(acceptor, hop, await finish(crew, hop))).status).toBe(201);
	const before = await call(acceptor, 'GET', `/hops/${hop.id}/acceptances`);

	folder = await mkdtemp(join(tmpdir(), 'skiaxis-backup-'));
	const file = join(folder, 'skiaxis.sql');
	const from = reach(process.env.SKIAXIS_OWNER_DATABASE_URL!);
	await promisify(execFile)(
		findProgram('mariadb-dump', 'mysqldump')!,
		[
			...from.options,
			'--single-transaction',
			'--routines',
			'--triggers',
			'--hex-blob',
			'--no-tablespaces',
			`--result-file=${file}`,
			from.name
		],
		{ env: from.env }
	);
	const ownerUrl = process.env.SKIAXIS_RESTORED_OWNER_URL!;
	const to = reach(ownerUrl);
	const client = spawn(findProgram('mariadb', 'mysql')!, [...to.options, to.name], {
		env: to.env,
		stdio: ['pipe', 'ignore', 'inherit']
	});
	createReadStream(file).pipe(client.stdin);
	const [code] = (await once(client, 'exit')) as [number];
	expect(code).toBe(0);
	expect(await migrate(ownerUrl)).toEqual([]);
	const { granted } = await grantRights(ownerUrl, process.env.SKIAXIS_RESTORED_URL!);
	expect(granted).toBe(true);

	await closeDb();
	process.env.SKIAXIS_DATABASE_URL = process.env.SKIAXIS_RESTORED_URL!;
	expect(await readiness()).toEqual({
		ready: true,
		database: 'up',
		migrations: 'complete',
		frozen: 'guarded',
		rights: 'narrow'
	});
	expect(await verifyDatabase(() => undefined)).toBe(0);
	expect((await call(acceptor, 'GET', `/hops/${hop.id}/acceptances`)).body).toEqual(before.body);
	await expect(db().query('DELETE FROM acceptances')).rejects.toThrow('command denied');
	const signedIn = await call(undefined, 'POST', '/tokens', {
		signInName: crew.signInName,
		password: PASSWORD
	});
	expect(signedIn.status).toBe(201);
	expect((await call(planner, 'GET', `/hops/${hop.id}/archive.zip`)).status).toBe(200);
}, 60_000);
