import { orErrorPage } from '$lib/server/pageErrors';
import { requireMay } from '$lib/server/auth/actor';
import { listPeople } from '$lib/server/services/accounts';
import { ROLES } from '$lib/server/auth/roles';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => ({
	people: await orErrorPage(async () => {
		requireMay(locals.actor!, 'manage-people');
		return listPeople(locals.actor!);
	}),
	roles: [...ROLES],
	ownId: locals.actor!.userId
});
