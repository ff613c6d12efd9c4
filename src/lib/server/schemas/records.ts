import type Joi from 'joi';
import { CAUSES } from '#core/diagnose/causes/keys';
import { TEST_KEYS } from '#core/diagnose/sights';
import { RECORD_KINDS } from '#core/record/kinds';
import { LONGEST_MESSAGE, PHRASES } from '#core/record/messages';
import type { RecordKind } from '#core/record/records';
import { KINDS_OF_A_DISH } from '#core/record/secondDish';
import { SIMULATOR_ACTIONS } from '#core/simulate/actions';
import { buildPayloads } from './buildRecords';
import { axis, end, joi, pointInTime, uuid } from './joi';

const volts = (): Joi.NumberSchema => joi.number().min(-100).max(100).label('Volts');
const level = (): Joi.NumberSchema => joi.number().min(-200).max(50).label('Level');
const turns = (): Joi.NumberSchema => joi.number().min(-2000).max(2000).label('Turns');
const source = (): Joi.StringSchema =>
	joi.string().valid('hand', 'simulated', 'import', 'serial', 'replay').required().label('Source');
/** Each radio of an end by its key, with what is confirmed of it. */
const eachRadio = (rows: Record<string, Joi.BooleanSchema>): Joi.ArraySchema =>
	joi
		.array()
		.items(
			joi.object({
				radio: joi
					.string()
					.pattern(/^radio-[1-9]$/, 'key of a radio')
					.required()
					.label('Radio'),
				...rows
			})
		)
		.min(1)
		.max(8)
		.label('Radios');
const yesNo = (label: string): Joi.BooleanSchema => joi.boolean().strict().required().label(label);

/** A sweep as recorded or imported. */
export const sweepSamplesSchema = (fewest: number): Joi.ArraySchema =>
	joi
		.array()
		.items(
			joi.object({
				elapsedS: joi.number().min(0).max(1e6).label('Elapsed seconds'),
				positionDeg: joi.number().min(-180).max(180).required().label('Position'),
				levelV: joi.number().min(-1000).max(1000).required().label('Volts')
			})
		)
		.min(fewest)
		.max(5000)
		.label('Samples');

const payloads: Record<RecordKind, Joi.ObjectSchema> = {
	reading: joi
		.object({
			volts: volts().allow(null).required(),
			levelDbm: level().allow(null).required(),
			source: source(),
			purpose: joi.string().valid('watch', 'sweep', 'final').required().label('Purpose')
		})
		.custom((value: { volts: number | null; levelDbm: number | null }, helpers) =>
			value.volts === null && value.levelDbm === null
				? helpers.message({ custom: 'A reading needs volts or a level' })
				: value
		),
	move: joi.object({
		axis: axis().required().label('Axis'),
		toTurns: turns().required(),
		viaTurns: joi.array().items(turns()).max(4).default([]).label('Turns on the way'),
		source: source()
	}),
	sweep: joi.object({
		axis: axis().required().label('Axis'),
		otherAxisDeg: joi.number().min(-180).max(180).required().label('Other axis'),
		source: source(),
		samples: sweepSamplesSchema(5).required()
	}),
	baton: joi.object({
		to: end().required().label('Next end'),
		how: joi.string().valid('handed', 'taken').default('handed').label('How')
	}),
	'baton-request': joi.object({}),
	'level-request': joi.object({}),
	aimed: joi.object({}),
	advice: joi.object({
		step: joi.string().max(30).required().label('Step'),
		headline: joi.string().max(200).required().label('Headline'),
		why: joi.array().items(joi.string().max(500)).max(8).required().label('Reasons'),
		probabilityOnMainLobe: joi.number().min(0).max(1).allow(null).required().label('Probability'),
		boresight: joi
			.object({
				azimuthDeg: joi.number().min(-180).max(180).required().label('Azimuth'),
				tiltDeg: joi.number().min(-180).max(180).required().label('Tilt'),
				sigmaDeg: joi.number().min(0).max(90).required().label('Uncertainty')
			})
			.allow(null)
			.required()
			.label('Boresight')
	}),
	'mount-turn': joi.object({
		byDeg: joi.number().min(-180).max(180).invalid(0).required().label('Turned by'),
		compassDeg: joi.number().min(0).max(360).allow(null).required().label('Compass heading'),
		source: source()
	}),
	calibration: joi.object({
		axis: axis().required().label('Axis'),
		degPerTurn: joi.number().min(0.001).max(30).required().label('Degrees a turn'),
		sigmaDegPerTurn: joi.number().min(0).max(30).required().label('Uncertainty'),
		sweepId: uuid().required().label('Sweep')
	}),
	'crew-mode': joi.object({ crews: joi.number().valid(1, 2).required().label('Crews') }),
	remedy: joi.object({
		cause: joi
			.string()
			.valid(...CAUSES)
			.required()
			.label('Cause')
	}),
	'alignment-state': joi.object({
		powerControlOff: yesNo('ATPC off'),
		adaptiveModulationOff: yesNo('ACM off'),
		fixedPower: yesNo('Fixed power'),
		transmitterOn: yesNo('Transmitter on'),
		radios: eachRadio({
			powerControlOff: yesNo('ATPC off'),
			adaptiveModulationOff: yesNo('ACM off'),
			fixedPower: yesNo('Fixed power'),
			sendsAsListed: yesNo('Sends as listed')
		})
	}),
	'lock-step': joi.object({
		fastenerIndex: joi.number().integer().min(0).max(40).required().label('Fastener'),
		fastener: joi.string().max(120).required().label('Fastener'),
		locks: axis().required().label('Axis'),
		torqueNm: joi.number().min(0.5).max(1000).required().label('Torque'),
		beforeDbm: level().required().label('Level before'),
		afterDbm: level().required().label('Level after'),
		source: source()
	}),
	'operating-state': joi.object({
		powerControlAsPlanned: yesNo('ATPC as planned'),
		adaptiveModulationAsPlanned: yesNo('ACM as planned'),
		licensedPower: yesNo('Licensed power'),
		radios: eachRadio({
			powerControlAsPlanned: yesNo('ATPC as planned'),
			adaptiveModulationAsPlanned: yesNo('ACM as planned'),
			licensedPower: yesNo('Licensed power')
		})
	}),
	loosen: joi.object({ reason: joi.string().trim().min(3).max(400).required().label('Reason') }),
	'test-result': joi.object({
		test: joi
			.string()
			.valid(...TEST_KEYS)
			.required()
			.label('Test'),
		value: joi.string().valid('yes', 'no').required().label('Result')
	}),
	note: joi.object({ text: joi.string().trim().min(1).max(2000).required().label('Note') }),
	message: joi
		.object({
			phrase: joi
				.string()
				.valid(...PHRASES)
				.allow(null)
				.required()
				.label('Phrase'),
			text: joi
				.string()
				.trim()
				.max(LONGEST_MESSAGE)
				.when('phrase', { is: null, then: joi.string().min(1), otherwise: joi.string().allow('') })
				.required()
				.label('Message')
		})
		.label('Message'),
	...buildPayloads
};

