import type { DayPlan } from '#core/schedule/dayPlan';
import { selectOne } from '../db/sql';
import { dayPlans } from '../db/tables';
import type { Unit } from '../db/transaction';

/** The plan of a hop's days as it is kept. */
export interface KeptDayPlan {
	plan: DayPlan;
	version: number;
	/** Display name of who changed it last. */
	changedBy: string;
	changedAt: Date;
}

export async function findDayPlan(hopId: string): Promise<KeptDayPlan | undefined> {
	const row = await selectOne<Omit<KeptDayPlan, 'plan'> & { content: string }>(
		`SELECT p.content, p.version, p.changed_at AS changedAt, u.display_name AS changedBy
		FROM day_plans p JOIN users u ON u.id = p.changed_by WHERE p.hop_id = ?`,
		[hopId]
	);
	if (!row) return undefined;
	const { content, ...rest } = row;
	return { ...rest, plan: JSON.parse(content) as DayPlan };
}

/** What some hops are planned with, by the id of the hop. */
export async function dayPlansOf(hopIds: readonly string[]): Promise<Map<string, DayPlan>> {
	if (hopIds.length === 0) return new Map();
	const rows = await dayPlans.some(['hopId', 'content'], { hopId: hopIds });
	return new Map(rows.map(({ hopId, content }) => [hopId, JSON.parse(content) as DayPlan]));
}

/**
 * Keeps a plan on top of a version, 0 where there was none. Throws TakenError where somebody has kept a first one
 * meanwhile.
 *
 * @returns whether the plan still had that version
 */
export async function keepDayPlan(
	hopId: string,
	version: number,
	plan: DayPlan,
	by: { userId: string; at: Date },
	unit: Unit
): Promise<boolean> {
	const values = {
		content: JSON.stringify(plan),
		version: version + 1,
		changedBy: by.userId,
		changedAt: by.at
	};
	if (version === 0) {
		await dayPlans.add({ hopId, ...values }, unit);
		return true;
	}
	return (await dayPlans.change({ hopId, version }, values, unit)) > 0;
}
