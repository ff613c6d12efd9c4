import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { QueryTypes } from 'sequelize';
import { hashPassword, passwordMatches } from '$lib/server/auth/passwords';
import {
	ATTEMPTS_PER_ADDRESS,
	ATTEMPTS_PER_NAME,
	countAddressAttempt
} from '$lib/server/auth/signInLimit';
import { db } from '$lib/server/db/connection';
import { insertUser } from '$lib/server/repositories/users';
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

	it('does not count those that succeed: a whole office may sign in from one address', async () => {
		const caller = await newCaller('planner');
		const office = '127.0.0.78';
		for (let i = 0; i < ATTEMPTS_PER_ADDRESS - 1; i++) await countAddressAttempt(office);
		const attempt = async (password: string): Promise<number> => {
			const body = { signInName: caller.signInName, password };
			return (await call(undefined, 'POST', '/tokens', body, {}, office)).status;
		};
		for (let i = 0; i < 3; i++) expect(await attempt(PASSWORD)).toBe(201);
		expect(await attempt('wrong')).toBe(401);
		expect(await attempt(PASSWORD)).toBe(429);
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

describe('the list of people', () => {
	it('comes a page at a time by name, and finds by the name shown or the one to sign in with', async () => {
		const planner = await newCaller('planner');
		const admin = await newCaller('administrator');
		const word = `Zz${Date.now()}`;
		for (let i = 0; i < 23; i++) {
			await insertUser({
				id: randomUUID(),
				signInName: `paged-${word.toLowerCase()}-${i}`,
				displayName: `${word} ${String(i).padStart(2, '0')}`,
				role: 'technician',
				passwordHash: 'of nobody',
				disabled: false,
				createdAt: new Date()
			});
		}
		interface People {
			rows: { id: string; displayName: string; disabled: boolean }[];
			count: number;
			pages: number;
		}
		const asked = async (q: string, page = 1): Promise<People> =>
			(await call<People>(planner, 'GET', `/people?q=${q}&page=${page}`)).body;
		const first = await asked(word);
		expect(first).toMatchObject({ count: 23, pages: 2 });
		expect(first.rows).toHaveLength(20);
		expect(first.rows[0]!.displayName).toBe(`${word} 00`);
		const second = await asked(word, 2);
		expect(second.rows.map(({ displayName }) => displayName)).toEqual([
			`${word} 20`,
			`${word} 21`,
			`${word} 22`
		]);
		expect((await asked(`paged-${word.toLowerCase()}-22`)).rows[0]!.displayName).toBe(`${word} 22`);
		await call(admin, 'PUT', `/people/${first.rows[0]!.id}/access`, { disabled: true });
		expect((await asked(`${word} 00`)).rows[0]!.disabled).toBe(true);
		// A per cent sign finds a per cent sign.
		expect((await asked('%25')).count).toBe(0);
		expect((await call(planner, 'GET', '/people?page=0')).status).toBe(422);
	});
});
