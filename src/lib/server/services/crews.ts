import type { Crew } from '#core/schedule/crew';
import { requireMay, type Actor } from '../auth/actor';
import { InUseError, TakenError } from '../db/taken';
import { inTransaction } from '../db/transaction';
import { invalid, notFound, refusal } from '../errors';
import { audit } from '../repositories/audit';
import { allCrews, findCrew, keepCrew, removeCrew, type KeptCrew } from '../repositories/crews';
import { knownUserIds } from '../repositories/users';

export type { KeptCrew };

/** Every crew by name: also who works in one reaches the others. */
export async function listCrews(actor: Actor): Promise<KeptCrew[]> {
	requireMay(actor, 'read-hops');
	return allCrews();
}

export async function getCrew(actor: Actor, id: string): Promise<KeptCrew> {
	requireMay(actor, 'read-hops');
	return (await findCrew(id)) ?? noCrew();
}

const noCrew = (): never => {
	throw notFound('crew');
};

/**
 * Makes a crew or changes it. A repeat with the same content does nothing.
 *
 * @param id made where it is typed
 */
export async function saveCrew(
	actor: Actor,
	id: string,
	{ version, crew }: { version: number; crew: Crew }
): Promise<KeptCrew> {
	requireMay(actor, 'edit-hops');
	const accounts = crew.people.flatMap(({ userId }) => userId ?? []);
	const known = await knownUserIds(accounts);
	const unknown = crew.people.findIndex(({ userId }) => userId !== null && !known.has(userId));
	if (unknown >= 0) {
		const field = `crew.people.${unknown}.userId`;
		throw invalid([{ field, message: 'There is no such account.' }]);
	}
	const by = { userId: actor.userId, at: new Date() };
	try {
		const kept = await inTransaction(async (unit) => {
			if (!(await keepCrew(id, version, crew, by, unit))) return false;
			await audit(actor.userId, 'save-crew', `crew:${id}`, { name: crew.name }, unit);
			return true;
		});
		if (kept) return await getCrew(actor, id);
	} catch (error) {
		if (!(error instanceof TakenError)) throw error;
		if (error.key.includes('name')) throw refusal('name-taken', 'crew').at('crew.name');
	}
	const present = await findCrew(id);
	if (present && isSame(present, crew)) return present;
	throw refusal('changed-meanwhile', { what: 'crew' });
}

/** Whether a crew that is kept says what somebody sends. */
const isSame = (kept: Crew, sent: Crew): boolean => inOrder(kept) === inOrder(sent);

const inOrder = ({ name, region, zone, fromMin, toMin, base, equipment, people }: Crew): string =>
	JSON.stringify([
		...[name, region, zone, fromMin, toMin, base?.latitudeDeg, base?.longitudeDeg, equipment],
		people.map((person) => [
			...[person.id, person.name, person.phone, person.userId],
			[...person.skills].sort()
		])
	]);

/** Removes a crew that is assigned nowhere. */
export async function deleteCrew(actor: Actor, id: string): Promise<void> {
	requireMay(actor, 'edit-hops');
	const crew = (await findCrew(id)) ?? noCrew();
	try {
		await inTransaction(async (unit) => {
			await removeCrew(id, unit);
			await audit(actor.userId, 'delete-crew', `crew:${id}`, { name: crew.name }, unit);
		});
	} catch (error) {
		if (error instanceof InUseError) throw refusal('crew-in-use');
		throw error;
	}
}
