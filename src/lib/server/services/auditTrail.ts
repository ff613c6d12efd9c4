import { AUDIT_ACTIONS, type AuditAction } from '../auditActions';
import { requireMay, type Actor } from '../auth/actor';
import { pageOfAudit, type AuditRow } from '../repositories/audit';
import { pageOf, type ListQuery, type Page } from './paging';

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

/** What is asked of the trail: everything, or one action; the words are those of a person's name. */
export type AuditQuery = ListQuery & { action?: AuditAction | undefined };

/** Who did what, newest first (administrators). */
export function listAudit(actor: Actor, query: AuditQuery): Promise<Page<AuditLine>> {
	requireMay(actor, 'manage-people');
	return pageOf(query, async (slice) => {
		const { rows, ...found } = await pageOfAudit(query, slice);
		return { ...found, rows: rows.map(lineOf) };
	});
}

/** What a line says was done; lines of other versions may tell of what this one does not know. */
function didWords(action: string, self: boolean): string {
	if (self && action === 'end-sessions') return 'ended sessions of their own';
	const words: Readonly<Record<string, string>> = AUDIT_ACTIONS;
	return words[action] ?? 'did something that this version has no words for to';
}

function lineOf(row: AuditRow): AuditLine {
	const { id, at, action, subject } = row;
	const [kind, key] = subject.split(':');
	const self = kind === 'user' && key === row.userId;
	const named = row.code ?? row.nameNow ?? row.name ?? (kind === 'role' ? key : undefined);
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
