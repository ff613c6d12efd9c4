import type Joi from 'joi';
import { budgetSchema } from './compute';
import { dayPlanSchema } from './dayPlan';
import { guidanceSchema } from './guidance';
import { hubSchema } from './hubs';
import { acceptanceSchema, hopSchema } from './inputs';
import { scheduleSchema } from './projectDays';
import { recordBatchSchema } from './records';
import { analyseSweepSchema } from './sweep';

/** Bodies that may be long, by a name under which a worker thread finds their schema too. */
export const BODY_SCHEMAS = {
	hop: hopSchema,
	hub: hubSchema,
	dayPlan: dayPlanSchema,
	projectDays: scheduleSchema,
	records: recordBatchSchema,
	acceptance: acceptanceSchema,
	sweep: analyseSweepSchema,
	guidance: guidanceSchema,
	budget: budgetSchema
} as const satisfies Record<string, Joi.ObjectSchema>;

export type BodyName = keyof typeof BODY_SCHEMAS;

const names = new Map<Joi.Schema, BodyName>(
	Object.entries(BODY_SCHEMAS).map(([name, schema]) => [schema, name as BodyName])
);

/** The name of a schema for long bodies; undefined for the others. */
export const bodyName = (schema: Joi.Schema): BodyName | undefined => names.get(schema);
