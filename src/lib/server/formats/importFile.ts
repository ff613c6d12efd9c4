import Papa from 'papaparse';
import { AppError, invalid, type FieldError } from '../errors';
import type { PlanDraftValues } from '../../plan/resolve';
import { hopSchema, siteSchema } from '../schemas/inputs';
import { validate } from '../schemas/joi';
import type { SiteContent } from '../repositories/sites';
import { sitesFromGpx } from './gpx';
import { hopFromRow, NEEDED_HOP_COLUMNS, type OpenHop } from './hopTable';
import { NEEDED_SITE_COLUMNS, siteColumnOf, siteFromRow } from './siteTable';

export const FORMATS = ['csv', 'geojson', 'gpx', 'json'] as const;
export type Format = (typeof FORMATS)[number];
export type Subject = 'sites' | 'hops';

/** More rows than this in one file are to be split. */
export const MOST_ROWS = 5000;

/** What a spreadsheet would run: a cell that begins like this and is no number is exported as text. */
export const FORMULA = /^'*([=@\t\r]|[+-](?!\d+(\.\d+)?$))/;
/** The mark of such a text is taken off again, so that what was exported comes back as it was. */
export const unmarked = (cell: string): string =>
	cell.startsWith("'") && FORMULA.test(cell.slice(1)) ? cell.slice(1) : cell;

export interface RowProblem {
	/** Column or field, and what is wrong with it. */
	column: string;
	message: string;
}

export interface ImportRow {
	/** Line of a CSV file, else the place in the list, from 1. */
	line: number;
	subject: Subject;
	name: string;
	problems: RowProblem[];
}

/** A row as the file has it, checked by itself: nothing is known yet of what is there already. */
export type ReadRow = ImportRow &
	(
		| { subject: 'sites'; input: SiteContent | undefined }
		| { subject: 'hops'; input: PlannedHop | undefined }
	);

/** A hop of a file with its whole plan, its sites by name. */
export type PlannedHop = Omit<OpenHop, 'plan'> & { plan: PlanDraftValues };

export interface ImportFile {
	subject: Subject;
	format: Format;
	text: string;
}

interface Candidate {
	line: number;
	subject: Subject;
	value: Record<string, unknown>;
	problem?: RowProblem;
}

/**
 * The rows of a file of sites or hops, each with what is wrong with it by itself. Throws where the file cannot
 * be read at all, or holds none or too many.
 */
export function readImport({ subject, format, text }: ImportFile): ReadRow[] {
	const candidates = readFile(subject, format, text);
	if (candidates.length === 0) {
		throw invalid([{ field: 'text', message: `The file holds no ${subject}.` }]);
	}
	if (candidates.length > MOST_ROWS) {
		throw invalid([
			{
				field: 'text',
				message: `The file has ${candidates.length} rows; at most ${MOST_ROWS} are taken at once.`
			}
		]);
	}
	return candidates.map(checked);
}

function checked({ line, subject, value, problem }: Candidate): ReadRow {
	const name = typeof value.name === 'string' ? value.name.trim() : '';
	const row = { line, subject, name, problems: problem ? [problem] : [], input: undefined };
	if (problem) return row;
	try {
		const input = subject === 'sites' ? siteInput(value) : hopInput(value);
		return { ...row, input } as ReadRow;
	} catch (error) {
		if (!(error instanceof AppError)) throw error;
		return { ...row, problems: error.fields.map((field) => problemOf(subject, field)) };
	}
}

function readFile(subject: Subject, format: Format, text: string): Candidate[] {
	try {
		if (format === 'csv') return readCsv(subject, text);
		if (format === 'gpx') {
			if (subject === 'hops') {
				throw invalid([
					{ field: 'format', message: 'GPX carries places, not plans: import sites from it.' }
				]);
			}
			return sitesFromGpx(text).map((row, i) => ({
				line: i + 1,
				subject: 'sites',
				value: siteFromRow(row)
			}));
		}
		return format === 'json' ? readJson(subject, text) : readGeoJson(subject, text);
	} catch (error) {
		if (error instanceof AppError) throw error;
		throw invalid([
			{ field: 'text', message: `This is no ${format.toUpperCase()} that can be read.` }
		]);
	}
}

