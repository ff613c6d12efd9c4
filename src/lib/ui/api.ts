import { compareClocks } from './deviceClock.svelte';
import { sessionEnded, sessionStands } from './session.svelte';

export interface FieldProblem {
	field: string;
	message: string;
}

/** A refusal by the server, in words for the user. */
export class ApiRefusal extends Error {
	constructor(
		readonly status: number,
		readonly code: string,
		message: string,
		readonly fields: FieldProblem[]
	) {
		super(message);
	}
}

/** What a form holds cannot be meant: told at its fields as a refusal of the server is. */
export const unfit = (fields: FieldProblem[]): ApiRefusal =>
	new ApiRefusal(422, 'invalid-input', 'Some of what is typed cannot be meant.', fields);

/** The server could not be reached: nothing is known to have happened. */
export class Unreachable extends Error {
	constructor() {
		super('No connection to the server. What you typed is kept; try again.');
	}
}

/** What went wrong, in words for the user: what each field has, or else what the whole has. */
export function troubleOf(error: unknown): string {
	if (error instanceof ApiRefusal && error.fields.length) {
		return error.fields.map((field) => field.message).join(' ');
	}
	return error instanceof Error ? error.message : 'It did not work.';
}

/** Who this page was made for; told to the server with every request. */
let person: string | undefined;

/** Says who this page was made for. Browser only: on the server the module serves everyone. */
export function setPerson(userId: string | undefined): void {
	person = userId;
}

/** Calls the application's own API with JSON. */
export function callApi<T>(
	method: 'GET' | 'POST' | 'PUT' | 'DELETE',
	path: string,
	body?: unknown
): Promise<T> {
	return answerOf<T>(path, {
		method,
		...(body === undefined
			? {}
			: { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
	});
}

/** Sends a file as it is. */
export function uploadFile<T>(path: string, file: Blob): Promise<T> {
	return answerOf<T>(path, {
		method: 'POST',
		headers: { 'content-type': 'application/octet-stream' },
		body: file
	});
}

/** Asks for a file by its address; a refusal is the server's own, in words. */
export async function fetchFile(address: string): Promise<Response> {
	const response = await asked(address, {});
	if (!response.ok) throw await refusedBy(response);
	return response;
}

async function answerOf<T>(path: string, request: RequestInit): Promise<T> {
	const response = await asked(`/api/v1${path}`, request);
	if (response.status === 204) return undefined as T;
	if (!response.ok) throw await refusedBy(response);
	return (await response.json().catch(() => undefined)) as T;
}

async function asked(address: string, request: RequestInit): Promise<Response> {
	let response: Response;
	try {
		const headers = new Headers(request.headers);
		// In another tab somebody else may have signed in: then nothing is done in their name.
		if (person) headers.set('x-skiaxis-as', person);
		response = await fetch(address, { ...request, headers });
	} catch {
		throw new Unreachable();
	}
	compareClocks(response.headers.get('date'));
	if (response.ok) sessionStands();
	return response;
}

async function refusedBy(response: Response): Promise<Error> {
	const answer: unknown = await response.json().catch(() => undefined);
	type Refused = { error?: { code: string; message: string; fields: FieldProblem[] } } | undefined;
	const error = (answer as Refused)?.error;
	// A proxy or a restarting server answers without our own error: as good as no answer.
	if (!error) return new Unreachable();
	if (error.code === 'signed-out') sessionEnded();
	// Somebody is signed in again, if not the one this page was made for: what waits says so.
	if (error.code === 'other-person') sessionStands();
	return new ApiRefusal(response.status, error.code, error.message, error.fields);
}
