import { may } from '$lib/server/auth/actor';
import { listHops } from '$lib/server/services/hops';
import { hopListQuery } from '$lib/server/services/listQuery';
import { firstStepsCookie } from '$lib/ui/words/firstSteps';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url, cookies }) => {
	const query = hopListQuery(url);
	return {
		query,
		hops: await listHops(locals.actor!, query),
		firstStepsSeen: cookies.get(firstStepsCookie(locals.actor!.role)) === 'seen',
		mayEdit: may(locals.actor!, 'edit-hops')
	};
};
