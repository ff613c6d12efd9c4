import type Joi from 'joi';
import { BROAD_CLIMATES, UNSAID_CLIMATE } from '#core/budget/climate';
import { CONFIGURATIONS } from '#core/budget/configurationKinds';
import { END_DEFAULTS, HOP_DEFAULTS, UNKNOWN_CONDITIONS } from '#core/budget/planDefaults';
import { SIMULATED_FAULTS } from '#core/simulate/faults';
import { MOST_PROFILE_POINTS } from '#core/path/samplePath';
import { ROLES } from '../auth/roles';
import { joi, uuid, end } from './joi';
import { itemAt } from '#core/units/lists';

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

/** A text that may be empty. */
function text(most: number, label: string): Joi.StringSchema {
	return joi.string().trim().allow('').max(most).default('').label(label);
}

export const siteSchema = joi.object({
	name: joi.string().trim().min(2).max(80).required().label('Name').example('Tern Stack'),
	latitudeDeg: joi.number().min(-90).max(90).required().label('Latitude').example(-46.2),
	longitudeDeg: joi.number().min(-180).max(180).required().label('Longitude').example(-118.4),
	groundAmslM: joi.number().min(-430).max(8900).required().label('Ground height').example(212),
	notes: joi.string().trim().allow('').max(4000).default('').label('Notes'),
	climate: joi
		.object({
			broad: joi
				.string()
				.valid(...BROAD_CLIMATES)
				.default(UNSAID_CLIMATE.broad)
				.label('Broad climate'),
			rainRate001MmH: joi.number().min(0).max(250).allow(null).default(null).label('Rain rate'),
			gradientDn1: joi.number().min(-1500).max(0).allow(null).default(null).label('dN1'),
			lowK: joi.number().min(0.3).max(1.5).allow(null).default(null).label('Low k'),
			source: text(200, 'Source of the climate values')
		})
		.default(UNSAID_CLIMATE)
		.label('Climate'),
	conditions: joi
		.object({
			pipeDiameterMm: joi
				.number()
				.min(20)
				.max(500)
				.allow(null)
				.default(null)
				.label('Pipe diameter'),
			pipeLeanDeg: joi.number().min(0).max(30).allow(null).default(null).label('Lean of the pipe'),
			earthPoint: text(400, 'Earth point'),
			supplyV: joi.number().min(5).max(75).allow(null).default(null).label('Supply voltage'),
			indoorPlace: text(400, 'Indoor place'),
			access: text(1000, 'Access'),
			hazards: text(1000, 'Hazards'),
			gridCentralMeridianDeg: joi
				.number()
				.min(-180)
				.max(180)
				.allow(null)
				.default(null)
				.label('Central meridian')
		})
		.default(UNKNOWN_CONDITIONS)
		.label('Site conditions'),
	version: joi.number().integer().min(1).label('Version')
});

const code = (label: string): Joi.StringSchema => joi.string().max(20).required().label(label);

const codeIfAny = (label: string): Joi.StringSchema =>
	joi.string().max(20).allow('').default('').label(label);

export const patternSchema = joi.object({
	antennaModel: joi.string().allow('').max(120).required(),
	patternNumber: joi.string().allow('').max(120).required(),
	fromGhz: joi.number().min(0.1).max(200).required(),
	toGhz: joi.number().min(joi.ref('fromGhz')).max(200).required(),
	gainDbi: joi.number().min(-20).max(80).required(),
	cuts: joi
		.array()
		.items(
			joi.object({
				plane: joi.string().valid('azimuth', 'elevation').required(),
				polarization: joi.string().valid('HH', 'HV', 'VH', 'VV').required(),
				anglesDeg: joi.array().items(joi.number().min(-180).max(180)).min(3).max(20_000).required(),
				relativeDb: joi
					.array()
					.items(joi.number().min(-300).max(100))
					.length(joi.ref('anglesDeg.length'))
					.required()
			})
		)
		.min(1)
		.max(24)
		.required()
});

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
	siteNotes: joi.string().trim().allow('').max(2000).default('').label('Notes for the crew'),
	subBandUnit: codeIfAny('Sub-band unit'),
	bendEPlaneMm: joi.number().min(0).max(10_000).default(0).label('Bend in the E plane'),
	bendHPlaneMm: joi.number().min(0).max(10_000).default(0).label('Bend in the H plane'),
	couplingCode: codeIfAny('Coupling'),
	secondDishCode: codeIfAny('Second dish'),
	secondDishOffsetM: joi
		.number()
		.min(-100)
		.max(100)
		.default(END_DEFAULTS.secondDishOffsetM)
		.label('Height of the second dish'),
	secondRadioCode: codeIfAny('Second radio'),
	secondTransmitFrequencyGhz: joi
		.number()
		.min(1)
		.max(100)
		.allow(null)
		.default(null)
		.label('Second frequency'),
	secondPowerDbm: joi
		.number()
		.min(-60)
		.max(50)
		.default(END_DEFAULTS.secondPowerDbm)
		.label('Power of the second radio'),
	cableCode: codeIfAny('Supply cable'),
	cableLengthM: joi.number().min(0).max(1000).default(0).label('Cable length'),
	indoorUnitCode: codeIfAny('Indoor unit'),
	powerSourceCode: codeIfAny('Power source'),
	pattern: patternSchema.allow(null).default(null).label('Measured pattern')
});

