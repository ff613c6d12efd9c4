import { dispatch } from '$lib/server/api/dispatch';
import type { RequestHandler } from './$types';

const handle: RequestHandler = ({ request, params, url, locals, getClientAddress }) =>
	dispatch({
		request,
		path: params.path,
		url,
		sessionToken: locals.sessionToken,
		address: getClientAddress()
	});

export const GET = handle;
export const POST = handle;
export const PUT = handle;
export const DELETE = handle;
