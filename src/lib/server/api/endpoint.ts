import type Joi from 'joi';
import type { Actor } from '../auth/actor';
import type { RecordPlace } from '../services/hops';

export interface EndpointContext<Body, Query> {
	/** A parameter of the path by its name; throws where the path has none of that name. */
	param: (name: string) => string;
	body: Body;
	query: Query;
	/** On an endpoint `atHop`: how the hop in its path stands for who asks; undefined where there is none. */
	place: RecordPlace | undefined;
	/** The bytes of an upload; empty on endpoints that take none. */
	upload: Uint8Array;
	/** Who asks; only absent on public endpoints. */
	actor: Actor;
	request: Request;
	address: string;
}

/** A body that holds what somebody types: names, numbers, a note. */
export const SMALL_BODY_BYTES = 32_000;
/** A plan with its profile and a measured pattern, a batch of records with sweeps, a long recorded cut. */
export const LONG_BODY_BYTES = 2_000_000;
/** A file of sites, hops or parts as text. */
export const FILE_BODY_BYTES = 4_000_000;

/** One endpoint of the API: the source of its routing, validation, authorization and description. */
export interface Endpoint {
	method: 'GET' | 'POST' | 'PUT' | 'DELETE';
	/** Path below `/api/v1`, parameters as `:name`. */
	path: string;
	summary: string;
	tag: string;
	access: 'public' | 'signed-in';
	body?: Joi.ObjectSchema;
	/** The largest JSON body taken, bytes; {@link SMALL_BODY_BYTES} where it is left out. */
	mostBodyBytes?: number;
	/** Reads, along with who asks, how the hop in its path stands for them. */
	atHop?: true;
	/** Runs before anything of the request is read: counts attempts, and throws once there are too many. */
	before?: (context: { address: string }) => Promise<void>;
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
