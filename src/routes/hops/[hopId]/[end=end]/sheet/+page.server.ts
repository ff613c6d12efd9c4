import { orErrorPage } from '$lib/server/pageErrors';
import { prepareSheet } from '$lib/server/services/sheets';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, params, url, parent }) => {
	// The layout sends the signed-out to sign in before anything is read here.
	await parent();
	const end = params.end === 'a' ? 'A' : 'B';
	return {
		prepared: await orErrorPage(() => prepareSheet(locals.actor!, params.hopId, end, url.origin))
	};
};
