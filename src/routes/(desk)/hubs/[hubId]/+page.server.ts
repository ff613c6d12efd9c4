import { may } from '$lib/server/auth/actor';
import { orErrorPage } from '$lib/server/pageErrors';
import { getHub } from '$lib/server/services/hubs';
import { hubDiffers, hubInForce } from '$lib/server/services/hubWork';
import { catalogue } from '$lib/server/services/parts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, params }) => {
	const { hubUnits, terminals } = await catalogue();
	const hub = await orErrorPage(() => getHub(locals.actor!, params.hubId));
	const revision = await hubInForce(locals.actor!, params.hubId);
	return {
		hub,
		parts: { hubUnits, terminals },
		mayEdit: may(locals.actor!, 'edit-hops'),
		issued: revision && {
			number: revision.number,
			at: revision.issuedAt,
			changedSince: await hubDiffers(hub, revision)
		}
	};
};
