import type Joi from 'joi';
import { findLevelCurveProblem, type LevelCurvePoint } from '#core/radio/levelCurve';
import { WEATHERPROOFING_KINDS } from '#core/catalogue/installation';
import { joi } from './joi';

const code = joi
	.string()
	.pattern(/^[A-Z0-9-]{2,20}$/)
	.required();
const name = joi.string().max(120).required();
const number = (min: number, max: number): Joi.NumberSchema =>
	joi.number().min(min).max(max).required();
const range = (min: number, max: number): Joi.ArraySchema =>
	joi
		.array()
		.ordered(number(min, max), number(min, max))
		.length(2)
		.custom((value: [number, number], helpers) =>
			value[0] < value[1] ? value : helpers.message({ custom: '{#label} must rise' })
		)
		.required();

/** Points of a level port: finite, two or more, strictly monotonic. */
export const levelCurve = (): Joi.ArraySchema =>
	joi
		.array()
		.items(joi.array().ordered(joi.number().required(), joi.number().required()).length(2))
		.min(2)
		.max(200)
		.custom((value: LevelCurvePoint[], helpers) => {
			const problem = findLevelCurveProblem(value);
			return problem
				? helpers.message({ custom: `{#label} is no level curve: ${problem.replaceAll('-', ' ')}` })
				: value;
		});

const words = (): Joi.StringSchema => joi.string().max(200).required();
const films = (): Joi.ArraySchema => joi.array().items(joi.string().max(80)).required();
const bolts = (): Joi.ObjectSchema =>
	joi
		.object({ count: joi.number().integer().min(1).max(60).required(), torqueNm: number(0.5, 500) })
		.required();
const plane = (): Joi.StringSchema => joi.string().valid('vertical', 'horizontal').required();
const polarization = joi.object({
	how: joi.string().valid('turn', 'blade', 'insert', 'side', 'orientation').required(),
	mark: words(),
	shows: joi.object({ vertical: words(), horizontal: words() }).required(),
	delivered: plane()
});

const dishInstallation = joi.object({
	polarization: polarization.required(),
	films: films(),
	oRings: joi.number().integer().min(0).max(20).required(),
	flange: words(),
	drain: words(),
	bolts: bolts(),
	grease: words()
});
const radioInstallation = joi.object({
	polarization: polarization.allow(null).required(),
	films: films(),
	flange: words(),
	power: joi
		.object({
			kind: joi.string().valid('dc', 'poe-standard', 'poe-passive').required(),
			maxV: number(5, 100),
			unconnected: words(),
			port: words()
		})
		.required(),
	lamps: words()
});
const couplingInstallation = joi.object({
	polarization: polarization.allow(null).required(),
	films: films(),
	oRings: joi.number().integer().min(0).max(20).required(),
	flange: words(),
	bolts: bolts()
});
const mountInstallation = joi.object({
	centredRodMm: joi.object({ azimuth: number(1, 2000), tilt: number(1, 2000) }).required(),
	rodToleranceMm: number(0.1, 50),
	pipeLeanDeg: number(0.05, 5),
	pipeClampNm: number(1, 1000),
	strut: joi.boolean().required()
});
const feederInstallation = joi.object({
	films: films(),
	hangerEveryM: number(0.1, 10),
	firstHangerM: number(0.05, 5),
	gripEveryM: number(5, 200),
	hangersBeforeRelease: joi.number().integer().min(1).max(20).required(),
	flangeBolts: bolts(),
	dry: joi.string().valid('pressurised', 'sealed').required()
});
const cableInstallation = joi.object({
	minBendRadiusMm: number(5, 2000),
	clampEveryM: number(0.1, 10),
	firstClampM: number(0.05, 5),
	connector: joi
		.object({
			name: words(),
			strips: joi
				.array()
				.items(joi.object({ layer: words(), mm: number(0.5, 300) }))
				.min(1)
				.required(),
			torqueNm: number(0.2, 60),
			wrapMm: joi.object({ diameter: number(3, 200), length: number(10, 500) }).required()
		})
		.required(),
	glands: joi
		.array()
		.items(joi.object({ name: words(), fromMm: number(1, 80), toMm: number(1, 80) }))
		.required(),
	weatherproofing: joi
		.string()
		.valid(...WEATHERPROOFING_KINDS)
		.required()
});

const modulation = joi.object({
	name: joi.string().max(40).required(),
	maxPowerDbm: number(-30, 50),
	requiredSnrDb: number(-10, 60),
	mbitSPerMhz: number(0.1, 20)
});

