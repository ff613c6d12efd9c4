import { readiness } from '$lib/server/services/health';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = async () => {
	const state = await readiness();
	return Response.json(state, { status: state.ready ? 200 : 503 });
};
