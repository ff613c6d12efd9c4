import type Joi from 'joi';
import type { FieldError } from '../errors';

/**
 * What a schema says of sizes: how long lists may be, and which members an object may have. Looked at
 * before anything is validated, since validation visits every item of a list that is too long anyway.
 */
interface Shape {
	label: string;
	/** Longest list; undefined where this is no list. */
	mostItems?: number;
	items?: Shape;
	/** Members that are known; undefined where any are. */
	keys?: ReadonlyMap<string, Shape>;
	/** An object that may have any members. */
	open?: true;
}

interface Described {
	type?: string;
	flags?: { label?: string; unknown?: boolean };
	rules?: { name: string; args?: { limit?: unknown } }[];
	items?: Described[];
	ordered?: Described[];
	keys?: Record<string, Described>;
	matches?: { schema?: Described; then?: Described; otherwise?: Described; switch?: unknown[] }[];
	whens?: {
		then?: Described;
		otherwise?: Described;
		switch?: { then?: Described; otherwise?: Described }[];
	}[];
}

/** Lists without a limit of their own hold no more than this. */
const MOST_ITEMS = 100_000;
/** Everything in one input together: more values than any sweep, plan or import has. */
const MOST_VALUES = 400_000;
/** Deeper than this nothing is nested. */
const MOST_DEEP = 24;
/** So many members that are not known are named; an input with more is refused by these alone. */
const MOST_UNKNOWN = 20;

const shapes = new WeakMap<Joi.Schema, Shape>();

function shapeOf(schema: Joi.Schema): Shape {
	let shape = shapes.get(schema);
	if (!shape) shapes.set(schema, (shape = shapeFrom(schema.describe())));
	return shape;
}

function shapeFrom(part: Described): Shape {
	const alternatives = [
		...(part.matches ?? []).flatMap(({ schema, then, otherwise }) => [schema, then, otherwise]),
		...(part.whens ?? []).flatMap(({ then, otherwise, switch: cases }) => [
			then,
			otherwise,
			...(cases ?? []).flatMap((one) => [one.then, one.otherwise])
		])
	].filter((one) => one !== undefined);
	return alternatives.map(shapeFrom).reduce(either, ownShape(part));
}

function ownShape({ type, flags, rules, items, ordered, keys }: Described): Shape {
	const label = flags?.label ?? '';
	if (type === 'array') {
		const limits = (rules ?? [])
			.filter(({ name }) => name === 'max' || name === 'length')
			.map(({ args }) => Number(args?.limit))
			.filter(Number.isFinite);
		const inside = [...(items ?? []), ...(ordered ?? [])].map(shapeFrom);
		const [first, ...rest] = inside;
		return {
			label,
			mostItems: Math.min(MOST_ITEMS, ...limits),
			...(first ? { items: rest.reduce(either, first) } : {})
		};
	}
	if (type === 'object' && keys && !flags?.unknown) {
		const members = Object.entries(keys).map(([key, own]) => [key, shapeFrom(own)] as const);
		return { label, keys: new Map(members) };
	}
	return { label, ...(type === 'object' ? { open: true as const } : {}) };
}

/** The wider of two shapes: what either lets through. */
function either(p: Shape, q: Shape): Shape {
	const items = p.items && q.items ? either(p.items, q.items) : (p.items ?? q.items);
	const keys = new Map(p.keys);
	for (const [key, shape] of q.keys ?? []) {
		const known = keys.get(key);
		keys.set(key, known ? either(known, shape) : shape);
	}
	const mostItems =
		p.mostItems === undefined && q.mostItems === undefined
			? undefined
			: Math.max(p.mostItems ?? 0, q.mostItems ?? 0);
	return {
		label: p.label || q.label,
		...(mostItems === undefined ? {} : { mostItems }),
		...(items ? { items } : {}),
		...(p.open || q.open ? { open: true as const } : {}),
		...(keys.size ? { keys } : {})
	};
}

/** How much there is in an input, and what is out of all bounds. */
export interface Measured {
	values: number;
	problems: FieldError[];
}

/**
 * Measures an input against the sizes that its schema allows, and mends text that is not well-formed (half
 * of a character that takes two): it could be neither stored nor shown. Stops at the first list that is too
 * long, at too many unknown members, and at too many values altogether.
 */
export function measure(
	schema: Joi.Schema,
	value: unknown,
	mostValues: number = MOST_VALUES
): Measured {
	const measured: Measured & { mostValues: number } = { values: 0, problems: [], mostValues };
	visit(shapeOf(schema), value, [], measured);
	return measured;
}

type Measuring = Measured & { mostValues: number };

function visit(
	shape: Shape | undefined,
	value: unknown,
	path: readonly string[],
	measured: Measuring
): void {
	measured.values += 1;
	if (typeof value !== 'object' || value === null) return;
	if (measured.values > measured.mostValues || path.length > MOST_DEEP) {
		tooMuch(path, 'The input holds too much to be read.', measured);
		return;
	}
	if (Array.isArray(value)) visitList(shape, value as unknown[], path, measured);
	else visitObject(shape, value as Record<string, unknown>, path, measured);
}

function visitList(
	shape: Shape | undefined,
	list: unknown[],
	path: readonly string[],
	measured: Measuring
): void {
	const most = shape?.mostItems ?? MOST_ITEMS;
	if (list.length > most) {
		const label = shape?.label || 'This list';
		tooMuch(path, `${label} may have at most ${most} entries.`, measured);
		return;
	}
	for (let i = 0; i < list.length && measured.problems.length === 0; i++) {
		list[i] = mended(list[i]);
		visit(shape?.items, list[i], [...path, String(i)], measured);
	}
}

function visitObject(
	shape: Shape | undefined,
	object: Record<string, unknown>,
	path: readonly string[],
	measured: Measuring
): void {
	const members = Object.keys(object);
	const { keys, open } = shape ?? {};
	if (keys && !open) {
		const unknown = members.filter((key) => !keys.has(key));
		if (unknown.length > MOST_UNKNOWN) {
			for (const key of unknown.slice(0, MOST_UNKNOWN)) {
				const name = key.slice(0, 80);
				tooMuch([...path, name], `${name} is not known here.`, measured);
			}
			return;
		}
	}
	for (const key of members) {
		if (measured.problems.length) return;
		object[key] = mended(object[key]);
		visit(keys?.get(key), object[key], [...path, key], measured);
	}
}

function tooMuch(path: readonly string[], message: string, { problems }: Measured): void {
	problems.push({ field: path.join('.'), message });
}

const mended = (value: unknown): unknown =>
	typeof value === 'string' && !value.isWellFormed() ? value.toWellFormed() : value;
