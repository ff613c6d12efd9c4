import type Joi from 'joi';
import { CLOSING_QUESTIONS } from '#core/accept/closing';
import { VISIT_PURPOSES } from '#core/record/records';
import { STOP_CARD_WORDS, STOP_CARDS } from '#core/safety/stopCards';
import { end, joi, uuid } from './joi';

const text = (label: string, most: number): Joi.StringSchema =>
	joi.string().trim().min(1).max(most).required().label(label);
const optionalText = (label: string, most: number): Joi.StringSchema =>
	joi.string().trim().allow('').max(most).default('').label(label);
const cause = (label: string): Joi.StringSchema =>
	joi.string().trim().min(3).max(400).required().label(label);
const plane = (label: string): Joi.StringSchema =>
	joi.string().valid('vertical', 'horizontal').required().label(label);
const key = (label: string): Joi.StringSchema =>
	joi
		.string()
		.pattern(/^[a-z0-9*-]{1,40}$/)
		.required()
		.label(label);
const day = (label: string): Joi.StringSchema =>
	joi
		.string()
		.pattern(/^\d{4}-\d{2}-\d{2}$/)
		.messages({ 'string.pattern.base': '{#label} must be a day, as 2026-05-31' })
		.required()
		.label(label);
const kilograms = (label: string): Joi.NumberSchema =>
	joi.number().min(1).max(100_000).required().label(label);
const photoIds = (): Joi.ArraySchema =>
	joi.array().items(uuid().label('Photo')).max(20).default([]).label('Photos');
/** What a level port shows, V. */
const portVolts = (label: string): Joi.NumberSchema => joi.number().min(-100).max(100).label(label);
const levelDbm = (label: string): Joi.NumberSchema =>
	joi.number().min(-150).max(20).required().label(label);
const feedDeg = (): Joi.NumberSchema =>
	joi.number().min(-90).max(90).required().label('Turn of the feed');
const source = (): Joi.StringSchema =>
	joi.string().valid('hand', 'simulated', 'import', 'serial', 'replay').required().label('Source');

/** Name and way of signing; a drawing where it is drawn. */
const signature = (): Joi.SchemaMap => ({
	name: text('Name', 120),
	method: joi.string().valid('typed', 'drawn').required().label('Way of signing'),
	drawing: joi
		.string()
		.max(200_000)
		.pattern(/^data:image\/png;base64,[A-Za-z0-9+/=]+$/)
		.when('method', { is: 'drawn', then: joi.required(), otherwise: joi.forbidden() })
		.label('Drawing')
});

/** Answers to a fixed list of questions: each must be answered, nothing else may be. */
function answers(
	questions: readonly { key: string; ask: string; optional: boolean }[]
): Joi.ObjectSchema {
	return joi
		.object(
			Object.fromEntries(
				questions.map((question) => [
					question.key,
					joi
						.string()
						.valid('yes', 'no', ...(question.optional ? ['not-here'] : []))
						.required()
						.label(question.ask)
				])
			)
		)
		.required()
		.label('Answers');
}

const stopCard = STOP_CARDS.reduce<Joi.ObjectSchema>(
	(schema, card) =>
		schema.when(joi.object({ card: joi.valid(card) }).unknown(), {
			then: joi.object({ answers: answers(STOP_CARD_WORDS[card].questions) })
		}),
	joi.object({
		card: joi
			.string()
			.valid(...STOP_CARDS)
			.required()
			.label('Card'),
		answers: joi.object().required(),
		note: optionalText('Note', 400),
		override: joi.object({ name: text('On whose word', 120), why: cause('Why') }).label('Override')
	})
);

type BuildKind =
	| 'stop-card'
	| 'packing-list'
	| 'received'
	| 'part-label'
	| 'parties'
	| 'receipt-signature'
	| 'polarization-set'
	| 'build-step'
	| 'step-skipped'
	| 'step-reopened'
	| 'photo'
	| 'feed-turn'
	| 'discrimination'
	| 'carrier-level'
	| 'torque-tool'
	| 'error-test'
	| 'crew-signature'
	| 'closing-check'
	| 'service-check'
	| 'snag'
	| 'snag-closed'
	| 'sent-back'
	| 'visit-opened'
	| 'visit-closed'
	| 'part-replaced';

