import { error } from '@sveltejs/kit';
import { may } from '$lib/server/auth/actor';
import { catalogue } from '$lib/server/services/parts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	if (!may(locals.actor!, 'edit-hops')) error(403, 'Your role may not plan hops.');
	return { parts: await catalogue(), today: new Date().toISOString().slice(0, 10) };
};
