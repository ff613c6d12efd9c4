import { createHmac, randomBytes } from 'node:crypto';
import { QueryTypes } from 'sequelize';
import { config } from '../config';
import { db } from '../db/connection';
import type { Role } from './roles';
import type { Actor } from './actor';

export const SESSION_COOKIE = 'skiaxis_session';
export const BROWSER_SESSION_DAYS = 14;
export const SCRIPT_TOKEN_HOURS = 12;

const hashOf = (token: string): string =>
	createHmac('sha256', config.secret).update(token).digest('hex');

/** Opens a session and returns its token; the database keeps only a keyed hash of it. */
export async function openSession(
	userId: string,
	kind: 'browser' | 'script'
): Promise<{ token: string; expiresAt: Date }> {
	const token = randomBytes(32).toString('base64url');
	const now = Date.now();
	const lifeMs =
		kind === 'browser' ? BROWSER_SESSION_DAYS * 86_400_000 : SCRIPT_TOKEN_HOURS * 3_600_000;
	const expiresAt = new Date(now + lifeMs);
	await db().query(
		'INSERT INTO sessions (token_hash, user_id, kind, created_at, expires_at) VALUES (?, ?, ?, ?, ?)',
		{
			replacements: [hashOf(token), userId, kind, new Date(now), expiresAt],
			type: QueryTypes.INSERT
		}
	);
	await db().query('DELETE FROM sessions WHERE expires_at < ?', {
		replacements: [new Date(now)]
	});
	return { token, expiresAt };
}

/** The account behind a token, or undefined when it is unknown, ended, or the account disabled. */
export async function findActor(token: string): Promise<Actor | undefined> {
	const [row] = await db().query<{ id: string; display_name: string; role: Role }>(
		`SELECT u.id, u.display_name, u.role FROM sessions s JOIN users u ON u.id = s.user_id
		WHERE s.token_hash = ? AND s.expires_at > ? AND u.disabled = 0`,
		{ replacements: [hashOf(token), new Date()], type: QueryTypes.SELECT }
	);
	return row && { userId: row.id, displayName: row.display_name, role: row.role };
}

export async function closeSession(token: string): Promise<void> {
	await db().query('DELETE FROM sessions WHERE token_hash = ?', { replacements: [hashOf(token)] });
}
