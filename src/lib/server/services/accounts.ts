import { randomUUID } from 'node:crypto';
import { UniqueConstraintError } from 'sequelize';
import { requireMay, type Actor } from '../auth/actor';
import { decoyHash, hashPassword, passwordMatches } from '../auth/passwords';
import { closeSession, openSession } from '../auth/sessions';
import { clearSignInAttempts, countSignInAttempt } from '../auth/signInLimit';
import type { Role } from '../auth/roles';
import { users, type UserRow } from '../db/models';
import { notFound, refusal } from '../errors';
import { audit } from '../repositories/audit';

export interface NewAccount {
	signInName: string;
	displayName: string;
	role: Role;
	password: string;
}

export interface Person {
	id: string;
	signInName: string;
	displayName: string;
	role: Role;
	disabled: boolean;
}

/** Signs in by name and password; the same refusal whether the name or the password is wrong. */
export async function signIn(
	name: string,
	password: string,
	address: string,
	kind: 'browser' | 'script'
): Promise<{ token: string; expiresAt: Date }> {
	const signInName = name.trim().toLowerCase();
	await countSignInAttempt(signInName, address);
	const user = (await users().findOne({ where: { signInName }, raw: true })) as UserRow | null;
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

export async function countAccounts(): Promise<number> {
	return users().count();
}

/** Makes an account without asking who makes it: for the first start and the demo only. */
export async function createAccountUnchecked(account: NewAccount): Promise<string> {
	const id = randomUUID();
	const row: UserRow = {
		id,
		signInName: account.signInName.trim().toLowerCase(),
		displayName: account.displayName,
		role: account.role,
		passwordHash: await hashPassword(account.password),
		disabled: false,
		createdAt: new Date()
	};
	try {
		await users().create(row);
	} catch (error) {
		if (error instanceof UniqueConstraintError) {
			throw refusal('name-taken', 'person').at('signInName');
		}
		throw error;
	}
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
	await users().update({ disabled }, { where: { id } });
	await audit(actor.userId, disabled ? 'block-account' : 'unblock-account', `user:${id}`);
	return getPerson(id);
}

/** People, for the member list of a hop (planners) and the people page (administrators). */
export async function listPeople(actor: Actor): Promise<Person[]> {
	requireMay(actor, 'edit-hops');
	const rows = await users().findAll({ raw: true, order: [['displayName', 'ASC']], limit: 500 });
	return rows.map((row) => personOf(row as unknown as UserRow));
}

async function getPerson(id: string): Promise<Person> {
	const row = (await users().findByPk(id, { raw: true })) as UserRow | null;
	if (!row) throw notFound('person');
	return personOf(row);
}

function personOf(row: UserRow): Person {
	const { id, signInName, displayName, role, disabled } = row;
	return { id, signInName, displayName, role, disabled: Boolean(disabled) };
}
