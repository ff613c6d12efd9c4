import { select } from '../db/sql';

/** Names of the migrations that this database has had. */
export async function appliedMigrations(): Promise<Set<string>> {
	const rows = await select<{ name: string }>('SELECT name FROM migrations');
	return new Set(rows.map(({ name }) => name));
}