function readCsv(subject: Subject, text: string): Candidate[] {
	const table = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), {
		header: true,
		skipEmptyLines: 'greedy',
		transform: unmarked,
		transformHeader: (header) => header.trim()
	});
	const needed = subject === 'sites' ? NEEDED_SITE_COLUMNS : NEEDED_HOP_COLUMNS;
	const absent = needed.filter((column) => !(table.meta.fields ?? []).includes(column));
	if (absent.length) {
		throw invalid(
			absent.map((column) => ({ field: 'text', message: `There is no column ${column}.` }))
		);
	}
	return table.data.map((row, i) => {
		const line = i + 2;
		const extra = (row as Record<string, unknown>).__parsed_extra;
		if (extra !== undefined) {
			return {
				line,
				subject,
				value: { name: row.name },
				problem: { column: '', message: 'This line has more cells than the heading.' }
			};
		}
		try {
			return { line, subject, value: subject === 'sites' ? siteFromRow(row) : hopFromRow(row) };
		} catch {
			return {
				line,
				subject,
				value: { name: row.name },
				problem: { column: 'plan', message: 'A cell that must hold JSON does not.' }
			};
		}
	});
}

const isObject = (value: unknown): value is Record<string, unknown> =>
	typeof value === 'object' && value !== null && !Array.isArray(value);

function readJson(subject: Subject, text: string): Candidate[] {
	const document: unknown = JSON.parse(text);
	if (!isObject(document) || document.format !== 'skiaxis-plan') {
		throw invalid([{ field: 'text', message: 'The document must say "format": "skiaxis-plan".' }]);
	}
	const part = (of: Subject): Candidate[] =>
		(Array.isArray(document[of]) ? (document[of] as unknown[]) : []).map((value, i) => ({
			line: i + 1,
			subject: of,
			value: isObject(value) ? value : {}
		}));
	// Hops bring the sites they stand on.
	return subject === 'sites' ? part('sites') : [...part('sites'), ...part('hops')];
}

function readGeoJson(subject: Subject, text: string): Candidate[] {
	const document: unknown = JSON.parse(text);
	if (!isObject(document) || !Array.isArray(document.features)) throw new Error('no features');
	return (document.features as unknown[]).map((feature, i) => {
		const line = i + 1;
		const properties = isObject(feature) && isObject(feature.properties) ? feature.properties : {};
		const geometry = isObject(feature) && isObject(feature.geometry) ? feature.geometry : {};
		if (subject === 'hops') return { line, subject, value: properties };
		const [longitudeDeg, latitudeDeg] = Array.isArray(geometry.coordinates)
			? (geometry.coordinates as unknown[])
			: [];
		if (geometry.type !== 'Point') {
			return {
				line,
				subject,
				value: properties,
				problem: { column: 'geometry', message: 'A site must be a Point.' }
			};
		}
		return { line, subject, value: { ...properties, latitudeDeg, longitudeDeg } };
	});
}

function problemOf(subject: Subject, { field, message }: FieldError): RowProblem {
	const names: Record<string, string> = { siteA: 'site_a', siteB: 'site_b' };
	return { column: subject === 'sites' ? siteColumnOf(field) : (names[field] ?? field), message };
}

function siteInput(value: Record<string, unknown>): SiteContent {
	return validate<SiteContent>(siteSchema, value);
}

function hopInput(value: Record<string, unknown>): PlannedHop {
	const { siteA, siteB, ...rest } = value;
	const text = (site: unknown): string => (typeof site === 'string' ? site.trim() : '');
	// The ids stand in for the names, which are looked up beside.
	const stand = '00000000-0000-4000-8000-00000000000';
	const { name, practice, plan } = validate<PlannedHop>(hopSchema, {
		...rest,
		siteAId: `${stand}1`,
		siteBId: `${stand}2`
	});
	return { name, siteA: text(siteA), siteB: text(siteB), practice, plan };
}
