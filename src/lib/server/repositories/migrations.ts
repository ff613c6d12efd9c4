import { select } from '../db/sql';

/** Names of the migrations that this database has had. */
export async function appliedMigrations(): Promise<Set<string>> {
	const rows = await select<{ name: string }>('SELECT name FROM migrations');
	return new Set(rows.map(({ name }) => name));
}

/** Names of the triggers that stand, asked through a procedure: the application may not see them itself. */
export async function standingTriggers(): Promise<Set<string>> {
	const answer = await select<Record<string, { name: string }> | { name: string }>(
		'CALL standing_triggers()'
	);
	// The driver gives the rows of a call as the first of its results.
	const rows = answer.flatMap((row) => ('name' in row ? [row.name] : Object.values(row)));
	return new Set(rows.map((row) => (typeof row === 'string' ? row : row.name)));
}

/** A right of the account that the application runs with. */
export interface OwnRight {
	right: string;
	/** Null where it holds for every table of the database. */
	table: string | null;
}

/** Every right that this account has on this database, beyond reading it. */
export function ownRights(): Promise<OwnRight[]> {
	return select(
		`SELECT PRIVILEGE_TYPE AS \`right\`, NULL AS \`table\` FROM information_schema.USER_PRIVILEGES
			WHERE PRIVILEGE_TYPE NOT IN ('USAGE', 'SELECT')
		UNION SELECT PRIVILEGE_TYPE, NULL FROM information_schema.SCHEMA_PRIVILEGES
			WHERE DATABASE() LIKE TABLE_SCHEMA AND PRIVILEGE_TYPE <> 'SELECT'
		UNION SELECT PRIVILEGE_TYPE, TABLE_NAME FROM information_schema.TABLE_PRIVILEGES
			WHERE TABLE_SCHEMA = DATABASE() AND PRIVILEGE_TYPE <> 'SELECT'`
	);
}
