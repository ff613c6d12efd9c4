import { requireMay, type Actor } from '../auth/actor';
import { inTransaction, type Unit } from '../db/transaction';
import type { ImportFile, ImportRow, PlannedHop, ReadRow } from '../formats/importFile';
import { inWorker } from '../jobs/pool';
import { takenHopNames } from '../repositories/hops';
import { placeOf, siteIdsByName, takenPlaces, type SiteContent } from '../repositories/sites';
import { insertHops } from './hops';
import type { JobKind } from './jobRunner';
import { startJob, type JobOf } from './jobs';
import { insertSites } from './sites';
import { present } from '#core/units/lists';

export interface ImportAnswer {
	rows: ImportRow[];
	good: number;
	bad: number;
	/** How many were taken in; 0 on a mere look. */
	imported: number;
}

/** What came of an import: of the rows only those that were not taken in, and at most {@link MOST_TOLD}. */
export type ImportResult = ImportAnswer;

export interface ImportRequest extends ImportFile {
	/** Take the good rows though there are bad ones. */
	takeGood: boolean;
}

const MOST_TOLD = 200;
/** Rows written in one go. */
const ROWS_AT_ONCE = 100;

interface CheckedFile {
	answer: ImportAnswer;
	good: ReadRow[];
	/** Whether it is to be taken in. */
	whole: boolean;
}

const requireMayImport = (actor: Actor, { subject }: ImportFile): void =>
	requireMay(actor, subject === 'sites' ? 'edit-sites' : 'edit-hops');

/**
 * Reads a file of sites or hops. Nothing is taken in unless every row is good, or `takeGood` says to
 * take the good ones; each bad row names line, column and reason.
 */
export async function importFrom(
	actor: Actor,
	request: ImportRequest & { commit: boolean }
): Promise<ImportAnswer> {
	requireMayImport(actor, request);
	const { answer, good, whole } = await look(request);
	if (!request.commit || !whole) return answer;
	await inTransaction((unit) => takeIn(actor, good, unit));
	return { ...answer, imported: good.length };
}

/** Begins to take in a file beside the requests. A repeat with the same id does nothing twice. */
export function startImport(
	actor: Actor,
	{ id, ...request }: ImportRequest & { id: string }
): Promise<JobOf<string, object>> {
	requireMayImport(actor, request);
	return startJob(actor, 'import', { id, input: request, total: 0 });
}

/** Stopped in the middle: what was written is taken back. */
class Stopped extends Error {}

/** Takes in a file: every row that is to be taken in, or none where it is stopped or broken off. */
export const importJob: JobKind<ImportRequest, object> = async ({
	actor,
	input,
	keep,
	endWith
}): Promise<ImportResult | undefined> => {
	requireMayImport(actor, input);
	const { answer, good, whole } = await look(input);
	const rows = answer.rows.filter((row) => row.problems.length > 0).slice(0, MOST_TOLD);
	const nothing = { ...answer, rows };
	if (!whole || !(await keep({ done: 0, total: good.length }))) return nothing;
	try {
		await endWith(async (unit) => {
			await takeIn(actor, good, unit, async (done) => {
				if (!(await keep({ done }))) throw new Stopped();
			});
			return { ...nothing, imported: good.length };
		});
		return undefined;
	} catch (error) {
		if (!(error instanceof Stopped)) throw error;
		return nothing;
	}
};

async function look(request: ImportRequest): Promise<CheckedFile> {
	const { subject, format, text, takeGood } = request;
	const rows = await againstWhatIsThere(await inWorker('read-import', { subject, format, text }));
	const good = rows.filter((row) => row.problems.length === 0);
	const answer = {
		rows: rows.map(({ line, subject: of, name, problems }) => ({
			line,
			subject: of,
			name,
			problems
		})),
		good: good.length,
		bad: rows.length - good.length,
		imported: 0
	};
	return { answer, good, whole: good.length > 0 && (answer.bad === 0 || takeGood) };
}

