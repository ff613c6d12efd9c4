import { may } from '$lib/server/auth/actor';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals }) => ({
	mayEdit: may(locals.actor!, 'edit-sites') && may(locals.actor!, 'edit-hops')
});
