import { randomUUID } from 'node:crypto';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Actor } from '$lib/server/auth/actor';
import { hasPasskeys } from '$lib/server/auth/passkey';
import type { Role } from '$lib/server/auth/roles';
import {
	addPasskey,
	offerPasskey,
	offerPasskeySignIn,
	removePasskey,
	signInByPasskey
} from '$lib/server/services/passkeys';
import { findActor } from '$lib/server/auth/sessions';
import { select } from '$lib/server/db/sql';
import { SoftAuthenticator, type Answering } from './softAuthenticator';
import { call, closingDb, newCaller, PASSWORD, type Caller } from './world';

closingDb();
afterEach(() => vi.useRealTimers());

const origin = 'https://links.example';
const from = { address: '127.0.0.9', origin };
const actorOf = (caller: Caller, role: Role = 'planner'): Actor => ({
	...{ userId: caller.userId, displayName: 'P', role }
});
const challengeOf = (offer: { options: object }): string =>
	(offer.options as { challenge: string }).challenge;

async function add(
	caller: Caller,
	device: SoftAuthenticator,
	how: Partial<Answering> = {},
	password = PASSWORD
): Promise<string[]> {
	const offer = await offerPasskey(actorOf(caller), origin);
	const response = device.make(challengeOf(offer), { origin, ...how });
	const request = { sealed: offer.sealed, response, name: 'Tablet', password };
	return (await addPasskey(actorOf(caller), request, from)).recoveryCodes;
}

async function signIn(device: SoftAuthenticator, how: Partial<Answering> = {}): Promise<string> {
	const offer = (await offerPasskeySignIn(origin))!;
	const response = device.answer(challengeOf(offer), { origin, ...how });
	return (await signInByPasskey({ sealed: offer.sealed, response }, from)).token;
}

interface Account {
	passkeys: { id: string; name: string; usedAt: string | null }[];
	secondFactor: { recoveryCodesLeft: number };
}
const account = async (caller: Caller): Promise<Account> =>
	(await call<Account>(caller, 'GET', '/me/account')).body;
const byPassword = (caller: Caller, code = ''): ReturnType<typeof call> =>
	call(undefined, 'POST', '/tokens', { signInName: caller.signInName, password: PASSWORD, code });
const refused = expect.objectContaining({ code: 'passkey-refused' }) as Error;
const unheld = expect.objectContaining({
	fields: [expect.objectContaining({ field: 'response' })]
}) as Error;

