import { orErrorPage } from '$lib/server/pageErrors';
import { requireMay } from '$lib/server/auth/actor';
import { accountRules, listPeople } from '$lib/server/services/accounts';
import { ROLES } from '$lib/server/auth/roles';
import { pageSchema } from '$lib/server/schemas/inputs';
import { listQuery } from '$lib/server/services/listQuery';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => {
	const query = listQuery(url, pageSchema);
	return {
		query,
		people: await orErrorPage(async () => {
			requireMay(locals.actor!, 'manage-people');
			return listPeople(locals.actor!, query);
		}),
		rules: await orErrorPage(() => accountRules(locals.actor!)),
		roles: [...ROLES],
		ownId: locals.actor!.userId
	};
};
