import { randomBytes } from 'node:crypto';
import type { Actor } from '../auth/actor';
import { hashPassword } from '../auth/passwords';
import type { Unit } from '../db/transaction';
import { findPerson, insertUser } from '../repositories/users';
import { getSite, type SiteInput } from './sites';

/** A site as an archive holds it. */
export async function archivedSite(
	actor: Actor,
	siteId: string
): Promise<SiteInput & { id: string }> {
	const { id, name, latitudeDeg, longitudeDeg, groundAmslM, notes, climate, conditions } =
		await getSite(actor, siteId);
	return { id, name, latitudeDeg, longitudeDeg, groundAmslM, notes, climate, conditions };
}

/** Who is named in an archive and not here gets an account that nobody can sign in with. */
export async function insertPeople(
	people: readonly { id: string; displayName: string }[],
	unit: Unit
): Promise<void> {
	// One secret for all, known to nobody: a hash takes long on purpose, and these accounts are blocked.
	const passwordHash = await hashPassword(randomBytes(24).toString('base64'));
	for (const { id, displayName } of people) {
		if (await findPerson(id, unit)) continue;
		await insertUser(
			{
				id,
				signInName: `archived-${id}`,
				displayName,
				role: 'technician',
				passwordHash,
				disabled: true,
				createdAt: new Date()
			},
			unit
		);
	}
}
