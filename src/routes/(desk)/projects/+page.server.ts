import { may } from '$lib/server/auth/actor';
import { listProjects } from '$lib/server/services/projects';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => ({
	projects: await listProjects(locals.actor!),
	today: new Date().toISOString().slice(0, 10),
	mayEdit: may(locals.actor!, 'edit-hops')
});