/** Which dish of its end a record is about: the first where it does not say. */
const secondDish = (): Joi.NumberSchema => joi.number().valid(2).label('Dish');

for (const kind of KINDS_OF_A_DISH) payloads[kind] = payloads[kind].append({ dish: secondDish() });

const recordSchema = joi
	.object({
		id: uuid().required().label('Id'),
		end: end().required().label('End'),
		kind: joi
			.string()
			.valid(...RECORD_KINDS)
			.required()
			.label('Kind'),
		payload: joi.when('kind', {
			switch: RECORD_KINDS.map((kind) => ({ is: kind, then: payloads[kind].required() })),
			otherwise: joi.object()
		}),
		recordedAt: pointInTime().required().label('Time'),
		revisionNumber: joi.number().integer().min(1).max(100_000).label('Plan revision')
	})
	.label('Record');

export const recordBatchSchema = joi.object({
	records: joi.array().items(recordSchema).min(1).max(200).required().label('Records'),
	keepOlder: joi.boolean().strict().default(false).label('Keep against the older plan')
});

export const simulatorSchema = joi.object({
	end: end().required().label('End'),
	dish: secondDish(),
	action: joi
		.string()
		.valid(...SIMULATOR_ACTIONS)
		.required()
		.label('Action'),
	id: uuid().required().label('Id'),
	readingId: uuid().required().label('Id of the reading'),
	purpose: joi.string().valid('watch', 'sweep', 'final').default('watch').label('Purpose'),
	axis: axis()
		.when('action', { is: ['turn', 'sweep-part'], then: joi.required() })
		.label('Axis'),
	turns: joi
		.array()
		.items(turns())
		.min(1)
		.max(40)
		.when('action', { is: ['turn', 'sweep-part'], then: joi.required() })
		.label('Turns'),
	byDeg: joi
		.number()
		.min(-180)
		.max(180)
		.invalid(0)
		.when('action', { is: 'turn-mount', then: joi.required() })
		.label('Turned by'),
	compassDeg: joi.number().min(0).max(360).label('Compass heading'),
	feedDeg: joi
		.number()
		.min(-90)
		.max(90)
		.when('action', { is: 'turn-feed', then: joi.required() })
		.label('Turn of the feed'),
	sent: joi
		.string()
		.valid('vertical', 'horizontal')
		.when('action', { is: 'both-polarizations', then: joi.required() })
		.label('Polarization sent'),
	pair: joi.number().valid(2).label('Frequency pair'),
	turned: end()
		.when('action', { is: 'both-polarizations', then: joi.required() })
		.label('End whose feed is turned'),
	carrier: joi
		.number()
		.integer()
		.min(2)
		.max(8)
		.when('action', { is: 'carrier', then: joi.required() })
		.label('Carrier'),
	test: joi
		.string()
		.valid(...TEST_KEYS)
		.when('action', { is: 'test', then: joi.required() })
		.label('Test'),
	fastenerIndex: joi
		.number()
		.integer()
		.min(0)
		.max(40)
		.when('action', { is: 'tighten', then: joi.required() })
		.label('Fastener')
});
