import type Joi from 'joi';
import { STANDARD_K_FACTOR } from '#core/geodesy/tilt';
import { REFERENCE_AIR } from '#core/propagation/gas';
import { planDraftSchema, siteSchema } from './inputs';
import { joi } from './joi';

const antennaPoint = (latitude: number, longitude: number, height: number): Joi.ObjectSchema =>
	joi
		.object({
			latitudeDeg: joi.number().min(-90).max(90).required().label('Latitude').example(latitude),
			longitudeDeg: joi
				.number()
				.min(-180)
				.max(180)
				.required()
				.label('Longitude')
				.example(longitude),
			antennaHeightAmslM: joi
				.number()
				.min(-500)
				.max(10_000)
				.required()
				.label('Antenna height')
				.example(height)
		})
		.required();

export const pathGeometrySchema = joi.object({
	a: antennaPoint(-46.2012, -118.4031, 248).label('End A'),
	b: antennaPoint(-46.2405, -118.2861, 184).label('End B'),
	date: joi.string().isoDate().required().label('Date').example('2026-11-24'),
	k: joi
		.number()
		.min(0.3)
		.max(10)
		.default(STANDARD_K_FACTOR)
		.label('Effective-earth factor k')
		.example(1.3333)
});

export const attenuationSchema = joi
	.object({
		frequencyGhz: joi.number().min(1).max(100).required().label('Frequency').example(18.86),
		pathKm: joi.number().min(0.001).max(400).required().label('Path length').example(14.4),
		polarization: joi
			.string()
			.valid('vertical', 'horizontal')
			.required()
			.label('Polarization')
			.example('horizontal'),
		rainRateMmH: joi.number().min(0).max(250).required().label('Rain rate').example(32),
		percentOfTime: joi
			.number()
			.min(0.001)
			.max(1)
			.default(0.01)
			.label('Percent of time')
			.example(0.01),
		dryAirPressureHpa: joi
			.number()
			.min(100)
			.max(1100)
			.default(REFERENCE_AIR.dryAirPressureHpa)
			.label('Dry-air pressure')
			.example(1013.25),
		temperatureC: joi.number().min(-73).max(56).default(15).label('Temperature').example(15),
		waterVapourGM3: joi
			.number()
			.min(0)
			.max(50)
			.default(REFERENCE_AIR.waterVapourGM3)
			.label('Water vapour')
			.example(7.5),
		heightAAmslM: joi.number().min(-500).max(10_000).label('Antenna height at A').example(418),
		heightBAmslM: joi.number().min(-500).max(10_000).label('Antenna height at B').example(18),
		gradientDn1: joi.number().min(-1500).max(0).label('dN1').example(-220),
		roughnessM: joi.number().min(0).max(2000).label('Terrain roughness').example(40)
	})
	// The multipath part needs heights and gradient together.
	.and('heightAAmslM', 'heightBAmslM', 'gradientDn1');

export const budgetSchema = joi.object({
	hopName: joi.string().trim().max(80).allow('').default('').label('Name'),
	sites: joi
		.object({ A: siteSchema.required(), B: siteSchema.required() })
		.required()
		.label('Sites'),
	plan: planDraftSchema.required().label('Plan')
});
