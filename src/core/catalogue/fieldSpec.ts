/** Common to every field of a part: its key in the data, and what the form calls it. */
interface Named {
	key: string;
	label: string;
	/** One line under the field. */
	hint?: string;
}

export interface TextSpec extends Named {
	type: 'text';
	most: number;
	/** May be left empty. */
	optional?: true;
}

export interface NumberSpec extends Named {
	type: 'number';
	unit: string;
	/** Plausible range; outside it the value is refused. */
	min: number;
	max: number;
	whole?: true;
}

export interface ChoiceSpec extends Named {
	type: 'choice';
	options: readonly { value: string; label: string }[];
}

export interface FlagSpec extends Named {
	type: 'flag';
}

/** Two numbers, the first below the second. */
export interface RangeSpec extends Named {
	type: 'range';
	unit: string;
	min: number;
	max: number;
}

/** A list of numbers or of words. */
export interface ListSpec extends Named {
	type: 'list';
	item: NumberSpec | TextSpec;
	fewest: number;
	most: number;
}

/** Pairs of numbers in order, such as a curve. */
export interface PairsSpec extends Named {
	type: 'pairs';
	columns: readonly [NumberSpec, NumberSpec];
	fewest: number;
	most: number;
	/** What must hold from pair to pair. */
	rule: 'level-curve' | 'first-rises';
}

/** Rows of fields. */
export interface TableSpec extends Named {
	type: 'table';
	columns: readonly FieldSpec[];
	fewest: number;
	most: number;
	/** Key of a column whose values differ from row to row. */
	unique?: string;
}

/** Fields that belong together. */
export interface GroupSpec extends Named {
	type: 'group';
	fields: readonly FieldSpec[];
	/** `missing`: may be left out; `null`: stands as null when the part has none. */
	absent?: 'missing' | 'null';
	/** Only there, and then needed, when another field of the same level has this value. */
	when?: { key: string; is: string };
}

/** A measured antenna pattern, imported from a file of the open exchange format. */
export interface PatternSpec extends Named {
	type: 'pattern';
}

/** What one field of a part may hold: the source of its check, its form and its published schema. */
export type FieldSpec =
	| TextSpec
	| NumberSpec
	| ChoiceSpec
	| FlagSpec
	| RangeSpec
	| ListSpec
	| PairsSpec
	| TableSpec
	| PatternSpec
	| GroupSpec;

type More<T extends FieldSpec> = Partial<Omit<T, 'type' | 'key' | 'label'>>;

export const text = (
	key: string,
	label: string,
	most = 200,
	more: More<TextSpec> = {}
): TextSpec => ({ type: 'text', key, label, most, ...more });
export const number = (
	key: string,
	label: string,
	unit: string,
	min: number,
	max: number,
	more: More<NumberSpec> = {}
): NumberSpec => ({ type: 'number', key, label, unit, min, max, ...more });
export const whole = (
	key: string,
	label: string,
	min: number,
	max: number,
	more: More<NumberSpec> = {}
): NumberSpec => number(key, label, '', min, max, { whole: true, ...more });
export const choice = (
	key: string,
	label: string,
	options: Readonly<Record<string, string>>,
	more: More<ChoiceSpec> = {}
): ChoiceSpec => ({
	type: 'choice',
	key,
	label,
	options: Object.entries(options).map(([value, words]) => ({ value, label: words })),
	...more
});
export const flag = (key: string, label: string): FlagSpec => ({ type: 'flag', key, label });
export const range = (
	key: string,
	label: string,
	unit: string,
	min: number,
	max: number,
	more: More<RangeSpec> = {}
): RangeSpec => ({ type: 'range', key, label, unit, min, max, ...more });
export const list = (
	key: string,
	label: string,
	item: NumberSpec | TextSpec,
	fewest: number,
	most: number,
	more: More<ListSpec> = {}
): ListSpec => ({ type: 'list', key, label, item, fewest, most, ...more });
export const pairs = (
	key: string,
	label: string,
	columns: readonly [NumberSpec, NumberSpec],
	rule: PairsSpec['rule'],
	more: More<PairsSpec> = {}
): PairsSpec => ({ type: 'pairs', key, label, columns, fewest: 2, most: 200, rule, ...more });
export const table = (
	key: string,
	label: string,
	columns: readonly FieldSpec[],
	fewest: number,
	most: number,
	more: More<TableSpec> = {}
): TableSpec => ({ type: 'table', key, label, columns, fewest, most, ...more });
export const group = (
	key: string,
	label: string,
	fields: readonly FieldSpec[],
	more: More<GroupSpec> = {}
): GroupSpec => ({ type: 'group', key, label, fields, ...more });
