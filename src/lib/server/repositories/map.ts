import { countRows, select, selectOne } from '../db/sql';
import { seenBy, type Viewer } from './hops';

/** A box of the map, degrees. */
export interface MapView {
	west: number;
	south: number;
	east: number;
	north: number;
}

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

/** Sites of one cell of the map: where they are on the average, and how many. */
export interface SiteGroup {
	latitudeDeg: number;
	longitudeDeg: number;
	count: number;
}

const IN_BOX = 'latitude_deg BETWEEN ? AND ? AND longitude_deg BETWEEN ? AND ?';
const boxOf = (view: MapView): number[] => [view.south, view.north, view.west, view.east];

export function countSitesIn(view: MapView): Promise<number> {
	return countRows(`FROM sites WHERE ${IN_BOX}`, boxOf(view));
}

export function sitesIn(view: MapView, limit: number): Promise<MapSite[]> {
	return select(
		`SELECT id, name, latitude_deg AS latitudeDeg, longitude_deg AS longitudeDeg FROM sites
		WHERE ${IN_BOX} ORDER BY name LIMIT ?`,
		[...boxOf(view), limit]
	);
}

/** Sites in cells of so many degrees. */
export function siteGroupsIn(
	view: MapView,
	stepLatitudeDeg: number,
	stepLongitudeDeg: number
): Promise<SiteGroup[]> {
	return select(
		`SELECT AVG(latitude_deg) AS latitudeDeg, AVG(longitude_deg) AS longitudeDeg, COUNT(*) AS count
		FROM sites WHERE ${IN_BOX}
		GROUP BY FLOOR((latitude_deg - ?) / ?), FLOOR((longitude_deg - ?) / ?)`,
		[...boxOf(view), view.south, stepLatitudeDeg, view.west, stepLongitudeDeg]
	);
}

/** Hops that somebody sees with an end in the view. */
export async function hopsIn(viewer: Viewer, view: MapView, limit: number): Promise<MapHop[]> {
	const { join, values } = seenBy(viewer);
	const sites = await select<{ id: string }>(`SELECT id FROM sites WHERE ${IN_BOX}`, boxOf(view));
	if (sites.length === 0) return [];
	const ids = sites.map((site) => site.id);
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
	const row = await selectOne<Record<keyof MapView, number | null>>(
		`SELECT MIN(longitude_deg) AS west, MAX(longitude_deg) AS east,
			MIN(latitude_deg) AS south, MAX(latitude_deg) AS north FROM sites`
	);
	if (!row) return undefined;
	const { west, south, east, north } = row;
	return west === null || south === null || east === null || north === null
		? undefined
		: { west, south, east, north };
}
