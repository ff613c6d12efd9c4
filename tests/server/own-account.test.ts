import { randomUUID } from 'node:crypto';
import { Secret, TOTP } from 'otpauth';
import { QueryTypes } from 'sequelize';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { ATTEMPTS_PER_NAME } from '$lib/server/auth/signInLimit';
import { passwordTrouble } from '$lib/server/auth/passwordRules';
import type { Role } from '$lib/server/auth/roles';
import { dispatch } from '$lib/server/api/dispatch';
import { closeDb, db } from '$lib/server/db/connection';
import { loggedError } from '$lib/server/log';
import { MOST_STREAMS_PER_SESSION } from '$lib/server/services/openStreams';
import {
	call,
	closingDb,
	newCaller,
	newHop,
	PASSWORD,
	type Answer,
	type Caller,
	type TestHop
} from './world';

closingDb();
afterEach(() => vi.useRealTimers());

const signIn = (
	signInName: string,
	password: string,
	code?: string
): Promise<Answer<{ token: string }>> =>
	call(undefined, 'POST', '/tokens', {
		signInName,
		password,
		...(code === undefined ? {} : { code })
	});
const actionsOf = async (userId: string): Promise<string[]> =>
	(
		await db().query<{ action: string }>(
			'SELECT action FROM audit_trail WHERE subject = ? ORDER BY id',
			{ replacements: [`user:${userId}`], type: QueryTypes.SELECT }
		)
	).map(({ action }) => action);
const again = async (caller: Caller): Promise<Caller> => ({
	...caller,
	token: (await signIn(caller.signInName, PASSWORD)).body.token
});
const OTHER = 'gravel under the window';

describe('a new password', () => {
	it.each([
		['blanks', '              ', 'at least 12'],
		['blanks about something short', '   short one   ', 'at least 12'],
		['a common one', 'password1234', 'easily guessed'],
		['a walk over the keyboard', 'qwertyuiop123', 'easily guessed'],
		['one sign', 'aaaaaaaaaaaaaaaa', 'easily guessed'],
		['the name of its owner', 'bram.tolley99', 'easily guessed'],
		['the name of this program', 'skiaxisskiaxis', 'easily guessed']
	])('of %s is refused', (_, password, words) => {
		expect(passwordTrouble(password, ['bram.tolley', 'Bram Tolley'])).toContain(words);
	});

	it('of words that do not belong together is taken, however long', () => {
		expect(passwordTrouble(OTHER, ['bram'])).toBeUndefined();
		expect(passwordTrouble(OTHER.repeat(8), [])).toBeUndefined();
	});

	it('needs the present one, and ends every other session', async () => {
		const caller = await newCaller('technician');
		const elsewhere = await again(caller);
		const change = (current: string, password: string): Promise<Answer> =>
			call(caller, 'PUT', '/me/password', { current, password });
		expect((await change('not mine at all', OTHER)).error.fields).toEqual([
			{ field: 'current', message: 'This is not your password.' }
		]);
		const common = await change(PASSWORD, 'password1234');
		expect(common.error.fields.map(({ field }) => field)).toEqual(['password']);
		expect((await call(elsewhere, 'GET', '/me')).status).toBe(200);
		expect((await change(PASSWORD, OTHER)).status).toBe(204);
		expect((await call(caller, 'GET', '/me')).status).toBe(200);
		expect((await call(elsewhere, 'GET', '/me')).status).toBe(401);
		expect((await signIn(caller.signInName, PASSWORD)).status).toBe(401);
		expect((await signIn(caller.signInName, OTHER)).status).toBe(201);
	});

	it('cannot be tried out by whoever finds a tablet signed in; what is right counts for nothing', async () => {
		const caller = await newCaller('planner');
		const change = async (current: string): Promise<number> =>
			(await call(caller, 'PUT', '/me/password', { current, password: 'password1234' })).status;
		// Right, and refused for the new one: as often as one likes.
		for (let i = 0; i < ATTEMPTS_PER_NAME + 2; i++) expect(await change(PASSWORD)).toBe(422);
		for (let i = 0; i < ATTEMPTS_PER_NAME; i++) expect(await change('wrong')).toBe(422);
		expect(await change(PASSWORD)).toBe(429);
	});

	it('is set by a code of an administrator, once, within a day', async () => {
		const admin = await newCaller('administrator');
		const caller = await newCaller('planner');
		const offer = async (): Promise<string> =>
			(await call<{ code: string }>(admin, 'POST', `/people/${caller.userId}/password-reset`)).body
				.code;
		const set = (code: string, password = OTHER, signInName = caller.signInName): Promise<Answer> =>
			call(undefined, 'POST', '/password-resets', { signInName, code, password });
		const first = await offer();
		const code = await offer();
		expect(code).toMatch(/^(\w{4}-){3}\w{4}$/);
		// A newer code takes the place of the one before; a code is nobody else’s.
		for (const wrong of [await set(first), await set(code, OTHER, admin.signInName)]) {
			expect(wrong.error.fields.map(({ field }) => field)).toEqual(['code']);
		}
		expect((await set(code, 'password1234')).error.fields[0]!.field).toBe('password');
		const [one, other] = await Promise.all([
			set(code.toLowerCase().replaceAll('-', ' ')),
			set(code)
		]);
		expect([one.status, other.status].sort()).toEqual([204, 422]);
		expect((await call(caller, 'GET', '/me')).status).toBe(401);
		expect((await signIn(caller.signInName, OTHER)).status).toBe(201);

		const late = await offer();
		vi.useFakeTimers({ toFake: ['Date'], now: Date.now() + 25 * 3_600_000 });
		expect((await set(late)).status).toBe(422);
	});
});

