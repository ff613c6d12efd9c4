import { lastOf } from '#core/units/lists';

/** Values by dotted path: how a nested plan becomes the columns of a table and comes back. */
export type Flat = Record<string, string>;

const isPlain = (value: unknown): value is Record<string, unknown> =>
	typeof value === 'object' && value !== null && !Array.isArray(value);

/** Lists and objects at the given paths stay one cell of JSON. */
export function flatten(value: object, wholeCells: readonly string[]): Flat {
	const flat: Flat = {};
	const walk = (path: string, part: unknown): void => {
		if (isPlain(part) && !wholeCells.includes(path)) {
			for (const [key, own] of Object.entries(part)) walk(path ? `${path}.${key}` : key, own);
		} else if (part === null || part === undefined) flat[path] = '';
		else flat[path] = typeof part === 'string' ? part : JSON.stringify(part);
	};
	walk('', value);
	return flat;
}

/**
 * The inverse of {@link flatten}: text stays text, since the schema converts; an empty cell is null
 * where `emptyIsNull` says so and an empty text elsewhere.
 *
 * @throws SyntaxError when a cell that holds JSON does not
 */
export function unflatten(
	flat: Readonly<Flat>,
	wholeCells: readonly string[],
	emptyIsNull: readonly string[]
): Record<string, unknown> {
	const result: Record<string, unknown> = {};
	for (const [path, text] of Object.entries(flat)) {
		const keys = path.split('.');
		let at = result;
		for (const key of keys.slice(0, -1)) {
			// A column such as __proto__ would reach into every object.
			if (key === '__proto__' || key === 'constructor' || key === 'prototype') return result;
			const next = at[key];
			at = isPlain(next) ? next : (at[key] = {});
		}
		const last = lastOf(keys);
		if (wholeCells.includes(path)) at[last] = text.trim() === '' ? null : JSON.parse(text);
		else at[last] = text === '' && emptyIsNull.includes(path) ? null : text;
	}
	return result;
}
