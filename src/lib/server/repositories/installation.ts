import { installation, trustedInstallations, type InstallationRow } from '../db/tables';
import { select } from '../db/sql';
import { unlessTaken } from '../db/taken';
import type { Unit } from '../db/transaction';

/** An installation whose signature counts here. */
export interface TrustedInstallation {
	publicKey: string;
	name: string;
	/** Name of who added it. */
	addedBy: string;
	addedAt: string;
	withdrawnAt: string | null;
}

export function findInstallation(): Promise<InstallationRow | undefined> {
	return installation.one({ id: 1 });
}

/** Writes the key pair once; another process may have been first. */
export function insertInstallation(row: Omit<InstallationRow, 'id'>): Promise<void> {
	return unlessTaken(
		() => installation.add({ id: 1, ...row }),
		() => undefined
	);
}

/** Those trusted now first, each by name; also those that no longer are. */
export async function listTrusted(): Promise<TrustedInstallation[]> {
	const rows = await select<
		Omit<TrustedInstallation, 'addedAt' | 'withdrawnAt'> & {
			addedAt: Date;
			withdrawnAt: Date | null;
		}
	>(
		`SELECT t.public_key AS publicKey, t.name, u.display_name AS addedBy, t.added_at AS addedAt,
			t.withdrawn_at AS withdrawnAt
		FROM trusted_installations t JOIN users u ON u.id = t.added_by
		ORDER BY t.withdrawn_at IS NOT NULL, t.name, t.public_key LIMIT 500`
	);
	return rows.map((row) => ({
		...row,
		addedAt: row.addedAt.toISOString(),
		withdrawnAt: row.withdrawnAt?.toISOString() ?? null
	}));
}

/** The name under which a key is trusted now; undefined where it is not. */
export async function trustedName(publicKey: string): Promise<string | undefined> {
	const row = await trustedInstallations.one({ publicKey });
	return row && row.withdrawnAt === null ? row.name : undefined;
}

export async function trust(
	row: { publicKey: string; name: string; addedBy: string; addedAt: Date },
	unit: Unit
): Promise<void> {
	if ((await trustedInstallations.count({ publicKey: row.publicKey }, unit)) > 0) {
		const { publicKey, ...again } = row;
		await trustedInstallations.change({ publicKey }, { ...again, withdrawnAt: null }, unit);
	} else {
		await trustedInstallations.add({ ...row, withdrawnAt: null }, unit);
	}
}

/** Whether the key was trusted until now. */
export async function withdrawTrust(publicKey: string, at: Date, unit: Unit): Promise<boolean> {
	const row = await trustedInstallations.one({ publicKey }, { unit, lock: true });
	if (!row || row.withdrawnAt !== null) return false;
	await trustedInstallations.change({ publicKey }, { withdrawnAt: at }, unit);
	return true;
}
