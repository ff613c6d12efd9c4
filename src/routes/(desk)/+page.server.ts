import { may } from '$lib/server/auth/actor';
import { listHops } from '$lib/server/services/hops';
import { hopListQuery } from '$lib/server/services/listQuery';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => {
	const query = hopListQuery(url);
	return {
		query,
		hops: await listHops(locals.actor!, query),
		mayEdit: may(locals.actor!, 'edit-hops')
	};
};
