import type Joi from 'joi';
import { PART_KIND_NAMES, type PartKind } from '#core/catalogue/partKinds';
import { pageNumber } from '../../schemas/inputs';
import { joi, uuid } from '../../schemas/joi';
import {
	changePart,
	createPart,
	getPart,
	pageOfParts,
	setRetired,
	versionsOf
} from '../../services/parts';
import {
	exportParts,
	importParts,
	partsJsonSchema,
	type PartsImportRequest
} from '../../services/partsExchange';
import { fixedDocument } from '../document';
import { endpoint, LONG_BODY_BYTES, FILE_BODY_BYTES } from '../endpoint';

const kind = (): Joi.StringSchema =>
	joi
		.string()
		.valid(...PART_KIND_NAMES)
		.label('Kind')
		.example('radio');
const version = joi.number().integer().min(1).required().label('Version');
const data = joi.object().unknown(true).required().label('Part');

interface PartQuery {
	q: string;
	page: number;
	kind?: PartKind;
	ghz?: number;
	retired: boolean;
}

export const partQuerySchema = joi.object({
	q: joi.string().trim().allow('').max(80).default('').label('Search'),
	page: pageNumber(),
	kind: kind(),
	ghz: joi.number().min(0.1).max(120).label('Frequency'),
	retired: joi.boolean().default(false).label('Retired')
});

export const partEndpoints = [
	endpoint<undefined, PartQuery>({
		method: 'GET',
		path: '/parts',
		tag: 'Parts',
		summary: 'Parts by kind, band and words, a page at a time',
		access: 'signed-in',
		query: partQuerySchema,
		handle: ({ actor, query }) =>
			pageOfParts(actor, { ...query, kind: query.kind ?? null, ghz: query.ghz ?? null })
	}),
	endpoint<{ id: string; kind: PartKind; data: object }>({
		method: 'POST',
		path: '/parts',
		tag: 'Parts',
		summary: 'Add a part',
		access: 'signed-in',
		mostBodyBytes: LONG_BODY_BYTES,
		body: joi.object({ id: uuid().required().label('Id'), kind: kind().required(), data }),
		status: 201,
		handle: ({ actor, body }) => createPart(actor, body)
	}),
	endpoint<undefined, { format: 'json' | 'csv'; kind?: PartKind }>({
		method: 'GET',
		path: '/parts/export',
		tag: 'Parts',
		summary: 'Parts as JSON, or those of one kind as CSV',
		access: 'signed-in',
		query: joi.object({
			format: joi.string().valid('json', 'csv').default('json').label('Format'),
			kind: kind()
		}),
		produces: 'application/json',
		handle: async ({ actor, query }) => {
			const { content, mediaType, fileName } = await exportParts(
				actor,
				query.format,
				query.kind ?? null
			);
			return new Response(content, {
				headers: {
					'content-type': mediaType,
					'content-disposition': `attachment; filename="${fileName}"`,
					'cache-control': 'no-store'
				}
			});
		}
	}),
	endpoint<PartsImportRequest>({
		method: 'POST',
		path: '/parts/import',
		tag: 'Parts',
		summary: 'Look at a file of parts, or import it: all, or the good ones on request',
		access: 'signed-in',
		mostBodyBytes: FILE_BODY_BYTES,
		body: joi.object({
			format: joi.string().valid('json', 'csv').required().label('Format'),
			kind: kind().allow(null).default(null),
			text: joi.string().max(3_900_000).required().label('File'),
			commit: joi.boolean().default(false).label('Import'),
			takeGood: joi.boolean().default(false).label('Import the good ones')
		}),
		handle: ({ actor, body }) => importParts(actor, body)
	}),
	endpoint({
		method: 'GET',
		path: '/schemas/parts.json',
		tag: 'Parts',
		summary: 'JSON Schema of the JSON format of parts',
		access: 'public',
		handle: fixedDocument(partsJsonSchema)
	}),
	endpoint({
		method: 'GET',
		path: '/parts/:partId',
		tag: 'Parts',
		summary: 'One part in its newest version',
		access: 'signed-in',
		handle: ({ actor, param }) => getPart(actor, param('partId'))
	}),
	endpoint({
		method: 'GET',
		path: '/parts/:partId/versions',
		tag: 'Parts',
		summary: 'Every version of a part, the newest first',
		access: 'signed-in',
		handle: async ({ actor, param }) => ({ versions: await versionsOf(actor, param('partId')) })
	}),
	endpoint<{ version: number; data: object; note: string }>({
		method: 'PUT',
		path: '/parts/:partId',
		tag: 'Parts',
		summary: 'Change a part: a new version',
		access: 'signed-in',
		mostBodyBytes: LONG_BODY_BYTES,
		body: joi.object({
			version,
			data,
			note: joi.string().trim().allow('').max(400).default('').label('What was changed')
		}),
		handle: ({ actor, param, body }) => changePart(actor, param('partId'), body)
	}),
	endpoint<{ version: number; retired: boolean }>({
		method: 'POST',
		path: '/parts/:partId/retirement',
		tag: 'Parts',
		summary: 'Retire a part, or take it back into use',
		access: 'signed-in',
		body: joi.object({ version, retired: joi.boolean().strict().required().label('Retired') }),
		handle: ({ actor, param, body }) => setRetired(actor, param('partId'), body)
	})
];
