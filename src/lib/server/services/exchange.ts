import Papa from 'papaparse';
import { requireMay, viewerOf, type Actor } from '../auth/actor';
import { inTransaction } from '../db/transaction';
import { AppError, invalid, type FieldError } from '../errors';
import { sitesFromGpx, toGpx } from '../formats/gpx';
import { hopFromRow, hopRow, NEEDED_HOP_COLUMNS, type OpenHop } from '../formats/hopTable';
import { NEEDED_SITE_COLUMNS, siteColumnOf, siteFromRow, siteRow } from '../formats/siteTable';
import type { PlanDraftValues } from '../../plan/resolve';
import { hopSchema, planDraftSchema, siteSchema } from '../schemas/inputs';
import { validate } from '../schemas/joi';
import { allHops, hopNames } from '../repositories/hops';
import {
	allSites,
	placeOf,
	siteIdsByName,
	sitePlaces,
	type SiteContent
} from '../repositories/sites';
import { insertHop, type HopInput } from './hops';
import { insertSite, type SiteInput } from './sites';
import { present } from '#core/units/lists';

export const FORMATS = ['csv', 'geojson', 'gpx', 'json'] as const;
export type Format = (typeof FORMATS)[number];
export type Subject = 'sites' | 'hops';

/** More rows than this in one file are to be split. */
export const MOST_ROWS = 5000;

/** What a spreadsheet would run: a cell that begins like this and is no number is exported as text. */
const FORMULA = /^'*([=@\t\r]|[+-](?!\d+(\.\d+)?$))/;
/** The mark of such a text is taken off again, so that what was exported comes back as it was. */
const unmarked = (cell: string): string =>
	cell.startsWith("'") && FORMULA.test(cell.slice(1)) ? cell.slice(1) : cell;

const MEDIA_TYPE: Record<Format, string> = {
	csv: 'text/csv; charset=utf-8',
	geojson: 'application/geo+json',
	gpx: 'application/gpx+xml',
	json: 'application/json'
};

async function exportedSites(): Promise<SiteContent[]> {
	return (await allSites()).map(
		({ name, latitudeDeg, longitudeDeg, groundAmslM, notes, climate, conditions }) => ({
			name,
			latitudeDeg,
			longitudeDeg,
			groundAmslM,
			notes,
			climate,
			conditions
		})
	);
}

async function visibleHops(actor: Actor): Promise<OpenHop[]> {
	const hops = await allHops(viewerOf(actor));
	return hops.map(({ name, siteA, siteB, simulationSeed, planDraft }) => ({
		name,
		siteA,
		siteB,
		practice: simulationSeed !== null,
		plan: validate<PlanDraftValues>(planDraftSchema, JSON.parse(planDraft))
	}));
}

/** Sites or hops in an open format. Hops come with the sites they stand on where the format holds both. */
export async function exportAs(
	actor: Actor,
	subject: Subject,
	format: Format
): Promise<{ content: string; mediaType: string; fileName: string }> {
	requireMay(actor, 'read-hops');
	const sites = await exportedSites();
	const hops = subject === 'hops' ? await visibleHops(actor) : [];
	const named = new Set(hops.flatMap((hop) => [hop.siteA, hop.siteB]));
	const own = subject === 'hops' ? sites.filter((site) => named.has(site.name)) : sites;
	return {
		content: written(subject, format, own, hops),
		mediaType: MEDIA_TYPE[format],
		fileName: `${subject}.${format}`
	};
}

function written(
	subject: Subject,
	format: Format,
	sites: readonly SiteContent[],
	hops: readonly OpenHop[]
): string {
	if (format === 'gpx') return toGpx(sites, hops);
	if (format === 'json') {
		const document = {
			format: 'skiaxis-plan',
			version: 1,
			sites,
			...(subject === 'hops' ? { hops } : {})
		};
		return `${JSON.stringify(document, null, '\t')}\n`;
	}
	if (format === 'csv') {
		const rows = subject === 'sites' ? sites.map(siteRow) : hops.map(hopRow);
		return `${Papa.unparse(rows, { newline: '\n', escapeFormulae: FORMULA })}\n`;
	}
	const place = new Map(sites.map((site) => [site.name, site]));
	const features =
		subject === 'sites'
			? sites.map(({ latitudeDeg, longitudeDeg, ...properties }) => ({
					type: 'Feature',
					geometry: { type: 'Point', coordinates: [longitudeDeg, latitudeDeg] },
					properties
				}))
			: hops.map((hop) => ({
					type: 'Feature',
					geometry: {
						type: 'LineString',
						coordinates: [hop.siteA, hop.siteB].map((name) => {
							const site = present(place.get(name), 'place of the site');
							return [site.longitudeDeg, site.latitudeDeg];
						})
					},
					properties: hop
				}));
	return `${JSON.stringify({ type: 'FeatureCollection', features }, null, '\t')}\n`;
}

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

export interface ImportAnswer {
	rows: ImportRow[];
	good: number;
	bad: number;
	/** How many were taken in; 0 on a mere look. */
	imported: number;
}

interface Candidate {
	line: number;
	subject: Subject;
	value: Record<string, unknown>;
	problem?: RowProblem;
}

/**
 * Reads a file of sites or hops. Nothing is taken in unless every row is good, or `takeGood` says to
 * take the good ones; each bad row names line, column and reason.
 */
