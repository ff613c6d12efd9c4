import { error, redirect } from '@sveltejs/kit';
import { orErrorPage } from '$lib/server/pageErrors';
import { loadHopPage } from '$lib/server/services/hopPage';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, params, url }) => {
	if (!locals.actor) redirect(303, `/sign-in?next=${encodeURIComponent(url.pathname)}`);
	const { hop, revision, records, findings } = await orErrorPage(() =>
		loadHopPage(locals.actor!, params.hopId)
	);
	if (!revision) error(404, 'No plan revision is issued for this hop yet: it has no record.');
	return {
		hop: { id: hop.id, name: hop.name, sites: hop.sites, provenance: hop.provenance },
		revision: { number: revision.number, input: revision.input, plan: revision.plan },
		records,
		findings
	};
};
