import type Joi from 'joi';
import { HUB_RECORD_KINDS, type HubRecordKind } from '#core/bringup/hubRecords';
import { LINK_CAUSE_NAMES } from '#core/bringup/linkCauses';
import { LINK_TEST_NAMES } from '#core/bringup/linkTests';
import { LAMP_STATES } from '#core/catalogue/installation';
import { MOST_TERMINALS } from '#core/hub/hubInput';
import { buildPayloads } from './buildRecords';
import { joi, pointInTime, uuid } from './joi';

const source = (): Joi.StringSchema =>
	joi.string().valid('hand', 'simulated').required().label('Source');
const levelDbm = (label: string): Joi.NumberSchema => joi.number().min(-150).max(20).label(label);
const rate = (label: string): Joi.NumberSchema =>
	joi.number().min(0).max(100_000).allow(null).required().label(label);
const cause = (): Joi.StringSchema =>
	joi
		.string()
		.valid(...LINK_CAUSE_NAMES)
		.required()
		.label('Cause');
export const stationId = (): Joi.StringSchema =>
	joi.string().min(1).max(60).required().label('Unit or terminal');
const linkTest = (): Joi.StringSchema =>
	joi
		.string()
		.valid(...LINK_TEST_NAMES)
		.label('Test');

const payloads: Record<HubRecordKind, Joi.ObjectSchema> = {
	'stop-card': buildPayloads['stop-card'],
	'build-step': buildPayloads['build-step'],
	'step-skipped': buildPayloads['step-skipped'],
	'step-reopened': buildPayloads['step-reopened'],
	note: joi.object({ text: joi.string().trim().min(1).max(2000).required().label('Note') }),
	lamp: joi.object({
		state: joi
			.string()
			.valid(...LAMP_STATES, 'dark')
			.required()
			.label('Lamp'),
		source: source()
	}),
	'link-level': joi.object({
		downDbm: levelDbm('Level at the terminal').required(),
		upDbm: levelDbm('Level at the hub').allow(null).required(),
		downMbitS: rate('Rate towards it'),
		upMbitS: rate('Rate from it'),
		source: source()
	}),
	pointing: joi.object({
		headingDeg: joi.number().min(0).max(360).required().label('Heading'),
		levelDbm: levelDbm('Level').allow(null).required(),
		step: joi.number().integer().min(1).max(12).label('Step of the display'),
		source: source()
	}),
	'link-test': joi.object({
		test: linkTest().required(),
		value: joi.string().valid('yes', 'no').required().label('Result'),
		source: source()
	}),
	'link-remedy': joi.object({ cause: cause() })
};

const recordSchema = joi
	.object({
		id: uuid().required().label('Id'),
		station: stationId(),
		kind: joi
			.string()
			.valid(...HUB_RECORD_KINDS)
			.required()
			.label('Kind'),
		payload: joi.when('kind', {
			switch: HUB_RECORD_KINDS.map((kind) => ({ is: kind, then: payloads[kind].required() })),
			otherwise: joi.object()
		}),
		recordedAt: pointInTime().required().label('Time'),
		revisionNumber: joi.number().integer().min(1).max(100_000).label('Plan revision')
	})
	.label('Record');

export const hubRecordBatchSchema = joi.object({
	records: joi.array().items(recordSchema).min(1).max(200).required().label('Records'),
	keepOlder: joi.boolean().strict().default(false).label('Keep against the older plan')
});

export const hubRevisionSchema = joi.object({
	id: uuid().required().label('Id'),
	version: joi.number().integer().min(1).required().label('Version'),
	note: joi.string().trim().allow('').max(1000).default('').label('Note')
});

const planted = (): Joi.ArraySchema =>
	joi
		.array()
		.items(joi.object({ terminal: stationId().label('Terminal'), cause: cause() }))
		.max(MOST_TERMINALS)
		.default([])
		.label('Planted troubles');

/** What stands in for a hub for practice; without it the hub is a real one. */
export const hubPracticeSchema = joi.object({
	practice: joi.boolean().strict().required().label('For practice'),
	planted: planted()
});

/** The same as it is kept. */
export const standsInSchema = joi.object({
	seed: joi
		.number()
		.integer()
		.min(0)
		.max(2 ** 32)
		.required()
		.label('Seed'),
	planted: planted()
});

export const standInSchema = joi.object({
	id: uuid().required().label('Id'),
	station: stationId(),
	look: joi.string().valid('lamp', 'page', 'test', 'pointing').required().label('Look at'),
	test: linkTest().when('look', { is: 'test', then: joi.required(), otherwise: joi.forbidden() }),
	headingDeg: joi
		.number()
		.min(0)
		.max(360)
		.when('look', { is: 'pointing', then: joi.required(), otherwise: joi.forbidden() })
		.label('Heading')
});
