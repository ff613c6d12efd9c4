import { error } from '@sveltejs/kit';
import { may } from '$lib/server/auth/actor';
import { catalogue } from '$lib/server/services/parts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	if (!may(locals.actor!, 'edit-hops')) error(403, 'Your role may not plan hubs.');
	const { hubUnits, terminals } = await catalogue();
	return { parts: { hubUnits, terminals } };
};
