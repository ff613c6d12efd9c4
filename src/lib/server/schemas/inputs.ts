import type Joi from 'joi';
import { ROLES } from '../db/models';
import { joi, uuid, end } from './joi';

export const signInSchema = joi.object({
	signInName: joi.string().trim().max(80).required().label('Name').example('planner'),
	password: joi.string().max(200).required().label('Password').example('a long pass phrase')
});

export const accountSchema = joi.object({
	signInName: joi
		.string()
		.trim()
		.lowercase()
		.pattern(/^[a-z0-9._-]{2,80}$/)
		.messages({
			'string.pattern.base': '{#label} may hold letters, digits, dot, dash and underscore, 2 to 80'
		})
		.required()
		.label('Sign-in name'),
	displayName: joi.string().trim().min(2).max(120).required().label('Name shown'),
	role: joi
		.string()
		.valid(...ROLES)
		.required()
		.label('Role'),
	password: joi.string().min(12).max(200).required().label('Password')
});

export const siteSchema = joi.object({
	name: joi.string().trim().min(2).max(80).required().label('Name').example('Tern Stack'),
	latitudeDeg: joi.number().min(-90).max(90).required().label('Latitude').example(-46.2),
	longitudeDeg: joi.number().min(-180).max(180).required().label('Longitude').example(-118.4),
	groundAmslM: joi.number().min(-430).max(8900).required().label('Ground height').example(212),
	notes: joi.string().trim().allow('').max(4000).default('').label('Notes'),
	version: joi.number().integer().min(1).label('Version')
});

const code = (label: string): Joi.StringSchema => joi.string().max(20).required().label(label);

const endDraftSchema = joi.object({
	radioCode: code('Radio').example('RU-26'),
	dishCode: code('Dish').example('DP-060-26'),
	mountCode: code('Mount').example('MB-S'),
	feederCode: code('Feeder').example('FD-0'),
	feederLengthM: joi.number().min(0).max(500).required().label('Feeder length').example(0),
	antennaHeightAglM: joi.number().min(0.5).max(400).required().label('Antenna height').example(24),
	transmitFrequencyGhz: joi
		.number()
		.min(1)
		.max(100)
		.required()
		.label('Transmit frequency')
		.example(26.2),
	transmitPowerDbm: joi.number().min(-60).max(50).required().label('Operating power').example(16),
	alignmentPowerDbm: joi.number().min(-60).max(50).required().label('Alignment power').example(15),
	mountSide: joi
		.string()
		.valid('left', 'right', 'centred')
		.default('centred')
		.label('Side of the mast'),
	landmark: joi.string().trim().allow('').max(400).default('').label('Landmark'),
	siteNotes: joi.string().trim().allow('').max(2000).default('').label('Notes for the crew')
});

export const planDraftSchema = joi.object({
	polarization: joi
		.string()
		.valid('vertical', 'horizontal')
		.required()
		.label('Polarization')
		.example('vertical'),
	channelWidthMhz: joi.number().min(0.1).max(4000).required().label('Channel width').example(28),
	operatingModulation: joi
		.string()
		.max(40)
		.required()
		.label('Operating modulation')
		.example('256 QAM'),
	kFactor: joi
		.number()
		.min(0.3)
		.max(10)
		.default(4 / 3)
		.label('Effective-earth factor k'),
	dryAirPressureHpa: joi.number().min(500).max(1100).default(1013.25).label('Air pressure'),
	temperatureC: joi.number().min(-60).max(55).default(15).label('Temperature'),
	waterVapourGM3: joi.number().min(0).max(50).default(7.5).label('Water vapour'),
	additionalLossDb: joi.number().min(0).max(60).default(0).label('Additional loss'),
	toleranceDb: joi.number().min(0.5).max(10).default(2).label('Tolerance').example(2),
	firstToMove: end().default('A').label('First to move'),
	workDate: joi.string().isoDate().required().label('Day of the work').example('2026-11-24'),
	ends: joi.object({ A: endDraftSchema.required(), B: endDraftSchema.required() }).required()
});

export const hopSchema = joi.object({
	name: joi
		.string()
		.trim()
		.min(2)
		.max(80)
		.required()
		.label('Name')
		.example('Tern Stack to Kelp Head'),
	siteAId: uuid().required().label('Site A'),
	siteBId: uuid()
		.required()
		.invalid(joi.ref('siteAId'))
		.messages({ 'any.invalid': 'Site B is the same site as A: a hop has two ends' })
		.label('Site B'),
	practice: joi.boolean().default(false).label('Practice hop'),
	plan: planDraftSchema.required(),
	version: joi.number().integer().min(1).label('Version')
});

export const memberSchema = joi.object({
	memberIds: joi.array().items(uuid()).max(100).unique().required().label('Members')
});

export const revisionSchema = joi.object({
	id: uuid().required().label('Id'),
	version: joi.number().integer().min(1).required().label('Version'),
	note: joi.string().trim().allow('').max(1000).default('').label('Note')
});

export const acceptanceSchema = joi.object({
	id: uuid().required().label('Id'),
	lastSeq: joi.number().integer().min(0).required().label('Last record seen'),
	causes: joi
		.object()
		.pattern(/^[a-zA-Z-]{1,40}$/, joi.string().trim().min(3).max(2000).label('Cause'))
		.default({})
		.label('Causes'),
	signature: joi
		.object({
			name: joi.string().trim().min(3).max(120).required().label('Name of the signer'),
			method: joi.string().valid('typed', 'drawn').required().label('Way of signing'),
			drawing: joi
				.string()
				.pattern(/^data:image\/png;base64,[A-Za-z0-9+/=]+$/)
				.max(200_000)
				.when('method', {
					is: 'drawn',
					then: joi.required(),
					otherwise: joi.forbidden()
				})
				.label('Drawn signature')
		})
		.required()
		.label('Signature')
});

export const pageSchema = joi.object({
	q: joi.string().trim().allow('').max(80).default(''),
	page: joi.number().integer().min(1).max(100_000).default(1)
});
