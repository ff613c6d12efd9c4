import { orErrorPage } from '$lib/server/pageErrors';
import { viewOwnAccount } from '$lib/server/services/ownAccount';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => ({
	account: await orErrorPage(() => viewOwnAccount(locals.actor!)),
	due: locals.actor?.secondFactorDue === true
});