const latitude = (): Joi.NumberSchema => joi.number().min(-90).max(90).required().label('Latitude');
const longitude = (): Joi.NumberSchema =>
	joi.number().min(-180).max(180).required().label('Longitude');
const geoPoint = joi.object({ latitudeDeg: latitude(), longitudeDeg: longitude() }).required();

const profileSchema = joi
	.object({
		source: joi.string().trim().max(300).required().label('Source of the profile'),
		from: geoPoint,
		to: geoPoint,
		distancesM: joi
			.array()
			.items(joi.number().min(0).max(400_000))
			.min(2)
			.max(MOST_PROFILE_POINTS)
			.required()
			.label('Distances'),
		groundsAmslM: joi
			.array()
			.items(joi.number().min(-500).max(9000))
			.min(2)
			.max(MOST_PROFILE_POINTS)
			.required()
			.label('Ground heights')
	})
	.custom((value: { distancesM: number[]; groundsAmslM: number[] }, helpers) => {
		if (value.distancesM.length !== value.groundsAmslM.length) {
			return helpers.message({ custom: 'A profile needs as many heights as distances' });
		}
		if (value.distancesM[0] !== 0) {
			return helpers.message({ custom: 'A profile begins at distance 0' });
		}
		const falls = value.distancesM.some((d, i) => i > 0 && d <= itemAt(value.distancesM, i - 1));
		return falls ? helpers.message({ custom: 'The distances of a profile must rise' }) : value;
	});

const pathSchema = joi
	.object({
		profile: profileSchema.allow(null).default(null).label('Profile'),
		obstacles: joi
			.array()
			.items(
				joi.object({
					name: text(80, 'Name of the obstacle'),
					kind: joi.string().valid('trees', 'building', 'other').default('other').label('Kind'),
					distanceKm: joi.number().min(0).max(400).required().label('Distance from A'),
					lengthM: joi.number().min(0).max(100_000).default(0).label('Length along the path'),
					heightM: joi.number().min(0).max(500).required().label('Height above ground')
				})
			)
			.max(200)
			.default([])
			.label('Obstacles'),
		school: joi.string().valid('p530', 'practice').default('p530').label('School of clearance'),
		obstruction: joi
			.string()
			.valid('isolated', 'extended')
			.default('isolated')
			.label('Kind of obstruction')
	})
	.default(HOP_DEFAULTS.path)
	.label('Path');

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
	configuration: joi
		.object({
			kind: joi
				.string()
				.valid(...CONFIGURATIONS)
				.default('single')
				.label('Configuration'),
			cancellerDb: joi.number().min(0).max(40).default(0).label('Canceller')
		})
		.default(HOP_DEFAULTS.configuration)
		.label('Configuration'),
	path: pathSchema,
	requiredAvailabilityPercent: joi
		.number()
		.min(50)
		.max(100)
		.default(HOP_DEFAULTS.requiredAvailabilityPercent)
		.label('Availability asked for'),
	multipathMethod: joi
		.string()
		.valid('quick', 'detailed')
		.default(HOP_DEFAULTS.multipathMethod)
		.label('Multipath method'),
	eirpLimitDbm: joi.number().min(-20).max(110).allow(null).default(null).label('EIRP limit'),
	publicExposureWM2: joi
		.number()
		.min(0.001)
		.max(1000)
		.default(HOP_DEFAULTS.publicExposureWM2)
		.label('Reference level, public'),
	workerExposureWM2: joi
		.number()
		.min(0.001)
		.max(1000)
		.default(HOP_DEFAULTS.workerExposureWM2)
		.label('Reference level, workers'),
	wind: joi
		.object({
			operatingMS: joi.number().min(0).max(120).default(30).label('Operating wind'),
			survivalMS: joi.number().min(0).max(120).default(55).label('Survival wind'),
			mastSwayDeg: joi.number().min(0).max(10).default(0.1).label('Sway of the mast')
		})
		.default(HOP_DEFAULTS.wind)
		.label('Wind'),
	search: joi
		.object({
			compassSigmaDeg: joi.number().min(0.05).max(30).default(3).label('Compass uncertainty'),
			levelSigmaDeg: joi.number().min(0.02).max(10).default(0.5).label('Level uncertainty')
		})
		.default(HOP_DEFAULTS.search)
		.label('Search'),
	landmarks: joi
		.array()
		.items(
			joi.object({
				name: joi.string().trim().min(1).max(120).required().label('Name of the landmark'),
				latitudeDeg: latitude(),
				longitudeDeg: longitude()
			})
		)
		.max(50)
		.default([])
		.label('Landmarks'),
	acceptances: joi
		.object()
		.pattern(joi.string().max(120), joi.string().trim().max(1000).allow(''))
		.max(100)
		.default({})
		.label('Accepted warnings'),
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
	plantedFault: joi
		.string()
		.valid('any', ...SIMULATED_FAULTS)
		.allow(null)
		.label('Planted fault'),
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

/** Which acceptance a pack is of; the newest by default. */
export const packQuerySchema = joi.object({
	acceptance: joi.number().integer().min(1).max(10_000).label('Number of the acceptance')
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
