import type { UnitSystem } from '#core/units/systems';
import type { End } from '#core/ends';
import {
	acceptancesOf,
	sendBack,
	getAcceptance,
	judgeHop,
	signAcceptance,
	type AcceptanceRequest
} from '../../services/acceptance';
import { asBuilt, asBuiltCsv } from '../../services/asBuilt';
import { readRecords, type NewRecord } from '../../services/feed';
import { hopFeeds } from '../../services/liveFeed';
import { exportArchive, importArchive, LARGEST_ARCHIVE_BYTES } from '../../services/hopArchive';
import { getHopRow } from '../../services/hops';
import { recordInHop, visitsOfHop } from '../../services/visits';
import { gatherPack } from '../../services/pack';
import { provenanceOf } from '../../services/provenance';
import { checkRecord } from '../../services/verify';
import { actOnSimulator, type SimulatorRequest } from '../../services/simulation';
import { acceptanceSchema, packQuerySchema, sendBackSchema } from '../../schemas/inputs';
import { joi } from '../../schemas/joi';
import { recordBatchSchema, simulatorSchema } from '../../schemas/records';
import { inWorker } from '../../jobs/pool';
import { download } from '../download';
import { endpoint, LONG_BODY_BYTES } from '../endpoint';
import { eventStream } from '../eventStream';

