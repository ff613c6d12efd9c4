import type { Role } from '../auth/roles';
import { countRows, likePattern, select } from '../db/sql';
import { users, type UserRow } from '../db/tables';
import type { Unit } from '../db/transaction';

export type { UserRow };

/** A person as lists show them: nothing of the password. */
export interface Person {
	id: string;
	signInName: string;
	displayName: string;
	role: Role;
	disabled: boolean;
}

const OF_PERSON = ['id', 'signInName', 'displayName', 'role', 'disabled'] as const;

export function findUserBySignInName(signInName: string): Promise<UserRow | undefined> {
	return users.one({ signInName });
}

export function findUser(id: string): Promise<UserRow | undefined> {
	return users.one({ id });
}

export async function findPerson(id: string, unit?: Unit): Promise<Person | undefined> {
	const [person] = await users.some(OF_PERSON, { id }, unit ? { unit } : {});
	return person;
}

/** One page of people by name; with words, those shown or signing in so. */
export async function pageOfPersons(
	words: string,
	limit: number,
	offset: number
): Promise<{ rows: Person[]; count: number }> {
	const where = words ? 'WHERE display_name LIKE ? OR sign_in_name LIKE ?' : '';
	const values = words ? [likePattern(words), likePattern(words)] : [];
	const rows = await select<Omit<Person, 'disabled'> & { disabled: number }>(
		`SELECT id, sign_in_name AS signInName, display_name AS displayName, role, disabled
		FROM users ${where} ORDER BY display_name, id LIMIT ? OFFSET ?`,
		[...values, limit, offset]
	);
	return {
		rows: rows.map((row) => ({ ...row, disabled: row.disabled !== 0 })),
		count: await countRows(`FROM users ${where}`, values)
	};
}

/** The names of some people, by name. */
export function namesOf(ids: readonly string[]): Promise<Pick<UserRow, 'id' | 'displayName'>[]> {
	const where = { id: [...new Set(ids)] };
	return users.some(['id', 'displayName'], where, { order: [['displayName', 'ASC']] });
}

/** How many people there are, or how many of these. */
export function countUsers(ids?: readonly string[]): Promise<number> {
	return users.count(ids ? { id: ids } : {});
}

/** Throws TakenError where the sign-in name is in use. */
/** Those of the ids that are accounts. */
export async function knownUserIds(ids: readonly string[]): Promise<Set<string>> {
	if (ids.length === 0) return new Set();
	return new Set((await users.some(['id'], { id: ids })).map(({ id }) => id));
}

export function insertUser(row: UserRow, unit?: Unit): Promise<void> {
	return users.add(row, unit);
}

export async function updateDisabled(id: string, disabled: boolean, unit: Unit): Promise<void> {
	await users.change({ id }, { disabled }, unit);
}

export async function updateRole(id: string, role: Role, unit: Unit): Promise<void> {
	await users.change({ id }, { role }, unit);
}

export async function updatePassword(id: string, passwordHash: string, unit: Unit): Promise<void> {
	await users.change({ id }, { passwordHash }, unit);
}

/** Who may manage the installation now; nobody else becomes or ceases to be one until the unit ends. */
export async function lockAdministrators(unit: Unit): Promise<string[]> {
	const rows = await select<{ id: string }>(
		"SELECT id FROM users WHERE role = 'administrator' AND disabled = 0 ORDER BY id FOR UPDATE",
		[],
		unit
	);
	return rows.map(({ id }) => id);
}
