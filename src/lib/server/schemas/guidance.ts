import type Joi from 'joi';
import { joi } from './joi';

const deg = (label: string, example: number): Joi.NumberSchema =>
	joi.number().min(-180).max(180).required().label(label).example(example);
const level = (label: string, example: number): Joi.NumberSchema =>
	joi.number().min(-200).max(60).required().label(label).example(example);
const range = (label: string, example: [number, number]): Joi.ArraySchema =>
	joi
		.array()
		.ordered(joi.number().min(-180).max(180).required(), joi.number().min(-180).max(180).required())
		.length(2)
		.custom((value: [number, number], helpers) =>
			value[0] < value[1] ? value : helpers.message({ custom: '{#label} must rise' })
		)
		.required()
		.label(label)
		.example(example);

export const guidanceSchema = joi.object({
	frequencyGhz: joi.number().min(1).max(100).required().label('Frequency').example(26.2),
	dishDiameterM: joi.number().min(0.05).max(15).required().label('Dish diameter').example(0.6),
	beamwidthDeg: joi.number().min(0.02).max(40).label('Beamwidth').example(1.37),
	plannedLevelDbm: level('Planned level', -43),
	floorDbm: joi
		.number()
		.min(-200)
		.max(60)
		.less(joi.ref('plannedLevelDbm'))
		.messages({ 'number.less': '{#label} must lie below the planned level' })
		.required()
		.label('Floor')
		.example(-88),
	toleranceDb: joi.number().min(0.1).max(20).required().label('Tolerance').example(2),
	travel: joi
		.object({
			azimuthDeg: range('Azimuth travel', [-12, 12]),
			tiltDeg: range('Tilt travel', [-12, 12])
		})
		.required()
		.label('Travel'),
	prior: joi
		.object({
			azimuthSigmaDeg: joi.number().min(0.001).max(60).required().label('Azimuth sigma').example(3),
			tiltSigmaDeg: joi.number().min(0.001).max(30).required().label('Tilt sigma').example(0.5)
		})
		.required()
		.label('Prior'),
	readings: joi
		.array()
		.items(
			joi.object({
				azimuthDeg: deg('Azimuth', 0),
				tiltDeg: deg('Tilt', 0),
				levelDbm: level('Level', -70),
				elapsedS: joi.number().min(0).max(1e7).label('Elapsed')
			})
		)
		.max(3000)
		.required()
		.label('Readings')
		.example([{ azimuthDeg: -0.7, tiltDeg: 0, levelDbm: -61.4 }]),
	memory: joi
		.object({
			searches: joi.number().integer().min(0).max(1000).required().label('Searches'),
			boresight: joi
				.object({
					azimuthDeg: deg('Azimuth', 0),
					tiltDeg: deg('Tilt', 0),
					sigmaDeg: joi.number().min(0).max(60).required().label('Sigma')
				})
				.allow(null)
				.required()
				.label('Boresight')
		})
		.label('Memory')
		.example({ searches: 0, boresight: null })
});

const both = (of: () => Joi.Schema, label: string): Joi.ObjectSchema =>
	joi.object({ A: of(), B: of() }).label(label);
const perDirection = (label: string, example?: number): Joi.ObjectSchema => {
	const value = (): Joi.NumberSchema => {
		const own = joi.number().min(-200).max(60).allow(null).default(null).label(label);
		return example === undefined ? own : own.example(example);
	};
	return joi.object({ A: value(), B: value() }).label(label);
};
const swept = (): Joi.StringSchema =>
	joi.string().valid('main-lobe', 'beside-main-lobe', 'not-swept');
const seen = (label: string): Joi.BooleanSchema => joi.boolean().label(label);
const seenAtEnds = (label: string): Joi.ObjectSchema => both(() => joi.boolean(), label);

export const diagnosisSchema = joi.object({
	plannedDbm: joi
		.object({ A: level('Planned at A', -43), B: level('Planned at B', -43.5) })
		.required()
		.label('Planned'),
	measuredDbm: perDirection('Measured', -64).required(),
	crossPolarDbm: perDirection('Cross-polar').default({ A: null, B: null }),
	toleranceDb: joi.number().min(0.1).max(20).default(2).label('Tolerance'),
	floorDbm: both(() => joi.number().min(-200).max(60).default(-90), 'Floor').default({
		A: -90,
		B: -90
	}),
	firstSideLobeDb: both(() => joi.number().min(5).max(60).default(20), 'First side lobe').default({
		A: 20,
		B: 20
	}),
	crossPolarDiscriminationDb: joi.number().min(5).max(60).default(30).label('Discrimination'),
	armDifferenceDb: joi.number().min(0).max(20).default(0).label('Difference of the arms'),
	crossedCablesLossDb: both(
		() => joi.number().min(0).max(60).default(0),
		'Loss of crossed indoor cables'
	).default({ A: 0, B: 0 }),
	dishSizeStepDb: joi.number().min(0.5).max(15).default(3.5).label('Step of the dish size'),
	maxInputDbm: both(() => joi.number().min(-80).max(30).default(-18), 'Maximum input').default({
		A: -18,
		B: -18
	}),
	observations: joi
		.object({
			sweep: both(swept, 'Sweep'),
			implausibleVoltage: joi.string().valid('A', 'B'),
			followsPointing: seen('Follows the pointing'),
			powerControlOn: seen('ATPC on'),
			adaptiveModulationOn: seen('ACM on'),
			raining: seen('Raining'),
			lineOfSight: seen('Line of sight'),
			polarizationsAgree: seen('Polarizations agree'),
			filmsCounted: seen('Films counted'),
			powerAsPlanned: seenAtEnds('Power as planned'),
			unitsAsPlanned: seen('Units as planned'),
			meterAgrees: seenAtEnds('Meter agrees'),
			fellWhileLocking: seen('Fell while locking'),
			dishesAsPlanned: seen('Dishes as planned'),
			unsteady: seen('Unsteady'),
			armAsPlanned: seen('Arm as planned'),
			cablesAsPlanned: seen('Indoor cables as planned'),
			feederSound: seen('Feeder sound')
		})
		.default({})
		.label('Observations')
});
