import { may } from '$lib/server/auth/actor';
import { listCrews } from '$lib/server/services/crews';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => ({
	crews: await listCrews(locals.actor!),
	mayEdit: may(locals.actor!, 'edit-hops')
});
