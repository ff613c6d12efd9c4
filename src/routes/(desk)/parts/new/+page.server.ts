import { error } from '@sveltejs/kit';
import { isPartKind } from '#core/catalogue/partKinds';
import { may } from '$lib/server/auth/actor';
import { orErrorPage } from '$lib/server/pageErrors';
import { getPart } from '$lib/server/services/parts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => {
	if (!may(locals.actor!, 'edit-parts')) error(403, 'Your role may not change parts.');
	const copied = url.searchParams.get('copy');
	const kind = url.searchParams.get('kind');
	const copyOf = copied ? await orErrorPage(() => getPart(locals.actor!, copied)) : undefined;
	return {
		kind: copyOf?.kind ?? (isPartKind(kind) ? kind : undefined),
		copyOf: copyOf?.data
	};
};
