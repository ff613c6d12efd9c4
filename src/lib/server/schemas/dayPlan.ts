import type Joi from 'joi';
import { MOST_DAYS, MOST_WEATHER } from '#core/schedule/dayPlan';
import { calendarDay, end, joi, pointInTime, timeZone } from './joi';

const DAY_MIN = 1440;

export const minutes = (label: string, most: number): Joi.NumberSchema =>
	joi.number().integer().min(0).max(most).required().label(label);
const people = (label: string, least: number): Joi.NumberSchema =>
	joi.number().integer().min(least).max(40).required().label(label);
const speed = (label: string): Joi.NumberSchema => joi.number().min(0).max(80).label(label);

const crew = joi
	.object({
		name: joi.string().trim().min(1).max(60).required().label('Name of the crew'),
		people: people('People', 1),
		climbers: people('Climbers', 0),
		riggers: people('Riggers', 0),
		fromMin: minutes('Begins', DAY_MIN - 1),
		toMin: minutes('Ends', 2 * DAY_MIN)
			.greater(joi.ref('fromMin'))
			.messages({
				'number.greater': '{#label} after it begins'
			}),
		wayMin: joi
			.object({ A: minutes('Way to A', DAY_MIN), B: minutes('Way to B', DAY_MIN) })
			.required()
			.label('Ways')
	})
	.label('Crew');

/** Days of the week on which there is work, 1 Monday to 7 Sunday. */
export const workdays = joi
	.array()
	.items(joi.number().integer().min(1).max(7))
	.min(1)
	.max(7)
	.unique()
	.required()
	.label('Working days');

/** Limits of wind and rain. */
export const limits = joi
	.object({
		climbWindMs: speed('Wind for climbing').required(),
		climbGustMs: speed('Gusts for climbing').required(),
		liftWindMs: speed('Wind for lifting').required(),
		liftGustMs: speed('Gusts for lifting').required(),
		openRainMmH: joi.number().min(0).max(200).required().label('Rain over open joints')
	})
	.required()
	.label('Limits');

/** What the weather of an hour is told by. */
export const weatherHour = {
	at: pointInTime().required().label('Hour'),
	windMs: speed('Wind').allow(null).required(),
	gustMs: speed('Gusts').allow(null).required(),
	rainMmH: joi.number().min(0).max(300).allow(null).required().label('Rain'),
	lightning: joi.boolean().strict().required().label('Lightning')
};

/** When a hop is built and aligned, and by whom. */
export const dayPlanSchema = joi.object({
	version: joi.number().integer().min(0).required().label('Version'),
	plan: joi
		.object({
			zone: timeZone().required().label('Time zone'),
			firstDay: calendarDay().required().label('First day'),
			days: joi.number().integer().min(1).max(MOST_DAYS).required().label('Days'),
			workdays,
			light: joi.string().valid('sun', 'civil').required().label('Light'),
			crews: joi.array().items(crew).min(1).max(2).required().label('Crews'),
			betweenMin: minutes('Between the ends', DAY_MIN),
			limits,
			weather: joi
				.array()
				.items(
					joi.object({
						end: end().required().label('End'),
						...weatherHour
					})
				)
				.max(MOST_WEATHER)
				.required()
				.label('Weather'),
			pins: joi
				.array()
				.items(
					joi.object({
						task: joi.string().min(1).max(120).required().label('Task'),
						at: pointInTime().required().label('Time')
					})
				)
				.max(200)
				.unique('task')
				.required()
				.label('Pinned tasks'),
			awayByMin: joi.number().integer().min(0).max(DAY_MIN).allow(null).required().label('Away by'),
			awayBy: joi.string().trim().allow('').max(80).required().label('Why')
		})
		.required()
		.label('Timetable')
});
