import type Joi from 'joi';
import { BROAD_CLIMATES, UNSAID_CLIMATE } from '#core/budget/climate';
import { HOP_DEFAULTS, UNKNOWN_CONDITIONS } from '#core/budget/planDefaults';
import { END_FIELDS, PATH_FIELDS, PLAN_FIELDS } from '#core/budget/planFields';
import { readPlanted } from '#core/simulate/planted';
import { MOST_PROFILE_POINTS } from '#core/path/samplePath';
import type { UnitSystem } from '#core/units/systems';
import { ROLES } from '../auth/roles';
import { AUDIT_ACTIONS } from '../auditActions';
import { HOP_SORTS, HOP_STANDINGS } from '../repositories/hopList';
import { joi, uuid } from './joi';
import { schemasOf } from './planFields';
import { itemAt } from '#core/units/lists';

export const signInSchema = joi.object({
	signInName: joi.string().trim().max(80).required().label('Name').example('planner'),
	password: joi.string().max(200).required().label('Password').example('a long pass phrase'),
	code: joi.string().trim().allow('').max(40).default('').label('Code')
});

const newPassword = (): Joi.StringSchema =>
	joi.string().min(12).max(200).required().label('Password');
const ownPassword = (label: string): Joi.StringSchema =>
	joi.string().max(200).required().label(label);

export const passwordSchema = joi.object({
	current: ownPassword('Present password'),
	password: newPassword().label('New password')
});

export const resetSchema = joi.object({
	signInName: joi.string().trim().max(80).required().label('Name'),
	code: joi.string().trim().max(40).required().label('Code'),
	password: newPassword().label('New password')
});

export const secondFactorSchema = joi.object({
	sealed: joi.string().max(400).required().label('Offer'),
	code: joi.string().trim().max(40).required().label('Code'),
	password: ownPassword('Password')
});

/** Bytes that a device gives, as base64url. */
const deviceBytes = (most: number): Joi.StringSchema =>
	joi
		.string()
		.pattern(/^[\w-]*={0,2}$/)
		.max(most);
const sealedOffer = (): Joi.StringSchema => joi.string().max(600).required().label('Offer');

/** What a device answers (WebAuthn level 3, 5.1.8 and 5.1.9: the JSON forms), as far as it is looked at. */
const deviceAnswer = (response: Record<string, Joi.Schema>): Joi.ObjectSchema =>
	joi.object({
		id: deviceBytes(1400).required(),
		rawId: deviceBytes(1400).required(),
		type: joi.string().valid('public-key').required(),
		authenticatorAttachment: joi.string().max(40),
		clientExtensionResults: joi.object({}).default({}),
		response: joi.object({ clientDataJSON: deviceBytes(4000).required(), ...response }).required()
	});

export const passkeySchema = joi.object({
	sealed: sealedOffer(),
	name: joi.string().trim().min(1).max(60).required().label('Name of the device'),
	password: ownPassword('Password'),
	response: deviceAnswer({
		attestationObject: deviceBytes(16_000).required(),
		authenticatorData: deviceBytes(8000),
		transports: joi.array().items(joi.string().max(20)).max(10),
		publicKeyAlgorithm: joi.number().integer(),
		publicKey: deviceBytes(4000)
	})
		.required()
		.label('Answer of the device')
});

export const passkeySignInSchema = joi.object({
	sealed: sealedOffer(),
	response: deviceAnswer({
		authenticatorData: deviceBytes(8000).required(),
		signature: deviceBytes(4000).required(),
		userHandle: deviceBytes(200)
	})
		.required()
		.label('Answer of the device')
});

export const ownPasswordSchema = joi.object({ password: ownPassword('Password') });

export const roleSchema = (): Joi.StringSchema =>
	joi
		.string()
		.valid(...ROLES)
		.required()
		.label('Role');

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
	role: roleSchema(),
	password: newPassword()
});

/** A text that may be empty. */
function text(most: number, label: string): Joi.StringSchema {
	return joi.string().trim().allow('').max(most).default('').label(label);
}

const groundHeight = (): Joi.NumberSchema =>
	joi.number().min(-430).max(8900).label('Ground height');

