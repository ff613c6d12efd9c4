import type { FieldSpec } from '#core/catalogue/fieldSpec';
import { PART_FIELDS } from '#core/catalogue/partFields';
import type { AnyPart, PartKind } from '#core/catalogue/partKinds';
import { flatten, unflatten, type Flat } from './dotted';
import { lastOf } from '#core/units/lists';

interface Columns {
	/** Every column, by dotted path. */
	all: string[];
	/** Columns whose cell is JSON: ranges, lists, curves and tables. */
	json: string[];
	/** Groups that may be absent: so when all their cells are empty. */
	groups: { path: string; absent: 'missing' | 'null' }[];
	flags: string[];
	/** Columns that may be left empty. */
	optional: string[];
}

function columnsOf(kind: PartKind): Columns {
	const columns: Columns = { all: ['code', 'name'], json: [], groups: [], flags: [], optional: [] };
	const walk = (fields: readonly FieldSpec[], inside: string): void => {
		for (const spec of fields) {
			const path = `${inside}${spec.key}`;
			if (spec.type === 'group') {
				if (spec.absent || spec.when) {
					columns.groups.push({ path, absent: spec.absent ?? 'missing' });
				}
				walk(spec.fields, `${path}.`);
				continue;
			}
			columns.all.push(path);
			if (spec.type === 'flag') columns.flags.push(path);
			if (spec.type === 'pattern') columns.optional.push(path);
			if (['range', 'list', 'pairs', 'table', 'pattern'].includes(spec.type))
				columns.json.push(path);
		}
	};
	walk(PART_FIELDS[kind], '');
	return columns;
}

/** The columns of a kind's table, in order. */
export function partColumns(kind: PartKind): readonly string[] {
	return columnsOf(kind).all;
}

/** One part as a row of its kind's table. */
export function partRow(kind: PartKind, part: AnyPart): Flat {
	const { all, json } = columnsOf(kind);
	const flat = flatten(part, json);
	return Object.fromEntries(all.map((path) => [path, flat[path] ?? '']));
}

/** A row that does not read as a part, with its column. */
export interface CellProblem {
	column: string;
	message: string;
}

/** A row of a kind's table as the data of a part, not checked yet. */
export function partFromRow(
	kind: PartKind,
	row: Readonly<Flat>
): { data: Record<string, unknown> } | CellProblem {
	const { all, json, groups, flags, optional } = columnsOf(kind);
	const unknown = Object.keys(row).find((column) => !all.includes(column));
	if (unknown !== undefined) {
		return { column: unknown, message: 'Parts of this kind have no such column.' };
	}
	// Outer groups before inner ones: an absent group takes all below it.
	const absent = groups.filter(({ path }) =>
		all.every((column) => !column.startsWith(`${path}.`) || (row[column] ?? '').trim() === '')
	);
	const gone = (column: string): boolean =>
		absent.some(({ path }) => column.startsWith(`${path}.`));
	const filled: Flat = {};
	for (const column of all) {
		if (gone(column)) continue;
		const text = row[column] ?? '';
		if (optional.includes(column) && text.trim() === '') continue;
		if (json.includes(column) && text.trim() !== '') {
			try {
				JSON.parse(text);
			} catch {
				return { column, message: 'This cell must be a list in JSON, such as [17.7, 19.7].' };
			}
		}
		filled[column] = text;
	}
	const data = unflatten(filled, json, []);
	for (const column of flags) {
		if (gone(column)) continue;
		const text = (row[column] ?? '').trim().toLowerCase();
		if (text !== 'true' && text !== 'false') {
			return { column, message: 'This cell must be true or false.' };
		}
		put(data, column, text === 'true');
	}
	for (const { path, absent: how } of absent) {
		const inOther = absent.some(
			(other) => other.path !== path && path.startsWith(`${other.path}.`)
		);
		if (how === 'null' && !inOther) put(data, path, null);
	}
	return { data };
}

function put(data: Record<string, unknown>, path: string, value: unknown): void {
	const keys = path.split('.');
	let at = data;
	for (const key of keys.slice(0, -1)) {
		at = (at[key] ??= {}) as Record<string, unknown>;
	}
	at[lastOf(keys)] = value;
}