describe('an account in the hands of administrators', () => {
	it('is signed out everywhere when it is blocked, and letting it in again revives nothing', async () => {
		const admin = await newCaller('administrator');
		const caller = await newCaller('technician');
		const setBlocked = (disabled: boolean): Promise<Answer> =>
			call(admin, 'PUT', `/people/${caller.userId}/access`, { disabled });
		expect((await setBlocked(true)).status).toBe(200);
		expect((await setBlocked(false)).status).toBe(200);
		expect((await call(caller, 'GET', '/me')).status).toBe(401);
		expect((await signIn(caller.signInName, PASSWORD)).status).toBe(201);
	});

	it('takes a role whose rights it has from the next sign-in', async () => {
		const admin = await newCaller('administrator');
		const caller = await newCaller('trainee');
		const changed = await call(admin, 'PUT', `/people/${caller.userId}/role`, { role: 'planner' });
		expect(changed.body).toMatchObject({ role: 'planner' });
		expect((await call(caller, 'GET', '/me')).status).toBe(401);
		expect((await call(await again(caller), 'GET', '/people')).status).toBe(200);
		const odd = await call(admin, 'PUT', `/people/${caller.userId}/role`, { role: 'owner' });
		expect(odd.error.fields[0]!.field).toBe('role');
	});

	it('leaves one administrator, also where two take each other’s rights at the same moment', async () => {
		const home = process.env.SKIAXIS_DATABASE_URL;
		await closeDb();
		process.env.SKIAXIS_DATABASE_URL = process.env.SKIAXIS_THIRD_DATABASE_URL!;
		try {
			await db().query("UPDATE users SET role = 'planner' WHERE role = 'administrator'");
			const setRole = (by: Caller, of: Caller, role: Role): Promise<Answer> =>
				call(by, 'PUT', `/people/${of.userId}/role`, { role });
			for (let i = 0; i < 4; i++) {
				const pair = [await newCaller('administrator'), await newCaller('administrator')] as const;
				const answers = await Promise.all([
					setRole(pair[0], pair[1], 'planner'),
					i % 2
						? setRole(pair[1], pair[0], 'planner')
						: call(pair[1], 'PUT', `/people/${pair[0].userId}/access`, { disabled: true })
				]);
				expect(answers.filter(({ status }) => status === 200)).toHaveLength(1);
				const left = await db().query(
					"SELECT id FROM users WHERE role = 'administrator' AND disabled = 0",
					{ type: QueryTypes.SELECT }
				);
				expect(left).toHaveLength(1);
				const [last] = pair.filter(({ userId }) => (left[0] as { id: string }).id === userId);
				const alone = await setRole(last!, last!, 'planner');
				expect([alone.status, alone.error.code]).toEqual([409, 'last-administrator']);
				await db().query("UPDATE users SET role = 'planner' WHERE role = 'administrator'");
			}
		} finally {
			await closeDb();
			process.env.SKIAXIS_DATABASE_URL = home;
		}
	});

	it('shows its own sessions, and ends one, the others, or all', async () => {
		const admin = await newCaller('administrator');
		const caller = await newCaller('planner');
		const [second, third] = [await again(caller), await again(caller)];
		interface Own {
			sessions: { id: string; current: boolean; kind: string }[];
		}
		const sessions = async (): Promise<Own['sessions']> =>
			(await call<Own>(caller, 'GET', '/me/account')).body.sessions;
		const before = await sessions();
		expect(before.map(({ current }) => current).filter(Boolean)).toHaveLength(1);
		expect(before).toHaveLength(3);
		const foreign = (await call<Own>(admin, 'GET', '/me/account')).body.sessions[0]!;
		expect((await call(caller, 'DELETE', `/me/sessions/${foreign.id}`)).status).toBe(404);
		const mine = (await call<Own>(second, 'GET', '/me/account')).body.sessions.find(
			({ current }) => current
		)!;
		expect((await call(caller, 'DELETE', `/me/sessions/${mine.id}`)).status).toBe(204);
		expect((await call(second, 'GET', '/me')).status).toBe(401);
		expect((await call(third, 'GET', '/me')).status).toBe(200);
		expect((await call(caller, 'DELETE', '/me/sessions')).status).toBe(204);
		expect((await call(third, 'GET', '/me')).status).toBe(401);
		expect(await sessions()).toHaveLength(1);
		await call(admin, 'POST', `/people/${caller.userId}/sign-out`);
		expect((await call(caller, 'GET', '/me')).status).toBe(401);
	});

	it('has its failed sign-ins written down; what was typed for a name that is nobody’s is not', async () => {
		const caller = await newCaller('planner');
		await signIn(caller.signInName, 'wrong');
		expect(await actionsOf(caller.userId)).toContain('sign-in-refused');
		await signIn('my secret pass phrase', 'wrong');
		const trail = await db().query<{ detail: object; user_id: null }>(
			"SELECT detail, user_id FROM audit_trail WHERE subject = 'user:unknown' ORDER BY id DESC LIMIT 1",
			{ type: QueryTypes.SELECT }
		);
		expect(trail[0]!.user_id).toBeNull();
		expect(JSON.stringify(trail)).not.toContain('secret');
	});
});

