import { appliedMigrations } from '../repositories/migrations';

/** Names of the migrations this build was made with. */
const EXPECTED = Object.keys(import.meta.glob('/migrations/*.mjs')).map((path) =>
	path.replace(/^.*\//, '').replace(/\.mjs$/, '')
);

/** Whether the database answers and has every migration of this build. */
export async function readiness(): Promise<{
	ready: boolean;
	database: string;
	migrations: string;
}> {
	try {
		const applied = await appliedMigrations();
		const missing = EXPECTED.filter((name) => !applied.has(name));
		return {
			ready: missing.length === 0,
			database: 'up',
			migrations: missing.length ? `missing ${missing.join(', ')}` : 'complete'
		};
	} catch {
		return { ready: false, database: 'down', migrations: 'unknown' };
	}
}
