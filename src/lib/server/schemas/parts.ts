import type Joi from 'joi';
import { PART_CODE, type PartKind } from '#core/catalogue/partKinds';
import { PART_FIELDS } from '#core/catalogue/partFields';
import type { FieldSpec, GroupSpec, NumberSpec } from '#core/catalogue/fieldSpec';
import { findLevelCurveProblem, type LevelCurvePoint } from '#core/radio/levelCurve';
import { patternSchema } from './inputs';
import { joi } from './joi';
import { itemAt } from '#core/units/lists';

const labelled = (spec: { label: string }, inside: string): string =>
	inside ? `${inside}, ${spec.label.toLowerCase()}` : spec.label;

function numberSchema(spec: NumberSpec, label: string): Joi.NumberSchema {
	const schema = joi.number().min(spec.min).max(spec.max).label(label);
	return spec.whole ? schema.integer() : schema;
}

const rising =
	(what: string) =>
	(value: readonly [number, number], helpers: Joi.CustomHelpers): unknown =>
		value[0] < value[1] ? value : helpers.message({ custom: `{#label} must rise: ${what}` });

/** The check of one field of a part, made from what its form says. */
function schemaOf(spec: FieldSpec, inside: string): Joi.Schema {
	const label = labelled(spec, inside);
	switch (spec.type) {
		case 'text':
			return spec.optional
				? joi.string().trim().allow('').max(spec.most).default('').label(label)
				: joi.string().trim().min(1).max(spec.most).required().label(label);
		case 'number':
			return numberSchema(spec, label).required();
		case 'choice':
			return joi
				.string()
				.valid(...spec.options.map(({ value }) => value))
				.required()
				.label(label);
		case 'pattern':
			return patternSchema.label(label);
		case 'flag':
			return joi.boolean().strict().required().label(label);
		case 'range': {
			const side = (which: string): Joi.NumberSchema =>
				joi.number().min(spec.min).max(spec.max).required().label(`${label}, ${which}`);
			return joi
				.array()
				.ordered(side('from'), side('to'))
				.length(2)
				.custom(rising('from below to'))
				.required()
				.label(label);
		}
		case 'list': {
			const { item } = spec;
			const each =
				item.type === 'number'
					? numberSchema(item, item.label)
					: joi.string().trim().min(1).max(item.most).label(item.label);
			return joi.array().items(each).min(spec.fewest).max(spec.most).required().label(label);
		}
		case 'pairs': {
			const [first, second] = spec.columns;
			return joi
				.array()
				.items(
					joi
						.array()
						.ordered(
							numberSchema(first, first.label).required(),
							numberSchema(second, second.label).required()
						)
						.length(2)
						.label(label)
				)
				.min(spec.fewest)
				.max(spec.most)
				.custom((value: [number, number][], helpers) => {
					const problem = pairsProblem(spec.rule, value);
					return problem ? helpers.message({ custom: `{#label}: ${problem}` }) : value;
				})
				.required()
				.label(label);
		}
		case 'table': {
			const rows = joi
				.array()
				.items(joi.object(keysOf(spec.columns, spec.label)))
				.min(spec.fewest)
				.max(spec.most)
				.required()
				.label(label);
			return spec.unique ? rows.unique(spec.unique) : rows;
		}
		case 'group':
			return groupSchema(spec, label);
	}
}

function groupSchema(spec: GroupSpec, label: string): Joi.Schema {
	const schema = joi.object(keysOf(spec.fields, spec.label)).label(label);
	if (spec.when) {
		return schema.when(spec.when.key, {
			is: spec.when.is,
			then: joi.required(),
			otherwise: joi.forbidden()
		});
	}
	if (spec.absent === 'missing') return schema;
	return spec.absent === 'null' ? schema.allow(null).required() : schema.required();
}

function pairsProblem(
	rule: 'level-curve' | 'first-rises',
	value: readonly LevelCurvePoint[]
): string | undefined {
	if (rule === 'level-curve') return findLevelCurveProblem(value)?.replaceAll('-', ' ');
	return value.some(([first], i) => i > 0 && first <= itemAt(value, i - 1)[0])
		? 'the first column must rise from row to row'
		: undefined;
}

function keysOf(fields: readonly FieldSpec[], inside: string): Joi.SchemaMap {
	return Object.fromEntries(fields.map((spec) => [spec.key, schemaOf(spec, inside)]));
}

/** Points of a level port: finite, two or more, strictly monotonic. */
export function levelCurve(): Joi.ArraySchema {
	return joi
		.array()
		.items(joi.array().ordered(joi.number().required(), joi.number().required()).length(2))
		.min(2)
		.max(200)
		.custom((value: LevelCurvePoint[], helpers) => {
			const problem = pairsProblem('level-curve', value);
			return problem
				? helpers.message({ custom: `{#label} is no level curve: ${problem}` })
				: value;
		});
}

/** What a part of a kind must hold: code, name, and the fields of its kind. */
export function partSchema(kind: PartKind): Joi.ObjectSchema {
	return joi
		.object({
			code: joi
				.string()
				.pattern(PART_CODE)
				.messages({
					'string.pattern.base': '{#label} is 2 to 20 capitals, figures and hyphens, such as RU-18'
				})
				.required()
				.label('Type code'),
			name: joi.string().trim().min(1).max(120).required().label('Name'),
			...keysOf(PART_FIELDS[kind], '')
		})
		.label('Part');
}
