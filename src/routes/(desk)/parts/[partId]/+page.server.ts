import { may } from '$lib/server/auth/actor';
import { orErrorPage } from '$lib/server/pageErrors';
import { getPart, versionsOf } from '$lib/server/services/parts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, params }) => {
	const part = await orErrorPage(() => getPart(locals.actor!, params.partId));
	return {
		part,
		versions: (await versionsOf(locals.actor!, params.partId)).map(
			({ version, note, madeBy, madeAt }) => ({ version, note, madeBy, madeAt })
		),
		mayEdit: may(locals.actor!, 'edit-parts')
	};
};
