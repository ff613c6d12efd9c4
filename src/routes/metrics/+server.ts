import { metricsAnswer } from '$lib/server/services/health';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ request }) => metricsAnswer(request);
