import { MOST_CREW_PEOPLE } from '#core/schedule/crew';
import { SKILLS } from '#core/schedule/problem';
import { STAGES } from '#core/stage/stages';
import { WAITS_FOR } from '#core/stage/standing';
import { BOARD_FLAGS, BOARD_SORTS } from '../repositories/board';
import { pageSchema } from './inputs';
import { calendarDay, end, joi, timeZone, uuid } from './joi';

const DAY_MIN = 1440;
const version = joi.number().integer().min(0).max(1e9).required().label('Version');
const words = (most: number): ReturnType<typeof joi.string> =>
	joi.string().trim().allow('').max(most).required();

/** A crew with its people; the version says what the change is based on. */
export const crewSchema = joi.object({
	version,
	crew: joi
		.object({
			name: joi.string().trim().min(1).max(60).required().label('Name of the crew'),
			region: words(60).label('Region'),
			zone: timeZone().required().label('Time zone'),
			fromMin: joi
				.number()
				.integer()
				.min(0)
				.max(DAY_MIN - 1)
				.required()
				.label('Begins'),
			toMin: joi
				.number()
				.integer()
				.greater(joi.ref('fromMin'))
				.max(2 * DAY_MIN)
				.required()
				.messages({ 'number.greater': '{#label} after it begins' })
				.label('Ends'),
			base: joi
				.object({
					latitudeDeg: joi.number().min(-90).max(90).required().label('Latitude'),
					longitudeDeg: joi.number().min(-180).max(180).required().label('Longitude')
				})
				.allow(null)
				.required()
				.label('Where it sets out from'),
			equipment: joi
				.array()
				.items(joi.string().trim().min(1).max(60).label('Equipment'))
				.max(40)
				.unique()
				.required()
				.messages({ 'array.unique': 'Equipment is named twice' })
				.label('Equipment'),
			people: joi
				.array()
				.items(
					joi.object({
						id: uuid().required().label('Id'),
						name: joi.string().trim().min(1).max(80).required().label('Name'),
						phone: words(40)
							.pattern(/^[0-9+()/ .-]*$/)
							.messages({ 'string.pattern.base': '{#label} is written with digits' })
							.label('Phone'),
						userId: uuid().allow(null).required().label('Account'),
						skills: joi
							.array()
							.items(joi.string().valid(...SKILLS))
							.unique()
							.max(SKILLS.length)
							.required()
							.label('Skills')
					})
				)
				.min(1)
				.max(MOST_CREW_PEOPLE)
				.unique('id')
				.unique(
					(one: { userId: string | null }, other: { userId: string | null }) =>
						one.userId !== null && one.userId === other.userId
				)
				.required()
				.messages({ 'array.unique': 'One account stands for two people of the crew' })
				.label('People')
		})
		.required()
		.label('Crew')
});

export const projectSchema = joi.object({
	version,
	project: joi
		.object({
			name: joi.string().trim().min(1).max(80).required().label('Name of the project'),
			region: words(60).label('Region'),
			dueDay: calendarDay().allow(null).required().label('Due'),
			note: words(1000).label('Note')
		})
		.required()
		.label('Project')
});

/** More hops than this are put into a project in several goes. */
const MOST_AT_ONCE = 200;

export const projectHopsSchema = joi.object({
	projectId: uuid().allow(null).required().label('Project'),
	hopIds: joi.array().items(uuid()).min(1).max(MOST_AT_ONCE).unique().required().label('Hops'),
	dueDay: calendarDay().allow(null).default(null).label('Due')
});

export const assignmentSchema = joi.object({
	end: end().required().label('End'),
	crewId: uuid().required().label('Crew'),
	day: calendarDay().required().label('Day'),
	fromMin: joi
		.number()
		.integer()
		.min(0)
		.max(DAY_MIN - 1)
		.allow(null)
		.required()
		.label('To be there at'),
	note: words(200).label('Note')
});

/** Which hops the board shows, and in which order. */
export const boardSchema = pageSchema.keys({
	project: joi.alternatives(uuid(), joi.string().valid('none')).label('Project'),
	crew: uuid().label('Crew'),
	region: joi.string().trim().max(60).label('Region'),
	stage: joi
		.string()
		.valid(...STAGES)
		.label('Stage'),
	waits: joi
		.string()
		.valid(...WAITS_FOR)
		.label('Waits for'),
	flag: joi
		.string()
		.valid(...BOARD_FLAGS)
		.default('all')
		.label('Which'),
	sort: joi
		.string()
		.valid(...BOARD_SORTS)
		.default('waiting')
		.label('Sort')
});

export const viewSchema = joi.object({
	name: joi.string().trim().min(1).max(60).required().label('Name of the view'),
	query: words(600).label('View')
});

/** An address of a calendar: of oneself, or of a crew. */
export const calendarSchema = joi.object({
	id: uuid().required().label('Id'),
	crewId: uuid().allow(null).required().label('Crew')
});
