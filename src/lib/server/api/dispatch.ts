import {
	AppError,
	isContended,
	isDatabaseGone,
	notFound,
	refusal,
	unauthenticated
} from '../errors';
import { log } from '../log';
import { bodyName } from '../schemas/bodies';
import { isUuid, validate } from '../schemas/joi';
import { inWorker } from '../jobs/pool';
import { observeRequest } from '../metrics';
import { parsed } from '../jobs/tasks';
import { findActor, findActorAt } from '../auth/sessions';
import type { Actor } from '../auth/actor';
import type { RecordPlace } from '../services/hops';
import { SMALL_BODY_BYTES, type Endpoint } from './endpoint';
import { endpoints } from './endpoints';
import { readBytes } from './readBody';
import { itemAt } from '#core/units/lists';

export interface ApiRequest {
	request: Request;
	path: string;
	url: URL;
	/** The token of the browser session, if there is one. */
	sessionToken: string | undefined;
	address: string;
}

/** Finds the endpoint, checks who asks and what, runs it, and turns every outcome into an answer. */
export async function dispatch(api: ApiRequest): Promise<Response> {
	const from = performance.now();
	const { method } = api.request;
	let path = '/unknown';
	let answer: Response;
	try {
		const found = route(method, api.path);
		path = found.endpoint.path;
		answer = await answerOf(api, found);
	} catch (error) {
		answer = errorResponse(error);
	}
	const asked = { method, route: `/api/v1${path}` };
	observeRequest(asked, answer.status, (performance.now() - from) / 1000);
	return answer;
}

async function answerOf(api: ApiRequest, { endpoint, params }: Route): Promise<Response> {
	requireOwnOrigin(api);
	await endpoint.before?.({ address: api.address });
	const { actor, place } = await whoAsks(api, endpoint, params);
	if (endpoint.access !== 'public' && !actor) throw unauthenticated();
	if (actor?.secondFactorDue && !endpoint.path.startsWith('/me')) {
		throw refusal('second-factor-due');
	}
	const as = api.request.headers.get('x-skiaxis-as');
	if (as && actor && as !== actor.userId) throw refusal('other-person', actor.displayName);
	for (const [name, value] of Object.entries(params)) {
		if (name.endsWith('Id') && !isUuid(value)) throw notFound('page');
	}
	const body = endpoint.body ? await bodyOf(endpoint.body, endpoint, api.request) : undefined;
	const upload = endpoint.upload ? await fileOf(api.request, endpoint.upload) : undefined;
	const query = endpoint.query
		? validate(endpoint.query, Object.fromEntries(api.url.searchParams))
		: undefined;
	const answer = await endpoint.handle({
		param: (name) => paramOf(endpoint, params, name),
		body: body as never,
		query: query as never,
		upload: upload ?? new Uint8Array(),
		actor: actor!,
		place,
		request: api.request,
		address: api.address
	});
	if (answer instanceof Response) return answer;
	if (answer === undefined) return new Response(null, { status: 204 });
	return Response.json(answer, {
		status: endpoint.status ?? 200,
		headers: { 'cache-control': 'no-store' }
	});
}

/** The endpoints with their paths taken apart, by how many pieces these have. */
const byLength = new Map<number, { endpoint: Endpoint; pattern: readonly string[] }[]>();
for (const endpoint of endpoints) {
	const pattern = endpoint.path.split('/').filter(Boolean);
	byLength.set(pattern.length, [...(byLength.get(pattern.length) ?? []), { endpoint, pattern }]);
}

interface Route {
	endpoint: Endpoint;
	params: Record<string, string>;
}

export function route(method: string, path: string): Route {
	const parts = path.split('/').filter(Boolean);
	let otherMethods = false;
	for (const { endpoint, pattern } of byLength.get(parts.length) ?? []) {
		if (!pattern.every((piece, i) => piece.startsWith(':') || piece === parts[i])) continue;
		if (endpoint.method === method) return { endpoint, params: paramsOf(pattern, parts) };
		otherMethods = true;
	}
	throw otherMethods ? refusal('method-not-allowed', method) : notFound('address in the API');
}

function paramsOf(pattern: readonly string[], parts: readonly string[]): Record<string, string> {
	const named = pattern.flatMap((piece, i) =>
		piece.startsWith(':') ? [[piece.slice(1), itemAt(parts, i)] as const] : []
	);
	return Object.fromEntries(named);
}

/** A browser says which page a change comes from: another site's is refused, whatever cookies it brings. */
function requireOwnOrigin({ request, url }: ApiRequest): void {
	const origin = request.headers.get('origin');
	if (request.method !== 'GET' && origin && origin !== url.origin) throw refusal('other-origin');
}

function paramOf({ path }: Endpoint, params: Record<string, string>, name: string): string {
	const value = params[name];
	if (value === undefined) throw new Error(`${path} has no parameter ${name}`);
	return value;
}

/** Who asks, and where the endpoint wants to know it, how the hop in its path stands for them. */
async function whoAsks(
	api: ApiRequest,
	{ atHop }: Endpoint,
	{ hopId }: Record<string, string>
): Promise<{ actor?: Actor | undefined; place?: RecordPlace | undefined }> {
	const token = tokenOf(api);
	if (!token) return {};
	if (atHop && hopId && isUuid(hopId)) return (await findActorAt(token, hopId)) ?? {};
	return { actor: await findActor(token) };
}

function tokenOf({ request, sessionToken }: ApiRequest): string | undefined {
	const header = request.headers.get('authorization');
	return header ? /^Bearer (\S+)$/i.exec(header)?.[1] : sessionToken;
}

/** A body longer than this is read and checked beside the event loop, where its schema is known there. */
const LONG_TO_CHECK_BYTES = 16_000;

async function bodyOf(
	schema: NonNullable<Endpoint['body']>,
	{ mostBodyBytes = SMALL_BODY_BYTES }: Endpoint,
	request: Request
): Promise<unknown> {
	if (!/^application\/json\b/i.test(request.headers.get('content-type') ?? '')) {
		throw refusal('not-json');
	}
	const bytes = await readBytes(request, mostBodyBytes);
	const name = bodyName(schema);
	return name && bytes.byteLength > LONG_TO_CHECK_BYTES
		? inWorker('check-body', { name, bytes })
		: validate(schema, parsed(bytes));
}

/** A page of another site can send a form or plain text unasked: neither is taken for a file. */
function fileOf(
	request: Request,
	{ mediaType, mostBytes }: NonNullable<Endpoint['upload']>
): Promise<Uint8Array> {
	const types = [...new Set(['application/octet-stream', mediaType])];
	const [sent = ''] = (request.headers.get('content-type') ?? '').split(';');
	if (!types.includes(sent.trim().toLowerCase())) throw refusal('not-a-file', types);
	return readBytes(request, mostBytes);
}

/** What is told of an error; what was not foreseen is logged, not shown. */
function told(error: unknown): AppError {
	if (error instanceof AppError) return error;
	log.error({ err: error }, 'request failed');
	if (isContended(error)) return refusal('busy');
	return isDatabaseGone(error) ? refusal('database-gone') : refusal('internal');
}

/** Seconds after which a busy server may be asked again. */
const RETRY_AFTER_S = '3';

/** The one place where an error becomes an answer; what was not foreseen is logged, not shown. */
export function errorResponse(error: unknown): Response {
	const { status, code, message, fields } = told(error);
	return Response.json(
		{ error: { code, message, fields } },
		{ status, headers: status === 503 ? { 'retry-after': RETRY_AFTER_S } : {} }
	);
}
