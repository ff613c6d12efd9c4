import { may } from '$lib/server/auth/actor';
import { orErrorPage } from '$lib/server/pageErrors';
import { readBoard } from '$lib/server/services/board';
import { listCrews } from '$lib/server/services/crews';
import { boardQuery } from '$lib/server/services/listQuery';
import { scheduleOf } from '$lib/server/services/projectSchedule';
import { getProject } from '$lib/server/services/projects';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, params, url }) =>
	orErrorPage(async () => {
		const actor = locals.actor!;
		const project = await getProject(actor, params.projectId);
		const query = { ...boardQuery(url), project: project.id };
		return {
			project,
			board: await readBoard(actor, query),
			crews: await listCrews(actor),
			schedule: await scheduleOf(actor, project.id),
			today: new Date().toISOString().slice(0, 10),
			mayEdit: may(actor, 'edit-hops')
		};
	});
