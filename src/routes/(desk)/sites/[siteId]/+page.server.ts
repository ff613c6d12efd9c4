import { may } from '$lib/server/auth/actor';
import { orErrorPage } from '$lib/server/pageErrors';
import { listAttachments } from '$lib/server/services/attachments';
import { getSite } from '$lib/server/services/sites';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, params }) => ({
	site: await orErrorPage(() => getSite(locals.actor!, params.siteId)),
	attachments: await orErrorPage(() => listAttachments(locals.actor!, params.siteId)),
	mayEdit: may(locals.actor!, 'edit-sites')
});
