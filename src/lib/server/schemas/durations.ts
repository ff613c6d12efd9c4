import type Joi from 'joi';
import { MOST_WORK_MIN } from '#core/schedule/workTimes';
import { joi } from './joi';

const MOST_KINDS = 200;

const minutes = (label: string): Joi.NumberSchema =>
	joi.number().min(0.1).max(MOST_WORK_MIN).required().label(label);

/** What the firm says of how long work takes. */
export const saidDurationsSchema = joi.object({
	version: joi.number().integer().min(0).required().label('Version'),
	said: joi
		.object()
		.pattern(
			joi
				.string()
				.pattern(/^[a-z][a-z0-9-]*$/)
				.max(40),
			joi
				.object({
					low: minutes('Low'),
					likely: minutes('Likely')
						.min(joi.ref('low'))
						.messages({ 'number.min': '{#label} is at least the low one' }),
					high: minutes('High')
						.min(joi.ref('likely'))
						.messages({ 'number.min': '{#label} is at least the likely one' })
				})
				.label('Times')
		)
		.max(MOST_KINDS)
		.required()
		.label('Work times')
});
