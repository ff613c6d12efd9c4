import { redirect } from '@sveltejs/kit';
import { SESSION_COOKIE } from '$lib/server/auth/sessions';
import { signOut } from '$lib/server/services/accounts';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = () => redirect(303, '/');

export const actions: Actions = {
	default: async ({ cookies, locals }) => {
		if (locals.sessionToken) await signOut(locals.sessionToken);
		cookies.delete(SESSION_COOKIE, { path: '/' });
		redirect(303, '/sign-in');
	}
};
