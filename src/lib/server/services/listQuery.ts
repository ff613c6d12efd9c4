import type Joi from 'joi';
import { auditSchema, hopListSchema } from '../schemas/inputs';
import { boardSchema } from '../schemas/crews';
import type { AuditQuery } from './auditTrail';
import type { BoardQuery } from './board';
import type { HopQuery } from './hops';
import type { ListQuery } from './paging';

/** What the address of a list asks for, as far as it may; nonsense there means the first page of all. */
function asked(url: URL, schema: Joi.ObjectSchema): unknown {
	const given = [...url.searchParams].filter(([, value]) => value !== '');
	const result = schema.validate(Object.fromEntries(given), { convert: true, stripUnknown: true });
	return result.error ? schema.validate({}).value : result.value;
}

/** Search words and page of a list from its address. */
export const listQuery = (url: URL, schema: Joi.ObjectSchema): ListQuery =>
	asked(url, schema) as ListQuery;

/** The same of the list of hops, with which of them and in which order. */
export const hopListQuery = (url: URL): Required<Pick<HopQuery, 'standing' | 'sort'>> & ListQuery =>
	asked(url, hopListSchema) as ReturnType<typeof hopListQuery>;

/** The same of the audit trail, with the action that is looked for. */
export const auditQuery = (url: URL): AuditQuery => asked(url, auditSchema) as AuditQuery;

/** The same of the board. */
export const boardQuery = (url: URL): BoardQuery => asked(url, boardSchema) as BoardQuery;
