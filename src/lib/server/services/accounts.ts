import { randomUUID } from 'node:crypto';
import { requireMay, type Actor } from '../auth/actor';
import { codeHash, newCode } from '../auth/oneTimeCode';
import { decoyHash, hashPassword, passwordMatches } from '../auth/passwords';
import { closeSession, openSession } from '../auth/sessions';
import { clearSignInAttempts, countNameAttempt } from '../auth/signInLimit';
import type { Role } from '../auth/roles';
import { unlessTaken } from '../db/taken';
import { inTransaction, type Unit } from '../db/transaction';
import { invalid, notFound, refusal } from '../errors';
import { audit } from '../repositories/audit';
import {
	askSecondFactor,
	removeAllFactors,
	rolesWithSecondFactor,
	useReset,
	writeReset
} from '../repositories/credentials';
import { endSessionsOf } from '../repositories/sessions';
import {
	countUsers,
	findPerson,
	findUserBySignInName,
	insertUser,
	lockAdministrators,
	pageOfPersons,
	updateDisabled,
	updatePassword,
	updateRole,
	type Person,
	type UserRow
} from '../repositories/users';
import { requireGoodPassword, requireSecondFactor } from './ownAccount';
import { pageOf, type Page } from './paging';

export type { Person };

export interface NewAccount {
	signInName: string;
	displayName: string;
	role: Role;
	password: string;
}

/** What somebody types to sign in. */
export interface Credentials {
	signInName: string;
	password: string;
	/** Of the second factor; empty where it is not asked for yet. */
	code: string;
}

/**
 * Signs in by name and password; the same refusal whether the name or the password is wrong. The attempt of
 * the address is counted before, where the request comes in.
 */
export async function signIn(
	{ signInName: name, password, code }: Credentials,
	address: string,
	kind: 'browser' | 'script'
): Promise<{ token: string; expiresAt: Date }> {
	const signInName = name.trim().toLowerCase();
	await countNameAttempt(signInName, address);
	const user = await findUserBySignInName(signInName);
	const matches = await passwordMatches(password, user?.passwordHash ?? (await decoyHash()));
	if (!user || !matches || user.disabled) {
		await noteFailure(user, address, kind, 'password');
		throw refusal('sign-in-refused').at('password');
	}
	try {
		await requireSecondFactor(user.id, code);
	} catch (error) {
		if (code.trim() !== '') await noteFailure(user, address, kind, 'code');
		throw error;
	}
	await clearSignInAttempts(signInName, address);
	const session = await openSession(user.id, kind);
	await audit(user.id, 'sign-in', `user:${user.id}`, { kind });
	return session;
}

/** A name that is nobody's may be a password typed into the wrong field: it is not written down. */
function noteFailure(
	user: UserRow | undefined,
	address: string,
	kind: string,
	at: 'password' | 'code'
): Promise<void> {
	const subject = user ? `user:${user.id}` : 'user:unknown';
	return audit(user?.id ?? null, 'sign-in-refused', subject, { kind, address, at });
}

export async function signOut(token: string): Promise<void> {
	await closeSession(token);
}

export function countAccounts(): Promise<number> {
	return countUsers();
}

/** Makes an account without asking who makes it: for the first start and the demo only. */
export async function createAccountUnchecked(account: NewAccount): Promise<string> {
	const id = randomUUID();
	const row = {
		id,
		signInName: account.signInName.trim().toLowerCase(),
		displayName: account.displayName,
		role: account.role,
		passwordHash: await hashPassword(account.password),
		disabled: false,
		createdAt: new Date()
	};
	await unlessTaken(
		() => insertUser(row),
		() => {
			throw refusal('name-taken', 'person').at('signInName');
		}
	);
	return id;
}

export async function createAccount(actor: Actor, account: NewAccount): Promise<Person> {
	requireMay(actor, 'manage-people');
	await requireGoodPassword(account.password, [account.signInName, account.displayName]);
	const id = await createAccountUnchecked(account);
	await audit(actor.userId, 'create-account', `user:${id}`, { role: account.role });
	return getPerson(id);
}

/**
 * Changes something of somebody's account while no other administrator changes any: so that of two who
 * take each other's rights away one is left.
 */
async function changeAccount(
	actor: Actor,
	id: string,
	change: (person: Person, unit: Unit) => Promise<void>
): Promise<Person> {
	requireMay(actor, 'manage-people');
	await getPerson(id);
	await inTransaction(async (unit) => {
		const administrators = await lockAdministrators(unit);
		// Whoever was blocked or became something else while this waited is no administrator any more.
		if (!administrators.includes(actor.userId)) throw refusal('signed-out');
		const person = await findPerson(id, unit);
		if (!person) throw notFound('person');
		await change(person, unit);
		if ((await lockAdministrators(unit)).length === 0) throw refusal('last-administrator');
	});
	return getPerson(id);
}

