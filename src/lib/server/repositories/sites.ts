import { UNSAID_CLIMATE, type ClimateChoice } from '#core/budget/climate';
import { UNKNOWN_CONDITIONS } from '#core/budget/planDefaults';
import type { SiteConditions } from '#core/budget/planInput';
import { countRows, likePattern, select } from '../db/sql';
import { sites, type SiteRow } from '../db/tables';
import type { Unit } from '../db/transaction';
import { partsOf } from '#core/units/lists';

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

/** Throws TakenError where a name or a position is another site's. */
export function insertSites(
	added: readonly { id: string; content: SiteContent }[],
	by: string,
	at: Date,
	unit: Unit
): Promise<void> {
	return sites.add(
		added.map(({ id, content }) => ({
			...{ id, ...columnsOf(content), version: 1 },
			...{ createdBy: by, createdAt: at, updatedAt: at }
		})),
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
