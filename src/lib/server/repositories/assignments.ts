import type { End } from '#core/ends';
import { select } from '../db/sql';
import { assignments, members, type AssignmentRow } from '../db/tables';
import type { Unit } from '../db/transaction';

/** A crew at an end of a hop, on a day. */
export interface Assignment {
	id: string;
	hopId: string;
	end: End;
	crewId: string;
	/** As `2026-06-15`, by the clock of the crew. */
	day: string;
	/** When to be there, minutes after midnight; null where nobody has said. */
	fromMin: number | null;
	note: string;
}

const assignmentOf = ({
	id,
	hopId,
	end,
	crewId,
	day,
	fromMin,
	note
}: AssignmentRow): Assignment => ({ id, hopId, end, crewId, day, fromMin, note });

export async function findAssignment(id: string): Promise<Assignment | undefined> {
	const row = await assignments.one({ id });
	return row && assignmentOf(row);
}

/** Those of some hops, by day. */
export async function assignmentsOf(hopIds: readonly string[]): Promise<Assignment[]> {
	if (hopIds.length === 0) return [];
	const rows = await assignments.all(
		{ hopId: hopIds },
		{
			order: [
				['day', 'ASC'],
				['end', 'ASC']
			]
		}
	);
	return rows.map(assignmentOf);
}

/** Those of some crews from one day to another, by day, of hops that are worked on. */
export async function assignmentsOfCrews(
	crewIds: readonly string[],
	fromDay: string,
	toDay: string,
	limit: number
): Promise<Assignment[]> {
	if (crewIds.length === 0) return [];
	return select<Assignment>(
		`SELECT s.id, s.hop_id AS hopId, s.end, s.crew_id AS crewId, s.day, s.from_min AS fromMin, s.note
		FROM assignments s JOIN hops h ON h.id = s.hop_id AND h.archived_at IS NULL
		WHERE s.crew_id IN (?) AND s.day >= ? AND s.day <= ?
		ORDER BY s.day, s.from_min IS NULL, s.from_min, h.name, s.end LIMIT ?`,
		[crewIds, fromDay, toDay, limit]
	);
}

/** Throws TakenError where the crew is at that end on that day already, or the id is another's. */
export const addAssignment = (
	assignment: Assignment,
	by: { userId: string; at: Date },
	unit: Unit
): Promise<void> => assignments.add({ ...assignment, madeBy: by.userId, madeAt: by.at }, unit);

export const changeAssignment = (
	{ id, hopId, ...values }: Assignment,
	unit: Unit
): Promise<number> => assignments.change({ id, hopId }, values, unit);

export const removeAssignment = (id: string, unit: Unit): Promise<number> =>
	assignments.remove({ id }, unit);

/** Lets people see a hop who do not yet. */
export async function letSee(
	hopId: string,
	userIds: readonly string[],
	unit: Unit
): Promise<string[]> {
	const known = await members.some(['userId'], { hopId }, { unit });
	const fresh = userIds.filter((id) => !known.some(({ userId }) => userId === id));
	await members.add(
		fresh.map((userId) => ({ hopId, userId })),
		unit
	);
	return fresh;
}
