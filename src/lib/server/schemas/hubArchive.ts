import { accepted, digest, issued, people, personId, provenance, recorded, time } from './archive';
import { hubRecordBatchSchema, stationId, standsInSchema } from './hubRecords';
import { hubPlanSchema, terminalsSchema } from './hubs';
import { siteSchema } from './inputs';
import { joi, uuid } from './joi';

/** The document of the archive of a hub, `hub.json`. Every id is the one it had where it was made. */
export const hubArchiveSchema = joi.object({
	format: joi.string().valid('skiaxis-hub-archive').required().label('Format'),
	formatVersion: joi.number().valid(1).required().label('Format version'),
	provenance: provenance().allow(null).required().label('Where the hub came from'),
	people: people(),
	site: siteSchema
		.keys({ id: uuid().required().label('Id of the site') })
		.required()
		.label('Site'),
	hub: joi
		.object({
			id: uuid().required().label('Id of the hub'),
			name: joi.string().trim().min(2).max(120).required().label('Name of the hub'),
			plan: hubPlanSchema.keys({ terminals: terminalsSchema }).required().label('Plan'),
			practice: standsInSchema.allow(null).required().label('For practice'),
			version: joi.number().integer().min(1).required().label('Version'),
			createdBy: personId('Who made the hub'),
			createdAt: time('Made at'),
			updatedAt: time('Changed at')
		})
		.required()
		.label('Hub'),
	revisions: joi
		.array()
		.items(joi.object(issued()))
		.max(200)
		.unique('number')
		.required()
		.label('Revisions'),
	records: joi
		.array()
		.items(joi.object({ ...recorded(), digest: digest('Digest of a record').required() }))
		.max(100_000)
		.required()
		.label('Records'),
	acceptances: joi
		.array()
		.items(
			joi.object({
				...accepted(),
				terminal: stationId().label('Terminal'),
				number: joi.number().integer().min(1).required().label('Number of the acceptance'),
				recordDigest: digest('Digest of the record').required()
			})
		)
		.max(5000)
		.unique('id')
		.required()
		.label('Acceptances')
});

/** Records inside an archive, as a device would send them. */
export const archivedHubRecordsSchema = hubRecordBatchSchema;
