import { redirect } from '@sveltejs/kit';
import type { RequestHandler } from './$types';

/** Where somebody begins: who works on towers with where to be today, everybody else with the hops. */
export const GET: RequestHandler = ({ locals }) =>
	redirect(303, locals.actor?.role === 'technician' ? '/my-work' : '/');
