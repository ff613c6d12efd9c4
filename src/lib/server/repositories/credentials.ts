import type { Role } from '../auth/roles';
import { run, select } from '../db/sql';
import {
	passwordResets,
	recoveryCodes,
	roleRules,
	secondFactors,
	type PasswordResetRow,
	type SecondFactorRow
} from '../db/tables';
import type { Unit } from '../db/transaction';

/** A code that lets somebody set a password anew; the one before it counts no longer. */
export function writeReset(row: PasswordResetRow, unit: Unit): Promise<void> {
	return run(
		`INSERT INTO password_resets (user_id, code_hash, made_by, expires_at)
		VALUES (:userId, :codeHash, :madeBy, :expiresAt)
		ON DUPLICATE KEY UPDATE code_hash = VALUES(code_hash), made_by = VALUES(made_by),
			expires_at = VALUES(expires_at)`,
		{ ...row },
		unit
	);
}

/** Takes a code away where it still counts; whether it did. Of two at once one gets it. */
export async function useReset(
	userId: string,
	codeHash: string,
	at: Date,
	unit: Unit
): Promise<boolean> {
	const row = await passwordResets.one({ userId, codeHash }, { unit, lock: true });
	if (!row || row.expiresAt <= at) return false;
	return (await passwordResets.remove({ userId, codeHash }, unit)) === 1;
}

export function findSecondFactor(
	userId: string,
	locked?: { unit: Unit }
): Promise<SecondFactorRow | undefined> {
	return secondFactors.one({ userId }, locked ? { ...locked, lock: true } : {});
}

/** Sets a second factor up with its recovery codes, in place of any before. */
export async function writeSecondFactor(
	row: SecondFactorRow,
	codeHashes: readonly string[],
	unit: Unit
): Promise<void> {
	await removeSecondFactor(row.userId, unit);
	await secondFactors.add(row, unit);
	await recoveryCodes.add(
		codeHashes.map((codeHash) => ({ userId: row.userId, codeHash })),
		unit
	);
}

export async function removeSecondFactor(userId: string, unit: Unit): Promise<boolean> {
	await recoveryCodes.remove({ userId }, unit);
	return (await secondFactors.remove({ userId }, unit)) > 0;
}

export async function noteStep(userId: string, lastStep: number, unit: Unit): Promise<void> {
	await secondFactors.change({ userId }, { lastStep }, unit);
}

/** Takes a recovery code away; whether it was there. */
export async function useRecoveryCode(
	userId: string,
	codeHash: string,
	unit: Unit
): Promise<boolean> {
	return (await recoveryCodes.remove({ userId, codeHash }, unit)) === 1;
}

export function countRecoveryCodes(userId: string): Promise<number> {
	return recoveryCodes.count({ userId });
}

/** The roles that ask for a second factor. */
export async function rolesWithSecondFactor(): Promise<Role[]> {
	const rows = await select<{ role: Role }>(
		'SELECT role FROM role_rules WHERE second_factor = 1 ORDER BY role'
	);
	return rows.map(({ role }) => role);
}

export async function askSecondFactor(role: Role, asked: boolean, unit: Unit): Promise<void> {
	await roleRules.remove({ role }, unit);
	await roleRules.add({ role, secondFactor: asked }, unit);
}
