import { catalogue } from '$lib/server/services/parts';
import { listMembers } from '$lib/server/services/hops';
import { neighboursOf } from '$lib/server/services/neighbours';
import { listRevisions } from '$lib/server/services/plans';
import { listPeople } from '$lib/server/services/accounts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, params, parent }) => {
	if (params.stage !== 'prepare') return { stage: params.stage, planning: null };
	const { rights, hop } = await parent();
	return {
		stage: params.stage,
		planning: rights.plan
			? {
					parts: await catalogue(),
					today: new Date().toISOString().slice(0, 10),
					neighbours: await neighboursOf(locals.actor!, hop),
					revisions: await listRevisions(locals.actor!, hop.id, 1),
					members: await listMembers(locals.actor!, hop.id),
					people: await listPeople(locals.actor!, { q: '', page: 1 })
				}
			: null
	};
};
