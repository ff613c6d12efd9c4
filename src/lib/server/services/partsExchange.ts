import { findNodeAtLocation, parseTree, printParseErrorCode, type ParseError } from 'jsonc-parser';
import Papa from 'papaparse';
import joiToJson from 'joi-to-json';
import { PART_KIND_NAMES, PART_KINDS, type PartKind } from '#core/catalogue/partKinds';
import { requireMay, type Actor } from '../auth/actor';
import { AppError, invalid } from '../errors';
import { partColumns, partFromRow, partRow } from '../formats/partTable';
import { allParts } from '../repositories/parts';
import { partSchema } from '../schemas/parts';
import { checkedPart, putParts, type CheckedPart } from './parts';
import type { AnyPart } from '#core/catalogue/partKinds';
import { itemAt } from '#core/units/lists';

export const PARTS_FORMAT = 'skiaxis-parts';
/** More parts than this in one file are to be split. */
export const MOST_PARTS = 2000;

/** Every part, or those of one kind, as JSON; or one kind as a table. Retired ones are left out. */
export async function exportParts(
	actor: Actor,
	format: 'json' | 'csv',
	kind: PartKind | null
): Promise<{ content: string; mediaType: string; fileName: string }> {
	requireMay(actor, 'read-parts');
	const rows = (await allParts()).filter(
		(row) => !row.retired && (kind === null || row.kind === kind)
	);
	if (format === 'json') {
		const parts = rows.map((row) => ({
			part: row.kind,
			...(JSON.parse(row.data) as AnyPart)
		}));
		return {
			content: `${JSON.stringify({ format: PARTS_FORMAT, version: 1, parts }, null, '\t')}\n`,
			mediaType: 'application/json',
			fileName: kind ? `parts-${kind}.json` : 'parts.json'
		};
	}
	if (kind === null) {
		throw invalid([{ field: 'kind', message: 'A table holds one kind of part: choose it.' }]);
	}
	const table = rows.map((row) => partRow(kind, JSON.parse(row.data) as AnyPart));
	return {
		content: `${Papa.unparse({ fields: [...partColumns(kind)], data: table }, { newline: '\n', escapeFormulae: false })}\n`,
		mediaType: 'text/csv; charset=utf-8',
		fileName: `parts-${kind}.csv`
	};
}

/** The JSON Schema of the file that is exported and imported. */
export function partsJsonSchema(): object {
	return {
		$schema: 'https://json-schema.org/draft/2020-12/schema',
		title: 'Parts of microwave hops',
		type: 'object',
		required: ['format', 'version', 'parts'],
		properties: {
			format: { const: PARTS_FORMAT },
			version: { const: 1 },
			parts: {
				type: 'array',
				maxItems: MOST_PARTS,
				items: {
					oneOf: PART_KIND_NAMES.map((kind) => {
						const schema = joiToJson(partSchema(kind), 'json-draft-2019-09') as {
							properties: object;
							required?: string[];
						};
						return {
							title: PART_KINDS[kind].one,
							...schema,
							// `part` names the kind: couplings, feeders and sources have a `kind` of their own.
							properties: { part: { const: kind }, ...schema.properties },
							required: ['part', ...(schema.required ?? [])]
						};
					})
				}
			}
		}
	};
}

/** What is wrong with a file, at its place. */
export interface PlacedProblem {
	/** Line from 1. */
	line: number;
	/** Column from 1 in JSON; the name of the column in a table. */
	column: number | string;
	message: string;
}

export interface PartsImport {
	/** One entry a part of the file. */
	rows: {
		line: number;
		kind: PartKind | null;
		code: string;
		state: 'good' | 'wrong';
		problems: PlacedProblem[];
	}[];
	good: number;
	wrong: number;
	/** What was written; null while it was only looked at, or nothing could be. */
	taken: { added: number; changed: number; same: number } | null;
}

export interface PartsImportRequest {
	format: 'json' | 'csv';
	/** Kind of the parts of a table. */
	kind: PartKind | null;
	text: string;
	/** Only looks when false. */
	commit: boolean;
	/** Takes the good ones although others are wrong. */
	takeGood: boolean;
}

/** Imports parts: all of them, or the good ones where that is asked; what is wrong is said at its place. */
export async function importParts(actor: Actor, request: PartsImportRequest): Promise<PartsImport> {
	requireMay(actor, 'edit-parts');
	const read =
		request.format === 'json' ? readJson(request.text) : readTable(request.text, request.kind);
	if (read.length > MOST_PARTS) {
		throw invalid([{ field: 'text', message: `At most ${MOST_PARTS} parts in one file.` }]);
	}
	sayTwins(read);
	const good = read.flatMap((row) => (row.problems.length === 0 && row.part ? [row.part] : []));
	const wrong = read.length - good.length;
	const write = request.commit && good.length > 0 && (wrong === 0 || request.takeGood);
	return {
		rows: read.map(({ line, kind, code, problems }) => ({
			line,
			kind,
			code,
			state: problems.length ? 'wrong' : 'good',
			problems
		})),
		good: good.length,
		wrong,
		taken: write ? await putParts(actor.userId, good) : null
	};
}

