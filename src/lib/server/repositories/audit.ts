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

/** Adds a line for each of several things that were done at once. */
export function auditEach(
	userId: string | null,
	action: string,
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
