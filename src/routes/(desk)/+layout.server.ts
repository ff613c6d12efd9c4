import { redirect } from '@sveltejs/kit';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = ({ locals, url }) => {
	if (!locals.actor)
		redirect(303, `/sign-in?next=${encodeURIComponent(url.pathname + url.search)}`);
};
