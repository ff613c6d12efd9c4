import type { Role } from '../auth/roles';
import { run, selectOne } from '../db/sql';
import { sessions, type SessionRow } from '../db/tables';

export function insertSession(row: SessionRow): Promise<void> {
	return sessions.add(row);
}

/** Who holds a session that has not ended, unless their account is blocked. */
export function findSessionHolder(
	tokenHash: string,
	at: Date
): Promise<{ id: string; displayName: string; role: Role } | undefined> {
	return selectOne(
		`SELECT u.id, u.display_name AS displayName, u.role
		FROM sessions s JOIN users u ON u.id = s.user_id
		WHERE s.token_hash = ? AND s.expires_at > ? AND u.disabled = 0`,
		[tokenHash, at]
	);
}

export async function deleteSession(tokenHash: string): Promise<void> {
	await sessions.remove({ tokenHash });
}

export function deleteSessionsEndedBefore(at: Date): Promise<void> {
	return run('DELETE FROM sessions WHERE expires_at < ?', [at]);
}
