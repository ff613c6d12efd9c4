import type Joi from 'joi';
import { MOST_STEPS } from '#core/provenance/provenance';
import { PUBLIC_KEY } from '../formats/archiveSignature';
import { acceptanceSchema, planDraftSchema, siteSchema } from './inputs';
import { end, joi, pointInTime, uuid } from './joi';
import { recordBatchSchema } from './records';

export const time = (label: string): Joi.StringSchema => pointInTime().required().label(label);
export const digest = (label: string): Joi.StringSchema =>
	joi
		.string()
		.pattern(/^[0-9a-f]{64}$/)
		.label(label);
export const personId = (label: string): Joi.StringSchema => uuid().required().label(label);

/** Public key of an installation. */
export const publicKey = (): Joi.StringSchema =>
	joi
		.string()
		.trim()
		.pattern(PUBLIC_KEY)
		.required()
		.messages({ 'string.pattern.base': '{{#label}} is 43 letters, digits, “-” and “_”.' })
		.label('Public key');

/** Where a hop had come from; each step of its way says the one before, to a bounded depth. */
export function provenance(steps: number = MOST_STEPS): Joi.ObjectSchema {
	const earlier = steps > 1 ? provenance(steps - 1).allow(null) : joi.valid(null);
	return joi.object({
		importedAt: time('Imported at'),
		importedBy: joi.string().max(120).required().label('Who imported'),
		source: joi
			.object({
				key: publicKey(),
				name: joi.string().allow('').max(120).required().label('Source')
			})
			.allow(null)
			.required()
			.label('Source'),
		trusted: joi.boolean().required().label('Trusted'),
		lastSeq: joi.number().integer().min(0).required().label('Last imported record'),
		revisions: joi.number().integer().min(0).required().label('Imported revisions'),
		acceptances: joi.number().integer().min(0).required().label('Imported acceptances'),
		earlier: earlier.required().label('Earlier source')
	});
}

/** Everybody who is named in an archive. */
export const people = (): Joi.ArraySchema =>
	joi
		.array()
		.items(
			joi.object({
				id: personId('Id of a person'),
				displayName: joi.string().trim().min(1).max(120).required().label('Name of a person')
			})
		)
		.max(500)
		.unique('id')
		.required()
		.label('People');

/** What every issued plan in an archive says of itself. */
export const issued = (): Joi.SchemaMap => ({
	id: uuid().required().label('Id of a revision'),
	number: joi.number().integer().min(1).required().label('Number of a revision'),
	input: joi.object().required().label('Input of a revision'),
	note: joi.string().allow('').max(4000).required().label('Note of a revision'),
	issuedBy: personId('Who issued a revision'),
	issuedAt: time('Issued at')
});

/** What every record in an archive says of itself. */
export const recorded = (): Joi.SchemaMap => ({
	record: joi.object().required(),
	seq: joi.number().integer().min(1).required().label('Place in the feed'),
	revisionNumber: joi.number().integer().min(1).required().label('Plan revision'),
	receivedAt: time('Received at'),
	recordedBy: personId('Who recorded')
});

/** What every acceptance in an archive says of itself. */
export const accepted = (): Joi.SchemaMap => ({
	id: uuid().required().label('Id of the acceptance'),
	revisionNumber: joi.number().integer().min(1).required().label('Plan revision'),
	lastSeq: joi.number().integer().min(0).required().label('Last record'),
	judgement: joi.object().required().label('Judgement'),
	causes: acceptanceSchema.extract('causes'),
	signature: acceptanceSchema.extract('signature'),
	signedBy: personId('Who signed'),
	signedAt: time('Signed at')
});

const acceptance = (): Joi.ObjectSchema =>
	joi.object({ ...accepted(), recordDigest: digest('Digest of the record').allow(null) });

/** The document of a hop archive, `hop.json`. Every id is the one it had where it was made. */
export const archiveSchema = joi.object({
	format: joi.string().valid('skiaxis-hop-archive').required().label('Format'),
	formatVersion: joi.number().valid(1, 2).required().label('Format version'),
	provenance: provenance().allow(null).label('Where the hop came from'),
	people: people(),
	sites: joi
		.array()
		.items(siteSchema.keys({ id: uuid().required().label('Id of a site') }))
		.length(2)
		.unique('id')
		.required()
		.label('Sites'),
	hop: joi
		.object({
			id: uuid().required().label('Id of the hop'),
			name: joi.string().trim().min(2).max(120).required().label('Name of the hop'),
			siteAId: uuid().required().label('Site A'),
			siteBId: uuid().required().label('Site B'),
			plan: planDraftSchema.required(),
			simulationSeed: joi.number().integer().min(1).allow(null).required().label('Seed'),
			plantedFault: joi.string().max(100).allow(null).required().label('Fault'),
			version: joi.number().integer().min(1).required().label('Version'),
			createdBy: personId('Who made the hop'),
			createdAt: time('Made at'),
			updatedAt: time('Changed at'),
			baton: end().required().label('Baton'),
			readyA: joi.boolean().required().label('Ready A'),
			readyB: joi.boolean().required().label('Ready B')
		})
		.required()
		.label('Hop'),
	revisions: joi
		.array()
		.items(
			joi.object({
				...issued(),
				plan: joi.object().required().label('Plan of a revision'),
				review: joi.object().allow(null).required().label('Review of a revision')
			})
		)
		.max(200)
		.unique('number')
		.required()
		.label('Revisions'),
	records: joi
		.array()
		.items(
			joi.object({
				...recorded(),
				digest: digest('Digest of a record')
			})
		)
		.max(100_000)
		.required()
		.label('Records'),
	photos: joi
		.array()
		.items(
			joi.object({
				id: uuid().required().label('Id of a photo'),
				end: end().required().label('End of a photo'),
				sourceSha256: joi
					.string()
					.pattern(/^[0-9a-f]{64}$/)
					.required()
					.label('Digest of a photo'),
				uploadedBy: personId('Who took a photo'),
				uploadedAt: time('Uploaded at')
			})
		)
		.max(400)
		.unique('id')
		.required()
		.label('Photos'),
	acceptance: acceptance().allow(null).required().label('Acceptance'),
	acceptances: joi.array().items(acceptance()).max(100).unique('id').label('Acceptances')
});

/** `signature.json` of an archive. */
export const archiveSignatureSchema = joi.object({
	format: joi
		.string()
		.valid('skiaxis-archive-signature')
		.required()
		.label('Format of the signature'),
	formatVersion: joi.number().valid(1).required().label('Version of the signature'),
	algorithm: joi.string().valid('Ed25519').required().label('Algorithm of the signature'),
	installation: joi
		.object({
			name: joi.string().allow('').max(120).required().label('Name of the installation'),
			publicKey: publicKey()
		})
		.required()
		.label('Installation'),
	signature: joi
		.string()
		.pattern(/^[A-Za-z0-9_-]{86}$/)
		.required()
		.label('Signature')
});

/** One record inside an archive, as a device would send it. */
export const archivedRecordsSchema = recordBatchSchema;
