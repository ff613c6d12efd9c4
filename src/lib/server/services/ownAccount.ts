import QRCode from 'qrcode';
import type { Actor } from '../auth/actor';
import {
	codeHash,
	newCode,
	newSecret,
	RECOVERY_CODES,
	seal,
	stepOfCode,
	unseal
} from '../auth/oneTimeCode';
import { hashPassword, passwordMatches } from '../auth/passwords';
import { inTransaction, type Unit } from '../db/transaction';
import { invalid, notFound, refusal } from '../errors';
import { inWorker } from '../jobs/pool';
import { audit } from '../repositories/audit';
import {
	countRecoveryCodes,
	findSecondFactor,
	noteStep,
	passkeysOf,
	removeRecoveryCodes,
	removeSecondFactor,
	rolesWithSecondFactor,
	useRecoveryCode,
	writeSecondFactor
} from '../repositories/credentials';
import { endSessionOf, endSessionsOf, sessionsOf } from '../repositories/sessions';
import { findUser, updatePassword } from '../repositories/users';
import {
	clearCodeAttempts,
	clearNameAttempts,
	countCodeAttempt,
	countNameAttempt
} from '../auth/signInLimit';

/** A session or token of somebody, without what opens it. */
export interface OwnSession {
	id: string;
	kind: 'browser' | 'script';
	createdAt: string;
	expiresAt: string;
	/** Whether it is the one that asks. */
	current: boolean;
}

/** What somebody sees of their own account. */
export interface OwnAccount {
	signInName: string;
	displayName: string;
	role: string;
	sessions: OwnSession[];
	secondFactor: {
		/** Whether an authenticator is set up. */
		on: boolean;
		recoveryCodesLeft: number;
		/** Whether the role asks for one. */
		asked: boolean;
	};
	passkeys: { id: string; name: string; madeAt: string; usedAt: string | null }[];
}

export async function viewOwnAccount(actor: Actor): Promise<OwnAccount> {
	const user = await userOf(actor);
	const sessions = await sessionsOf(actor.userId, new Date());
	return {
		signInName: user.signInName,
		displayName: user.displayName,
		role: user.role,
		sessions: sessions.map(({ id, kind, createdAt, expiresAt }) => ({
			id,
			kind,
			createdAt: createdAt.toISOString(),
			expiresAt: expiresAt.toISOString(),
			current: id === actor.sessionId
		})),
		secondFactor: {
			on: (await findSecondFactor(actor.userId)) !== undefined,
			recoveryCodesLeft: await countRecoveryCodes(actor.userId),
			asked: (await rolesWithSecondFactor()).includes(user.role)
		},
		passkeys: (await passkeysOf(actor.userId)).map(({ id, name, madeAt, usedAt }) => ({
			...{ id, name, madeAt: madeAt.toISOString() },
			usedAt: usedAt?.toISOString() ?? null
		}))
	};
}

async function userOf(actor: Actor): Promise<NonNullable<Awaited<ReturnType<typeof findUser>>>> {
	const user = await findUser(actor.userId);
	if (!user) throw notFound('person');
	return user;
}

/** Refuses a password that is short, blank, common, or made of its owner's names. */
export async function requireGoodPassword(
	password: string,
	own: readonly string[],
	field = 'password'
): Promise<void> {
	const trouble = await inWorker('password-trouble', { password, own: [...own] });
	if (trouble !== null) throw invalid([{ field, message: trouble }]);
}

/** Whoever holds a tablet that somebody left signed in shall not change what lets them in. */
export async function requireOwnPassword(
	actor: Actor,
	password: string,
	address: string,
	field: string
): Promise<void> {
	const user = await userOf(actor);
	await countNameAttempt(user.signInName, address);
	if (!(await passwordMatches(password, user.passwordHash))) {
		throw invalid([{ field, message: 'This is not your password.' }]);
	}
	await clearNameAttempts(user.signInName, address);
}

/** Sets a new password; every other session and token of theirs ends. */
export async function changePassword(
	actor: Actor,
	{ current, password }: { current: string; password: string },
	address: string
): Promise<void> {
	await requireOwnPassword(actor, current, address, 'current');
	const { signInName, displayName } = await userOf(actor);
	await requireGoodPassword(password, [signInName, displayName]);
	const passwordHash = await hashPassword(password);
	await inTransaction(async (unit) => {
		await updatePassword(actor.userId, passwordHash, unit);
		await endSessionsOf(actor.userId, actor.sessionId ?? null, unit);
		await audit(actor.userId, 'change-password', `user:${actor.userId}`, {}, unit);
	});
}

