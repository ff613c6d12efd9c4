import { UNSAID_CLIMATE, type ClimateChoice } from '#core/budget/climate';
import { UNKNOWN_CONDITIONS } from '#core/budget/planDefaults';
import type { SiteConditions } from '#core/budget/planInput';
import { countRows, likePattern, select } from '../db/sql';
import { sites, type SiteRow } from '../db/tables';
import type { Unit } from '../db/transaction';

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
		conditions: conditions ? (JSON.parse(conditions) as SiteConditions) : UNKNOWN_CONDITIONS
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

/** One page of sites by name; with words, those named so. */
export async function pageOfSites(
	words: string,
	limit: number,
	offset: number
): Promise<{ rows: Site[]; count: number }> {
	const where = words ? 'WHERE name LIKE ?' : '';
	const values = words ? [likePattern(words)] : [];
	// The page is found over the index of names alone; only its rows are read.
	const rows = await select<StoredSite>(
		`SELECT s.id, s.name, s.latitude_deg AS latitudeDeg, s.longitude_deg AS longitudeDeg,
			s.ground_amsl_m AS groundAmslM, s.notes, s.climate, s.conditions, s.version
		FROM (SELECT id FROM sites ${where} ORDER BY name LIMIT ? OFFSET ?) p
		JOIN sites s ON s.id = p.id ORDER BY s.name`,
		[...values, limit, offset]
	);
	return { rows: rows.map(siteOf), count: await countRows(`FROM sites ${where}`, values) };
}

/** Every site by name: for an export. */
export async function allSites(): Promise<Site[]> {
	return (await sites.some(OF_SITE, {}, { order: [['name', 'ASC']] })).map(siteOf);
}

export async function findSite(id: string, unit?: Unit): Promise<Site | undefined> {
	const [row] = await sites.some(OF_SITE, { id }, unit ? { unit } : {});
	return row && siteOf(row);
}

/** Which of these sites there are. */
export async function knownSiteIds(ids: readonly string[]): Promise<Set<string>> {
	return new Set((await sites.some(['id'], { id: ids })).map((row) => row.id));
}

/** Throws TakenError where the name or the position is another site's. */
export function insertSite(
	site: { id: string; content: SiteContent; by: string; at: Date },
	unit: Unit
): Promise<void> {
	const { id, content, by, at } = site;
	return sites.add(
		{ id, ...columnsOf(content), version: 1, createdBy: by, createdAt: at, updatedAt: at },
		unit
	);
}

/** Whether the site still had that version and is changed now. Throws TakenError as above. */
export async function updateSite(
	id: string,
	version: number,
	content: SiteContent,
	at: Date
): Promise<boolean> {
	const values = { ...columnsOf(content), version: version + 1, updatedAt: at };
	return (await sites.change({ id, version }, values)) > 0;
}

/** Id of every site by its name in small letters. */
export async function siteIdsByName(unit?: Unit): Promise<Map<string, string>> {
	const rows = await select<{ id: string; name: string }>(
		'SELECT id, LOWER(name) AS name FROM sites',
		[],
		unit
	);
	return new Map(rows.map(({ id, name }) => [name, id]));
}

/** Where sites stand: `latitude longitude` with six decimals. */
export async function sitePlaces(): Promise<Set<string>> {
	const rows = await sites.some(['latitudeDeg', 'longitudeDeg'], {});
	return new Set(rows.map(placeOf));
}

/** A position as {@link sitePlaces} writes it. */
export const placeOf = (at: { latitudeDeg: number; longitudeDeg: number }): string =>
	`${at.latitudeDeg.toFixed(6)} ${at.longitudeDeg.toFixed(6)}`;
