import { may } from '$lib/server/auth/actor';
import { orErrorPage } from '$lib/server/pageErrors';
import { getHub } from '$lib/server/services/hubs';
import { catalogue } from '$lib/server/services/parts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, params }) => {
	const { hubUnits, terminals } = await catalogue();
	return {
		hub: await orErrorPage(() => getHub(locals.actor!, params.hubId)),
		parts: { hubUnits, terminals },
		mayEdit: may(locals.actor!, 'edit-hops')
	};
};