export const radioSchema = joi.object({
	code,
	name,
	rangeGhz: range(1, 120),
	channelWidthsMhz: joi.array().items(joi.number().min(0.1).max(4000)).min(1).required(),
	duplexSpacingMhz: number(1, 20000),
	subBands: joi
		.array()
		.items(
			joi.object({
				index: joi.number().integer().min(1).max(40).required(),
				lowGhz: range(1, 120),
				highGhz: range(1, 120)
			})
		)
		.unique('index')
		.required(),
	minPowerDbm: number(-60, 40),
	modulations: joi.array().items(modulation).min(1).required(),
	noiseFigureDb: number(0.1, 20),
	maxInputDbm: number(-60, 20),
	damageInputDbm: number(-60, 30),
	levelPort: joi
		.object({
			connector: joi.string().required(),
			curve: levelCurve().required(),
			resolutionV: number(0.0001, 0.1)
		})
		.required(),
	alignmentState: joi
		.object({
			modulation: joi.string().required(),
			enter: joi.string().required(),
			leave: joi.string().required()
		})
		.required(),
	supplyMinV: number(5, 72),
	consumptionW: number(1, 500),
	bootMinutes: number(0, 60),
	weightKg: number(0.1, 100),
	installation: radioInstallation
});

export const dishSchema = joi.object({
	code,
	name,
	diameterM: number(0.1, 5),
	bands: joi
		.array()
		.items(
			joi.object({
				fromGhz: number(1, 120),
				toGhz: number(1, 120),
				gainDbi: number(5, 70),
				atGhz: number(1, 120),
				beamwidthDeg: number(0.05, 30),
				crossPolarDiscriminationDb: number(10, 60),
				firstSideLobeDb: number(10, 40)
			})
		)
		.min(1)
		.required(),
	polarizationSetting: joi.string().required(),
	weightKg: number(0.1, 500),
	installation: dishInstallation
});

const adjuster = joi.object({
	threadPitchMm: number(0.2, 10),
	armMm: number(10, 2000),
	travelDeg: number(0.5, 45),
	nutFlats: joi.number().integer().min(1).max(12).required(),
	positiveTurn: joi.string().required()
});

export const mountSchema = joi.object({
	code,
	name,
	azimuth: adjuster.required(),
	tilt: adjuster.required(),
	fasteners: joi
		.array()
		.items(
			joi.object({
				name: joi.string().required(),
				locks: joi.string().valid('azimuth', 'tilt').required(),
				torqueNm: number(1, 500)
			})
		)
		.min(1)
		.required(),
	pipeDiameterMm: range(20, 400),
	weightKg: number(0.1, 300),
	installation: mountInstallation
});

export const feederSchema = joi.object({
	code,
	name,
	kind: joi.string().valid('direct', 'waveguide', 'coaxial').required(),
	rangeGhz: range(0.1, 120),
	lossDbPer100M: joi
		.array()
		.items(joi.array().ordered(number(0.1, 120), number(0, 1000)).length(2))
		.min(2)
		.required(),
	endsLossDb: number(0, 10),
	waveguide: joi
		.object({
			shape: joi.string().valid('elliptical', 'flexible', 'rectangular').required(),
			broadWallMm: number(1, 300),
			minBendEPlaneMm: number(1, 5000),
			minBendHPlaneMm: number(1, 5000),
			maxTwistDegPerM: number(0, 360)
		})
		.when('kind', { is: 'waveguide', then: joi.required(), otherwise: joi.forbidden() }),
	installation: feederInstallation
});

export const couplingSchema = joi.object({
	code,
	name,
	kind: joi
		.string()
		.valid('equal-coupler', 'uneven-coupler', 'orthomode', 'dual-coupler')
		.required(),
	rangeGhz: range(1, 120),
	arms: joi
		.array()
		.items(
			joi.object({
				name: joi.string().max(40).required(),
				lossDb: number(0, 20),
				plane: joi.string().valid('own', 'crossed').required()
			})
		)
		.min(2)
		.max(4)
		.required(),
	weightKg: number(0.1, 100),
	installation: couplingInstallation
});

export const cableSchema = joi.object({
	code,
	name,
	conductorMm2: number(0.2, 50),
	ohmPerKm: number(0.1, 200),
	outerMm: number(2, 60),
	kgPerKm: number(5, 5000),
	installation: cableInstallation
});
