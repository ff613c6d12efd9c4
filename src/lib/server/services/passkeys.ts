import { randomUUID } from 'node:crypto';
import type { PublicKeyCredentialRequestOptionsJSON } from '@simplewebauthn/server';
import type { Actor } from '../auth/actor';
import { codeHash, newCode, RECOVERY_CODES } from '../auth/oneTimeCode';
import {
	credentialHash,
	hasPasskeys,
	newPublicPart,
	offerToAdd,
	offerToSignIn,
	openChallenge,
	useCountAnswered,
	type AuthenticationResponseJSON,
	type Challenge,
	type Offer,
	type RegistrationResponseJSON
} from '../auth/passkey';
import { openSession } from '../auth/sessions';
import { rewardAddress } from '../auth/signInLimit';
import { unlessTaken } from '../db/taken';
import { inTransaction, type Unit } from '../db/transaction';
import { invalid, notFound, refusal } from '../errors';
import { audit } from '../repositories/audit';
import {
	findSecondFactor,
	insertPasskey,
	lockPasskey,
	notePasskeyUse,
	passkeysOf,
	removePasskey as removePasskeyRow,
	removeRecoveryCodes,
	rolesWithSecondFactor,
	takeChallenge,
	writeRecoveryCodes
} from '../repositories/credentials';
import { endSessionsOf } from '../repositories/sessions';
import { findUser } from '../repositories/users';
import { requireOwnPassword } from './ownAccount';

export type { AuthenticationResponseJSON, RegistrationResponseJSON };

/** More passkeys than this nobody has devices for. */
const MOST_PASSKEYS = 20;

/** What a device is asked to make a passkey with (`options`, as WebAuthn has them), and what is sent back with its answer. */
export interface PasskeyOffer {
	options: object;
	sealed: string;
}

/** What a device is asked to make a passkey with. */
export async function offerPasskey(actor: Actor, origin: string): Promise<PasskeyOffer> {
	if (!hasPasskeys(origin)) throw refusal('passkey-needs-name');
	const user = await findUser(actor.userId);
	if (!user) throw notFound('person');
	const present = await passkeysOf(actor.userId);
	if (present.length >= MOST_PASSKEYS) throw refusal('too-many-passkeys', MOST_PASSKEYS);
	return offerToAdd(
		user,
		present.map(({ credentialId }) => credentialId),
		origin,
		new Date()
	);
}

/**
 * Keeps a passkey that a device made; every other session and token of theirs ends. Where no second
 * factor was there before, gives recovery codes, shown this once.
 */
export async function addPasskey(
	actor: Actor,
	request: { sealed: string; response: RegistrationResponseJSON; name: string; password: string },
	{ address, origin }: { address: string; origin: string }
): Promise<{ recoveryCodes: string[] }> {
	await requireOwnPassword(actor, request.password, address, 'password');
	const at = new Date();
	const challenge = openChallenge(request.sealed, { add: actor.userId }, at);
	if (!challenge) throw atResponse('Begin again: this was begun elsewhere, or too long ago.');
	const made = await newPublicPart(request.response, challenge.text, origin);
	if (!made) throw atResponse('The answer of this device does not hold. Begin again.');
	const row = {
		...{ id: randomUUID(), userId: actor.userId, name: request.name, ...made },
		...{ credentialHash: credentialHash(made.credentialId), madeAt: at, usedAt: null }
	};
	return unlessTaken(
		() =>
			inTransaction(async (unit) => {
				await requireUnanswered(challenge, unit);
				const codes = (await hasFactor(actor.userId, unit))
					? []
					: Array.from({ length: RECOVERY_CODES }, newCode);
				await insertPasskey(row, unit);
				await writeRecoveryCodes(actor.userId, codes.map(codeHash), unit);
				await endSessionsOf(actor.userId, actor.sessionId ?? null, unit);
				await audit(
					actor.userId,
					'passkey-added',
					`user:${actor.userId}`,
					{ name: row.name },
					unit
				);
				return { recoveryCodes: codes };
			}),
		() => {
			throw atResponse('This passkey is kept already.');
		}
	);
}

const atResponse = (message: string): Error => invalid([{ field: 'response', message }]);

async function hasFactor(userId: string, unit: Unit): Promise<boolean> {
	return (
		(await findSecondFactor(userId, { unit })) !== undefined ||
		(await passkeysOf(userId, unit)).length > 0
	);
}

/** Each challenge is answered once, whoever heard the answer. */
async function requireUnanswered(challenge: Challenge, unit: Unit): Promise<void> {
	if (!(await takeChallenge(challenge.hash, challenge.expiresAt, unit))) {
		throw refusal('passkey-refused').at('passkey');
	}
}

/** Takes one of one's own passkeys away, unless it is the last factor and the role asks for one. */
export async function removePasskey(
	actor: Actor,
	request: { id: string; password: string },
	address: string
): Promise<void> {
	await requireOwnPassword(actor, request.password, address, 'password');
	const user = await findUser(actor.userId);
	const asked = user !== undefined && (await rolesWithSecondFactor()).includes(user.role);
	await inTransaction(async (unit) => {
		if (!(await removePasskeyRow(actor.userId, request.id, unit))) throw notFound('passkey');
		if (!(await hasFactor(actor.userId, unit))) {
			if (asked) throw refusal('second-factor-asked');
			await removeRecoveryCodes(actor.userId, unit);
		}
		await audit(actor.userId, 'passkey-removed', `user:${actor.userId}`, {}, unit);
	});
}

/** What a device is asked to sign in with; null where this server's address cannot have passkeys. */
export async function offerPasskeySignIn(
	origin: string
): Promise<Offer<PublicKeyCredentialRequestOptionsJSON> | null> {
	return hasPasskeys(origin) ? offerToSignIn(origin, new Date()) : null;
}

/**
 * Signs in by a passkey alone: the device has asked for finger, face or PIN, so that it is two factors. The
 * same refusal whatever is wrong. The attempt of the address is counted before, where the request comes in.
 */
export async function signInByPasskey(
	request: { sealed: string; response: AuthenticationResponseJSON },
	{ address, origin }: { address: string; origin: string }
): Promise<{ token: string; expiresAt: Date }> {
	const challenge = openChallenge(request.sealed, 'sign-in', new Date());
	if (!challenge) throw refusal('passkey-late').at('passkey');
	const userId = await inTransaction(async (unit) => {
		const passkey = await lockPasskey(credentialHash(request.response.id), unit);
		if (!passkey) return undefined;
		const useCount = await useCountAnswered(request.response, challenge.text, origin, passkey);
		const user = await findUser(passkey.userId);
		if (useCount === undefined || !user || user.disabled) return undefined;
		await requireUnanswered(challenge, unit);
		await notePasskeyUse(passkey.id, useCount, new Date(), unit);
		return user.id;
	});
	if (userId === undefined) {
		const detail = { kind: 'browser', address, at: 'passkey' };
		await audit(null, 'sign-in-refused', 'user:unknown', detail);
		throw refusal('passkey-refused').at('passkey');
	}
	await rewardAddress(address);
	const session = await openSession(userId, 'browser');
	await audit(userId, 'sign-in', `user:${userId}`, { kind: 'browser', by: 'passkey' });
	return session;
}
