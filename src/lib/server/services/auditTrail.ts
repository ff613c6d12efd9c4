import type { AuditAction } from '../auditActions';
import { requireMay, type Actor } from '../auth/actor';
import { pageOfAudit, type AuditLine } from '../repositories/audit';
import { pageOf, type ListQuery, type Page } from './paging';

export type { AuditLine };

/** What is asked of the trail: everything, or one action; the words are those of a person's name. */
export type AuditQuery = ListQuery & { action?: AuditAction | undefined };

/** Who did what, newest first (administrators). */
export function listAudit(actor: Actor, query: AuditQuery): Promise<Page<AuditLine>> {
	requireMay(actor, 'manage-people');
	return pageOf(query, (slice) => pageOfAudit(query, slice));
}
