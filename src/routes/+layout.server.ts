import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = ({ locals }) => ({
	actor: locals.actor && {
		userId: locals.actor.userId,
		displayName: locals.actor.displayName,
		role: locals.actor.role
	}
});