describe('a second factor', () => {
	const codeAt = (secret: string, at: number): string =>
		new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: at });
	const now = Date.UTC(2026, 10, 24, 8, 0, 10);
	const clock = (seconds = 0): number => {
		vi.useFakeTimers({ toFake: ['Date'], now: now + seconds * 1000 });
		return now + seconds * 1000;
	};
	async function withFactor(role: Role = 'planner'): Promise<{
		caller: Caller;
		secret: string;
		recovery: string[];
	}> {
		const at = clock();
		const caller = await newCaller(role);
		const offer = await call<{ secret: string; sealed: string; picture: string }>(
			caller,
			'POST',
			'/me/second-factor/offer'
		);
		expect(offer.body.picture).toMatch(/^data:image\/svg\+xml,%3Csvg/);
		const { secret, sealed } = offer.body;
		const on = await call<{ recoveryCodes: string[] }>(caller, 'PUT', '/me/second-factor', {
			sealed,
			code: codeAt(secret, at),
			password: PASSWORD
		});
		expect(on.status).toBe(200);
		return { caller, secret, recovery: on.body.recoveryCodes };
	}

	it('is asked for once it is on: a code each once, with a step to either side', async () => {
		const { caller, secret } = await withFactor();
		const bare = await signIn(caller.signInName, PASSWORD);
		expect([bare.status, bare.error.code]).toEqual([401, 'code-needed']);
		expect(bare.error.fields[0]!.field).toBe('code');
		// The code that turned it on was used.
		expect((await signIn(caller.signInName, PASSWORD, codeAt(secret, now))).error.code).toBe(
			'code-wrong'
		);
		const at = clock(60);
		const next = codeAt(secret, at);
		expect(
			(await signIn(caller.signInName, PASSWORD, ` ${next.slice(0, 3)} ${next.slice(3)}`)).status
		).toBe(201);
		expect((await signIn(caller.signInName, PASSWORD, next)).error.code).toBe('code-wrong');
		clock(90);
		expect((await signIn(caller.signInName, PASSWORD, codeAt(secret, now + 120_000))).status).toBe(
			201
		);
		clock(240);
		expect(
			(await signIn(caller.signInName, PASSWORD, codeAt(secret, now + 150_000))).error.code
		).toBe('code-wrong');
		// Without the password no code helps, and it is not told that there is one.
		expect(
			(await signIn(caller.signInName, 'wrong', codeAt(secret, now + 240_000))).error.code
		).toBe('sign-in-refused');
	});

	it('of two at once with one code lets one in', async () => {
		const { caller, secret } = await withFactor();
		const code = codeAt(secret, clock(60));
		const answers = await Promise.all(
			[1, 2, 3].map(() => signIn(caller.signInName, PASSWORD, code))
		);
		expect(answers.map(({ status }) => status).sort()).toEqual([201, 401, 401]);
	});

	it('lets in by a recovery code, each once', async () => {
		const { caller, recovery } = await withFactor();
		expect(new Set(recovery).size).toBe(10);
		const code = recovery[3]!;
		expect((await signIn(caller.signInName, PASSWORD, code.toLowerCase())).status).toBe(201);
		expect((await signIn(caller.signInName, PASSWORD, code)).error.code).toBe('code-wrong');
		const own = await call<{ secondFactor: object }>(caller, 'GET', '/me/account');
		expect(own.body.secondFactor).toEqual({ on: true, recoveryCodesLeft: 9, asked: false });
		expect(await actionsOf(caller.userId)).toContain('recovery-code-used');
	});

	it('cannot be tried out, from however many addresses', async () => {
		const { caller } = await withFactor();
		const codes: string[] = [];
		for (let i = 0; i < 12; i++) {
			const body = { signInName: caller.signInName, password: PASSWORD, code: String(100_000 + i) };
			codes.push((await call(undefined, 'POST', '/tokens', body, {}, `127.1.0.${i}`)).error.code);
		}
		expect(codes.slice(0, 10).every((code) => code === 'code-wrong')).toBe(true);
		expect(codes.slice(10)).toEqual(['too-many-attempts', 'too-many-attempts']);
	});

	it('is kept sealed, turned on by its owner alone and off with their password', async () => {
		const { caller, secret } = await withFactor();
		const rows = await db().query<{ sealed_secret: string }>('SELECT * FROM second_factors', {
			type: QueryTypes.SELECT
		});
		expect(JSON.stringify(rows)).not.toContain(secret);
		const other = await newCaller('planner');
		const offer = await call<{ secret: string; sealed: string }>(
			caller,
			'POST',
			'/me/second-factor/offer'
		);
		const stolen = await call(other, 'PUT', '/me/second-factor', {
			sealed: offer.body.sealed,
			code: codeAt(offer.body.secret, clock(60)),
			password: PASSWORD
		});
		expect(stolen.error.fields[0]!.message).toContain('Begin again');
		for (const sealed of ['x', 'x'.repeat(80)]) {
			const odd = await call(other, 'PUT', '/me/second-factor', {
				sealed,
				code: '1',
				password: PASSWORD
			});
			expect(odd.error.fields[0]!.field).toBe('code');
		}
		const off = (password: string): Promise<Answer> =>
			call(caller, 'POST', '/me/second-factor/removal', { password });
		expect((await off('wrong')).error.fields[0]!.field).toBe('password');
		expect((await off(PASSWORD)).status).toBe(204);
		expect((await off(PASSWORD)).status).toBe(404);
		expect((await signIn(caller.signInName, PASSWORD)).status).toBe(201);
	});

	it('asked of a role lets nobody of it do anything else until it is set up, nor turn it off', async () => {
		const admin = await newCaller('administrator');
		const before = await newCaller('acceptor');
		const rule = (secondFactor: boolean): Promise<Answer<{ secondFactorRoles: string[] }>> =>
			call(admin, 'PUT', '/people/rules', { role: 'acceptor', secondFactor });
		expect((await rule(true)).body.secondFactorRoles).toEqual(['acceptor']);
		try {
			const refused = await call(before, 'GET', '/hops');
			expect([refused.status, refused.error.code]).toEqual([403, 'second-factor-due']);
			expect((await call(before, 'GET', '/me/account')).body).toMatchObject({
				secondFactor: { on: false, asked: true }
			});
			const { caller } = await withFactor('acceptor');
			expect((await call(caller, 'GET', '/hops')).status).toBe(200);
			const off = await call(caller, 'POST', '/me/second-factor/removal', { password: PASSWORD });
			expect(off.error.code).toBe('second-factor-asked');
			// Lost: an administrator takes it away, and it is due again.
			await call(admin, 'POST', `/people/${caller.userId}/second-factor-removal`);
			expect((await call(caller, 'GET', '/hops')).status).toBe(401);
			expect((await call(await again(caller), 'GET', '/hops')).error.code).toBe(
				'second-factor-due'
			);
		} finally {
			await rule(false);
		}
		expect((await call(before, 'GET', '/hops')).status).toBe(200);
	});
});

