import type { DayPlan } from '#core/schedule/dayPlan';
import { dayPlanSchema } from '../../schemas/dayPlan';
import { dayPlanOf, saveDayPlan } from '../../services/dayPlans';
import { catalogue } from '../../services/parts';
import {
	archiveHop,
	copyHop,
	createHop,
	deleteHop,
	getHop,
	listHops,
	listMembers,
	setMembers,
	updateHop,
	type HopInput,
	type HopQuery
} from '../../services/hops';
import {
	compareRevisions,
	computePlan,
	issueRevision,
	listRevisions,
	reviewDraft
} from '../../services/plans';
import { interferenceOf } from '../../services/interference';
import { startReplan } from '../../services/replans';
import {
	createSite,
	deleteSite,
	getSite,
	listSites,
	updateSite,
	type TypedSite
} from '../../services/sites';
import {
	archiveSchema,
	hopCopySchema,
	hopListSchema,
	hopSchema,
	memberSchema,
	pageNumber,
	pageSchema,
	revisionSchema,
	typedSiteSchema
} from '../../schemas/inputs';
import { joi, uuid } from '../../schemas/joi';
import type { ListQuery } from '../../services/paging';
import { endpoint, LONG_BODY_BYTES } from '../endpoint';

export const planningEndpoints = [
	endpoint({
		method: 'GET',
		path: '/catalogue',
		tag: 'Planning',
		summary: 'The parts a plan may use',
		access: 'signed-in',
		handle: async () => catalogue()
	}),
	endpoint<undefined, ListQuery>({
		method: 'GET',
		path: '/sites',
		tag: 'Planning',
		summary: 'Sites by name, a page at a time',
		access: 'signed-in',
		query: pageSchema,
		handle: ({ actor, query }) => listSites(actor, query)
	}),
	endpoint<TypedSite>({
		method: 'POST',
		path: '/sites',
		tag: 'Planning',
		summary: 'Make a site',
		access: 'signed-in',
		body: typedSiteSchema,
		status: 201,
		handle: ({ actor, body }) => createSite(actor, body)
	}),
	endpoint({
		method: 'GET',
		path: '/sites/:siteId',
		tag: 'Planning',
		summary: 'One site',
		access: 'signed-in',
		handle: ({ actor, param }) => getSite(actor, param('siteId'))
	}),
	endpoint<TypedSite>({
		method: 'PUT',
		path: '/sites/:siteId',
		tag: 'Planning',
		summary: 'Change a site; the version says what the change is based on',
		access: 'signed-in',
		body: typedSiteSchema,
		handle: ({ actor, param, body }) => updateSite(actor, param('siteId'), body)
	}),
	endpoint({
		method: 'DELETE',
		path: '/sites/:siteId',
		tag: 'Planning',
		summary: 'Delete a site at which no hop and no hub stands (planners)',
		access: 'signed-in',
		status: 204,
		handle: ({ actor, param }) => deleteSite(actor, param('siteId'))
	}),
	endpoint<undefined, HopQuery>({
		method: 'GET',
		path: '/hops',
		tag: 'Planning',
		summary: 'Hops you work on, by standing and in an order, a page at a time',
		access: 'signed-in',
		query: hopListSchema,
		handle: ({ actor, query }) => listHops(actor, query)
	}),
	endpoint<HopInput>({
		method: 'POST',
		path: '/hops',
		tag: 'Planning',
		summary: 'Make a hop',
		access: 'signed-in',
		mostBodyBytes: LONG_BODY_BYTES,
		body: hopSchema,
		status: 201,
		handle: ({ actor, body }) => createHop(actor, body)
	}),
	endpoint({
		method: 'GET',
		path: '/hops/:hopId',
		tag: 'Planning',
		summary: 'One hop with its sites and the draft of its plan',
		access: 'signed-in',
		handle: ({ actor, param }) => getHop(actor, param('hopId'))
	}),
	endpoint<HopInput>({
		method: 'PUT',
		path: '/hops/:hopId',
		tag: 'Planning',
		summary: 'Change a hop and the draft of its plan',
		access: 'signed-in',
		mostBodyBytes: LONG_BODY_BYTES,
		body: hopSchema,
		handle: ({ actor, param, body }) => updateHop(actor, param('hopId'), body)
	}),
	endpoint<{ name: string }>({
		method: 'POST',
		path: '/hops/:hopId/copy',
		tag: 'Planning',
		summary: 'Make another hop with the same plan between the same sites (planners)',
		access: 'signed-in',
		body: hopCopySchema,
		status: 201,
		handle: ({ actor, param, body }) => copyHop(actor, param('hopId'), body.name)
	}),
	endpoint<{ archived: boolean }>({
		method: 'PUT',
		path: '/hops/:hopId/archived',
		tag: 'Planning',
		summary: 'Put a hop away, out of the list, or bring it back (planners)',
		access: 'signed-in',
		body: archiveSchema,
		status: 204,
		handle: ({ actor, param, body }) => archiveHop(actor, param('hopId'), body.archived)
	}),
	endpoint({
		method: 'DELETE',
		path: '/hops/:hopId',
		tag: 'Planning',
		summary: 'Delete a hop of which nothing is issued and nothing recorded (planners)',
		access: 'signed-in',
		status: 204,
		handle: ({ actor, param }) => deleteHop(actor, param('hopId'))
	}),
	endpoint({
		method: 'GET',
		path: '/hops/:hopId/plan',
		tag: 'Planning',
		summary: 'The plan computed from the draft as it stands',
		access: 'signed-in',
		handle: ({ actor, param }) => computePlan(actor, param('hopId'))
	}),
	endpoint({
		method: 'GET',
		path: '/hops/:hopId/interference',
		tag: 'Planning',
		summary:
			'What the hop hears of the other hops in reach and does to them, by the drafts as they are saved',
		access: 'signed-in',
		handle: ({ actor, param }) => interferenceOf(actor, param('hopId'))
	}),
	endpoint({
		method: 'GET',
		path: '/hops/:hopId/members',
		tag: 'Planning',
		summary: 'Who works on a hop',
		access: 'signed-in',
		handle: ({ actor, param }) => listMembers(actor, param('hopId'))
	}),
	endpoint<{ memberIds: string[] }>({
		method: 'PUT',
		path: '/hops/:hopId/members',
		tag: 'Planning',
		summary: 'Say who works on a hop',
		access: 'signed-in',
		body: memberSchema,
		handle: ({ actor, param, body }) => setMembers(actor, param('hopId'), body.memberIds)
	}),
	endpoint({
		method: 'GET',
		path: '/hops/:hopId/day-plan',
		tag: 'Planning',
		summary: 'When a hop is to be built and aligned, and by whom; null while nobody has said',
		access: 'signed-in',
		handle: async ({ actor, param }) => ({ dayPlan: await dayPlanOf(actor, param('hopId')) })
	}),
	endpoint<{ version: number; plan: DayPlan }>({
		method: 'PUT',
		path: '/hops/:hopId/day-plan',
		tag: 'Planning',
		summary:
			'Change the timetable of a hop; the version says what the change is based on, 0 for the first',
		access: 'signed-in',
		mostBodyBytes: LONG_BODY_BYTES,
		body: dayPlanSchema,
		handle: ({ actor, param, body }) => saveDayPlan(actor, param('hopId'), body)
	}),
	endpoint<undefined, { page: number }>({
		method: 'GET',
		path: '/hops/:hopId/revisions',
		tag: 'Planning',
		summary: 'Issued plan revisions, newest first, a page at a time',
		access: 'signed-in',
		query: joi.object({ page: pageNumber() }),
		handle: ({ actor, param, query }) => listRevisions(actor, param('hopId'), query.page)
	}),
	endpoint<{ id: string }>({
		method: 'POST',
		path: '/replans',
		tag: 'Planning',
		summary: 'Plan every hop you see again, beside the requests; a repeat does nothing twice',
		access: 'signed-in',
		body: joi.object({ id: uuid().required().label('Id') }),
		status: 202,
		handle: ({ actor, body }) => startReplan(actor, body.id)
	}),
	endpoint({
		method: 'GET',
		path: '/hops/:hopId/review',
		tag: 'Planning',
		summary: 'What blocks issuing, what must be accepted in writing, and what is only said',
		access: 'signed-in',
		handle: ({ actor, param }) => reviewDraft(actor, param('hopId'))
	}),
	endpoint<undefined, { from: number; to: number }>({
		method: 'GET',
		path: '/hops/:hopId/revisions/comparison',
		tag: 'Planning',
		summary: 'Two revisions side by side: what changed and what it did',
		access: 'signed-in',
		query: joi.object({
			from: joi.number().integer().min(1).required().label('From').example(1),
			to: joi.number().integer().min(1).required().label('To').example(2)
		}),
		handle: ({ actor, param, query }) =>
			compareRevisions(actor, param('hopId'), query.from, query.to)
	}),
	endpoint<{ id: string; version: number; note: string }>({
		method: 'POST',
		path: '/hops/:hopId/revisions',
		tag: 'Planning',
		summary: 'Issue the draft as a frozen plan revision',
		access: 'signed-in',
		body: revisionSchema,
		status: 201,
		handle: ({ actor, param, body }) => issueRevision(actor, param('hopId'), body)
	})
];
