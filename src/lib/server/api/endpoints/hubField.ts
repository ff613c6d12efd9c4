import type { PlantedTrouble } from '#core/simulate/simulatedHub';
import {
	hubPracticeSchema,
	hubRecordBatchSchema,
	hubRevisionSchema,
	standInSchema,
	stationId
} from '../../schemas/hubRecords';
import { acceptanceSchema } from '../../schemas/inputs';
import { joi } from '../../schemas/joi';
import {
	acceptTerminal,
	terminalAcceptances,
	type TerminalAcceptanceRequest
} from '../../services/hubAcceptance';
import { exportHubArchive, importHubArchive } from '../../services/hubArchive';
import { LARGEST_ARCHIVE_BYTES } from '../../services/hopArchive';
import { download } from '../download';
import { checkHubRecord } from '../../services/hubVerify';
import { lookAtStandIn, setPractice, type StandInLook } from '../../services/hubStandIn';
import {
	hubFeeds,
	hubInForce,
	hubRecordsOf,
	issueHub,
	recordAtHub,
	type NewHubRecord
} from '../../services/hubWork';
import { getHub } from '../../services/hubs';
import { endpoint, LONG_BODY_BYTES } from '../endpoint';
import { eventStream } from '../eventStream';

export const hubFieldEndpoints = [
	endpoint({
		method: 'GET',
		path: '/hubs/:hubId/revision',
		tag: 'Hubs',
		summary: 'The issued plan of a hub that is in force; null while none is',
		access: 'signed-in',
		handle: async ({ actor, param }) => ({ revision: await hubInForce(actor, param('hubId')) })
	}),
	endpoint<{ id: string; version: number; note: string }>({
		method: 'POST',
		path: '/hubs/:hubId/revisions',
		tag: 'Hubs',
		summary: 'Issue the plan of a hub: frozen, numbered, and worked by from then on (planners)',
		access: 'signed-in',
		body: hubRevisionSchema,
		status: 201,
		handle: ({ actor, param, body }) => issueHub(actor, param('hubId'), body)
	}),
	endpoint<{ practice: boolean; planted: PlantedTrouble[] }>({
		method: 'PUT',
		path: '/hubs/:hubId/practice',
		tag: 'Hubs',
		summary: 'Make a hub one for practice, with troubles that stand there (planners)',
		access: 'signed-in',
		body: hubPracticeSchema,
		handle: ({ actor, param, body }) => setPractice(actor, param('hubId'), body)
	}),
	endpoint<undefined, { after: number; limit: number }>({
		method: 'GET',
		path: '/hubs/:hubId/records',
		tag: 'Hubs',
		summary: 'Records of a hub after a place in its feed',
		access: 'signed-in',
		query: joi.object({
			after: joi.number().integer().min(0).default(0).label('After'),
			limit: joi.number().integer().min(1).max(2000).default(500).label('Limit')
		}),
		handle: async ({ actor, param, query }) => ({
			records: await hubRecordsOf(actor, param('hubId'), query.after, query.limit)
		})
	}),
	endpoint<{ records: NewHubRecord[]; keepOlder: boolean }>({
		method: 'POST',
		path: '/hubs/:hubId/records',
		tag: 'Hubs',
		summary:
			'Append records of units and terminals, all or none; a repeat with the same ids does nothing',
		access: 'signed-in',
		mostBodyBytes: LONG_BODY_BYTES,
		body: hubRecordBatchSchema,
		handle: async ({ actor, param, body }) => ({
			results: await recordAtHub(actor, param('hubId'), body.records, body.keepOlder)
		})
	}),
	endpoint<undefined, { after: number }>({
		method: 'GET',
		path: '/hubs/:hubId/feed',
		tag: 'Hubs',
		summary: 'The records of a hub live, as server-sent events; resumes after Last-Event-ID',
		access: 'signed-in',
		query: joi.object({ after: joi.number().integer().min(0).default(0) }),
		produces: 'text/event-stream',
		handle: async ({ actor, param, query, request }) => {
			const { id } = await getHub(actor, param('hubId'));
			return eventStream({ actor, feed: hubFeeds, id }, request, query.after);
		}
	}),
	endpoint({
		method: 'GET',
		path: '/hubs/:hubId/records/check',
		tag: 'Hubs',
		summary: 'Whether the record of a hub is still what was recorded',
		access: 'signed-in',
		handle: ({ actor, param }) => checkHubRecord(actor, param('hubId'))
	}),
	endpoint<StandInLook>({
		method: 'POST',
		path: '/hubs/:hubId/stand-in',
		tag: 'Hubs',
		summary:
			'Look at a lamp, a page, a display or a test on a hub for practice; what is seen is recorded',
		access: 'signed-in',
		body: standInSchema,
		handle: ({ actor, param, body }) => lookAtStandIn(actor, param('hubId'), body)
	}),
	endpoint({
		method: 'GET',
		path: '/hubs/:hubId/acceptances',
		tag: 'Hubs',
		summary: 'Signed acceptances of the terminals of a hub, the oldest first',
		access: 'signed-in',
		handle: async ({ actor, param }) => ({
			acceptances: await terminalAcceptances(actor, param('hubId'))
		})
	}),
	endpoint({
		method: 'GET',
		path: '/hubs/:hubId/archive.zip',
		tag: 'Hubs',
		summary: 'The whole hub as one ZIP that reads back in without loss',
		access: 'signed-in',
		produces: 'application/zip',
		handle: async ({ actor, param }) =>
			download(
				new Uint8Array(await exportHubArchive(actor, param('hubId'))),
				'application/zip',
				'hub-archive.zip'
			)
	}),
	endpoint({
		method: 'POST',
		path: '/hubs/archive',
		tag: 'Hubs',
		summary: 'Take a hub in from its archive (planners); all of it or nothing',
		access: 'signed-in',
		upload: { mostBytes: LARGEST_ARCHIVE_BYTES, mediaType: 'application/zip' },
		status: 201,
		handle: ({ actor, upload }) => importHubArchive(actor, upload)
	}),
	endpoint<TerminalAcceptanceRequest>({
		method: 'POST',
		path: '/hubs/:hubId/acceptances',
		tag: 'Hubs',
		summary: 'Sign the acceptance of one terminal as it stands (acceptors)',
		access: 'signed-in',
		mostBodyBytes: LONG_BODY_BYTES,
		body: acceptanceSchema.keys({ terminal: stationId().label('Terminal') }),
		status: 201,
		handle: ({ actor, param, body }) => acceptTerminal(actor, param('hubId'), body)
	})
];
