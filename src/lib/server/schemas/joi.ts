import Joi from 'joi';
import { isZone } from '#core/schedule/hours';
import { invalid, type FieldError } from '../errors';
import { measure } from './bounds';

export const joi: Joi.Root = Joi;

/** How every schema is asked: each message a sentence that begins with the field's label. */
const PREFERENCES = {
	errors: { wrap: { label: false }, label: 'key' },
	messages: {
		'any.required': '{#label} is missing',
		'string.empty': '{#label} is empty',
		'number.base': '{#label} must be a number',
		'number.infinity': '{#label} is too large to be a number',
		'number.unsafe': '{#label} is too large to be a number',
		'number.min': '{#label} must be at least {#limit}',
		'number.max': '{#label} must be at most {#limit}',
		'number.positive': '{#label} must be above zero',
		'number.integer': '{#label} must be a whole number',
		'string.max': '{#label} may have at most {#limit} characters',
		'string.min': '{#label} needs at least {#limit} characters',
		'any.only': '{#label} must be one of {#valids}',
		'object.unknown': '{#label} is not known here',
		'array.min': '{#label} needs at least {#limit} entries',
		'array.max': '{#label} may have at most {#limit} entries',
		'date.format': '{#label} must be a date',
		'date.base': '{#label} must be a date'
	}
} as const satisfies Joi.ValidationOptions;

/**
 * A schema with the preferences at its root, made once: said at every part of it, or anew at each request, they
 * would cost more than the validation.
 */
const prepared = new WeakMap<Joi.Schema, Joi.Schema>();

function asked(schema: Joi.Schema): Joi.Schema {
	let root = prepared.get(schema);
	if (!root)
		prepared.set(schema, (root = schema.preferences({ ...PREFERENCES, abortEarly: true })));
	return root;
}

/**
 * Validates and converts; throws the 422 with every field that is wrong. What is out of all bounds is refused
 * before it is validated, so that no input costs more than one of its size that is right.
 *
 * @typeParam T what the schema lets through
 * @param inside path of the value in the request, put before each field
 * @param mostValues how much it may hold altogether, where that is more than a request may
 */
// eslint-disable-next-line @typescript-eslint/no-unnecessary-type-parameters -- one cast here, none at fifty callers
export function validate<T>(
	schema: Joi.Schema,
	value: unknown,
	inside = '',
	mostValues?: number
): T {
	const at = (path: readonly (string | number)[]): string =>
		[...(inside ? [inside] : []), ...path].join('.');
	const { values, problems } = measure(schema, value, mostValues);
	if (problems.length) {
		throw invalid(problems.map(({ field, message }) => ({ field: at([field]), message })));
	}
	// The first mistake ends the look; only in an input of a person's size are all of them sought.
	const first = asked(schema).validate(value);
	if (!first.error) return first.value as T;
	const { details } =
		values > MOST_VALUES_FOR_ALL_ERRORS
			? first.error
			: (schema.validate(value, { ...PREFERENCES, abortEarly: false }).error ?? first.error);
	const fields: FieldError[] = details.slice(0, MOST_ERRORS).map((detail) => ({
		field: at(detail.path),
		message: `${capitalise(detail.message)}.`
	}));
	throw invalid(fields);
}

/** In a larger input than this only the first mistake is named: each costs as much as the input. */
const MOST_VALUES_FOR_ALL_ERRORS = 2000;
const MOST_ERRORS = 50;

const capitalise = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

export const uuid = (): Joi.StringSchema =>
	joi
		.string()
		.guid({ version: ['uuidv4', 'uuidv7'] })
		.lowercase();
/** Whether a text has the form of an id. */
export const isUuid = (text: string): boolean =>
	/^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i.test(text);
export const end = (): Joi.StringSchema => joi.string().valid('A', 'B');
export const axis = (): Joi.StringSchema => joi.string().valid('azimuth', 'tilt');

/** Years that a clock here can show: what is older or younger was set wrong, and no table holds it. */
const FIRST_YEAR = 1990;
const LAST_YEAR = 2100;

/** A point in time as ISO 8601 with its zone, in a year that can be. */
export const pointInTime = (): Joi.StringSchema =>
	joi
		.string()
		.isoDate()
		.custom((value: string, helpers) => {
			const year = new Date(value).getUTCFullYear();
			return year >= FIRST_YEAR && year <= LAST_YEAR
				? value
				: helpers.message({ custom: `{#label} must lie between ${FIRST_YEAR} and ${LAST_YEAR}` });
		});

/** Whether there is such a day, as `2026-06-15`. */
const isDay = (day: string): boolean =>
	/^\d{4}-\d\d-\d\d$/.test(day) &&
	!Number.isNaN(Date.parse(day)) &&
	new Date(day).toISOString().startsWith(day);

/** A day of the calendar as `2026-06-15`. */
export const calendarDay = (): Joi.StringSchema =>
	joi.string().custom((day: string, helpers) => (isDay(day) ? day : helpers.error('date.base')));

/** An IANA zone that is known here. */
export const timeZone = (): Joi.StringSchema =>
	joi
		.string()
		.max(60)
		.custom((name: string, helpers) => (isZone(name) ? name : helpers.error('zone.unknown')))
		.messages({ 'zone.unknown': 'There is no time zone of that name' });
