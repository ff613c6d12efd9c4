import { redirect } from '@sveltejs/kit';
import { orErrorPage } from '$lib/server/pageErrors';
import { loadHubWorkPage } from '$lib/server/services/hubWorkPage';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, params, url, depends }) => {
	depends('skiaxis:hub');
	if (!locals.actor) {
		redirect(303, `/sign-in?next=${encodeURIComponent(url.pathname + url.search)}`);
	}
	return orErrorPage(() => loadHubWorkPage(locals.actor!, params.hubId));
};
