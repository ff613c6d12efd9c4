import type { Role } from '../auth/roles';
import { change, run, select, timeText } from '../db/sql';
import {
	passkeys,
	passwordResets,
	recoveryCodes,
	roleRules,
	secondFactors,
	type PasskeyRow,
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
	await removeRecoveryCodes(row.userId, unit);
	await secondFactors.add(row, unit);
	await writeRecoveryCodes(row.userId, codeHashes, unit);
}

export async function writeRecoveryCodes(
	userId: string,
	codeHashes: readonly string[],
	unit: Unit
): Promise<void> {
	await recoveryCodes.add(
		codeHashes.map((codeHash) => ({ userId, codeHash })),
		unit
	);
}

export async function removeRecoveryCodes(userId: string, unit: Unit): Promise<void> {
	await recoveryCodes.remove({ userId }, unit);
}

/** Takes the authenticator away; the recovery codes stay. */
export async function removeSecondFactor(userId: string, unit: Unit): Promise<boolean> {
	return (await secondFactors.remove({ userId }, unit)) > 0;
}

/** Takes authenticator, passkeys and recovery codes away; whether there was any of the first two. */
export async function removeAllFactors(userId: string, unit: Unit): Promise<boolean> {
	await removeRecoveryCodes(userId, unit);
	const authenticator = await removeSecondFactor(userId, unit);
	return (await passkeys.remove({ userId }, unit)) > 0 || authenticator;
}

/** Somebody's passkeys, the oldest first. */
export function passkeysOf(userId: string, unit?: Unit): Promise<PasskeyRow[]> {
	return passkeys.all({ userId }, { order: [['madeAt', 'ASC']], ...(unit ? { unit } : {}) });
}

/** Throws TakenError where it is kept already. */
export function insertPasskey(row: PasskeyRow, unit: Unit): Promise<void> {
	return passkeys.add(row, unit);
}

/** The passkey of a device, for whoever signs in with it: nobody else uses it meanwhile. */
export function lockPasskey(credentialHash: string, unit: Unit): Promise<PasskeyRow | undefined> {
	return passkeys.one({ credentialHash }, { unit, lock: true });
}

export async function notePasskeyUse(
	id: string,
	useCount: number,
	usedAt: Date,
	unit: Unit
): Promise<void> {
	await passkeys.change({ id }, { useCount, usedAt }, unit);
}

export async function removePasskey(userId: string, id: string, unit: Unit): Promise<boolean> {
	return (await passkeys.remove({ userId, id }, unit)) > 0;
}

/** Whether a challenge was not answered before; from now on it was. Those past their time are forgotten. */
export async function takeChallenge(hash: string, expiresAt: Date, unit: Unit): Promise<boolean> {
	await run(
		'DELETE FROM answered_challenges WHERE expires_at < UTC_TIMESTAMP(3) LIMIT 100',
		[],
		unit
	);
	const taken = await change(
		'INSERT IGNORE INTO answered_challenges (challenge_hash, expires_at) VALUES (?, ?)',
		[hash, timeText(expiresAt)],
		unit
	);
	return taken > 0;
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