/** The rows with what stands against them here and in the rows before them. */
async function againstWhatIsThere(rows: readonly ReadRow[]): Promise<ReadRow[]> {
	const sites = rows.flatMap(({ subject, input }) => (subject === 'sites' && input ? [input] : []));
	const hops = rows.flatMap(({ subject, input }) => (subject === 'hops' && input ? [input] : []));
	const siteNames = [
		...sites.map(({ name }) => name),
		...hops.flatMap(({ siteA, siteB }) => [siteA, siteB])
	];
	const [siteIds, takenNames, places] = await Promise.all([
		siteIdsByName(siteNames),
		takenHopNames(hops.map(({ name }) => name)),
		takenPlaces(sites)
	]);
	// Sites of the same file count as being there, also for the hops after them.
	const known = new Set(siteIds.keys());
	// A hop file may bring sites that are there already: that is no mistake of the file.
	const hopsToo = rows.some(({ subject }) => subject === 'hops');
	return rows.flatMap((row) => {
		if (!row.input) return [row];
		if (row.subject === 'sites') {
			const isThere = known.has(row.input.name.toLowerCase());
			if (isThere && hopsToo) return [];
			const problem = isThere
				? { column: 'name', message: `There is a site named ${row.input.name} already.` }
				: places.has(placeOf(row.input))
					? { column: 'latitude_deg', message: 'Another site stands at exactly this position.' }
					: undefined;
			if (problem) return [{ ...row, problems: [problem] }];
			known.add(row.input.name.toLowerCase());
			places.add(placeOf(row.input));
			return [row];
		}
		const problems = problemsOfHop(row.input, known, takenNames);
		if (problems.length === 0) takenNames.add(row.input.name.toLowerCase());
		return [{ ...row, problems }];
	});
}

function problemsOfHop(
	{ name, siteA, siteB }: PlannedHop,
	sites: ReadonlySet<string>,
	hops: ReadonlySet<string>
): ImportRow['problems'] {
	const missing = (
		[
			['site_a', siteA],
			['site_b', siteB]
		] as const
	).filter(([, site]) => !sites.has(site.toLowerCase()));
	return [
		...(hops.has(name.toLowerCase())
			? [{ column: 'name', message: `There is a hop named ${name} already.` }]
			: []),
		...missing.map(([column, site]) => ({ column, message: `There is no site named ${site}.` })),
		...(siteA === siteB ? [{ column: 'site_b', message: 'Both ends are the same site.' }] : [])
	];
}

/** Rows in one unit, some at a time; `said` is told how many are written. */
async function takeIn(
	actor: Actor,
	rows: readonly ReadRow[],
	unit: Unit,
	said: (done: number) => Promise<void> = () => Promise.resolve()
): Promise<void> {
	const sites = rows.flatMap(({ subject, input }) => (subject === 'sites' && input ? [input] : []));
	const hops = rows.flatMap(({ subject, input }) => (subject === 'hops' && input ? [input] : []));
	await inParts<SiteContent>(sites, async (part, done) => {
		await insertSites(actor, part, unit);
		await said(done);
	});
	await inParts<PlannedHop>(hops, async (part, done) => {
		const ids = await siteIdsByName(
			part.flatMap(({ siteA, siteB }) => [siteA, siteB]),
			unit
		);
		const idOf = (site: string): string => present(ids.get(site.toLowerCase()), 'site');
		const inputs = part.map(({ siteA, siteB, ...hop }) => ({
			...hop,
			siteAId: idOf(siteA),
			siteBId: idOf(siteB)
		}));
		await insertHops(actor, inputs, unit);
		await said(sites.length + done);
	});
}

async function inParts<T>(
	all: readonly T[],
	work: (part: readonly T[], done: number) => Promise<void>
): Promise<void> {
	for (let at = 0; at < all.length; at += ROWS_AT_ONCE) {
		const part = all.slice(at, at + ROWS_AT_ONCE);
		await work(part, at + part.length);
	}
}
