import type { AuditAction } from '../auditActions';
import { countRows, likePattern, select } from '../db/sql';
import { auditTrail } from '../db/tables';
import type { Unit } from '../db/transaction';
import { COUNTED, type Found, type Slice } from './lists';

/** Adds a line to the audit trail, which the database never lets change. */
export function audit(
	userId: string | null,
	action: AuditAction,
	subject: string,
	detail: object = {},
	unit?: Unit
): Promise<void> {
	return auditTrail.add(
		{ at: new Date(), userId, action, subject, detail: JSON.stringify(detail) },
		unit
	);
}

/** Adds a line for each of several things that were done at once. */
export function auditEach(
	userId: string | null,
	action: AuditAction,
	lines: readonly { subject: string; detail: object }[],
	unit: Unit
): Promise<void> {
	const at = new Date();
	return auditTrail.add(
		lines.map(({ subject, detail }) => ({
			...{ at, userId, action, subject, detail: JSON.stringify(detail) }
		})),
		unit
	);
}

/** Whether an action stands in the trail at all. */
export async function isAudited(action: string): Promise<boolean> {
	const [line] = await auditTrail.some(['action'], { action }, { limit: 1 });
	return line !== undefined;
}

/** One line of the trail as it is kept, with the name that what it is about has now. */
export interface AuditRow {
	id: number;
	at: Date;
	by: string | null;
	action: string;
	subject: string;
	userId: string | null;
	nameNow: string | null;
	/** From its details. */
	name: string | null;
	code: string | null;
	fromValue: string | null;
	toValue: string | null;
	role: string | null;
}

/** Where the name of what a line is about stands now, by the first part of its subject. */
const NAMED_IN: Record<string, string> = {
	hop: 'SELECT id, name FROM hops WHERE id IN (?)',
	crew: 'SELECT id, name FROM crews WHERE id IN (?)',
	project: 'SELECT id, name FROM projects WHERE id IN (?)',
	site: 'SELECT id, name FROM sites WHERE id IN (?)',
	user: 'SELECT id, display_name AS name FROM users WHERE id IN (?)',
	raster: 'SELECT id, name FROM terrain_rasters WHERE id IN (?)'
};

/**
 * One page of the trail, newest first, of those whose name has the words in it, or of one action. No more
 * lines are counted than a person turns the pages of.
 */
export async function pageOfAudit(
	{ q, action }: { q: string; action?: AuditAction | undefined },
	{ limit, offset, after }: Slice
): Promise<Found<AuditRow>> {
	const where: string[] = ['TRUE'];
	const values: unknown[] = [];
	if (q) {
		const people = await select<{ id: string }>(
			'SELECT id FROM users WHERE display_name LIKE ? OR sign_in_name LIKE ? LIMIT 200',
			[likePattern(q), likePattern(q)]
		);
		if (people.length === 0) return { rows: [], count: 0 };
		where.push('t.user_id IN (?)');
		values.push(people.map(({ id }) => id));
	}
	if (action) {
		where.push('t.action = ?');
		values.push(action);
	}
	const from = `FROM audit_trail t WHERE ${where.join(' AND ')}`;
	const count = await countRows(`FROM (SELECT 1 ${from} ORDER BY t.id DESC LIMIT ?) x`, [
		...values,
		COUNTED + 1
	]);
	const last = Number(after);
	const passed = after !== undefined && Number.isSafeInteger(last);
	const rows = await select<Omit<AuditRow, 'nameNow'>>(
		`SELECT p.*, u.display_name AS \`by\` FROM (
			SELECT t.id, t.at, t.action, t.subject, t.user_id AS userId,
				JSON_VALUE(t.detail, '$.name') AS name, JSON_VALUE(t.detail, '$.code') AS code,
				JSON_VALUE(t.detail, '$.from') AS fromValue, JSON_VALUE(t.detail, '$.to') AS toValue,
				JSON_VALUE(t.detail, '$.role') AS role
			${from}${passed ? ' AND t.id < ?' : ''} ORDER BY t.id DESC LIMIT ? OFFSET ?
		) p LEFT JOIN users u ON u.id = p.userId ORDER BY p.id DESC`,
		[...values, ...(passed ? [last] : []), limit + 1, passed ? 0 : offset]
	);
	const shown = rows.slice(0, limit);
	const names = await namesOf(shown.map(({ subject }) => subject));
	return {
		count: Math.min(count, COUNTED),
		more: count > COUNTED,
		rows: shown.map((row) => ({ ...row, nameNow: names.get(row.subject) ?? null })),
		next: rows.length > limit ? String(shown.at(-1)!.id) : null
	};
}

/** The names that subjects have now, by subject. */
async function namesOf(subjects: readonly string[]): Promise<Map<string, string>> {
	const names = new Map<string, string>();
	for (const [kind, sql] of Object.entries(NAMED_IN)) {
		const ids = subjects.flatMap((subject) => {
			const [of, id] = subject.split(':');
			return of === kind && id ? [id] : [];
		});
		if (ids.length === 0) continue;
		const found = await select<{ id: string; name: string }>(sql, [[...new Set(ids)]]);
		for (const { id, name } of found) names.set(`${kind}:${id}`, name);
	}
	return names;
}
