import joiToJson from 'joi-to-json';
import { joi, uuid } from '../../schemas/joi';
import { hopSchema, siteSchema } from '../../schemas/inputs';
import { exampleCsv } from '../../formats/columnGuide';
import { FORMATS, type Format, type Subject } from '../../formats/importFile';
import { exportAs } from '../../services/exchange';
import { importFrom, startImport, type ImportRequest } from '../../services/importJob';
import { fixedDocument } from '../document';
import { endpoint, FILE_BODY_BYTES } from '../endpoint';

const subject = joi.string().valid('sites', 'hops').required().label('Subject').example('sites');
const format = joi
	.string()
	.valid(...FORMATS)
	.required()
	.label('Format')
	.example('csv');

/** Text of a file, at most what a request may hold. */
const fileText = joi.string().max(3_900_000).required().label('File');

export const exchangeEndpoints = [
	endpoint<undefined, { subject: Subject; format: Format }>({
		method: 'GET',
		path: '/export',
		tag: 'Open formats',
		summary: 'Sites or hops as CSV, GeoJSON, GPX or JSON',
		access: 'signed-in',
		query: joi.object({ subject, format }),
		produces: 'text/plain',
		handle: async ({ actor, query }) => {
			const { content, mediaType, fileName } = await exportAs(actor, query.subject, query.format);
			return new Response(content, {
				headers: {
					'content-type': mediaType,
					'content-disposition': `attachment; filename="${fileName}"`,
					'cache-control': 'no-store'
				}
			});
		}
	}),
	endpoint<undefined, { subject: Subject }>({
		method: 'GET',
		path: '/import/example',
		tag: 'Open formats',
		summary: 'A CSV file of one made-up row with every column that an import knows',
		access: 'signed-in',
		query: joi.object({ subject }),
		produces: 'text/csv',
		handle: ({ query }) =>
			new Response(exampleCsv(query.subject), {
				headers: {
					'content-type': 'text/csv; charset=utf-8',
					'content-disposition': `attachment; filename="example-${query.subject}.csv"`
				}
			})
	}),
	endpoint<{ subject: Subject; format: Format; text: string; commit: boolean; takeGood: boolean }>({
		method: 'POST',
		path: '/import',
		tag: 'Open formats',
		summary:
			'Look at a file of sites or hops, or take it in: all rows, or the good ones on request',
		access: 'signed-in',
		mostBodyBytes: FILE_BODY_BYTES,
		body: joi.object({
			subject,
			format,
			text: fileText,
			commit: joi.boolean().default(false).label('Take in'),
			takeGood: joi.boolean().default(false).label('Take the good rows')
		}),
		handle: ({ actor, body }) => importFrom(actor, body)
	}),
	endpoint<ImportRequest & { id: string }>({
		method: 'POST',
		path: '/imports',
		tag: 'Open formats',
		summary:
			'Take in a file of sites or hops beside the requests: all or nothing, with progress; a repeat does nothing twice',
		access: 'signed-in',
		mostBodyBytes: FILE_BODY_BYTES,
		body: joi.object({
			id: uuid().required().label('Id'),
			subject,
			format,
			text: fileText,
			takeGood: joi.boolean().default(false).label('Take the good rows')
		}),
		status: 202,
		handle: ({ actor, body }) => startImport(actor, body)
	}),
	endpoint({
		method: 'GET',
		path: '/schemas/plan.json',
		tag: 'Open formats',
		summary: 'JSON Schema of the JSON format of sites and hops',
		access: 'public',
		handle: fixedDocument(planDocumentSchema)
	})
];

/** The published schema, made from the one that checks. */
export function planDocumentSchema(): object {
	const hop = Object.fromEntries(
		Object.entries(
			(joiToJson(hopSchema, 'json-draft-2019-09') as { properties: Record<string, object> })
				.properties
		).filter(([name]) => !['siteAId', 'siteBId', 'version'].includes(name))
	);
	const site = joiToJson(siteSchema, 'json-draft-2019-09') as object;
	const name = { type: 'string', minLength: 2, maxLength: 80 };
	return {
		$schema: 'https://json-schema.org/draft/2019-09/schema',
		title: 'Sites and hops of Skiaxis',
		type: 'object',
		required: ['format', 'version'],
		properties: {
			format: { const: 'skiaxis-plan' },
			version: { const: 1 },
			sites: { type: 'array', items: site },
			hops: {
				type: 'array',
				items: {
					type: 'object',
					required: ['name', 'siteA', 'siteB', 'plan'],
					properties: { ...hop, siteA: name, siteB: name }
				}
			}
		}
	};
}
