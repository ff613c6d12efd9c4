import {
	redirect,
	type Handle,
	type HandleServerError,
	type RequestEvent,
	type ServerInit
} from '@sveltejs/kit';
import { findActor, SESSION_COOKIE } from '$lib/server/auth/sessions';
import { closeDb } from '$lib/server/db/connection';
import { errorResponse } from '$lib/server/api/dispatch';
import { makeDocuments } from '$lib/server/api/document';
import { AppError, isDatabaseGone } from '$lib/server/errors';
import { compressed } from '$lib/server/compress';
import { log } from '$lib/server/log';
import { observeRequest } from '$lib/server/metrics';
import { firstStart } from '$lib/server/services/firstStart';
import { importJob } from '$lib/server/services/importJob';
import { runJobs, stopJobs } from '$lib/server/services/jobRunner';
import { scheduleJob } from '$lib/server/services/projectSchedule';
import { replanJob } from '$lib/server/services/replans';
import { stopWorkers } from '$lib/server/jobs/pool';

export const init: ServerInit = async () => {
	await firstStart();
	makeDocuments();
	runJobs({ replan: replanJob, import: importJob, schedule: scheduleJob });
	process.on('sveltekit:shutdown', () => {
		void stopJobs().finally(() => Promise.all([stopWorkers(), closeDb()]));
	});
};

const OPEN_PATHS = ['/healthz', '/readyz', '/metrics'];
/** A form of a page holds a name and a password. Files and plans go to the API, which has limits of its own. */
const MOST_FORM_BYTES = 32_000;

/** Whether a form is small enough to be read, and says so before it is. */
function mayBeRead({ request, url }: RequestEvent): boolean {
	if (request.method !== 'POST' || url.pathname.startsWith('/api/')) return true;
	return Number(request.headers.get('content-length') ?? Infinity) <= MOST_FORM_BYTES;
}

/** Seconds for which a browser that came by https comes by nothing else: a year. */
const HTTPS_ONLY_S = 31_536_000;

/** What somebody may see whose role asks for a second factor that they have not set up yet. */
function mayBeSeenWithout({ url, route }: RequestEvent): boolean {
	return (
		url.pathname === '/account' ||
		url.pathname.startsWith('/sign-') ||
		url.pathname.startsWith('/api/') ||
		OPEN_PATHS.includes(url.pathname) ||
		route.id === null
	);
}

export const handle: Handle = async (asked) => {
	const from = performance.now();
	const { request, route, url } = asked.event;
	const response = compressed(request, await respond(asked));
	// The API counts its own requests, by what they ask for.
	if (!url.pathname.startsWith('/api/')) {
		const counted = { method: request.method, route: route.id ?? 'none' };
		observeRequest(counted, response.status, (performance.now() - from) / 1000);
	}
	return response;
};

const respond: Handle = async ({ event, resolve }) => {
	if (!mayBeRead(event)) return new Response('The form is too large.', { status: 413 });
	event.locals.actor = undefined;
	event.locals.sessionToken = event.cookies.get(SESSION_COOKIE);
	// The API looks for itself who asks, along with what they ask about.
	const asks = !OPEN_PATHS.includes(event.url.pathname) && !event.url.pathname.startsWith('/api/');
	if (event.locals.sessionToken && asks) {
		try {
			event.locals.actor = await findActor(event.locals.sessionToken);
		} catch (error) {
			if (!isDatabaseGone(error)) throw error;
			log.error({ err: error }, 'the database does not answer');
			return errorResponse(error);
		}
	}
	if (event.locals.actor?.secondFactorDue && !mayBeSeenWithout(event)) {
		redirect(303, '/account');
	}
	const response = await resolve(event);
	// What a page shows is its reader's alone: no cache keeps it, nor does Back after signing out.
	if (!response.headers.has('cache-control')) {
		response.headers.set('cache-control', 'private, no-store');
	}
	response.headers.set('x-content-type-options', 'nosniff');
	response.headers.set('referrer-policy', 'same-origin');
	response.headers.set('x-frame-options', 'DENY');
	if (event.url.protocol === 'https:') {
		response.headers.set('strict-transport-security', `max-age=${HTTPS_ONLY_S}`);
	}
	return response;
};

/** What was not foreseen: the cause goes to the log, a fixed text to the user. */
export const handleError: HandleServerError = ({ error, event, status }) => {
	if (error instanceof AppError) return { message: error.message };
	if (status === 404) return { message: 'There is no such page.' };
	// What was asked wrongly is no fault to be looked into, and fills no log.
	if (status < 500) return { message: 'That cannot be taken so. Go back and try again.' };
	log.error({ err: error, path: event.url.pathname }, 'request failed');
	return { message: 'Something went wrong here. Nothing was changed; try again.' };
};
