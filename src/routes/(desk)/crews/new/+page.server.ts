import { requireMay } from '$lib/server/auth/actor';
import { orErrorPage } from '$lib/server/pageErrors';
import { listPeople } from '$lib/server/services/accounts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals }) =>
	orErrorPage(async () => {
		requireMay(locals.actor!, 'edit-hops');
		return { people: await listPeople(locals.actor!, { q: '', page: 1 }) };
	});
