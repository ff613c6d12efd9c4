import Joi from 'joi';
import { invalid, type FieldError } from '../errors';

/** Joi with every message a sentence that begins with the field's label. */
export const joi: Joi.Root = Joi.defaults((schema) =>
	schema.options({
		abortEarly: false,
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
	})
);

/**
 * Validates and converts; throws the 422 with every field that is wrong.
 *
 * @typeParam T what the schema lets through
 * @param inside path of the value in the request, put before each field
 */
// eslint-disable-next-line @typescript-eslint/no-unnecessary-type-parameters -- one cast here, none at fifty callers
export function validate<T>(schema: Joi.Schema, value: unknown, inside = ''): T {
	const result = schema.validate(value, { abortEarly: false, convert: true });
	if (result.error) {
		const fields: FieldError[] = result.error.details.map((detail) => ({
			field: [...(inside ? [inside] : []), ...detail.path].join('.'),
			message: `${capitalise(detail.message)}.`
		}));
		throw invalid(fields.slice(0, 50));
	}
	return result.value as T;
}

const capitalise = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

export const uuid = (): Joi.StringSchema =>
	joi
		.string()
		.guid({ version: ['uuidv4', 'uuidv7'] })
		.lowercase();
export const end = (): Joi.StringSchema => joi.string().valid('A', 'B');
export const axis = (): Joi.StringSchema => joi.string().valid('azimuth', 'tilt');
