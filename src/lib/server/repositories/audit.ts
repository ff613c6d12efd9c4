import { auditTrail } from '../db/tables';
import type { Unit } from '../db/transaction';

/** Adds a line to the audit trail, which the database never lets change. */
export function audit(
	userId: string | null,
	action: string,
	subject: string,
	detail: object = {},
	unit?: Unit
): Promise<void> {
	return auditTrail.add(
		{ at: new Date(), userId, action, subject, detail: JSON.stringify(detail) },
		unit
	);
}

/** Whether an action stands in the trail at all. */
export async function isAudited(action: string): Promise<boolean> {
	const [line] = await auditTrail.some(['action'], { action }, { limit: 1 });
	return line !== undefined;
}
