import { may } from '$lib/server/auth/actor';
import { extentOfSites } from '$lib/server/services/map';
import { listRasters } from '$lib/server/services/terrain';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => ({
	extent: await extentOfSites(locals.actor!),
	rasters: await listRasters(locals.actor!),
	mayEdit: may(locals.actor!, 'edit-sites')
});