/** What the records of building and closing must hold. */
export const buildPayloads = {
	'stop-card': stopCard,
	'packing-list': joi.object({
		source: joi.string().valid('csv', 'parts').required().label('Source'),
		lines: joi
			.array()
			.items(
				joi.object({
					code: text('Code', 60),
					name: joi.string().trim().allow('').max(160).required().label('Name'),
					count: joi.number().min(0).max(100_000).required().label('Count'),
					unit: text('Unit', 20)
				})
			)
			.min(1)
			.max(500)
			.unique('code')
			.required()
			.label('Lines')
	}),
	received: joi.object({
		code: text('Code', 60),
		name: joi.string().trim().allow('').max(160).required().label('Name'),
		found: joi.number().min(0).max(100_000).required().label('Quantity found'),
		condition: joi.string().valid('good', 'damaged', 'wrong').required().label('Condition'),
		note: optionalText('Note', 400),
		photoIds: photoIds()
	}),
	'part-label': joi.object({
		part: key('Part'),
		code: text('Code', 60),
		bandFromGhz: joi.number().min(0.1).max(120).required().label('Band from'),
		bandToGhz: joi
			.number()
			.max(120)
			.greater(joi.ref('bandFromGhz'))
			.messages({ 'number.greater': 'Band to must be above band from' })
			.required()
			.label('Band to'),
		subBandUnit: optionalText('Sub-band unit', 20),
		flange: optionalText('Flange', 80),
		serial: text('Serial number', 60)
	}),
	parties: joi.object({
		present: joi
			.array()
			.items(joi.object({ name: text('Name', 120), party: text('Party', 120) }))
			.min(1)
			.max(20)
			.required()
			.label('Present'),
		absent: joi
			.array()
			.items(joi.object({ party: text('Party', 120), authorisedBy: text('By leave of', 120) }))
			.max(20)
			.default([])
			.label('Absent')
	}),
	'receipt-signature': joi.object({ party: text('Party', 120), ...signature() }),
	'crew-signature': joi.object(signature()),
	'polarization-set': joi.object({ joint: key('Joint'), shows: plane('What it shows') }),
	'build-step': joi.object({
		step: key('Step'),
		value: joi.number().min(-1e6).max(1e6).allow(null).required().label('Value'),
		note: optionalText('Note', 400),
		photoIds: photoIds(),
		gear: joi
			.object({
				ropeBreakingKg: kilograms('Rope breaks at'),
				pulleyRatedKg: kilograms('Pulley rated'),
				slingRatedKg: kilograms('Sling rated'),
				ropeFactor: joi.number().min(1).max(20).required().label('Factor asked here'),
				loadKg: joi.number().min(0.1).max(2000).label('Load weighs')
			})
			.label('Gear'),
		source: joi
			.object({
				kind: joi.string().valid('dc', 'poe-standard', 'poe-passive').required().label('Source'),
				voltageV: joi.number().min(1).max(100).required().label('Voltage'),
				powerW: joi.number().min(1).max(5000).required().label('Power')
			})
			.label('Source')
	}),
	'step-skipped': joi.object({
		step: key('Step'),
		cause: cause('Cause'),
		authorisedBy: joi.string().trim().min(2).max(120).label('On whose word')
	}),
	'step-reopened': joi.object({ step: key('Step'), reason: cause('Reason') }),
	photo: joi.object({
		photoId: uuid().required().label('Photo'),
		about: key('Subject'),
		caption: optionalText('Caption', 200)
	}),
	'feed-turn': joi.object({ toDeg: feedDeg(), source: source() }),
	discrimination: joi.object({
		sent: plane('Polarization sent'),
		pair: joi.number().valid(2).label('Frequency pair'),
		turned: end().required().label('End whose feed is turned'),
		feedDeg: feedDeg(),
		coDbm: levelDbm('Level on the same polarization'),
		crossDbm: levelDbm('Level on the other polarization'),
		coVolts: portVolts('Voltage on the same polarization'),
		crossVolts: portVolts('Voltage on the other polarization'),
		source: source()
	}),
	'carrier-level': joi.object({
		carrier: joi.number().integer().min(2).max(8).required().label('Carrier'),
		levelDbm: levelDbm('Level'),
		source: source()
	}),
	'torque-tool': joi.object({
		serial: text('Serial number', 60),
		calibratedUntil: day('Calibrated until')
	}),
	'error-test': joi.object({
		test: joi.string().valid('errors', 'traffic', 'soak').required().label('Kind of test'),
		durationS: joi.number().min(1).max(2_592_000).required().label('Duration'),
		erroredSeconds: joi
			.number()
			.integer()
			.min(0)
			.max(joi.ref('durationS'))
			.messages({ 'number.max': 'Errored seconds cannot be more than the test lasted' })
			.required()
			.label('Errored seconds'),
		bitErrorRatio: joi.number().min(0).max(1).allow(null).required().label('Bit error ratio'),
		note: optionalText('Note', 400)
	}),
	'service-check': joi.object({
		answers: joi
			.object()
			.pattern(joi.string().min(1).max(140), joi.string().valid('yes', 'no'))
			.min(1)
			.max(64)
			.required()
			.label('Answers'),
		note: optionalText('Note', 400)
	}),
	'closing-check': joi.object({
		answers: answers(CLOSING_QUESTIONS),
		note: optionalText('Note', 400)
	}),
	snag: joi.object({
		snagId: uuid().required().label('Snag'),
		text: cause('What is left'),
		owner: text('Owner', 120),
		due: day('Due'),
		photoIds: photoIds()
	}),
	'sent-back': joi.object({
		reason: joi.string().trim().min(3).max(1000).required().label('Reason')
	}),
	'snag-closed': joi.object({
		snagId: uuid().required().label('Snag'),
		note: cause('How'),
		closedBy: joi.string().trim().min(1).max(120).label('Closed by'),
		photoIds: joi.array().items(uuid().label('Photo')).max(20).label('Photos')
	}),
	'visit-opened': joi.object({
		visitId: uuid().required().label('Visit'),
		purpose: joi
			.string()
			.valid(...VISIT_PURPOSES)
			.required()
			.label('Purpose'),
		why: cause('Why'),
		people: joi.array().items(text('Name', 120)).min(1).max(20).required().label('People')
	}),
	'visit-closed': joi.object({
		visitId: uuid().required().label('Visit'),
		found: cause('What was found'),
		...signature()
	}),
	'part-replaced': joi.object({
		part: key('Part'),
		code: text('Code', 60),
		serial: text('Serial number', 60),
		reason: cause('Reason'),
		photoIds: photoIds()
	})
} satisfies Record<BuildKind, Joi.ObjectSchema>;
