import { select, selectOne } from '../db/sql';
import { boxOf, type MapView } from './box';
import { seenBy, type Viewer } from './hops';

export interface MapSite {
	id: string;
	name: string;
	latitudeDeg: number;
	longitudeDeg: number;
}

export interface MapHop {
	id: string;
	name: string;
	signed: boolean;
	from: [number, number];
	to: [number, number];
}

/** A hub at its site. */
export interface MapHub {
	id: string;
	name: string;
	latitudeDeg: number;
	longitudeDeg: number;
	terminals: number;
}

/** Sites of one cell of the map: where they are on the average, and how many. */
export interface SiteGroup {
	latitudeDeg: number;
	longitudeDeg: number;
	count: number;
}

/** The index on places finds what is near the box, the figures themselves what is in it. */
const IN_BOX = `MBRIntersects(ST_GeomFromText(?), place)
	AND latitude_deg BETWEEN ? AND ? AND longitude_deg BETWEEN ? AND ?`;

/** Sites in the view, as many as the limit at most, in no order. */
export function sitesIn(view: MapView, limit: number): Promise<MapSite[]> {
	return select(
		`SELECT id, name, latitude_deg AS latitudeDeg, longitude_deg AS longitudeDeg
		FROM sites FORCE INDEX (ix_sites_place) WHERE ${IN_BOX} LIMIT ?`,
		[...boxOf(view), limit]
	);
}

/** Sizes of the cells in which the database counts sites as they come and go, degrees. */
const CELL_SIZES_DEG = [4, 1, 0.25, 0.0625] as const;
const FINEST_CELL_DEG = Math.min(...CELL_SIZES_DEG);

/** Whether groups of a view come from counted cells, and cost the same however many sites there are. */
export const areCounted = (view: MapView, cells: number): boolean =>
	Math.min(view.north - view.south, view.east - view.west) / cells >= FINEST_CELL_DEG;

/**
 * Sites of a view in groups, one for each of so many columns and rows of it. Where the view is wide enough
 * they are made of counted cells, so that what lies at its edge counts in or out with its cell.
 */
export function siteGroupsIn(view: MapView, cells: number): Promise<SiteGroup[]> {
	const steps = [view.north - view.south, view.east - view.west].map((side) =>
		Math.max(LEAST_STEP_DEG, side / cells)
	);
	const [stepLatitudeDeg, stepLongitudeDeg] = steps as [number, number];
	const groupOf = [view.south, stepLatitudeDeg, view.west, stepLongitudeDeg];
	if (!areCounted(view, cells)) {
		return select(
			`SELECT AVG(latitude_deg) AS latitudeDeg, AVG(longitude_deg) AS longitudeDeg, COUNT(*) AS count
			FROM sites FORCE INDEX (ix_sites_place) WHERE ${IN_BOX}
			GROUP BY FLOOR((latitude_deg - ?) / ?), FLOOR((longitude_deg - ?) / ?)`,
			[...boxOf(view), ...groupOf]
		);
	}
	const least = Math.min(stepLatitudeDeg, stepLongitudeDeg);
	const size = CELL_SIZES_DEG.find((deg) => deg <= least) ?? FINEST_CELL_DEG;
	const { south, north, west, east } = view;
	return select(
		`SELECT SUM(latitude_sum) / SUM(site_count) AS latitudeDeg,
			SUM(longitude_sum) / SUM(site_count) AS longitudeDeg, SUM(site_count) AS count
		FROM site_cells
		WHERE size_deg = ? AND row_at BETWEEN ? AND ? AND column_at BETWEEN ? AND ?
			AND site_count > 0
			AND latitude_sum / site_count BETWEEN ? AND ? AND longitude_sum / site_count BETWEEN ? AND ?
		GROUP BY FLOOR((latitude_sum / site_count - ?) / ?), FLOOR((longitude_sum / site_count - ?) / ?)`,
		[
			...[size, Math.floor(south / size), Math.floor(north / size)],
			...[Math.floor(west / size), Math.floor(east / size), south, north, west, east],
			...groupOf
		]
	);
}

/** A view without height or width still has cells. */
const LEAST_STEP_DEG = 1e-6;

/** Hubs at one of the sites, by name. */
export function hubsAt(ids: readonly string[], limit: number): Promise<MapHub[]> {
	if (ids.length === 0) return Promise.resolve([]);
	return select(
		`SELECT h.id, h.name, s.latitude_deg AS latitudeDeg, s.longitude_deg AS longitudeDeg,
			h.terminal_count AS terminals
		FROM hubs h JOIN sites s ON s.id = h.site_id WHERE h.site_id IN (?) ORDER BY h.name LIMIT ?`,
		[ids, limit]
	);
}

/** Hops that somebody sees with an end at one of the sites. */
export async function hopsAt(
	viewer: Viewer,
	ids: readonly string[],
	limit: number
): Promise<MapHop[]> {
	if (ids.length === 0) return [];
	const { join, values } = seenBy(viewer);
	const rows = await select<{
		id: string;
		name: string;
		latA: number;
		lonA: number;
		latB: number;
		lonB: number;
		signed: number;
	}>(
		`SELECT h.id, h.name, a.latitude_deg AS latA, a.longitude_deg AS lonA,
			b.latitude_deg AS latB, b.longitude_deg AS lonB,
			EXISTS (SELECT 1 FROM acceptances x WHERE x.hop_id = h.id) AS signed
		FROM (
			SELECT id FROM hops WHERE site_a_id IN (?)
			UNION SELECT id FROM hops WHERE site_b_id IN (?)
		) f JOIN hops h ON h.id = f.id ${join}
		JOIN sites a ON a.id = h.site_a_id JOIN sites b ON b.id = h.site_b_id LIMIT ?`,
		[ids, ids, ...values, limit]
	);
	return rows.map(({ id, name, signed, latA, lonA, latB, lonB }) => ({
		id,
		name,
		signed: Boolean(signed),
		from: [lonA, latA],
		to: [lonB, latB]
	}));
}

/** The view that holds every site, or undefined while there is none. */
export async function extentOfSites(): Promise<MapView | undefined> {
	// Each by itself is the first or last of an index.
	const row = await selectOne<Record<keyof MapView, number | null>>(
		`SELECT (SELECT MIN(longitude_deg) FROM sites) AS west,
			(SELECT MAX(longitude_deg) FROM sites) AS east,
			(SELECT MIN(latitude_deg) FROM sites) AS south,
			(SELECT MAX(latitude_deg) FROM sites) AS north`
	);
	if (!row) return undefined;
	const { west, south, east, north } = row;
	return west === null || south === null || east === null || north === null
		? undefined
		: { west, south, east, north };
}
