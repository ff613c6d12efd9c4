import type Joi from 'joi';

/** Search words and page of a list from its address; nonsense there means the first page. */
export function listQuery(url: URL, schema: Joi.ObjectSchema): { q: string; page: number } {
	const result = schema.validate(
		{ q: url.searchParams.get('q') ?? '', page: url.searchParams.get('page') ?? 1 },
		{ convert: true }
	);
	return result.error ? { q: '', page: 1 } : (result.value as { q: string; page: number });
}