interface ReadRow {
	line: number;
	kind: PartKind | null;
	code: string;
	problems: PlacedProblem[];
	part: CheckedPart | null;
}

/** The same type code twice in one file: which one holds would be chance. */
function sayTwins(rows: ReadRow[]): void {
	const first = new Map<string, number>();
	for (const row of rows) {
		const name = `${row.kind}/${row.code}`;
		const line = first.get(name);
		if (line === undefined) first.set(name, row.line);
		else if (row.code) {
			row.problems.push({
				line: row.line,
				column: 'code',
				message: `${row.code} stands on line ${line} already.`
			});
		}
	}
}

function checked(
	kind: PartKind,
	data: unknown,
	placeOf: (field: string) => Omit<PlacedProblem, 'message'>
): Pick<ReadRow, 'part' | 'problems'> {
	try {
		return { part: { kind, data: checkedPart(kind, data, '') }, problems: [] };
	} catch (error) {
		if (!(error instanceof AppError)) throw error;
		const problems = error.fields.map(({ field, message }) => ({ ...placeOf(field), message }));
		return { part: null, problems };
	}
}

function readTable(text: string, kind: PartKind | null): ReadRow[] {
	if (kind === null) {
		throw invalid([{ field: 'kind', message: 'A table holds one kind of part: choose it.' }]);
	}
	const { data, errors, meta } = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), {
		header: true,
		skipEmptyLines: 'greedy'
	});
	const needed = ['code', 'name'].filter((column) => !(meta.fields ?? []).includes(column));
	if (needed.length) {
		throw invalid([
			{ field: 'text', message: `The first line lacks the column ${needed.join(' and ')}.` }
		]);
	}
	return data.map((row, i): ReadRow => {
		const line = i + 2;
		const base = { line, kind, code: (row.code ?? '').trim() };
		const broken = errors.find((error) => error.row === i);
		if (broken) {
			const problem = { line, column: '', message: `${broken.message}.` };
			return { ...base, problems: [problem], part: null };
		}
		const read = partFromRow(kind, row);
		if (!('data' in read)) return { ...base, problems: [{ line, ...read }], part: null };
		return { ...base, ...checked(kind, read.data, (field) => ({ line, column: field })) };
	});
}

function readJson(text: string): ReadRow[] {
	const errors: ParseError[] = [];
	const tree = parseTree(text, errors, { disallowComments: true });
	const place = placer(text);
	const [first] = errors;
	if (first || !tree) {
		const at = place(first?.offset ?? 0);
		throw invalid([
			{
				field: 'text',
				message: `Line ${at.line}, column ${at.column}: ${
					first ? wordsOf(printParseErrorCode(first.error)) : 'the file is empty'
				}.`
			}
		]);
	}
	const document = JSON.parse(text) as { format?: unknown; version?: unknown; parts?: unknown };
	if (document.format !== PARTS_FORMAT || document.version !== 1) {
		throw invalid([
			{ field: 'text', message: `This is no file of parts: it lacks "format": "${PARTS_FORMAT}".` }
		]);
	}
	if (!Array.isArray(document.parts)) {
		throw invalid([{ field: 'text', message: 'The list "parts" is missing.' }]);
	}
	return document.parts.map((entry: unknown, i): ReadRow => {
		const placeAt = (field: string): { line: number; column: number } => {
			const keys = field === '' ? [] : field.split('.').map(keyOf);
			for (let depth = keys.length; depth >= 0; depth--) {
				const node = findNodeAtLocation(tree, ['parts', i, ...keys.slice(0, depth)]);
				if (node) return place(node.offset);
			}
			return place(0);
		};
		const { line } = placeAt('');
		const wrong = (field: string, message: string): ReadRow => ({
			line,
			kind: null,
			code: '',
			problems: [{ ...placeAt(field), message }],
			part: null
		});
		if (typeof entry !== 'object' || entry === null || Array.isArray(entry)) {
			return wrong('', 'A part is an object.');
		}
		const { part: kind, ...data } = entry as Record<string, unknown>;
		if (!PART_KIND_NAMES.includes(kind as PartKind)) {
			return wrong('part', `"part" must be one of ${PART_KIND_NAMES.join(', ')}.`);
		}
		const code = typeof data.code === 'string' ? data.code : '';
		return { line, kind: kind as PartKind, code, ...checked(kind as PartKind, data, placeAt) };
	});
}

const keyOf = (key: string): string | number => (/^\d+$/.test(key) ? Number(key) : key);

/** An offset in a text as line and column, both from 1. */
function placer(text: string): (offset: number) => { line: number; column: number } {
	const starts = [0];
	for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) starts.push(at + 1);
	return (offset) => {
		let line = 0;
		let last = starts.length - 1;
		while (line < last) {
			const middle = Math.ceil((line + last) / 2);
			if (itemAt(starts, middle) <= offset) line = middle;
			else last = middle - 1;
		}
		return { line: line + 1, column: offset - itemAt(starts, line) + 1 };
	};
}

/** `PropertyNameExpected` as words. */
function wordsOf(code: string): string {
	return code.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase();
}
