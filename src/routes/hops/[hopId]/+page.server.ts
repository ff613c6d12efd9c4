import { redirect } from '@sveltejs/kit';
import { stagesOf } from '#core/stage/stages';
import { weighedState } from '#core/guide/weigh';
import { orErrorPage } from '$lib/server/pageErrors';
import { loadHopPage } from '$lib/server/services/hopPage';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, params, url }) => {
	if (!locals.actor) redirect(303, `/sign-in?next=${encodeURIComponent(url.pathname)}`);
	const page = await orErrorPage(() => loadHopPage(locals.actor!, params.hopId));
	const { hop, revision, records, findings } = page;
	const stages = stagesOf({
		issued: revision ? weighedState(revision.input, revision.plan, records, findings) : undefined,
		revisionNumber: revision?.number ?? 0,
		accepted: page.acceptances.at(-1) ?? null
	});
	return {
		hop: {
			...{ id: hop.id, name: hop.name, sites: hop.sites },
			...{ practice: hop.practice, archived: hop.archived }
		},
		mayPlan: page.rights.plan,
		stages,
		revisionNumber: revision?.number ?? null,
		standing: `${revision?.id ?? 'none'}/${page.acceptances.length}`
	};
};
