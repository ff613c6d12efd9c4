import { TOOLS } from '#core/tower/tools';
import {
	MOST_NEEDS,
	MOST_PINS,
	MOST_PROJECT_DAYS,
	MOST_SITE_WEATHER,
	MOST_WAYS
} from '#core/schedule/projectDays';
import { limits, minutes, weatherHour, workdays } from './dayPlan';
import { calendarDay, joi, pointInTime, timeZone, uuid } from './joi';

const DAY_MIN = 1440;
const MOST_PROJECT_CREWS = 60;

/** How a project is scheduled. */
export const scheduleSchema = joi.object({
	id: uuid().required().label('Id'),
	days: joi
		.object({
			zone: timeZone().required().label('Time zone'),
			firstDay: calendarDay().required().label('First day'),
			days: joi.number().integer().min(1).max(MOST_PROJECT_DAYS).required().label('Days'),
			workdays,
			light: joi.string().valid('sun', 'civil').required().label('Light'),
			crewIds: joi
				.array()
				.items(uuid().label('Crew'))
				.min(1)
				.max(MOST_PROJECT_CREWS)
				.unique()
				.required()
				.messages({ 'array.min': 'Choose at least one crew' })
				.label('Crews'),
			roadKmH: joi.number().min(5).max(150).required().label('Speed on the road'),
			detour: joi.number().min(1).max(5).required().label('Road against straight line'),
			ways: joi
				.array()
				.items(
					joi.object({
						from: joi.string().trim().min(1).max(120).required().label('From'),
						to: joi.string().trim().min(1).max(120).required().label('To'),
						minutes: minutes('Minutes', DAY_MIN),
						departures: joi
							.array()
							.items(
								joi
									.number()
									.integer()
									.min(0)
									.max(DAY_MIN - 1)
									.label('Departure')
							)
							.max(96)
							.unique()
							.required()
							.label('Departures')
					})
				)
				.max(MOST_WAYS)
				.required()
				.label('Ways'),
			limits,
			weather: joi
				.array()
				.items(
					joi.object({
						site: joi.string().trim().min(1).max(120).required().label('Site'),
						...weatherHour
					})
				)
				.max(MOST_SITE_WEATHER)
				.required()
				.label('Weather'),
			awayByMin: joi.number().integer().min(0).max(DAY_MIN).allow(null).required().label('Away by'),
			needs: joi
				.array()
				.items(
					joi.object({
						equipment: joi.string().trim().min(1).max(80).required().label('Equipment'),
						tool: joi
							.string()
							.valid(...TOOLS)
							.required()
							.label('Needed for')
					})
				)
				.max(MOST_NEEDS)
				.default([])
				.label('What only some crews have'),
			pins: joi
				.array()
				.items(
					joi.object({
						task: joi.string().min(1).max(120).required().label('Task'),
						at: pointInTime().required().label('Begins')
					})
				)
				.max(MOST_PINS)
				.unique('task')
				.default([])
				.label('Pins'),
			acceptOnSite: joi.boolean().default(false).label('Acceptance on site')
		})
		.required()
		.label('Days')
});

/** What somebody knows already of a schedule that moves. */
export const knownSchema = joi.object({
	known: joi.string().allow('').max(40).label('Known key')
});
