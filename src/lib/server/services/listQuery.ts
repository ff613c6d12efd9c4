import type Joi from 'joi';
import type { ListQuery } from './paging';

/** Search words and page of a list from its address; nonsense there means the first page. */
export function listQuery(url: URL, schema: Joi.ObjectSchema): ListQuery {
	const after = url.searchParams.get('after');
	const result = schema.validate(
		{
			q: url.searchParams.get('q') ?? '',
			page: url.searchParams.get('page') ?? 1,
			...(after ? { after } : {})
		},
		{ convert: true }
	);
	return result.error ? { q: '', page: 1 } : (result.value as ListQuery);
}
