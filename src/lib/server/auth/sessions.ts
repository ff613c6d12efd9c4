import { createHmac, randomBytes, randomUUID } from 'node:crypto';
import { config } from '../config';
import {
	deleteSession,
	deleteSessionsEndedBefore,
	findSessionHolder,
	findSessionHolderAt,
	insertSession,
	type SessionHolder
} from '../repositories/sessions';
import type { RecordPlace } from '../repositories/recordPlace';
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
	const createdAt = new Date();
	const lifeMs =
		kind === 'browser' ? BROWSER_SESSION_DAYS * 86_400_000 : SCRIPT_TOKEN_HOURS * 3_600_000;
	const expiresAt = new Date(createdAt.getTime() + lifeMs);
	const id = randomUUID();
	await insertSession({ tokenHash: hashOf(token), userId, kind, createdAt, expiresAt, id });
	await deleteSessionsEndedBefore(createdAt);
	return { token, expiresAt };
}

/** The account behind a token, or undefined when it is unknown, ended, or the account disabled. */
export async function findActor(token: string): Promise<Actor | undefined> {
	const holder = await findSessionHolder(hashOf(token), new Date());
	return holder && actorOf(holder);
}

/** The same, and in one read how a hop stands for them. */
export async function findActorAt(
	token: string,
	hopId: string
): Promise<{ actor: Actor; place: RecordPlace | undefined } | undefined> {
	const found = await findSessionHolderAt(hashOf(token), new Date(), hopId);
	return found && { actor: actorOf(found.holder), place: found.place };
}

const actorOf = (holder: SessionHolder): Actor => ({
	userId: holder.id,
	displayName: holder.displayName,
	role: holder.role,
	sessionId: holder.sessionId,
	...(holder.secondFactorDue ? { secondFactorDue: true } : {})
});

export function closeSession(token: string): Promise<void> {
	return deleteSession(hashOf(token));
}
