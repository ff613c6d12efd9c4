import { joi } from './joi';
import { levelCurve } from './parts';
import { sweepSamplesSchema } from './records';

/** The contract of the sweep analysis. */
export const analyseSweepSchema = joi.object({
	axis: joi
		.string()
		.valid('azimuth', 'tilt', 'elevation')
		.required()
		.label('Axis')
		.example('azimuth'),
	frequencyGhz: joi.number().min(1).max(110).required().label('Frequency').example(26.1),
	dishDiameterM: joi.number().min(0.05).max(6).required().label('Dish diameter').example(0.6),
	beamwidthDeg: joi.number().min(0.02).max(30).label('Beamwidth'),
	plannedLevelDbm: joi.number().min(-120).max(20).required().label('Planned level').example(-43.2),
	levelCurve: levelCurve()
		.required()
		.label('Level curve')
		.example([
			[-90, 0.4],
			[-20, 3.55]
		]),
	samples: sweepSamplesSchema(5)
		.required()
		.example([
			{ elapsedS: 0.6, positionDeg: -1.2, levelV: 1.1 },
			{ elapsedS: 1.2, positionDeg: -0.6, levelV: 1.9 },
			{ elapsedS: 1.8, positionDeg: 0, levelV: 2.4 },
			{ elapsedS: 2.4, positionDeg: 0.6, levelV: 1.9 },
			{ elapsedS: 3, positionDeg: 1.2, levelV: 1.1 }
		])
});
