import type Joi from 'joi';
import type { Actor } from '../auth/actor';

export interface EndpointContext<Body, Query> {
	/** A parameter of the path by its name; throws where the path has none of that name. */
	param: (name: string) => string;
	body: Body;
	query: Query;
	/** The bytes of an upload; empty on endpoints that take none. */
	upload: Uint8Array;
	/** Who asks; only absent on public endpoints. */
	actor: Actor;
	request: Request;
	address: string;
	/** Address under which the application is reached, for links. */
	origin: string;
}

/** One endpoint of the API: the source of its routing, validation, authorization and description. */
export interface Endpoint {
	method: 'GET' | 'POST' | 'PUT' | 'DELETE';
	/** Path below `/api/v1`, parameters as `:name`. */
	path: string;
	summary: string;
	tag: string;
	access: 'public' | 'signed-in';
	body?: Joi.ObjectSchema;
	/** Takes a file as the whole body instead of JSON. */
	upload?: { mostBytes: number; mediaType: string };
	query?: Joi.ObjectSchema;
	status?: number;
	/** Media type of the answer when it is not JSON. */
	produces?: string;
	// Body and query are what the schemas above let through.
	handle(context: EndpointContext<never, never>): unknown;
}

/** Declares an endpoint; the types of body and query are stated once, beside their schemas. */
export function endpoint<Body = undefined, Query = undefined>(
	declared: Omit<Endpoint, 'handle'> & {
		handle(context: EndpointContext<Body, Query>): unknown;
	}
): Endpoint {
	return declared;
}
