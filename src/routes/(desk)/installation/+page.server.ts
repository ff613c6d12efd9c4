import { orErrorPage } from '$lib/server/pageErrors';
import { viewInstallation } from '$lib/server/services/installation';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => ({
	installation: await orErrorPage(() => viewInstallation(locals.actor!))
});