/**
 * Blocks an account, or lets it in again; nobody can block themselves out. Whoever is blocked is signed
 * out everywhere: letting them in again revives no session.
 */
export async function setAccountDisabled(
	actor: Actor,
	id: string,
	disabled: boolean
): Promise<Person> {
	requireMay(actor, 'manage-people');
	if (id === actor.userId) throw refusal('own-account');
	return changeAccount(actor, id, async (_, unit) => {
		await updateDisabled(id, disabled, unit);
		if (disabled) await endSessionsOf(id, null, unit);
		const action = disabled ? 'block-account' : 'unblock-account';
		await audit(actor.userId, action, `user:${id}`, {}, unit);
	});
}

/** Gives somebody another role; what they are signed in with ends, so that no page shows the old one. */
export function setRole(actor: Actor, id: string, role: Role): Promise<Person> {
	return changeAccount(actor, id, async (person, unit) => {
		if (person.role === role) return;
		await updateRole(id, role, unit);
		if (id !== actor.userId) await endSessionsOf(id, null, unit);
		await audit(actor.userId, 'change-role', `user:${id}`, { from: person.role, to: role }, unit);
	});
}

/** Signs somebody out everywhere: every browser and every script. */
export function endSessions(actor: Actor, id: string): Promise<Person> {
	return changeAccount(actor, id, async (_, unit) => {
		await endSessionsOf(id, null, unit);
		await audit(actor.userId, 'end-sessions', `user:${id}`, { which: 'all' }, unit);
	});
}

/** Takes every second factor of somebody away who has lost what made its codes, or their passkeys. */
export function takeSecondFactorAway(actor: Actor, id: string): Promise<Person> {
	return changeAccount(actor, id, async (_, unit) => {
		if (!(await removeAllFactors(id, unit))) throw notFound('second factor');
		await endSessionsOf(id, null, unit);
		await audit(actor.userId, 'second-factor-taken-away', `user:${id}`, {}, unit);
	});
}

const RESET_HOURS = 24;

/** A code by which somebody sets a new password within a day; it is shown this once. */
export async function offerReset(
	actor: Actor,
	id: string
): Promise<{ code: string; expiresAt: string }> {
	const code = newCode();
	const expiresAt = new Date(Date.now() + RESET_HOURS * 3_600_000);
	await changeAccount(actor, id, async (_, unit) => {
		const row = { userId: id, codeHash: codeHash(code), madeBy: actor.userId, expiresAt };
		await writeReset(row, unit);
		await audit(actor.userId, 'offer-password-reset', `user:${id}`, {}, unit);
	});
	return { code, expiresAt: expiresAt.toISOString() };
}

/** Sets a new password by a code that an administrator gave; whatever was signed in before ends. */
export async function resetPassword(
	request: { signInName: string; code: string; password: string },
	address: string
): Promise<void> {
	const signInName = request.signInName.trim().toLowerCase();
	await countNameAttempt(signInName, address);
	const user = await findUserBySignInName(signInName);
	const own = user ? [user.signInName, user.displayName] : [signInName];
	await requireGoodPassword(request.password, own);
	const passwordHash = await hashPassword(request.password);
	const done = await inTransaction(async (unit) => {
		if (!user || user.disabled) return false;
		if (!(await useReset(user.id, codeHash(request.code), new Date(), unit))) return false;
		await updatePassword(user.id, passwordHash, unit);
		await endSessionsOf(user.id, null, unit);
		await audit(user.id, 'reset-password', `user:${user.id}`, { address }, unit);
		return true;
	});
	if (!done) {
		await noteFailure(user, address, 'reset', 'code');
		throw invalid([
			{ field: 'code', message: 'There is no such code for this name, or its time is over.' }
		]);
	}
	await clearSignInAttempts(signInName, address);
}

/** Which roles must sign in with a second factor. */
export async function accountRules(actor: Actor): Promise<{ secondFactorRoles: Role[] }> {
	requireMay(actor, 'manage-people');
	return { secondFactorRoles: await rolesWithSecondFactor() };
}

export async function setAccountRules(
	actor: Actor,
	{ role, secondFactor }: { role: Role; secondFactor: boolean }
): Promise<{ secondFactorRoles: Role[] }> {
	requireMay(actor, 'manage-people');
	await inTransaction(async (unit) => {
		await askSecondFactor(role, secondFactor, unit);
		await audit(actor.userId, 'ask-second-factor', `role:${role}`, { asked: secondFactor }, unit);
	});
	return accountRules(actor);
}

/** People, for the member list of a hop (planners) and the people page (administrators). */
export async function listPeople(
	actor: Actor,
	query: { q: string; page: number }
): Promise<Page<Person>> {
	requireMay(actor, 'edit-hops');
	return pageOf({ page: query.page }, ({ limit, offset }) => pageOfPersons(query.q, limit, offset));
}

async function getPerson(id: string): Promise<Person> {
	const person = await findPerson(id);
	if (!person) throw notFound('person');
	return person;
}
