import { error } from '@sveltejs/kit';
import { may } from '$lib/server/auth/actor';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals }) => {
	if (!may(locals.actor!, 'edit-parts')) error(403, 'Your role may not change parts.');
};
