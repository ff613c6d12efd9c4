import { may } from '$lib/server/auth/actor';
import { pageSchema } from '$lib/server/schemas/inputs';
import { listHubs } from '$lib/server/services/hubs';
import { listQuery } from '$lib/server/services/listQuery';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => {
	const query = listQuery(url, pageSchema);
	return {
		query,
		hubs: await listHubs(locals.actor!, query),
		mayEdit: may(locals.actor!, 'edit-hops')
	};
};
