import type { DayPlan } from '#core/schedule/dayPlan';
import type { Actor } from '../auth/actor';
import { unlessTaken } from '../db/taken';
import { inTransaction } from '../db/transaction';
import { refusal } from '../errors';
import { audit } from '../repositories/audit';
import { findDayPlan, keepDayPlan, type KeptDayPlan } from '../repositories/dayPlans';
import { getHopRow, requireMayRecord } from './hops';

export type { KeptDayPlan };

/** The plan of a hop's days; null while nobody has made one. */
export async function dayPlanOf(actor: Actor, hopId: string): Promise<KeptDayPlan | null> {
	await getHopRow(actor, hopId);
	return (await findDayPlan(hopId)) ?? null;
}

/**
 * Keeps the plan of a hop's days: by whoever may record on it, since crews change their own day.
 *
 * @param version that it is made on top of; 0 where there was none
 */
export async function saveDayPlan(
	actor: Actor,
	hopId: string,
	{ version, plan }: { version: number; plan: DayPlan }
): Promise<KeptDayPlan> {
	const hop = await getHopRow(actor, hopId);
	requireMayRecord(actor, hop);
	const by = { userId: actor.userId, at: new Date() };
	const keep = (): Promise<boolean> =>
		inTransaction(async (unit) => {
			const kept = await keepDayPlan(hopId, version, plan, by, unit);
			if (!kept) return false;
			await audit(actor.userId, 'plan-days', `hop:${hopId}`, { name: hop.name, version }, unit);
			return true;
		});
	if (!(await unlessTaken(keep, () => false))) {
		throw refusal('changed-meanwhile', { what: 'timetable' });
	}
	const found = await findDayPlan(hopId);
	if (!found) throw refusal('changed-meanwhile', { what: 'timetable' });
	return found;
}
