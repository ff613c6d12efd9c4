import { orErrorPage } from '$lib/server/pageErrors';
import { viewOwnAccount } from '$lib/server/services/ownAccount';
import { hasPasskeys } from '$lib/server/auth/passkey';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => ({
	account: await orErrorPage(() => viewOwnAccount(locals.actor!)),
	passkeysPossible: hasPasskeys(url.origin),
	due: locals.actor?.secondFactorDue === true
});