describe('a passkey', () => {
	it('signs in without a password, as its owner, and says when it was used', async () => {
		const caller = await newCaller('technician');
		const device = new SoftAuthenticator();
		expect(await add(caller, device)).toHaveLength(10);
		// Whatever was signed in before has ended: begin anew with a session of the passkey.
		const token = await signIn(device);
		expect(await findActor(token)).toMatchObject({ userId: caller.userId, role: 'technician' });
		const [kept] = (await account({ ...caller, token })).passkeys;
		expect(kept).toMatchObject({ name: 'Tablet' });
		expect(kept!.usedAt).not.toBeNull();
		const audited = await select<{ action: string; detail: string }>(
			'SELECT action, detail FROM audit_trail WHERE subject = ? ORDER BY id',
			[`user:${caller.userId}`]
		);
		expect(audited.map(({ action }) => action)).toEqual(
			expect.arrayContaining(['passkey-added', 'sign-in'])
		);
		expect(audited.at(-1)!.detail).toContain('passkey');
	});

	it('makes a password alone too little: a recovery code is asked for, each once', async () => {
		const caller = await newCaller('planner');
		const codes = await add(caller, new SoftAuthenticator());
		const bare = await byPassword(caller);
		expect([bare.status, bare.error.code]).toEqual([401, 'passkey-needed']);
		expect((await byPassword(caller, '123456')).error.code).toBe('code-wrong');
		expect((await byPassword(caller, codes[0])).status).toBe(201);
		expect((await byPassword(caller, codes[0])).error.code).toBe('code-wrong');
		// A second device brings no new codes: those that are written down stay.
		expect(await add(caller, new SoftAuthenticator())).toEqual([]);
		expect((await byPassword(caller, codes[1])).status).toBe(201);
	});

	it.each<[string, Partial<Answering>]>([
		['of another site', { origin: 'https://links.example.evil' }],
		['for another name', { rpId: 'example' }],
		['without finger, face or PIN', { verified: false }]
	])('is not taken %s, neither made nor used', async (_, how) => {
		const caller = await newCaller('planner');
		const device = new SoftAuthenticator();
		await expect(add(caller, device, how)).rejects.toEqual(unheld);
		await add(caller, device);
		await expect(signIn(device, how)).rejects.toEqual(refused);
		expect(await signIn(device)).toMatch(/^\S{20,}$/);
	});

	it('is answered once: who heard an answer gets nothing by it', async () => {
		const caller = await newCaller('planner');
		const device = new SoftAuthenticator();
		await add(caller, device);
		const offer = (await offerPasskeySignIn(origin))!;
		const answer = {
			sealed: offer.sealed,
			response: device.answer(challengeOf(offer), { origin })
		};
		const both = await Promise.allSettled([
			signInByPasskey(answer, from),
			signInByPasskey(answer, from)
		]);
		expect(both.map(({ status }) => status).toSorted()).toEqual(['fulfilled', 'rejected']);
		await expect(signInByPasskey(answer, from)).rejects.toEqual(refused);
	});

	it('that counts backwards is a copy, and is refused', async () => {
		const device = new SoftAuthenticator();
		await add(await newCaller('planner'), device, { count: 4 });
		expect(await signIn(device, { count: 9 })).toBeTruthy();
		await expect(signIn(device, { count: 9 })).rejects.toEqual(refused);
		expect(await signIn(device, { count: 10 })).toBeTruthy();
	});

	it('answers its own challenge only, and in time', async () => {
		const [caller, other] = [await newCaller('planner'), await newCaller('planner')];
		const device = new SoftAuthenticator();
		const offer = await offerPasskey(actorOf(other), origin);
		const request = {
			...{ sealed: offer.sealed, name: 'Tablet', password: PASSWORD },
			response: device.make(challengeOf(offer), { origin })
		};
		// Begun by somebody else.
		await expect(addPasskey(actorOf(caller), request, from)).rejects.toEqual(unheld);
		// Made for signing in, and the other way round.
		const signing = (await offerPasskeySignIn(origin))!;
		await expect(
			addPasskey(actorOf(other), { ...request, sealed: signing.sealed }, from)
		).rejects.toEqual(unheld);
		await add(caller, device);
		const late = (await offerPasskeySignIn(origin))!;
		const answer = { sealed: late.sealed, response: device.answer(challengeOf(late), { origin }) };
		const swapped = { sealed: signing.sealed, response: answer.response };
		await expect(signInByPasskey(swapped, from)).rejects.toEqual(refused);
		const forged = { ...answer, sealed: 'AAAA' };
		await expect(signInByPasskey(forged, from)).rejects.toMatchObject({ code: 'passkey-late' });
		vi.useFakeTimers({ toFake: ['Date'], now: Date.now() + 31 * 60_000 });
		await expect(signInByPasskey(answer, from)).rejects.toMatchObject({ code: 'passkey-late' });
	});

	it('needs the password of its owner, and is kept for one account only', async () => {
		const [caller, other] = [await newCaller('planner'), await newCaller('planner')];
		const device = new SoftAuthenticator();
		await expect(add(caller, device, {}, 'not mine at all')).rejects.toMatchObject({
			fields: [{ field: 'password', message: 'This is not your password.' }]
		});
		await add(caller, device);
		await expect(add(other, device)).rejects.toEqual(unheld);
	});

	it('of a blocked account, or taken away, lets nobody in', async () => {
		const admin = await newCaller('administrator');
		const caller = await newCaller('planner');
		const [first, second] = [new SoftAuthenticator(), new SoftAuthenticator()];
		await add(caller, first);
		await add(caller, second);
		await call(admin, 'PUT', `/people/${caller.userId}/access`, { disabled: true });
		await expect(signIn(first)).rejects.toEqual(refused);
		await call(admin, 'PUT', `/people/${caller.userId}/access`, { disabled: false });
		const token = await signIn(first);
		const [kept] = (await account({ ...caller, token })).passkeys;
		const taking = (password: string): Promise<void> =>
			removePasskey(actorOf(caller), { id: kept!.id, password }, from.address);
		await expect(taking('not mine at all')).rejects.toMatchObject({ code: 'invalid-input' });
		await taking(PASSWORD);
		await expect(signIn(first)).rejects.toEqual(refused);
		const left = await account({ ...caller, token: await signIn(second) });
		expect(left.passkeys).toHaveLength(1);
		expect(left.secondFactor.recoveryCodesLeft).toBe(10);
		// An administrator takes all of them away from who has lost the devices.
		await call(admin, 'POST', `/people/${caller.userId}/second-factor-removal`);
		await expect(signIn(second)).rejects.toEqual(refused);
		expect((await byPassword(caller)).status).toBe(201);
	});

	it('is what a role may ask for, and the last one then stays', async () => {
		const admin = await newCaller('administrator');
		const rule = (secondFactor: boolean): ReturnType<typeof call> =>
			call(admin, 'PUT', '/people/rules', { role: 'trainee', secondFactor });
		const caller = await newCaller('trainee');
		const device = new SoftAuthenticator();
		await rule(true);
		try {
			expect((await call(caller, 'GET', '/hops')).error.code).toBe('second-factor-due');
			await add(caller, device);
			const token = await signIn(device);
			expect((await call({ ...caller, token }, 'GET', '/hops')).status).toBe(200);
			const [kept] = (await account({ ...caller, token })).passkeys;
			const last = removePasskey(
				actorOf(caller, 'trainee'),
				{ id: kept!.id, password: PASSWORD },
				from.address
			);
			await expect(last).rejects.toMatchObject({ code: 'second-factor-asked' });
			expect(await signIn(device)).toBeTruthy();
		} finally {
			await rule(false);
		}
	});

	it('belongs to a name: a server opened by its number has none, and says so', async () => {
		expect(hasPasskeys('https://links.example')).toBe(true);
		expect(hasPasskeys('http://localhost:3000')).toBe(true);
		expect(hasPasskeys('http://127.0.0.1:3000')).toBe(false);
		expect(hasPasskeys('http://[::1]:3000')).toBe(false);
		expect(await offerPasskeySignIn('http://10.0.0.7')).toBeNull();
		const caller = await newCaller('planner');
		const offer = await call(caller, 'POST', '/me/passkeys/offer');
		expect([offer.status, offer.error.code]).toEqual([409, 'passkey-needs-name']);
		const gone = await call(caller, 'POST', `/me/passkeys/${randomUUID()}/removal`, {
			password: PASSWORD
		});
		expect(gone.status).toBe(404);
	});
});
