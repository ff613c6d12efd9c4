import { may } from '$lib/server/auth/actor';
import { pageSchema } from '$lib/server/schemas/inputs';
import { listQuery } from '$lib/server/services/listQuery';
import { listSites } from '$lib/server/services/sites';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => {
	const query = listQuery(url, pageSchema);
	return {
		query,
		sites: await listSites(locals.actor!, query),
		mayEdit: may(locals.actor!, 'edit-sites')
	};
};
