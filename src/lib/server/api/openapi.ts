import joiToJson from 'joi-to-json';
import { REFUSAL_STATUSES } from '../refusals';
import described from './answers.schema.json';
import type { Endpoint } from './endpoint';

const errorAnswer = {
	description: 'Refused: a code, a message, and the fields it concerns',
	content: { 'application/json': { schema: { $ref: '#/components/schemas/Error' } } }
};

/** The OpenAPI 3.1 document, made from the endpoints themselves. */
export function openApiDocument(endpoints: readonly Endpoint[]): object {
	const paths: Record<string, Record<string, unknown>> = {};
	for (const endpoint of endpoints) {
		const path = endpoint.path.replace(/:(\w+)/g, '{$1}');
		paths[path] ??= {};
		paths[path][endpoint.method.toLowerCase()] = operation(endpoint);
	}
	return {
		openapi: '3.1.0',
		info: {
			title: 'Skiaxis',
			version: '1',
			description:
				'Planning, alignment and acceptance of microwave hops. Angles are degrees, levels dBm, gains dBi, frequencies GHz; the unit stands in each name. Sign in at /tokens and send the token as a bearer.'
		},
		// Beside this document, wherever it is reached.
		servers: [{ url: '/api/v1' }],
		components: {
			securitySchemes: { token: { type: 'http', scheme: 'bearer' } },
			schemas: {
				...described.schemas,
				Error: {
					type: 'object',
					required: ['error'],
					properties: {
						error: {
							type: 'object',
							required: ['code', 'message', 'fields'],
							properties: {
								code: {
									type: 'string',
									enum: [...REFUSAL_STATUSES.keys()],
									description: [...REFUSAL_STATUSES]
										.map(([code, status]) => `${code}: ${status}`)
										.join(', ')
								},
								message: { type: 'string' },
								fields: {
									type: 'array',
									items: {
										type: 'object',
										properties: { field: { type: 'string' }, message: { type: 'string' } }
									}
								}
							}
						}
					}
				}
			}
		},
		paths
	};
}

function operation(endpoint: Endpoint): object {
	const parameters = [...endpoint.path.matchAll(/:(\w+)/g)].map(([, name]) => ({
		name,
		in: 'path',
		required: true,
		schema: { type: 'string', format: 'uuid' }
	}));
	const status = String(endpoint.status ?? 200);
	return {
		summary: endpoint.summary,
		operationId: operationId(endpoint),
		tags: [endpoint.tag],
		security: endpoint.access === 'public' ? [] : [{ token: [] }],
		parameters: [...parameters, ...queryParameters(endpoint)],
		...(endpoint.body
			? {
					requestBody: {
						required: true,
						content: {
							'application/json': {
								schema: jsonSchema(endpoint.body),
								...exampleMember(endpoint.body)
							}
						}
					}
				}
			: {}),
		...(endpoint.upload
			? {
					requestBody: {
						required: true,
						content: { [endpoint.upload.mediaType]: {} }
					}
				}
			: {}),
		responses: {
			[status]: {
				description: 'Done',
				...(status === '204' ? {} : { content: contentOf(endpoint) })
			},
			...(endpoint.body || endpoint.upload ? { 422: errorAnswer } : {}),
			...(endpoint.access === 'public' ? {} : { 401: errorAnswer, 403: errorAnswer }),
			...(parameters.length ? { 404: errorAnswer } : {})
		}
	};
}

const answers: Readonly<Record<string, object>> = described.answers;

/** Schema of what an endpoint answers with JSON; undefined where it answers with something else. */
export function answerSchema({
	method,
	path
}: Pick<Endpoint, 'method' | 'path'>): object | undefined {
	return answers[`${method} ${path}`];
}

function contentOf(endpoint: Endpoint): object {
	const schema = answerSchema(endpoint);
	return { [endpoint.produces ?? 'application/json']: schema ? { schema } : {} };
}

function operationId({ method, path }: Endpoint): string {
	const words = path.split(/[^A-Za-z]+/).filter(Boolean);
	return (
		method.toLowerCase() +
		words.map((word) => word.charAt(0).toUpperCase() + word.slice(1)).join('')
	);
}

function queryParameters(endpoint: Endpoint): object[] {
	if (!endpoint.query) return [];
	const schema = jsonSchema(endpoint.query) as { properties?: Record<string, object> };
	return Object.entries(schema.properties ?? {}).map(([name, value]) => ({
		name,
		in: 'query',
		required: false,
		schema: value
	}));
}

interface Described {
	type?: string;
	keys?: Record<string, Described>;
	examples?: unknown[];
}

/**
 * The example that stands in a schema: its own, or the one its fields make together. Fields without
 * an example are left out, so a complete one needs an example at every required field.
 */
export function exampleFrom(schema: NonNullable<Endpoint['body']>): unknown {
	const from = (part: Described): unknown => {
		if (part.examples?.length) return part.examples[0];
		if (!part.keys) return undefined;
		const members = Object.entries(part.keys)
			.map(([name, own]) => [name, from(own)] as const)
			.filter(([, value]) => value !== undefined);
		return members.length ? Object.fromEntries(members) : undefined;
	};
	return from(schema.describe());
}

function exampleMember(schema: NonNullable<Endpoint['body']>): object {
	const example = exampleFrom(schema);
	return example === undefined ? {} : { example };
}

function jsonSchema(schema: NonNullable<Endpoint['body']>): object {
	return joiToJson(schema, 'open-api-3.1') as object;
}