export async function importFrom(
	actor: Actor,
	request: { subject: Subject; format: Format; text: string; commit: boolean; takeGood: boolean }
): Promise<ImportAnswer> {
	requireMay(actor, request.subject === 'sites' ? 'edit-sites' : 'edit-hops');
	const candidates = readFile(request.subject, request.format, request.text);
	if (candidates.length === 0) {
		throw invalid([{ field: 'text', message: `The file holds no ${request.subject}.` }]);
	}
	if (candidates.length > MOST_ROWS) {
		throw invalid([
			{
				field: 'text',
				message: `The file has ${candidates.length} rows; at most ${MOST_ROWS} are taken at once.`
			}
		]);
	}
	const checked = await checkAll(candidates);
	const good = checked.filter((row) => row.problems.length === 0);
	const answer: ImportAnswer = {
		rows: checked.map(({ line, subject, name, problems }) => ({ line, subject, name, problems })),
		good: good.length,
		bad: checked.length - good.length,
		imported: 0
	};
	if (!request.commit || good.length === 0 || (answer.bad > 0 && !request.takeGood)) return answer;
	await takeIn(actor, good);
	return { ...answer, imported: good.length };
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

interface CheckedRow extends ImportRow {
	/** A site of this name stands there: only a mistake where sites are what is imported. */
	known: boolean;
	input: SiteInput | (Omit<OpenHop, 'plan'> & { plan: PlanDraftValues }) | undefined;
}

async function checkAll(candidates: readonly Candidate[]): Promise<CheckedRow[]> {
	const [siteIds, takenNames, places] = await Promise.all([
		siteIdsByName(),
		hopNames(),
		sitePlaces()
	]);
	// Sites of the same file count as being there, also for the hops after them.
	const known = new Set(siteIds.keys());
	const rows: CheckedRow[] = [];
	for (const candidate of candidates) {
		const name = typeof candidate.value.name === 'string' ? candidate.value.name.trim() : '';
		const problems: RowProblem[] = candidate.problem ? [candidate.problem] : [];
		let input: CheckedRow['input'];
		let there = false;
		if (!candidate.problem) {
			try {
				input =
					candidate.subject === 'sites' ? siteInput(candidate.value) : hopInput(candidate.value);
			} catch (error) {
				if (!(error instanceof AppError)) throw error;
				problems.push(...error.fields.map((field) => problemOf(candidate.subject, field)));
			}
		}
		if (input && candidate.subject === 'sites') {
			const site = input as SiteInput;
			const key = placeOf(site);
			there = known.has(site.name.toLowerCase());
			if (there)
				problems.push({ column: 'name', message: `There is a site named ${site.name} already.` });
			else if (places.has(key))
				problems.push({
					column: 'latitude_deg',
					message: 'Another site stands at exactly this position.'
				});
			else {
				known.add(site.name.toLowerCase());
				places.add(key);
			}
		} else if (input) {
			const hop = input as OpenHop;
			if (takenNames.has(hop.name.toLowerCase()))
				problems.push({ column: 'name', message: `There is a hop named ${hop.name} already.` });
			for (const [column, site] of [
				['site_a', hop.siteA],
				['site_b', hop.siteB]
			] as const) {
				if (!known.has(site.toLowerCase()))
					problems.push({ column, message: `There is no site named ${site}.` });
			}
			if (hop.siteA === hop.siteB)
				problems.push({ column: 'site_b', message: 'Both ends are the same site.' });
			if (problems.length === 0) takenNames.add(hop.name.toLowerCase());
		}
		rows.push({
			line: candidate.line,
			subject: candidate.subject,
			name,
			problems,
			input,
			known: there
		});
	}
	// A hop file may bring sites that are there already: that is no mistake of the file.
	const hopsToo = candidates.some((candidate) => candidate.subject === 'hops');
	return hopsToo ? rows.filter((row) => !row.known) : rows;
}

function problemOf(subject: Subject, { field, message }: FieldError): RowProblem {
	const names: Record<string, string> = { siteA: 'site_a', siteB: 'site_b' };
	return { column: subject === 'sites' ? siteColumnOf(field) : (names[field] ?? field), message };
}

function siteInput(value: Record<string, unknown>): SiteInput {
	return validate<SiteInput>(siteSchema, value);
}

function hopInput(value: Record<string, unknown>): OpenHop {
	const { siteA, siteB, ...rest } = value;
	const text = (site: unknown): string => (typeof site === 'string' ? site.trim() : '');
	// The ids stand in for the names, which are looked up beside.
	const stand = '00000000-0000-4000-8000-00000000000';
	const { name, practice, plan } = validate<HopInput>(hopSchema, {
		...rest,
		siteAId: `${stand}1`,
		siteBId: `${stand}2`
	});
	return { name, siteA: text(siteA), siteB: text(siteB), practice, plan };
}

/** All rows or none, in one transaction. */
async function takeIn(actor: Actor, rows: readonly CheckedRow[]): Promise<void> {
	await inTransaction(async (unit) => {
		for (const row of rows) {
			if (row.subject === 'sites') await insertSite(actor, row.input as SiteInput, unit);
		}
		const ids = await siteIdsByName(unit);
		for (const row of rows) {
			if (row.subject !== 'hops') continue;
			const { siteA, siteB, name, practice, plan } = row.input as OpenHop;
			const siteAId = present(ids.get(siteA.toLowerCase()), 'site');
			const siteBId = present(ids.get(siteB.toLowerCase()), 'site');
			await insertHop(actor, { name, practice, plan, siteAId, siteBId }, unit);
		}
	});
}
