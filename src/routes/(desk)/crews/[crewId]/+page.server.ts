import { requireMay } from '$lib/server/auth/actor';
import { orErrorPage } from '$lib/server/pageErrors';
import { listPeople } from '$lib/server/services/accounts';
import { getCrew } from '$lib/server/services/crews';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, params }) =>
	orErrorPage(async () => {
		requireMay(locals.actor!, 'edit-hops');
		return {
			crew: await getCrew(locals.actor!, params.crewId),
			people: await listPeople(locals.actor!, { q: '', page: 1 })
		};
	});
