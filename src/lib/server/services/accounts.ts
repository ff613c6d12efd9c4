import { randomUUID } from 'node:crypto';
import { requireMay, type Actor } from '../auth/actor';
import { decoyHash, hashPassword, passwordMatches } from '../auth/passwords';
import { closeSession, openSession } from '../auth/sessions';
import { clearSignInAttempts, countNameAttempt } from '../auth/signInLimit';
import type { Role } from '../auth/roles';
import { unlessTaken } from '../db/taken';
import { notFound, refusal } from '../errors';
import { audit } from '../repositories/audit';
import {
	countUsers,
	findPerson,
	findUserBySignInName,
	insertUser,
	pageOfPersons,
	updateDisabled,
	type Person
} from '../repositories/users';
import { pageOf, type Page } from './paging';

export type { Person };

export interface NewAccount {
	signInName: string;
	displayName: string;
	role: Role;
	password: string;
}

/**
 * Signs in by name and password; the same refusal whether the name or the password is wrong. The attempt of
 * the address is counted before, where the request comes in.
 */
export async function signIn(
	name: string,
	password: string,
	address: string,
	kind: 'browser' | 'script'
): Promise<{ token: string; expiresAt: Date }> {
	const signInName = name.trim().toLowerCase();
	await countNameAttempt(signInName, address);
	const user = await findUserBySignInName(signInName);
	const matches = await passwordMatches(password, user?.passwordHash ?? (await decoyHash()));
	if (!user || !matches || user.disabled) {
		throw refusal('sign-in-refused').at('password');
	}
	await clearSignInAttempts(signInName, address);
	const session = await openSession(user.id, kind);
	await audit(user.id, 'sign-in', `user:${user.id}`, { kind });
	return session;
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
	const id = await createAccountUnchecked(account);
	await audit(actor.userId, 'create-account', `user:${id}`, { role: account.role });
	return getPerson(id);
}

/** Blocks an account, or lets it in again; nobody can block themselves out. */
export async function setAccountDisabled(
	actor: Actor,
	id: string,
	disabled: boolean
): Promise<Person> {
	requireMay(actor, 'manage-people');
	if (id === actor.userId) throw refusal('own-account');
	await getPerson(id);
	await updateDisabled(id, disabled);
	await audit(actor.userId, disabled ? 'block-account' : 'unblock-account', `user:${id}`);
	return getPerson(id);
}

/** People, for the member list of a hop (planners) and the people page (administrators). */
export async function listPeople(
	actor: Actor,
	query: { q: string; page: number }
): Promise<Page<Person>> {
	requireMay(actor, 'edit-hops');
	return pageOf(query.page, (limit, offset) => pageOfPersons(query.q, limit, offset));
}

async function getPerson(id: string): Promise<Person> {
	const person = await findPerson(id);
	if (!person) throw notFound('person');
	return person;
}
