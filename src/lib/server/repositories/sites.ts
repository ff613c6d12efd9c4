import { UNSAID_CLIMATE, type ClimateChoice } from '#core/budget/climate';
import { UNKNOWN_CONDITIONS } from '#core/budget/planDefaults';
import type { SiteConditions } from '#core/budget/planInput';
import type { PerEnd } from '#core/ends';
import { itemAt, partsOf } from '#core/units/lists';
import { countRows, select } from '../db/sql';
import { attachments, hops, sites, type SiteRow } from '../db/tables';
import type { Unit } from '../db/transaction';
import { soughtWords } from '../nameWords';
import { COUNTED, type Found, type Slice } from './lists';
import { addSiteWords, hasWords, planSearch, renewSiteWords } from './words';

/** A site as it stands. */
export interface Site {
	id: string;
	name: string;
	latitudeDeg: number;
	longitudeDeg: number;
	groundAmslM: number;
	notes: string;
	climate: ClimateChoice;
	conditions: SiteConditions;
	version: number;
}

/** What is said of a site, without what the table keeps of it. */
export type SiteContent = Omit<Site, 'id' | 'version'>;

type StoredSite = Omit<SiteRow, 'createdBy' | 'createdAt' | 'updatedAt'>;

const OF_SITE = [
	'id',
	'name',
	'latitudeDeg',
	'longitudeDeg',
	'groundAmslM',
	'notes',
	'climate',
	'conditions',
	'version'
] as const;

/** Climate and conditions as they are stored; sites older than these columns have said nothing. */
export function siteValuesOf({ climate, conditions }: Pick<SiteRow, 'climate' | 'conditions'>): {
	climate: ClimateChoice;
	conditions: SiteConditions;
} {
	return {
		climate: climate ? (JSON.parse(climate) as ClimateChoice) : UNSAID_CLIMATE,
		conditions: {
			...UNKNOWN_CONDITIONS,
			...(conditions ? (JSON.parse(conditions) as Partial<SiteConditions>) : {})
		}
	};
}

const siteOf = (row: StoredSite): Site => ({ ...row, ...siteValuesOf(row) });

/** Six decimals, a decimetre: what the table keeps, so that equal positions are found equal. */
const rounded = (deg: number): number => Math.round(deg * 1e6) / 1e6;

function columnsOf({
	climate,
	conditions,
	...site
}: SiteContent): Omit<SiteRow, 'id' | 'version' | 'createdBy' | 'createdAt' | 'updatedAt'> {
	return {
		name: site.name,
		latitudeDeg: rounded(site.latitudeDeg),
		longitudeDeg: rounded(site.longitudeDeg),
		groundAmslM: site.groundAmslM,
		notes: site.notes,
		climate: JSON.stringify(climate),
		conditions: JSON.stringify(conditions)
	};
}

/**
 * One page of sites by name; with words, those with each of them in their name. No more are counted than
 * a person turns the pages of.
 */
export async function pageOfSites(typed: string, slice: Slice): Promise<Found<Site>> {
	const from = typed
		? await foundByWords(typed)
		: { sql: 'FROM sites t FORCE INDEX (uq_sites_name) WHERE TRUE', values: [] };
	if (!from) return { rows: [], count: 0 };
	const count = await countRows(`FROM (SELECT 1 ${from.sql} LIMIT ?) x`, [
		...from.values,
		COUNTED + 1
	]);
	const { limit, offset, after } = slice;
	// The page is found over the index of names alone; only its rows are read.
	const rows = await select<StoredSite>(
		`SELECT s.id, s.name, s.latitude_deg AS latitudeDeg, s.longitude_deg AS longitudeDeg,
			s.ground_amsl_m AS groundAmslM, s.notes, s.climate, s.conditions, s.version
		FROM (
			SELECT t.id ${from.sql}${after ? ' AND t.name > ?' : ''} ORDER BY t.name LIMIT ? OFFSET ?
		) p
		JOIN sites s ON s.id = p.id ORDER BY s.name`,
		[...from.values, ...(after ? [after] : []), limit + 1, after ? 0 : offset]
	);
	return {
		count: Math.min(count, COUNTED),
		more: count > COUNTED,
		rows: rows.slice(0, limit).map(siteOf),
		next: rows.length > limit ? itemAt(rows, limit - 1).name : null
	};
}

/** What goes on from `SELECT` something of `sites t`; undefined where nothing typed could be part of a name. */
async function foundByWords(
	typed: string
): Promise<{ sql: string; values: unknown[] } | undefined> {
	const words = soughtWords(typed);
	if (words.length === 0) return undefined;
	const { common, patterns } = await planSearch('site', words);
	if (common) {
		const sql = `FROM sites t FORCE INDEX (uq_sites_name) WHERE ${hasWords('site', 't', patterns)}`;
		return { sql, values: patterns };
	}
	const [, ...others] = patterns;
	const sql = `FROM (SELECT DISTINCT site_id FROM site_words WHERE word LIKE ?) f
		JOIN sites t ON t.id = f.site_id WHERE ${hasWords('site', 't', others) || 'TRUE'}`;
	return { sql, values: patterns };
}

