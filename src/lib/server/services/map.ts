import { QueryTypes } from 'sequelize';
import { requireMay, type Actor } from '../auth/actor';
import { db } from '../db/connection';
import { visibleTo } from './hops';

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

export interface MapContent {
	sites: MapSite[];
	/** Counts by cell, where there are too many sites to draw each. */
	groups: { latitudeDeg: number; longitudeDeg: number; count: number }[];
	hops: MapHop[];
	/** How many hops have an end in the view; null where there are too many to count at once. */
	hopCount: number | null;
	siteCount: number;
}

/** More than this are drawn as groups. */
const MOST_SITES = 800;
const MOST_HOPS = 1500;
/** Hops are looked for while no more sites than this are in view. */
const MOST_SITES_WITH_HOPS = 3000;
const GROUP_CELLS = 14;

/** What lies in a view: sites one by one or in groups, hops while there are few enough to see. */
export async function mapContent(actor: Actor, view: MapView): Promise<MapContent> {
	requireMay(actor, 'read-hops');
	const box = [view.south, view.north, view.west, view.east];
	const inBox = 'latitude_deg BETWEEN ? AND ? AND longitude_deg BETWEEN ? AND ?';
	const [total] = await db().query<{ count: number }>(
		`SELECT COUNT(*) AS count FROM sites WHERE ${inBox}`,
		{ replacements: box, type: QueryTypes.SELECT }
	);
	const siteCount = Number(total?.count ?? 0);
	const hopRows = siteCount > MOST_SITES_WITH_HOPS ? null : await hopsIn(actor, view);
	const content = {
		hops: !hopRows || hopRows.length > MOST_HOPS ? [] : hopRows,
		hopCount: hopRows && hopRows.length <= MOST_HOPS ? hopRows.length : null,
		siteCount
	};
	if (siteCount <= MOST_SITES) {
		const rows = await db().query<MapSite>(
			`SELECT id, name, latitude_deg AS latitudeDeg, longitude_deg AS longitudeDeg FROM sites
			WHERE ${inBox} ORDER BY name LIMIT ?`,
			{ replacements: [...box, MOST_SITES], type: QueryTypes.SELECT }
		);
		const sites = rows.map((row) => ({
			...row,
			latitudeDeg: Number(row.latitudeDeg),
			longitudeDeg: Number(row.longitudeDeg)
		}));
		return { ...content, sites, groups: [] };
	}
	const stepLat = Math.max(1e-6, (view.north - view.south) / GROUP_CELLS);
	const stepLon = Math.max(1e-6, (view.east - view.west) / GROUP_CELLS);
	const groups = await db().query<{ latitudeDeg: number; longitudeDeg: number; count: number }>(
		`SELECT AVG(latitude_deg) AS latitudeDeg, AVG(longitude_deg) AS longitudeDeg, COUNT(*) AS count
		FROM sites WHERE ${inBox}
		GROUP BY FLOOR((latitude_deg - ?) / ?), FLOOR((longitude_deg - ?) / ?)`,
		{ replacements: [...box, view.south, stepLat, view.west, stepLon], type: QueryTypes.SELECT }
	);
	return {
		...content,
		sites: [],
		groups: groups.map((g) => ({
			latitudeDeg: Number(g.latitudeDeg),
			longitudeDeg: Number(g.longitudeDeg),
			count: Number(g.count)
		}))
	};
}

/** Hops with an end in the view, up to one more than are drawn. */
async function hopsIn(actor: Actor, view: MapView): Promise<MapHop[]> {
	const { join, replacements } = visibleTo(actor);
	const sites = await db().query<{ id: string }>(
		'SELECT id FROM sites WHERE latitude_deg BETWEEN ? AND ? AND longitude_deg BETWEEN ? AND ?',
		{
			replacements: [view.south, view.north, view.west, view.east],
			type: QueryTypes.SELECT
		}
	);
	if (sites.length === 0) return [];
	const ids = sites.map((site) => site.id);
	const rows = await db().query<{
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
		{ replacements: [ids, ids, ...replacements, MOST_HOPS + 1], type: QueryTypes.SELECT }
	);
	return rows.map((row) => ({
		id: row.id,
		name: row.name,
		signed: Boolean(row.signed),
		from: [Number(row.lonA), Number(row.latA)],
		to: [Number(row.lonB), Number(row.latB)]
	}));
}

/** The view that holds every site, or undefined while there is none. */
export async function extentOfSites(actor: Actor): Promise<MapView | undefined> {
	requireMay(actor, 'read-hops');
	const [row] = await db().query<Record<keyof MapView, number | null>>(
		`SELECT MIN(longitude_deg) AS west, MAX(longitude_deg) AS east,
			MIN(latitude_deg) AS south, MAX(latitude_deg) AS north FROM sites`,
		{ type: QueryTypes.SELECT }
	);
	if (!row || row.west === null) return undefined;
	return {
		west: Number(row.west),
		east: Number(row.east),
		south: Number(row.south),
		north: Number(row.north)
	};
}