export const siteSchema = joi.object({
	name: joi.string().trim().min(2).max(80).required().label('Name').example('Tern Stack'),
	latitudeDeg: joi.number().min(-90).max(90).required().label('Latitude').example(-46.2),
	longitudeDeg: joi.number().min(-180).max(180).required().label('Longitude').example(-118.4),
	groundAmslM: groundHeight().required().example(212),
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
			mastHeightM: joi
				.number()
				.min(0.5)
				.max(700)
				.allow(null)
				.default(null)
				.label('Top of the mast'),
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

/** A site as it is typed: without a ground height (null) it gets that of the terrain. */
export const typedSiteSchema = siteSchema.keys({
	groundAmslM: groundHeight().allow(null).required().example(212)
});

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
	...schemasOf(END_FIELDS),
	pattern: patternSchema.allow(null).default(null).label('Measured pattern')
});

const latitude = (): Joi.NumberSchema => joi.number().min(-90).max(90).required().label('Latitude');
const longitude = (): Joi.NumberSchema =>
	joi.number().min(-180).max(180).required().label('Longitude');
const geoPoint = joi.object({ latitudeDeg: latitude(), longitudeDeg: longitude() }).required();

/** Ground heights along a path, so many points at most. */
export const profileOf = (mostPoints: number): Joi.ObjectSchema =>
	joi
		.object({
			source: joi.string().trim().max(300).required().label('Source of the profile'),
			from: geoPoint,
			to: geoPoint,
			distancesM: joi
				.array()
				.items(joi.number().min(0).max(400_000))
				.min(2)
				.max(mostPoints)
				.required()
				.label('Distances'),
			groundsAmslM: joi
				.array()
				.items(joi.number().min(-500).max(9000))
				.min(2)
				.max(mostPoints)
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
		profile: profileOf(MOST_PROFILE_POINTS).allow(null).default(null).label('Profile'),
		...schemasOf(PATH_FIELDS)
	})
	.default(HOP_DEFAULTS.path)
	.label('Path');

export const planDraftSchema = joi.object({
	...schemasOf(PLAN_FIELDS),
	path: pathSchema,
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
		.max(100)
		.custom((value: string, helpers) =>
			value === 'any' || readPlanted(value)
				? value
				: helpers.message({
						custom:
							'Planted fault is one fault or two joined by “+”, each at one end by “@A” or “@B” where it can be'
					})
		)
		.allow(null)
		.label('Planted fault')
		.example('power-control-on@A+film-left-in'),
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

const unitSystem = (): Joi.StringSchema =>
	joi.string().valid('metric', 'imperial').default('metric').label('Units');

/** Which acceptance a pack is of, the newest by default, and whose units it is printed in. */
export const packQuerySchema = joi.object({
	acceptance: joi.number().integer().min(1).max(10_000).label('Number of the acceptance'),
	units: unitSystem()
});

/** Whose units a site sheet is printed in. */
export const sheetQuerySchema = joi.object<{ units: UnitSystem }>({ units: unitSystem() });

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

/** Which page of a list, from 1. */
export const pageNumber = (): Joi.NumberSchema =>
	joi.number().integer().min(1).max(100_000).default(1).label('Page');

/** Which hops, in which order. */
const hopChoice = {
	standing: joi
		.string()
		.valid(...HOP_STANDINGS)
		.default('open')
		.label('Standing'),
	sort: joi
		.string()
		.valid(...HOP_SORTS)
		.default('changed')
		.label('Sort')
};

export const sendBackSchema = joi.object({
	id: uuid().required().label('Id'),
	end: joi.string().valid('A', 'B').required().label('End'),
	reason: joi.string().trim().min(3).max(1000).required().label('Reason')
});

export const hopCopySchema = joi.object({
	name: joi.string().trim().min(1).max(80).required().label('Name')
});

export const archiveSchema = joi.object({
	archived: joi.boolean().required().label('Put away')
});

export const pageSchema = joi.object({
	q: joi.string().trim().allow('').max(80).default(''),
	page: pageNumber(),
	/** The `next` of the page before. */
	after: joi.string().max(120).label('After')
});

export const auditSchema = pageSchema.keys({
	action: joi
		.string()
		.valid(...Object.keys(AUDIT_ACTIONS))
		.label('Action')
});

export const hopListSchema = pageSchema.keys(hopChoice);
