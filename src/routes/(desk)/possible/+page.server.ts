import { may } from '$lib/server/auth/actor';
import { catalogue } from '$lib/server/services/parts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => ({
	radios: (await catalogue()).terminals,
	mayPlan: may(locals.actor!, 'edit-hops')
});
