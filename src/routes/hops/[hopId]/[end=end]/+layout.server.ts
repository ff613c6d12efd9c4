import { redirect } from '@sveltejs/kit';
import { orErrorPage } from '$lib/server/pageErrors';
import { loadHopPage } from '$lib/server/services/hopPage';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = async ({ locals, params, url, depends }) => {
	depends('skiaxis:hop');
	if (!locals.actor) redirect(303, `/sign-in?next=${encodeURIComponent(url.pathname)}`);
	return {
		...(await orErrorPage(() => loadHopPage(locals.actor!, params.hopId))),
		end: params.end === 'a' ? ('A' as const) : ('B' as const)
	};
};