/** Ends one of one's own sessions; without an id all but the one that asks. */
export async function endOwnSessions(actor: Actor, id?: string): Promise<void> {
	if (id === undefined) await endSessionsOf(actor.userId, actor.sessionId ?? null);
	else if (!(await endSessionOf(actor.userId, id))) throw notFound('session');
	await audit(actor.userId, 'end-sessions', `user:${actor.userId}`, { which: id ?? 'others' });
}

/** What an authenticator is set up with; nothing is kept until a code of it has come back. */
export interface SecondFactorOffer {
	secret: string;
	uri: string;
	/** The address as a picture to scan, a data URL. */
	picture: string;
	/** To be sent back with the first code. */
	sealed: string;
}

export async function offerSecondFactor(actor: Actor): Promise<SecondFactorOffer> {
	const { signInName } = await userOf(actor);
	const { secret, uri } = newSecret(signInName);
	return {
		secret,
		uri,
		picture: `data:image/svg+xml,${encodeURIComponent(await QRCode.toString(uri, { type: 'svg', margin: 2 }))}`,
		sealed: seal(`${actor.userId} ${secret}`)
	};
}

/** Turns the second factor on once its first code is right; gives the recovery codes, shown this once. */
export async function turnOnSecondFactor(
	actor: Actor,
	request: { sealed: string; code: string; password: string },
	address: string
): Promise<{ recoveryCodes: string[] }> {
	await requireOwnPassword(actor, request.password, address, 'password');
	const secret = secretOffered(actor, request.sealed);
	const step = stepOfCode(secret, request.code, 0, new Date());
	if (step === undefined) {
		throw invalid([{ field: 'code', message: 'This code is wrong, or its time is over.' }]);
	}
	const codes = Array.from({ length: RECOVERY_CODES }, newCode);
	await inTransaction(async (unit) => {
		const row = {
			userId: actor.userId,
			sealedSecret: seal(secret),
			lastStep: step,
			madeAt: new Date()
		};
		await writeSecondFactor(row, codes.map(codeHash), unit);
		await endSessionsOf(actor.userId, actor.sessionId ?? null, unit);
		await audit(actor.userId, 'second-factor-on', `user:${actor.userId}`, {}, unit);
	});
	return { recoveryCodes: codes };
}

function secretOffered(actor: Actor, sealed: string): string {
	let opened: string[];
	try {
		opened = unseal(sealed).split(' ');
	} catch {
		opened = [];
	}
	const [userId, secret] = opened;
	if (userId !== actor.userId || !secret) {
		throw invalid([{ field: 'code', message: 'Begin again: this picture was made elsewhere.' }]);
	}
	return secret;
}

/** Turns one's own authenticator off, unless it is the last factor and the role asks for one. */
export async function turnOffSecondFactor(
	actor: Actor,
	{ password }: { password: string },
	address: string
): Promise<void> {
	await requireOwnPassword(actor, password, address, 'password');
	const { role } = await userOf(actor);
	const asked = (await rolesWithSecondFactor()).includes(role);
	await inTransaction(async (unit) => {
		if (!(await removeSecondFactor(actor.userId, unit))) throw notFound('second factor');
		if ((await passkeysOf(actor.userId, unit)).length === 0) {
			if (asked) throw refusal('second-factor-asked');
			await removeRecoveryCodes(actor.userId, unit);
		}
		await audit(actor.userId, 'second-factor-off', `user:${actor.userId}`, {}, unit);
	});
}

/**
 * Asks for the second factor of whoever has one, after the password was right: a code of the
 * authenticator, each once, or a recovery code. Whoever has passkeys and no authenticator signs in with
 * one of those, or with a recovery code.
 */
export async function requireSecondFactor(userId: string, code: string): Promise<void> {
	const authenticator = (await findSecondFactor(userId)) !== undefined;
	if (!authenticator && (await passkeysOf(userId)).length === 0) return;
	if (code.trim() === '') {
		throw refusal(authenticator ? 'code-needed' : 'passkey-needed').at('code');
	}
	await countCodeAttempt(userId);
	const right = await inTransaction((unit) => takeCode(userId, code, unit));
	if (!right) throw refusal('code-wrong').at('code');
	await clearCodeAttempts(userId);
}

async function takeCode(userId: string, code: string, unit: Unit): Promise<boolean> {
	const factor = await findSecondFactor(userId, { unit });
	const step = factor && stepOfCode(unseal(factor.sealedSecret), code, factor.lastStep, new Date());
	if (step !== undefined) {
		await noteStep(userId, step, unit);
		return true;
	}
	if (!(await useRecoveryCode(userId, codeHash(code), unit))) return false;
	await audit(userId, 'recovery-code-used', `user:${userId}`, {}, unit);
	return true;
}
