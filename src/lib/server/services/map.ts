import { requireMay, viewerOf, type Actor } from '../auth/actor';
import {
	countSitesIn,
	extentOfSites as extentOfAllSites,
	hopsIn,
	siteGroupsIn,
	sitesIn,
	type MapHop,
	type MapSite,
	type MapView,
	type SiteGroup
} from '../repositories/map';

export type { MapHop, MapSite, MapView };

export interface MapContent {
	sites: MapSite[];
	/** Counts by cell, where there are too many sites to draw each. */
	groups: SiteGroup[];
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
/** Smallest cell, degrees: a view without height or width still has cells. */
const LEAST_CELL_DEG = 1e-6;

/** What lies in a view: sites one by one or in groups, hops while there are few enough to see. */
export async function mapContent(actor: Actor, view: MapView): Promise<MapContent> {
	requireMay(actor, 'read-hops');
	const siteCount = await countSitesIn(view);
	const found =
		siteCount > MOST_SITES_WITH_HOPS ? null : await hopsIn(viewerOf(actor), view, MOST_HOPS + 1);
	const hops = found && found.length <= MOST_HOPS ? found : null;
	const content = { hops: hops ?? [], hopCount: hops && hops.length, siteCount };
	if (siteCount <= MOST_SITES) {
		return { ...content, sites: await sitesIn(view, MOST_SITES), groups: [] };
	}
	const stepLatitudeDeg = Math.max(LEAST_CELL_DEG, (view.north - view.south) / GROUP_CELLS);
	const stepLongitudeDeg = Math.max(LEAST_CELL_DEG, (view.east - view.west) / GROUP_CELLS);
	const groups = await siteGroupsIn(view, stepLatitudeDeg, stepLongitudeDeg);
	return { ...content, sites: [], groups };
}

/** The view that holds every site, or undefined while there is none. */
export function extentOfSites(actor: Actor): Promise<MapView | undefined> {
	requireMay(actor, 'read-hops');
	return extentOfAllSites();
}
