import { may } from '$lib/server/auth/actor';
import { boardRegions, listViews, readBoard } from '$lib/server/services/board';
import { listCrews } from '$lib/server/services/crews';
import { boardQuery } from '$lib/server/services/listQuery';
import { listProjects } from '$lib/server/services/projects';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => {
	const actor = locals.actor!;
	const query = boardQuery(url);
	const [board, crews, projects, regions, views] = await Promise.all([
		readBoard(actor, query),
		listCrews(actor),
		listProjects(actor),
		boardRegions(),
		listViews(actor)
	]);
	return {
		...{ query, board, regions, views },
		crews: crews.map(({ id, name }) => ({ id, name })),
		projects: projects.map(({ id, name }) => ({ id, name })),
		today: new Date().toISOString().slice(0, 10),
		mayEdit: may(actor, 'edit-hops')
	};
};
