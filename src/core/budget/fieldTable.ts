interface NumberField {
	type: 'number';
	label: string;
	from: number;
	to: number;
	/** Taken where nothing is said; a field without one must be said. */
	initial?: number | null;
	/** Empty means "there is none", not "nobody has said". */
	orNone?: true;
	/** A whole number. */
	whole?: true;
	/** Decimals at most when it is shown for typing. */
	digits?: number;
	example?: number;
}

interface WordField<Word extends string = string> {
	type: 'word';
	label: string;
	words: readonly Word[];
	initial?: Word;
	example?: Word;
}

interface TextField {
	type: 'text';
	label: string;
	most: number;
	least?: number;
	/** Spaces at its ends are kept: a code is compared letter by letter. */
	exact?: true;
	initial?: '';
	example?: string;
}

interface DayField {
	type: 'day';
	label: string;
	example?: string;
}

interface GroupField<Fields = PlanFields> {
	type: 'group';
	label: string;
	fields: Fields;
}

interface ListField<Fields = PlanFields> {
	type: 'list';
	label: string;
	most: number;
	item: Fields;
}

export type PlanField = NumberField | WordField | TextField | DayField | GroupField | ListField;
export interface PlanFields {
	readonly [key: string]: PlanField;
}

/** The row that a value of some type needs: a plan's value without its row does not compile. */
type FieldFor<Value> = [Value] extends [number]
	? NumberField
	: [Value] extends [number | null]
		? NumberField & { orNone: true }
		: [Value] extends [string]
			? string extends Value
				? TextField | DayField
				: WordField<Value>
			: [Value] extends [readonly (infer Item)[]]
				? ListField<FieldsFor<Item>>
				: GroupField<FieldsFor<Value>>;

/** The table of fields of what a planner types. */
export type FieldsFor<Values> = { readonly [Key in keyof Values]-?: FieldFor<Values[Key]> };

type TypedValue<Value> = [Value] extends [number | string | null]
	? string
	: [Value] extends [readonly (infer Item)[]]
		? TypedOf<Item>[]
		: TypedOf<Value>;

/** Values while they are typed: every number stays text until it is sent, so that no typing is lost. */
export type TypedOf<Values> = { -readonly [Key in keyof Values]: TypedValue<Values[Key]> };

type Loose = Record<string, unknown>;

/** A value as text for typing. */
function textOf(field: PlanField, value: unknown): unknown {
	switch (field.type) {
		case 'group':
			return textsOf(field.fields, value as Loose);
		case 'list':
			return (value as Loose[]).map((one) => textsOf(field.item, one));
		case 'number':
			if (typeof value !== 'number') return '';
			return String(field.digits === undefined ? value : Number(value.toFixed(field.digits)));
		case 'day':
			return String(value).slice(0, 10);
		default:
			return String(value);
	}
}

function textsOf(fields: PlanFields, values: Loose): Loose {
	return Object.fromEntries(
		Object.entries(fields).map(([key, field]) => [key, textOf(field, values[key])])
	);
}

/** Values as text for typing; what a table does not name is left out. */
export function typedOf<Values extends object>(
	fields: FieldsFor<Values>,
	values: Values
): TypedOf<Values> {
	return textsOf(fields, values as Loose) as TypedOf<Values>;
}

/** Stands for what is typed and cannot be a value. */
const UNSOUND = Symbol('unsound');

function valueOf(field: PlanField, typed: unknown): unknown {
	switch (field.type) {
		case 'group':
			return readOf(field.fields, typed as Loose);
		case 'list': {
			const items = (typed as Loose[]).map((one) => readOf(field.item, one));
			return items.includes(UNSOUND) ? UNSOUND : items;
		}
		case 'number': {
			const text = String(typed).trim();
			if (text === '') return field.orNone ? null : UNSOUND;
			const number = Number(text);
			return Number.isFinite(number) ? number : UNSOUND;
		}
		case 'day':
			return Number.isNaN(Date.parse(String(typed))) ? UNSOUND : typed;
		default:
			return typed;
	}
}

function readOf(fields: PlanFields, typed: Loose): Loose | typeof UNSOUND {
	const read = Object.entries(fields).map(
		([key, field]) => [key, valueOf(field, typed[key])] as const
	);
	return read.some(([, value]) => value === UNSOUND) ? UNSOUND : Object.fromEntries(read);
}

/** The values of what was typed, or undefined while a number or a day is missing or is none. */
export function valuesOf<Values>(
	fields: FieldsFor<Values>,
	typed: TypedOf<Values>
): Values | undefined {
	const read = readOf(fields, typed);
	return read === UNSOUND ? undefined : (read as Values);
}

function initialOf(field: PlanField): unknown {
	switch (field.type) {
		case 'group':
			return initialsOf(field.fields);
		case 'list':
			return [];
		case 'day':
			return undefined;
		default:
			return field.initial;
	}
}

function initialsOf(fields: PlanFields): Loose {
	return Object.fromEntries(
		Object.entries(fields)
			.map(([key, field]) => [key, initialOf(field)] as const)
			.filter(([, value]) => value !== undefined)
	);
}

/** Names of the fields of a table that have a value where nothing is said. */
type InitialKeys<Fields> = {
	[Key in keyof Fields]: Fields[Key] extends { initial: unknown } | { type: 'group' | 'list' }
		? Key
		: never;
}[keyof Fields];

/** What a table takes where nothing is said; fields that must be said are left out. */
export function initialValues<Values, Fields extends FieldsFor<Values>>(
	fields: Fields
): Pick<Values, Extract<InitialKeys<Fields>, keyof Values>> {
	return initialsOf(fields) as Pick<Values, Extract<InitialKeys<Fields>, keyof Values>>;
}

/** The same of any table, for who only hands it on. */
export const initialsOfFields = (fields: PlanFields): object => initialsOf(fields);

function bodyValue(field: PlanField, typed: unknown): unknown {
	switch (field.type) {
		case 'group':
			return bodyOf(field.fields, typed as Loose);
		case 'list':
			return (typed as Loose[]).map((one) => bodyOf(field.item, one));
		case 'number':
			return field.orNone && String(typed).trim() === '' ? null : typed;
		default:
			return typed;
	}
}

/** What is sent: text as typed, so that the server names every field that is wrong; nothing where none is. */
export function bodyOf(fields: PlanFields, typed: object): object {
	return Object.fromEntries(
		Object.entries(fields).map(([key, field]) => [key, bodyValue(field, (typed as Loose)[key])])
	);
}

/** The members that a table names, of something that holds more. */
export function pickedBy<Fields extends PlanFields, Of extends { [Key in keyof Fields]: unknown }>(
	fields: Fields,
	of: Of
): Pick<Of, keyof Fields> {
	return Object.fromEntries(Object.keys(fields).map((key) => [key, of[key]])) as Pick<
		Of,
		keyof Fields
	>;
}
