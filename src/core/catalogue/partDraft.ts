import type { FieldSpec, GroupSpec } from './fieldSpec';
import { PART_FIELDS } from './partFields';
import type { AnyPart, PartKind } from './partKinds';

/** A part as it is being typed: numbers as text, an absent group as null. */
export type DraftValue = string | boolean | null | DraftValue[] | { [key: string]: DraftValue };
export type DraftFields = { [key: string]: DraftValue };

/** A part of no values yet. */
export function emptyPartDraft(kind: PartKind): DraftFields {
	return { code: '', name: '', ...emptyFields(PART_FIELDS[kind]) };
}

function emptyFields(fields: readonly FieldSpec[]): DraftFields {
	return Object.fromEntries(fields.map((spec) => [spec.key, emptyValue(spec)]));
}

/** A field of no value yet; a table has the rows it needs at least. */
export function emptyValue(spec: FieldSpec): DraftValue {
	switch (spec.type) {
		case 'text':
		case 'number':
		case 'pattern':
			return '';
		case 'choice':
			return spec.options[0]?.value ?? '';
		case 'flag':
			return false;
		case 'range':
			return ['', ''];
		case 'list':
			return Array.from({ length: spec.fewest }, () => '');
		case 'pairs':
			return Array.from({ length: spec.fewest }, () => ['', '']);
		case 'table':
			return Array.from({ length: spec.fewest }, () => emptyFields(spec.columns));
		case 'group':
			return spec.absent || spec.when ? null : emptyGroup(spec);
	}
}

/** A group with all its fields, none typed. */
export function emptyGroup(spec: GroupSpec): DraftFields {
	return emptyFields(spec.fields);
}

/** A part as text, for editing or copying. */
export function draftOfPart(kind: PartKind, part: AnyPart): DraftFields {
	const data = part as unknown as Record<string, unknown>;
	return { code: part.code, name: part.name, ...draftOfFields(PART_FIELDS[kind], data) };
}

function draftOfFields(fields: readonly FieldSpec[], data: Record<string, unknown>): DraftFields {
	return Object.fromEntries(fields.map((spec) => [spec.key, draftOf(spec, data[spec.key])]));
}

function draftOf(spec: FieldSpec, value: unknown): DraftValue {
	if (value === undefined || value === null) {
		return spec.type === 'group' ? null : emptyValue(spec);
	}
	switch (spec.type) {
		case 'flag':
			return value === true;
		case 'pattern':
			return JSON.stringify(value);
		case 'range':
		case 'list':
			return (value as unknown[]).map(wordOf);
		case 'pairs':
			return (value as unknown[][]).map((pair) => pair.map(wordOf));
		case 'table':
			return (value as Record<string, unknown>[]).map((row) => draftOfFields(spec.columns, row));
		case 'group':
			return draftOfFields(spec.fields, value as Record<string, unknown>);
		default:
			return wordOf(value);
	}
}

/**
 * What was typed as the data of a part: numbers where text reads as one, else the text as it is, so
 * that the check can say at which field it is wrong.
 */
export function partOfDraft(kind: PartKind, draft: DraftFields): Record<string, unknown> {
	return {
		code: wordOf(draft.code).trim(),
		name: wordOf(draft.name).trim(),
		...dataOfFields(PART_FIELDS[kind], draft)
	};
}

function dataOfFields(fields: readonly FieldSpec[], draft: DraftFields): Record<string, unknown> {
	return Object.fromEntries(
		fields.flatMap((spec): [string, unknown][] => {
			const value = draft[spec.key] ?? null;
			if (spec.type === 'pattern' && !value) return [];
			if (spec.type === 'group') {
				if (spec.when && draft[spec.when.key] !== spec.when.is) return [];
				if (value === null) return spec.absent === 'null' ? [[spec.key, null]] : [];
			}
			return [[spec.key, dataOf(spec, value)]];
		})
	);
}

function dataOf(spec: FieldSpec, value: DraftValue): unknown {
	switch (spec.type) {
		case 'text':
		case 'choice':
			return wordOf(value).trim();
		case 'flag':
			return value === true;
		case 'number':
			return typedValue(value);
		case 'pattern':
			return JSON.parse(wordOf(value)) as unknown;
		case 'range':
			return list(value).map(typedValue);
		case 'list':
			return list(value).map((one) =>
				spec.item.type === 'number' ? typedValue(one) : wordOf(one).trim()
			);
		case 'pairs':
			return list(value).map((pair) => list(pair).map(typedValue));
		case 'table':
			return list(value).map((row) => dataOfFields(spec.columns, row as DraftFields));
		case 'group':
			return dataOfFields(spec.fields, (value ?? {}) as DraftFields);
	}
}

/** A word or number as text; what is neither has no text, and the check says what is missing. */
const wordOf = (value: unknown): string =>
	typeof value === 'string' ? value : typeof value === 'number' ? String(value) : '';

const list = (value: DraftValue | undefined): DraftValue[] => (Array.isArray(value) ? value : []);

/** A number as typed, with comma or point and either minus; text that is none stays text. */
function typedValue(value: DraftValue): number | string {
	const text = wordOf(value).trim().replace('−', '-').replace(',', '.');
	const number = Number(text);
	return text === '' || !Number.isFinite(number) ? text : number;
}
