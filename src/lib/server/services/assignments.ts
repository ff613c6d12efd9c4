import { requireMay, type Actor } from '../auth/actor';
import { TakenError } from '../db/taken';
import { inTransaction } from '../db/transaction';
import { invalid, notFound, refusal } from '../errors';
import {
	addAssignment,
	assignmentsOf,
	changeAssignment,
	findAssignment,
	letSee,
	removeAssignment,
	type Assignment
} from '../repositories/assignments';
import { audit } from '../repositories/audit';
import { accountsOfCrew, findCrew } from '../repositories/crews';
import { getHopRow } from './hops';

export type { Assignment };

/** Which crew is at which end of a hop, and when. */
export async function assignmentsOfHop(actor: Actor, hopId: string): Promise<Assignment[]> {
	await getHopRow(actor, hopId);
	return assignmentsOf([hopId]);
}

/**
 * Puts a crew at an end of a hop on a day, or changes that. Whoever of it has an account sees the hop from then on. A
 * repeat does nothing more.
 */
export async function assign(actor: Actor, assignment: Assignment): Promise<Assignment> {
	requireMay(actor, 'edit-hops');
	const { id, hopId, crewId, day, end } = assignment;
	const { name } = await getHopRow(actor, hopId);
	const crew = await findCrew(crewId);
	if (!crew) throw invalid([{ field: 'crewId', message: 'There is no such crew.' }]);
	const present = await findAssignment(id);
	if (present && present.hopId !== hopId) throw refusal('id-used', 'assignment');
	const by = { userId: actor.userId, at: new Date() };
	try {
		await inTransaction(async (unit) => {
			if (present) await changeAssignment(assignment, unit);
			else await addAssignment(assignment, by, unit);
			const fresh = await letSee(hopId, await accountsOfCrew(crewId, unit), unit);
			const detail = { name, crew: crew.name, day, end, newMembers: fresh };
			await audit(actor.userId, 'assign-crew', `hop:${hopId}`, detail, unit);
		});
	} catch (error) {
		if (error instanceof TakenError) throw refusal('assigned-already').at('crewId');
		throw error;
	}
	return (await findAssignment(id)) ?? assignment;
}

/** Takes a crew away again; a repeat does nothing more. Who could see the hop still does. */
export async function unassign(actor: Actor, hopId: string, id: string): Promise<void> {
	requireMay(actor, 'edit-hops');
	const { name } = await getHopRow(actor, hopId);
	const present = await findAssignment(id);
	if (!present) return;
	if (present.hopId !== hopId) throw notFound('assignment');
	await inTransaction(async (unit) => {
		await removeAssignment(id, unit);
		const { day, end } = present;
		await audit(actor.userId, 'take-crew-away', `hop:${hopId}`, { name, day, end }, unit);
	});
}
