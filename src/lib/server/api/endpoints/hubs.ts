import { HUB_FORMATS, type HubFormat } from '../../formats/hubTable';
import { hubSchema } from '../../schemas/hubs';
import { pageSchema } from '../../schemas/inputs';
import { joi } from '../../schemas/joi';
import {
	createHub,
	deleteHub,
	exportHub,
	getHub,
	listHubs,
	readHub,
	updateHub,
	type SentHub
} from '../../services/hubs';
import type { ListQuery } from '../../services/paging';
import { endpoint, FILE_BODY_BYTES, LONG_BODY_BYTES } from '../endpoint';

const formatSchema = joi
	.string()
	.valid(...HUB_FORMATS)
	.required()
	.label('Format');

export const hubEndpoints = [
	endpoint<undefined, ListQuery>({
		method: 'GET',
		path: '/hubs',
		tag: 'Hubs',
		summary: 'Hubs by name, a page at a time',
		access: 'signed-in',
		query: pageSchema,
		handle: ({ actor, query }) => listHubs(actor, query)
	}),
	endpoint<SentHub>({
		method: 'POST',
		path: '/hubs',
		tag: 'Hubs',
		summary: 'Make a hub (planners)',
		access: 'signed-in',
		mostBodyBytes: LONG_BODY_BYTES,
		body: hubSchema,
		status: 201,
		handle: ({ actor, body }) => createHub(actor, body)
	}),
	endpoint({
		method: 'GET',
		path: '/hubs/:hubId',
		tag: 'Hubs',
		summary: 'One hub with its units and terminals',
		access: 'signed-in',
		handle: ({ actor, param }) => getHub(actor, param('hubId'))
	}),
	endpoint<SentHub>({
		method: 'PUT',
		path: '/hubs/:hubId',
		tag: 'Hubs',
		summary: 'Change a hub; the version says what the change is based on (planners)',
		access: 'signed-in',
		mostBodyBytes: LONG_BODY_BYTES,
		body: hubSchema,
		handle: ({ actor, param, body }) => updateHub(actor, param('hubId'), body)
	}),
	endpoint<undefined, { format: HubFormat }>({
		method: 'GET',
		path: '/hubs/:hubId/export',
		tag: 'Hubs',
		summary: 'A hub as a file: its terminals as CSV, the whole as GeoJSON or JSON',
		access: 'signed-in',
		query: joi.object({ format: formatSchema }),
		produces: 'application/octet-stream',
		handle: async ({ actor, param, query }) => {
			const file = await exportHub(actor, param('hubId'), query.format);
			return new Response(file.body, {
				headers: {
					'content-type': file.mediaType,
					'content-disposition': `attachment; filename="${file.fileName}"`
				}
			});
		}
	}),
	endpoint<{ format: HubFormat; text: string }>({
		method: 'POST',
		path: '/hubs/reading',
		tag: 'Hubs',
		summary: 'What a file holds of a hub, checked; keeps nothing (planners)',
		access: 'signed-in',
		mostBodyBytes: FILE_BODY_BYTES,
		body: joi.object({
			format: formatSchema,
			text: joi.string().max(FILE_BODY_BYTES).required().label('Text of the file')
		}),
		handle: ({ actor, body }) => readHub(actor, body.format, body.text)
	}),
	endpoint({
		method: 'DELETE',
		path: '/hubs/:hubId',
		tag: 'Hubs',
		summary: 'Delete a hub (planners)',
		access: 'signed-in',
		status: 204,
		handle: ({ actor, param }) => deleteHub(actor, param('hubId'))
	})
];
