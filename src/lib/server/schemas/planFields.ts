import type Joi from 'joi';
import { initialsOfFields, type PlanField, type PlanFields } from '#core/budget/fieldTable';
import { joi } from './joi';

/** The check of one field of a plan, made from what its row says. */
function schemaOf(field: PlanField): Joi.Schema {
	switch (field.type) {
		case 'number': {
			const range = joi.number().min(field.from).max(field.to);
			const whole = field.whole ? range.integer() : range;
			return settled(field.orNone ? whole.allow(null) : whole, field);
		}
		case 'word':
			return settled(joi.string().valid(...field.words), field);
		case 'text': {
			const text = joi.string().max(field.most);
			const trimmed = field.exact ? text : text.trim();
			return settled(field.least ? trimmed.min(field.least) : trimmed.allow(''), field);
		}
		case 'day':
			return settled(joi.string().isoDate(), field);
		case 'group':
			return joi
				.object(schemasOf(field.fields))
				.default(initialsOfFields(field.fields))
				.label(field.label);
		case 'list':
			return joi
				.array()
				.items(joi.object(schemasOf(field.item)))
				.max(field.most)
				.default([])
				.label(field.label);
	}
}

/** Named, shown by an example, and with what is taken where nothing is said; required without such. */
function settled(
	schema: Joi.Schema,
	{ label, initial, example }: { label: string; initial?: unknown; example?: unknown }
): Joi.Schema {
	const known = initial === undefined ? schema.required() : schema.default(initial);
	const named = known.label(label);
	return example === undefined ? named : named.example(example);
}

/** The checks of a table of fields, by their names. */
export function schemasOf(fields: PlanFields): Record<string, Joi.Schema> {
	return Object.fromEntries(Object.entries(fields).map(([key, field]) => [key, schemaOf(field)]));
}
