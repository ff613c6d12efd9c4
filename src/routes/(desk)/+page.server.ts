import { pageSchema } from '$lib/server/schemas/inputs';
import { may } from '$lib/server/auth/actor';
import { listHops } from '$lib/server/services/hops';
import type { PageServerLoad } from './$types';
import { listQuery } from '$lib/server/services/listQuery';

export const load: PageServerLoad = async ({ locals, url }) => {
	const query = listQuery(url, pageSchema);
	return {
		query,
		hops: await listHops(locals.actor!, query),
		mayEdit: may(locals.actor!, 'edit-hops')
	};
};