/** Every site by name: for an export. */
export async function allSites(): Promise<Site[]> {
	return (await sites.some(OF_SITE, {}, { order: [['name', 'ASC']] })).map(siteOf);
}

export async function findSite(id: string, unit?: Unit): Promise<Site | undefined> {
	const [row] = await sites.some(OF_SITE, { id }, unit ? { unit } : {});
	return row && siteOf(row);
}

/** Both sites of some hops, by the id of the hop, in two statements. */
export async function sitesOfHops(hopIds: readonly string[]): Promise<Map<string, PerEnd<Site>>> {
	if (hopIds.length === 0) return new Map();
	const rows = await hops.some(['id', 'siteAId', 'siteBId'], { id: hopIds });
	const ids = [...new Set(rows.flatMap(({ siteAId, siteBId }) => [siteAId, siteBId]))];
	const found = await sites.some(OF_SITE, { id: ids });
	const byId = new Map(found.map((row) => [row.id, siteOf(row)]));
	return new Map(
		rows.flatMap(({ id, siteAId, siteBId }) => {
			const A = byId.get(siteAId);
			const B = byId.get(siteBId);
			return A && B ? [[id, { A, B }] as const] : [];
		})
	);
}

/** Which of these sites there are. */
export async function knownSiteIds(ids: readonly string[]): Promise<Set<string>> {
	return new Set((await sites.some(['id'], { id: ids })).map((row) => row.id));
}

/** Throws TakenError where a name or a position is another site's. */
export async function insertSites(
	added: readonly { id: string; content: SiteContent }[],
	by: string,
	at: Date,
	unit: Unit
): Promise<void> {
	await sites.add(
		added.map(({ id, content }) => ({
			...{ id, ...columnsOf(content), version: 1 },
			...{ createdBy: by, createdAt: at, updatedAt: at }
		})),
		unit
	);
	await addSiteWords(
		added.map(({ id, content }) => ({ id, name: content.name })),
		unit
	);
}

/** Whether the site still had that version and is changed now. Throws TakenError as above. */
export async function updateSite(
	id: string,
	version: number,
	content: SiteContent,
	at: Date,
	unit: Unit
): Promise<boolean> {
	const values = { ...columnsOf(content), version: version + 1, updatedAt: at };
	const changed = (await sites.change({ id, version }, values, unit)) > 0;
	if (changed) await renewSiteWords(id, content.name, unit);
	return changed;
}

/** How many hops stand at a site, with either end, and how many hubs. */
export const countStandingAt = async (id: string): Promise<{ hops: number; hubs: number }> => ({
	hops: await countRows('FROM hops WHERE site_a_id = :id OR site_b_id = :id', { id }),
	hubs: await countRows('FROM hubs WHERE site_id = :id', { id })
});

/** Removes a site with its attachments. Throws InUseError where a hop or hub stands at it. */
export async function removeSite(id: string, unit: Unit): Promise<void> {
	await attachments.remove({ siteId: id }, unit);
	await sites.remove({ id }, unit);
}

/** Names or places looked for in one statement. */
const SOUGHT_AT_ONCE = 500;

/** Ids of those sites that are there, by name in small letters. */
export async function siteIdsByName(
	names: readonly string[],
	unit?: Unit
): Promise<Map<string, string>> {
	const found = new Map<string, string>();
	for (const part of partsOf([...new Set(names)], SOUGHT_AT_ONCE)) {
		const rows = await sites.some(['id', 'name'], { name: part }, unit ? { unit } : {});
		for (const { id, name } of rows) found.set(name.toLowerCase(), id);
	}
	return found;
}

/** Those of the places where a site stands, each as {@link placeOf} writes it. */
export async function takenPlaces(
	places: readonly Pick<Site, 'latitudeDeg' | 'longitudeDeg'>[]
): Promise<Set<string>> {
	const found = new Set<string>();
	for (const part of partsOf(places, SOUGHT_AT_ONCE)) {
		const rows = await select<Pick<Site, 'latitudeDeg' | 'longitudeDeg'>>(
			`SELECT latitude_deg AS latitudeDeg, longitude_deg AS longitudeDeg FROM sites
			WHERE (latitude_deg, longitude_deg) IN (?)`,
			[part.map((at) => [rounded(at.latitudeDeg), rounded(at.longitudeDeg)])]
		);
		for (const row of rows) found.add(placeOf(row));
	}
	return found;
}

/** A position with six decimals, as the table keeps it: `latitude longitude`. */
export const placeOf = (at: { latitudeDeg: number; longitudeDeg: number }): string =>
	`${at.latitudeDeg.toFixed(6)} ${at.longitudeDeg.toFixed(6)}`;
