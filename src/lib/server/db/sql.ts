import { QueryTypes } from 'sequelize';
import { db } from './connection';
import type { Unit } from './transaction';

/** Values for the `?` of a statement, in order, or for its `:name`s. */
type Values = readonly unknown[] | Readonly<Record<string, unknown>>;

/** The rows that a statement finds. `Row` says what its columns are named and hold. */
export function select<Row extends object>(
	sql: string,
	values: Values = [],
	unit?: Unit
): Promise<Row[]> {
	return db().query<Row>(sql, {
		replacements: replacementsOf(values),
		type: QueryTypes.SELECT,
		transaction: unit ?? null
	});
}

/** The first row that a statement finds. */
export async function selectOne<Row extends object>(
	sql: string,
	values: Values = [],
	unit?: Unit
): Promise<Row | undefined> {
	const [row] = await select<Row>(sql, values, unit);
	return row;
}

/** How many rows there are: `sql` goes on from `SELECT COUNT(*)`. */
export async function countRows(sql: string, values: Values = [], unit?: Unit): Promise<number> {
	const row = await selectOne<{ count: number }>(`SELECT COUNT(*) AS count ${sql}`, values, unit);
	return row?.count ?? 0;
}

/** Runs a statement that finds nothing. */
export async function run(sql: string, values: Values = [], unit?: Unit): Promise<void> {
	await db().query(sql, { replacements: replacementsOf(values), transaction: unit ?? null });
}

/** Runs a statement that changes rows, and tells how many it found. */
export async function change(sql: string, values: Values = [], unit?: Unit): Promise<number> {
	const [, found] = await db().query(sql, {
		replacements: replacementsOf(values),
		type: QueryTypes.UPDATE,
		transaction: unit ?? null
	});
	return found;
}

const isList = (values: Values): values is readonly unknown[] => Array.isArray(values);

function replacementsOf(values: Values): unknown[] | Record<string, unknown> {
	return isList(values) ? [...values] : { ...values };
}

/** A LIKE pattern that finds the words typed, with the wildcards of SQL taken literally. */
export function likePattern(words: string): string {
	return `%${words.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;
}

/** A time as statements take it: the driver would cut one in a replacement to its seconds. */
export const timeText = (time: Date): string => time.toISOString().slice(0, -1).replace('T', ' ');
