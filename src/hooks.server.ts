import type { Handle, HandleServerError, ServerInit } from '@sveltejs/kit';
import { findActor, SESSION_COOKIE } from '$lib/server/auth/sessions';
import { closeDb } from '$lib/server/db/connection';
import { AppError } from '$lib/server/errors';
import { log } from '$lib/server/log';
import { firstStart } from '$lib/server/services/firstStart';

export const init: ServerInit = async () => {
	await firstStart();
	process.on('sveltekit:shutdown', () => void closeDb());
};

const OPEN_PATHS = ['/healthz', '/readyz'];

export const handle: Handle = async ({ event, resolve }) => {
	event.locals.actor = undefined;
	event.locals.sessionToken = event.cookies.get(SESSION_COOKIE);
	if (event.locals.sessionToken && !OPEN_PATHS.includes(event.url.pathname)) {
		event.locals.actor = await findActor(event.locals.sessionToken);
	}
	const response = await resolve(event);
	response.headers.set('x-content-type-options', 'nosniff');
	response.headers.set('referrer-policy', 'same-origin');
	response.headers.set('x-frame-options', 'DENY');
	return response;
};

/** What was not foreseen: the cause goes to the log, a fixed text to the user. */
export const handleError: HandleServerError = ({ error, event, status }) => {
	if (error instanceof AppError) return { message: error.message };
	if (status === 404) return { message: 'There is no such page.' };
	log.error({ err: error, path: event.url.pathname }, 'request failed');
	return { message: 'Something went wrong here. Nothing was changed; try again.' };
};
