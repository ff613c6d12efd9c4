import type { HopPlan } from '#core/budget/hopPlan';
import type { HopPlanInput } from '#core/budget/planInput';
import type { PlanReview } from '#core/review/reviewPlan';
import { hops, revisions, type RevisionRow } from '../db/tables';
import type { Unit } from '../db/transaction';

/** A plan revision as it was frozen; what came into plans later it may lack. */
export interface FrozenRevision {
	id: string;
	hopId: string;
	number: number;
	/** As it was written: its date is text. */
	input: Omit<HopPlanInput, 'workDate'> & { workDate: string };
	plan: HopPlan;
	/** The review that let it be issued; null on revisions older than the review. */
	review: PlanReview | null;
	note: string;
	issuedBy: string;
	issuedAt: Date;
}

/** What is written of a revision: any document, frozen as it is. */
export interface NewRevision extends Omit<FrozenRevision, 'input' | 'plan' | 'review'> {
	input: object;
	plan: object;
	review: object | null;
}

/** What a list shows of a revision. */
export type RevisionHead = Pick<RevisionRow, 'id' | 'number' | 'note' | 'issuedAt'>;

const NEWEST_FIRST = [['number', 'DESC']] as const;

/** Locks a hop until the unit ends: no revision is issued and none accepted meanwhile. */
export async function lockHop(hopId: string, unit: Unit): Promise<void> {
	await hops.some(['id'], { id: hopId }, { unit, lock: true });
}

/**
 * Number of the newest revision of a hop; 0 while none is issued. A locking read: the unit's own
 * snapshot may be older than the lock it has just waited for.
 */
export async function latestRevisionNumber(hopId: string, unit: Unit): Promise<number> {
	const choice = { order: NEWEST_FIRST, limit: 1, unit, lock: true };
	const [latest] = await revisions.some(['number'], { hopId }, choice);
	return latest?.number ?? 0;
}

/** Id of the newest revision of a hop, or undefined while none is issued. */
export async function newestRevisionId(hopId: string): Promise<string | undefined> {
	const [row] = await revisions.some(['id'], { hopId }, { order: NEWEST_FIRST, limit: 1 });
	return row?.id;
}

export async function findRevision(
	where: { id: string } | { hopId: string; number: number }
): Promise<FrozenRevision | undefined> {
	return frozenOf(await revisions.one(where));
}

/** Every revision of a hop, the oldest first. */
export async function allRevisions(hopId: string): Promise<FrozenRevision[]> {
	const rows = await revisions.all({ hopId }, { order: [['number', 'ASC']] });
	return rows.flatMap((row) => frozenOf(row) ?? []);
}

/** Number and note of the revisions of a hop, the newest first, a page of them. */
export async function pageOfRevisions(
	hopId: string,
	limit: number,
	offset: number
): Promise<{ rows: RevisionHead[]; count: number }> {
	const choice = { order: NEWEST_FIRST, limit, offset };
	return {
		count: await revisions.count({ hopId }),
		rows: await revisions.some(['id', 'number', 'note', 'issuedAt'], { hopId }, choice)
	};
}

/** Ids of some revisions of a hop by their number. */
export async function revisionIds(
	hopId: string,
	numbers: readonly number[]
): Promise<Map<number, string>> {
	const where = { hopId, number: [...new Set(numbers)] };
	const rows = await revisions.some(['id', 'number'], where);
	return new Map(rows.map(({ id, number }) => [number, id]));
}

/** Throws TakenError where the id or the number is there already. */
export function insertRevision(revision: NewRevision, unit: Unit): Promise<void> {
	const { input, plan, review, ...rest } = revision;
	return revisions.add(
		{
			...rest,
			input: JSON.stringify(input),
			plan: JSON.stringify(plan),
			review: review && JSON.stringify(review)
		},
		unit
	);
}

function frozenOf(row: RevisionRow | undefined): FrozenRevision | undefined {
	return (
		row && {
			...row,
			input: JSON.parse(row.input) as FrozenRevision['input'],
			plan: JSON.parse(row.plan) as HopPlan,
			review: row.review ? (JSON.parse(row.review) as PlanReview) : null
		}
	);
}
