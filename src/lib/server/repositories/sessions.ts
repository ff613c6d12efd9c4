import type { Role } from '../auth/roles';
import { run, select, selectOne } from '../db/sql';
import type { Unit } from '../db/transaction';
import { sessions, type SessionRow } from '../db/tables';
import { PLACE, placeFor, placeOf, type PlaceRow, type RecordPlace } from './recordPlace';

export function insertSession(row: SessionRow): Promise<void> {
	return sessions.add(row);
}

export interface SessionHolder {
	id: string;
	displayName: string;
	role: Role;
	sessionId: string;
	/** 1 where the role asks for a second factor and there is neither authenticator nor passkey. */
	secondFactorDue: number;
}

const HOLDER = `u.id, u.display_name AS displayName, u.role, s.id AS sessionId,
	(COALESCE(rule.second_factor, 0) AND factor.user_id IS NULL
		AND NOT EXISTS (SELECT 1 FROM passkeys WHERE passkeys.user_id = u.id)) AS secondFactorDue`;
const HELD = `FROM sessions s JOIN users u ON u.id = s.user_id
	LEFT JOIN role_rules rule ON rule.role = u.role
	LEFT JOIN second_factors factor ON factor.user_id = u.id`;
const LIVING = 's.token_hash = :tokenHash AND s.expires_at > :at AND u.disabled = 0';

/** Who holds a session that has not ended, unless their account is blocked. */
export function findSessionHolder(tokenHash: string, at: Date): Promise<SessionHolder | undefined> {
	return selectOne(`SELECT ${HOLDER} ${HELD} WHERE ${LIVING}`, { tokenHash, at });
}

/** The same, and in the same read where a hop stands for them: undefined where there is no such hop. */
export async function findSessionHolderAt(
	tokenHash: string,
	at: Date,
	hopId: string
): Promise<{ holder: SessionHolder; place: RecordPlace | undefined } | undefined> {
	const row = await selectOne<SessionHolder & (PlaceRow | { hopId: null })>(
		`SELECT STRAIGHT_JOIN ${HOLDER}, ${PLACE} ${HELD} LEFT JOIN hops h ON h.id = :hopId ${placeFor('u.id')}
		WHERE ${LIVING}`,
		{ tokenHash, at, hopId }
	);
	return row && { holder: row, place: row.hopId === null ? undefined : placeOf(row) };
}

export async function deleteSession(tokenHash: string): Promise<void> {
	await sessions.remove({ tokenHash });
}

export function deleteSessionsEndedBefore(at: Date): Promise<void> {
	return run('DELETE FROM sessions WHERE expires_at < ?', [at]);
}

/** The sessions of somebody that have not ended, the newest first. */
export function sessionsOf(
	userId: string,
	at: Date
): Promise<Pick<SessionRow, 'id' | 'kind' | 'createdAt' | 'expiresAt'>[]> {
	return select(
		`SELECT id, kind, created_at AS createdAt, expires_at AS expiresAt FROM sessions
		WHERE user_id = ? AND expires_at > ? ORDER BY created_at DESC, id LIMIT 200`,
		[userId, at]
	);
}

/** Ends one session of somebody; whether it was there. */
export async function endSessionOf(userId: string, id: string): Promise<boolean> {
	return (await sessions.remove({ userId, id })) > 0;
}

/** Ends every session of somebody, or every one but that with this id. */
export function endSessionsOf(userId: string, but: string | null, unit?: Unit): Promise<void> {
	return run('DELETE FROM sessions WHERE user_id = ? AND id <> ?', [userId, but ?? ''], unit);
}

/** Those of the sessions that still let somebody in. */
export async function livingSessions(ids: readonly string[], at: Date): Promise<Set<string>> {
	if (ids.length === 0) return new Set();
	const rows = await select<{ id: string }>(
		`SELECT s.id FROM sessions s JOIN users u ON u.id = s.user_id
		WHERE s.id IN (:ids) AND s.expires_at > :at AND u.disabled = 0`,
		{ ids, at }
	);
	return new Set(rows.map(({ id }) => id));
}
