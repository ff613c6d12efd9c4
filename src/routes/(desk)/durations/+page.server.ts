import { may } from '$lib/server/auth/actor';
import { timesOfWork } from '$lib/server/services/durations';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => ({
	work: await timesOfWork(locals.actor!),
	mayEdit: may(locals.actor!, 'edit-hops')
});
