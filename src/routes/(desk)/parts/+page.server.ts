import { may } from '$lib/server/auth/actor';
import { partQuerySchema } from '$lib/server/api/endpoints/parts';
import { pageOfParts } from '$lib/server/services/parts';
import type { PartKind } from '#core/catalogue/partKinds';
import type { PageServerLoad } from './$types';

interface Query {
	q: string;
	page: number;
	kind?: PartKind;
	ghz?: number;
	retired: boolean;
}

/** Nonsense in the address means all parts, from the first page. */
function queryOf(url: URL): Query {
	const given = Object.fromEntries(
		[...url.searchParams].filter(([, value]) => value.trim() !== '')
	);
	const result = partQuerySchema.validate(given, { stripUnknown: true });
	return result.error ? { q: '', page: 1, retired: false } : (result.value as Query);
}

export const load: PageServerLoad = async ({ locals, url }) => {
	const query = queryOf(url);
	return {
		query,
		parts: await pageOfParts(locals.actor!, {
			...query,
			kind: query.kind ?? null,
			ghz: query.ghz ?? null
		}),
		mayEdit: may(locals.actor!, 'edit-parts')
	};
};
