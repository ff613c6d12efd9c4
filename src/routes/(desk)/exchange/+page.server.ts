import { may } from '$lib/server/auth/actor';
import { columnGuide } from '$lib/server/formats/columnGuide';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals }) => {
	const mayEdit = may(locals.actor!, 'edit-sites') && may(locals.actor!, 'edit-hops');
	return {
		mayEdit,
		guides: mayEdit ? { sites: columnGuide('sites'), hops: columnGuide('hops') } : null
	};
};