describe('an open stream', () => {
	/** Follows a feed as a page does; `closed` once the server has ended it. */
	async function follow(
		caller: Caller,
		hop: TestHop
	): Promise<{ status: number; closed: Promise<void>; stop: () => void }> {
		const url = new URL(`http://127.0.0.1/api/v1/hops/${hop.id}/feed`);
		const response = await dispatch({
			request: new Request(url, { headers: { authorization: `Bearer ${caller.token}` } }),
			path: url.pathname.slice('/api/v1/'.length),
			url,
			sessionToken: undefined,
			address: '127.0.0.9'
		});
		const reader = response.status === 200 ? response.body?.getReader() : undefined;
		const reading = async (): Promise<void> => {
			while (reader && !(await reader.read()).done);
		};
		// Left as a page leaves it: the signal of a request may be forgotten with the request.
		return { status: response.status, closed: reading(), stop: () => void reader?.cancel() };
	}

	it('ends when its account is blocked, its session ended, or its hop taken from it', async () => {
		const admin = await newCaller('administrator');
		const planner = await newCaller('planner');
		const crews = [
			await newCaller('technician'),
			await newCaller('technician'),
			await newCaller('technician')
		] as const;
		const hop = await newHop(planner, [...crews]);
		const streams = await Promise.all(crews.map((crew) => follow(crew, hop)));
		const stays = await follow(planner, hop);
		await call(admin, 'PUT', `/people/${crews[0].userId}/access`, { disabled: true });
		await streams[0]!.closed;
		await call(crews[1], 'DELETE', '/me/sessions');
		await call(admin, 'POST', `/people/${crews[1].userId}/sign-out`);
		await streams[1]!.closed;
		await call(planner, 'PUT', `/hops/${hop.id}/members`, { memberIds: [planner.userId] });
		await streams[2]!.closed;
		let ended = false;
		void stays.closed.then(() => (ended = true));
		expect(ended).toBe(false);
		stays.stop();
		await stays.closed;
	});

	it('is one of a bounded number for a session', async () => {
		const planner = await newCaller('planner');
		const hop = await newHop(planner);
		const streams = [];
		for (let i = 0; i < MOST_STREAMS_PER_SESSION; i++) streams.push(await follow(planner, hop));
		expect(streams.every(({ status }) => status === 200)).toBe(true);
		expect((await follow(planner, hop)).status).toBe(429);
		expect((await follow(await again(planner), hop)).status).toBe(200);
		streams[0]!.stop();
		await streams[0]!.closed;
		const next = await follow(planner, hop);
		expect(next.status).toBe(200);
		for (const { stop } of [...streams, next]) stop();
	});
});

describe('the log', () => {
	it('keeps of a database’s error neither statement, parameters nor the values it quotes', async () => {
		const id = randomUUID();
		const hash = 'scrypt$17$8$1$salt$the-hash-of-somebody';
		const insert = (): Promise<unknown> =>
			db().query(
				`INSERT INTO users (id, sign_in_name, display_name, role, password_hash, created_at)
				VALUES (?, ?, 'x', 'planner', ?, NOW())`,
				{ replacements: [id, `log-${id}`, hash] }
			);
		await insert();
		const error = await insert().catch((reason: unknown) => reason);
		const kept = JSON.stringify(loggedError(error));
		expect(JSON.stringify(error)).toContain(hash);
		expect(kept).not.toContain(hash);
		expect(kept).not.toContain(id);
		expect(kept).toContain('ER_DUP_ENTRY');
		expect(kept).toMatch(/at .*own-account\.test/);
		expect(loggedError(new TypeError('odd'))).toMatchObject({ type: 'TypeError', message: 'odd' });
		expect(loggedError('text')).toEqual({ type: 'string' });
	});
});
