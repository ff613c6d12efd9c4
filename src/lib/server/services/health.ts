import { createHash, timingSafeEqual } from 'node:crypto';
import { config } from '../config';
import { poolUse } from '../repositories/connections';
import { gauge, METRICS_TYPE, metricsText } from '../metrics';
import { appliedMigrations, ownRights, standingTriggers } from '../repositories/migrations';

gauge('skiaxis_database_connections_used', 'Database connections at work', () => poolUse().used);
gauge(
	'skiaxis_database_connections_awaited',
	'Requests that wait for a database connection',
	() => poolUse().waiting
);

/** The figures of this process, for whoever shows the token of the settings; without one there are none. */
export async function metricsAnswer(request: Request): Promise<Response> {
	const { metricsToken } = config;
	if (!metricsToken) return new Response('There is no such page.', { status: 404 });
	const shown = /^Bearer (\S+)$/i.exec(request.headers.get('authorization') ?? '')?.[1] ?? '';
	const digest = (text: string): Buffer => createHash('sha256').update(text).digest();
	if (!timingSafeEqual(digest(shown), digest(metricsToken))) {
		return new Response('Show the token of the settings.', {
			status: 401,
			headers: { 'www-authenticate': 'Bearer' }
		});
	}
	return new Response(await metricsText(), { headers: { 'content-type': METRICS_TYPE } });
}

/** Names of the migrations this build was made with. */
const EXPECTED = Object.keys(import.meta.glob('/migrations/*.mjs')).map((path) =>
	path.replace(/^.*\//, '').replace(/\.mjs$/, '')
);

/** What is never changed or deleted once it is written, and what of it. */
const FROZEN: Record<string, readonly ('update' | 'delete')[]> = {
	plan_revisions: ['update', 'delete'],
	field_records: ['update', 'delete'],
	acceptances: ['update', 'delete'],
	audit_trail: ['update', 'delete'],
	photos: ['update', 'delete'],
	part_versions: ['update', 'delete'],
	hub_revisions: ['update', 'delete'],
	hub_records: ['update', 'delete'],
	hub_acceptances: ['update', 'delete'],
	hop_imports: ['update', 'delete'],
	hub_imports: ['update', 'delete'],
	installation: ['update', 'delete'],
	trusted_installations: ['delete']
};
const TRIGGERS = Object.entries(FROZEN).flatMap(([table, changes]) =>
	changes.map((change) => `${table}_no_${change}`)
);

/** What the application needs; any other right could undo what is frozen. */
const NEEDED = new Set(['INSERT', 'UPDATE', 'DELETE', 'EXECUTE']);

export interface Readiness {
	ready: boolean;
	database: 'up' | 'down';
	migrations: string;
	/** Whether the triggers stand that keep what is frozen. */
	frozen: string;
	/** Whether the account of the application could take them away; told, not held against it. */
	rights: string;
}

/**
 * Whether the database answers, has every migration of this build, and still refuses to change what is
 * frozen. That the account has more rights than it needs is said: an installation that runs goes on.
 */
export async function readiness(): Promise<Readiness> {
	try {
		const applied = await appliedMigrations();
		const missing = EXPECTED.filter((name) => !applied.has(name));
		const gone = missing.length ? [] : await missingTriggers();
		return {
			ready: missing.length === 0 && gone.length === 0,
			database: 'up',
			migrations: missing.length ? `missing ${missing.join(', ')}` : 'complete',
			frozen: missing.length ? 'unknown' : gone.length ? `missing ${gone.join(', ')}` : 'guarded',
			rights: (await rightsBeyondNeed()).length ? 'wider than needed' : 'narrow'
		};
	} catch {
		return {
			ready: false,
			database: 'down',
			migrations: 'unknown',
			frozen: 'unknown',
			rights: 'unknown'
		};
	}
}

async function missingTriggers(): Promise<string[]> {
	const standing = await standingTriggers();
	return TRIGGERS.filter((name) => !standing.has(name));
}

/** Rights of the application's account by which what is frozen could be changed, in words. */
export async function rightsBeyondNeed(): Promise<string[]> {
	const wide = (await ownRights()).filter(({ right, table }) => {
		if (!NEEDED.has(right)) return true;
		if (right !== 'UPDATE' && right !== 'DELETE') return false;
		// On every table at once, frozen ones among them.
		if (table === null) return true;
		const changes: readonly string[] = Object.hasOwn(FROZEN, table) ? (FROZEN[table] ?? []) : [];
		return changes.includes(right.toLowerCase());
	});
	return wide.map(({ right, table }) => (table === null ? right : `${right} on ${table}`)).sort();
}
