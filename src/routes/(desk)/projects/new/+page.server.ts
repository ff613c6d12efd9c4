import { requireMay } from '$lib/server/auth/actor';
import { orErrorPage } from '$lib/server/pageErrors';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals }) =>
	orErrorPage(() => {
		requireMay(locals.actor!, 'edit-hops');
		return Promise.resolve({});
	});
