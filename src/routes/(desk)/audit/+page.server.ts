import { AUDIT_ACTIONS } from '$lib/server/auditActions';
import { orErrorPage } from '$lib/server/pageErrors';
import { listAudit } from '$lib/server/services/auditTrail';
import { auditQuery } from '$lib/server/services/listQuery';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => {
	const query = auditQuery(url);
	return {
		query,
		lines: await orErrorPage(() => listAudit(locals.actor!, query)),
		actions: Object.entries(AUDIT_ACTIONS).map(([value, label]) => ({ value, label }))
	};
};
