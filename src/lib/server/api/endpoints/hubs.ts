import { hubSchema } from '../../schemas/hubs';
import { pageSchema } from '../../schemas/inputs';
import {
	createHub,
	deleteHub,
	getHub,
	listHubs,
	updateHub,
	type SentHub
} from '../../services/hubs';
import type { ListQuery } from '../../services/paging';
import { endpoint, LONG_BODY_BYTES } from '../endpoint';

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
