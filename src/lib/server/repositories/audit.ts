import { AUDIT_ACTIONS, type AuditAction } from '../auditActions';
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

/** One line of the trail, as people read it. */
export interface AuditLine {
	id: number;
	at: Date;
	/** Who did it; null where the program did, or nobody was signed in. */
	by: string | null;
	/** What was done, in words. */
	did: string;
	/** To what, by its name; null where it says nothing, or is nobody's name any more. */
	about: string | null;
	/** What else there is to say, in words. */
	more: string | null;
}

type LineRow = {
	id: number;
	at: Date;
	by: string | null;
	action: string;
	subject: string;
	userId: string | null;
} & Record<'name' | 'code' | 'fromValue' | 'toValue' | 'role', string | null>;

/** Where the name of what a line is about stands now, by the first part of its subject. */
const NAMED_IN: Record<string, string> = {
	hop: 'SELECT id, name FROM hops WHERE id IN (?)',
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
): Promise<Found<AuditLine>> {
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
	const rows = await select<LineRow>(
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
		rows: shown.map((row) => lineOf(row, names)),
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

/** What a line says was done; lines of other versions may tell of what this one does not know. */
function didWords(action: string, self: boolean): string {
	if (self && action === 'end-sessions') return 'ended sessions of their own';
	const words: Readonly<Record<string, string>> = AUDIT_ACTIONS;
	return words[action] ?? 'did something that this version has no words for to';
}

function lineOf(row: LineRow, names: ReadonlyMap<string, string>): AuditLine {
	const { id, at, action, subject } = row;
	const [kind, key] = subject.split(':');
	const self = kind === 'user' && key === row.userId;
	const named = row.code ?? names.get(subject) ?? row.name ?? (kind === 'role' ? key : undefined);
	const more =
		row.fromValue !== null && row.toValue !== null
			? `from ${row.fromValue} to ${row.toValue}`
			: row.role;
	return {
		id,
		at,
		by: row.by,
		did: didWords(action, self),
		about: self ? null : (named ?? null),
		more
	};
}
