import type { SiteContent } from '../repositories/sites';
import { flatten, unflatten, type Flat } from './dotted';

/** Columns of the site table and the fields they hold, in order. */
export const SITE_COLUMNS: readonly (readonly [string, string])[] = [
	['name', 'name'],
	['latitude_deg', 'latitudeDeg'],
	['longitude_deg', 'longitudeDeg'],
	['ground_amsl_m', 'groundAmslM'],
	['notes', 'notes'],
	['broad_climate', 'climate.broad'],
	['rain_rate_001_mm_h', 'climate.rainRate001MmH'],
	['gradient_dn1', 'climate.gradientDn1'],
	['low_k', 'climate.lowK'],
	['climate_source', 'climate.source'],
	['pipe_diameter_mm', 'conditions.pipeDiameterMm'],
	['mast_height_m', 'conditions.mastHeightM'],
	['pipe_lean_deg', 'conditions.pipeLeanDeg'],
	['earth_point', 'conditions.earthPoint'],
	['supply_v', 'conditions.supplyV'],
	['indoor_place', 'conditions.indoorPlace'],
	['access', 'conditions.access'],
	['hazards', 'conditions.hazards'],
	['grid_central_meridian_deg', 'conditions.gridCentralMeridianDeg']
];

/** Columns without which a row is no site. */
export const NEEDED_SITE_COLUMNS = ['name', 'latitude_deg', 'longitude_deg', 'ground_amsl_m'];

const NULLABLE = [
	'climate.rainRate001MmH',
	'climate.gradientDn1',
	'climate.lowK',
	'conditions.pipeDiameterMm',
	'conditions.mastHeightM',
	'conditions.pipeLeanDeg',
	'conditions.supplyV',
	'conditions.gridCentralMeridianDeg'
];
const FIELD_OF = new Map(SITE_COLUMNS);
const COLUMN_OF = new Map(SITE_COLUMNS.map(([column, field]) => [field, column]));

/** One site as a row of the table. */
export function siteRow(site: SiteContent): Flat {
	const flat = flatten(site, []);
	return Object.fromEntries(SITE_COLUMNS.map(([column, field]) => [column, flat[field] ?? '']));
}

/** A row of the table as the input of a site, unchecked; unknown columns are left out. */
export function siteFromRow(row: Readonly<Flat>): Record<string, unknown> {
	const flat: Flat = {};
	for (const [column, text] of Object.entries(row)) {
		const field = FIELD_OF.get(column);
		// A broad climate left empty takes the default.
		if (field && !(field === 'climate.broad' && text === '')) flat[field] = text;
	}
	return unflatten(flat, [], NULLABLE);
}

/** The column that holds a field, for messages about a row. */
export function siteColumnOf(field: string): string {
	return COLUMN_OF.get(field) ?? field;
}