export const fieldEndpoints = [
	endpoint<undefined, { after: number; limit: number }>({
		method: 'GET',
		path: '/hops/:hopId/records',
		tag: 'Field record',
		summary: 'Field records after a place in the feed',
		access: 'signed-in',
		query: joi.object({
			after: joi.number().integer().min(0).default(0),
			limit: joi.number().integer().min(1).max(2000).default(500)
		}),
		handle: async ({ actor, param, query }) => {
			await getHopRow(actor, param('hopId'));
			return {
				records: await readRecords(param('hopId'), query.after, { limit: query.limit }),
				provenance: await provenanceOf(param('hopId'))
			};
		}
	}),
	endpoint<{ records: NewRecord[]; keepOlder: boolean }>({
		method: 'POST',
		path: '/hops/:hopId/records',
		tag: 'Field record',
		summary: 'Append field records, all or none; a repeat with the same ids does nothing',
		access: 'signed-in',
		mostBodyBytes: LONG_BODY_BYTES,
		body: recordBatchSchema,
		atHop: true,
		handle: async ({ actor, param, body, place }) => ({
			results: await recordInHop(actor, param('hopId'), body.records, {
				keepOlder: body.keepOlder,
				known: place
			})
		})
	}),
	endpoint<undefined, { after: number }>({
		method: 'GET',
		path: '/hops/:hopId/feed',
		tag: 'Field record',
		summary: 'The field record live, as server-sent events; resumes after Last-Event-ID',
		access: 'signed-in',
		query: joi.object({ after: joi.number().integer().min(0).default(0) }),
		produces: 'text/event-stream',
		handle: async ({ actor, param, query, request }) => {
			await getHopRow(actor, param('hopId'));
			const hopId = param('hopId');
			return eventStream({ actor, feed: hopFeeds, id: hopId, hopId }, request, query.after);
		}
	}),
	endpoint({
		method: 'GET',
		path: '/hops/:hopId/records/check',
		tag: 'Field record',
		summary: 'Whether the record is still what was recorded and what was signed',
		access: 'signed-in',
		handle: ({ actor, param }) => checkRecord(actor, param('hopId'))
	}),
	endpoint<SimulatorRequest>({
		method: 'POST',
		path: '/hops/:hopId/simulator',
		tag: 'Field record',
		summary: 'Move the simulated dish or read the simulated meter of a practice hop',
		access: 'signed-in',
		body: simulatorSchema,
		handle: ({ actor, param, body }) => actOnSimulator(actor, param('hopId'), body)
	}),
	endpoint({
		method: 'GET',
		path: '/hops/:hopId/judgement',
		tag: 'Acceptance',
		summary: 'Planned against measured as the record stands',
		access: 'signed-in',
		handle: ({ actor, param }) => judgeHop(actor, param('hopId'))
	}),
	endpoint({
		method: 'GET',
		path: '/hops/:hopId/acceptance',
		tag: 'Acceptance',
		summary: 'The newest signed acceptance',
		access: 'signed-in',
		handle: ({ actor, param }) => getAcceptance(actor, param('hopId'))
	}),
	endpoint<{ id: string; end: End; reason: string }>({
		method: 'POST',
		path: '/hops/:hopId/sent-back',
		tag: 'Acceptance',
		summary: 'Do not sign: send the hop back with the reason (acceptors)',
		access: 'signed-in',
		body: sendBackSchema,
		handle: ({ actor, param, body }) => sendBack(actor, param('hopId'), body)
	}),
	endpoint({
		method: 'GET',
		path: '/hops/:hopId/acceptances',
		tag: 'Acceptance',
		summary: 'Every signed acceptance, the oldest first',
		access: 'signed-in',
		handle: async ({ actor, param }) => ({
			acceptances: await acceptancesOf(actor, param('hopId'))
		})
	}),
	endpoint<AcceptanceRequest>({
		method: 'POST',
		path: '/hops/:hopId/acceptance',
		tag: 'Acceptance',
		summary: 'Sign the acceptance (acceptors): freezes the judgement',
		access: 'signed-in',
		mostBodyBytes: LONG_BODY_BYTES,
		body: acceptanceSchema,
		status: 201,
		handle: ({ actor, param, body }) => signAcceptance(actor, param('hopId'), body)
	}),
	endpoint({
		method: 'GET',
		path: '/hops/:hopId/visits',
		tag: 'Acceptance',
		summary: 'Every visit, and what the newest after the acceptance found and left',
		access: 'signed-in',
		handle: ({ actor, param }) => visitsOfHop(actor, param('hopId'))
	}),
	endpoint({
		method: 'GET',
		path: '/hops/:hopId/as-built.json',
		tag: 'Acceptance',
		summary: 'As-built record: plan, measurements, judgement, signature',
		access: 'signed-in',
		handle: async ({ actor, param }) =>
			download(
				JSON.stringify(await asBuilt(actor, param('hopId')), null, '\t'),
				'application/json',
				'as-built.json'
			)
	}),
	endpoint({
		method: 'GET',
		path: '/hops/:hopId/as-built.csv',
		tag: 'Acceptance',
		summary: 'As-built table: planned against measured',
		access: 'signed-in',
		produces: 'text/csv',
		handle: async ({ actor, param }) =>
			download(await asBuiltCsv(actor, param('hopId')), 'text/csv; charset=utf-8', 'as-built.csv')
	}),
	endpoint<undefined, { acceptance?: number; units: UnitSystem }>({
		method: 'GET',
		path: '/hops/:hopId/pack.pdf',
		tag: 'Acceptance',
		summary: 'The acceptance pack to print',
		access: 'signed-in',
		produces: 'application/pdf',
		query: packQuerySchema,
		handle: async ({ actor, param, query }) =>
			download(
				new Uint8Array(
					await inWorker('pack-pdf', {
						pack: await gatherPack(actor, param('hopId'), query.acceptance),
						system: query.units
					})
				),
				'application/pdf',
				'acceptance-pack.pdf'
			)
	}),
	endpoint({
		method: 'GET',
		path: '/hops/:hopId/archive.zip',
		tag: 'Acceptance',
		summary: 'The whole hop as one ZIP that reads back in without loss',
		access: 'signed-in',
		produces: 'application/zip',
		handle: async ({ actor, param }) =>
			download(
				new Uint8Array(await exportArchive(actor, param('hopId'))),
				'application/zip',
				'hop-archive.zip'
			)
	}),
	endpoint({
		method: 'POST',
		path: '/hops/archive',
		tag: 'Acceptance',
		summary: 'Take a hop in from its archive (planners); all of it or nothing',
		access: 'signed-in',
		upload: { mostBytes: LARGEST_ARCHIVE_BYTES, mediaType: 'application/zip' },
		status: 201,
		handle: ({ actor, upload }) => importArchive(actor, upload)
	})
];
