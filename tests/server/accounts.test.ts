import { describe, expect, it } from 'vitest';
import { QueryTypes } from 'sequelize';
import { hashPassword, passwordMatches } from '$lib/server/auth/passwords';
import { ATTEMPTS_PER_NAME } from '$lib/server/auth/signInLimit';
import { db } from '$lib/server/db/connection';
import { call, closingDb, newCaller, PASSWORD, type Answer } from './world';

closingDb();

describe('passwords', () => {
	it('are kept as salted scrypt that needs 128 MiB', async () => {
		const [first, second] = await Promise.all([hashPassword('sea salt'), hashPassword('sea salt')]);
		expect(first).not.toBe(second);
		expect(first.split('$').slice(0, 3)).toEqual(['scrypt', '17', '8']);
		expect(await passwordMatches('sea salt', first)).toBe(true);
		expect(await passwordMatches('sea salt ', first)).toBe(false);
		expect(await passwordMatches('x', 'plain')).toBe(false);
	});
});

describe('signing in', () => {
	it('gives a script a token that works, and keeps only its hash', async () => {
		const caller = await newCaller('technician');
		const answer = await call<{ token: string }>(undefined, 'POST', '/tokens', {
			signInName: caller.signInName.toUpperCase(),
			password: PASSWORD
		});
		expect(answer.status).toBe(201);
		const me = await call({ ...caller, token: answer.body.token }, 'GET', '/me');
		expect(me.body).toMatchObject({ userId: caller.userId, role: 'technician' });
		const kept = await db().query<{ token_hash: string }>('SELECT token_hash FROM sessions', {
			type: QueryTypes.SELECT
		});
		expect(kept.some((row) => row.token_hash.includes(answer.body.token))).toBe(false);
	});

	it('refuses a wrong password and an unknown name with the same words', async () => {
		const caller = await newCaller('planner');
		const wrong = await call(undefined, 'POST', '/tokens', {
			signInName: caller.signInName,
			password: 'wrong'
		});
		const unknown = await call(undefined, 'POST', '/tokens', {
			signInName: 'nobody-at-all',
			password: 'wrong'
		});
		expect([wrong.status, unknown.status]).toEqual([401, 401]);
		expect(wrong.error).toEqual(unknown.error);
	});

	it('pauses after too many attempts, even with the right password then', async () => {
		const caller = await newCaller('acceptor');
		const attempt = (password: string): Promise<Answer> =>
			call(undefined, 'POST', '/tokens', { signInName: caller.signInName, password });
		for (let i = 0; i < ATTEMPTS_PER_NAME; i++) expect((await attempt('wrong')).status).toBe(401);
		const refused = await attempt(PASSWORD);
		expect(refused.status).toBe(429);
		expect(refused.error.message).toContain('minute');
	});

	it('ends at once for a blocked account', async () => {
		const admin = await newCaller('administrator');
		const caller = await newCaller('technician');
		expect((await call(caller, 'GET', '/me')).status).toBe(200);
		await call(admin, 'PUT', `/people/${caller.userId}/access`, { disabled: true });
		expect((await call(caller, 'GET', '/me')).status).toBe(401);
		expect(
			(await call(admin, 'PUT', `/people/${admin.userId}/access`, { disabled: true })).status
		).toBe(409);
	});

	it('makes no account of a short password or a taken name', async () => {
		const admin = await newCaller('administrator');
		const account = {
			signInName: 'new-hand',
			displayName: 'New Hand',
			role: 'technician',
			password: 'short'
		};
		const short = await call(admin, 'POST', '/people', account);
		expect(short.status).toBe(422);
		expect(short.error.fields).toEqual([
			{ field: 'password', message: 'Password needs at least 12 characters.' }
		]);
		const sound = { ...account, password: PASSWORD };
		expect((await call(admin, 'POST', '/people', sound)).status).toBe(201);
		const again = await call(admin, 'POST', '/people', sound);
		expect(again.status).toBe(409);
		expect(again.error.fields[0]!.field).toBe('signInName');
	});
});
