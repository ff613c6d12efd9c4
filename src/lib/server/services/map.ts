import { requireMay, viewerOf, type Actor } from '../auth/actor';
import {
	areCounted,
	extentOfSites as extentOfAllSites,
	hopsAt,
	hubsAt,
	siteGroupsIn,
	sitesIn,
	type MapHop,
	type MapHub,
	type MapSite,
	type SiteGroup
} from '../repositories/map';
import type { MapView } from '../repositories/box';

export type { MapHop, MapHub, MapSite, MapView };

export interface MapContent {
	sites: MapSite[];
	/** Counts by cell, where there are too many sites to draw each. */
	groups: SiteGroup[];
	hops: MapHop[];
	/** Hubs at the sites in the view, while those are few enough. */
	hubs: MapHub[];
	/** How many hops have an end in the view; null where there are too many to count at once. */
	hopCount: number | null;
	/** Of groups, about so many: what lies at the edge of the view counts in or out with its group. */
	siteCount: number;
}

/** More than this are drawn as groups. */
const MOST_SITES = 800;
const MOST_HOPS = 1500;
const MOST_HUBS = 200;
/** Hops are looked for while no more sites than this are in view. */
const MOST_SITES_WITH_HOPS = 3000;
const GROUP_CELLS = 14;

/** What lies in a view: sites one by one or in groups, hops while there are few enough to see. */
export async function mapContent(actor: Actor, view: MapView): Promise<MapContent> {
	requireMay(actor, 'read-hops');
	const counted = areCounted(view, GROUP_CELLS) ? await groupsOf(view) : null;
	if (counted && counted.siteCount > MOST_SITES_WITH_HOPS) {
		return { ...counted, sites: [], hops: [], hubs: [], hopCount: null };
	}
	const sites = await sitesIn(view, MOST_SITES_WITH_HOPS + 1);
	const ids = sites.map(({ id }) => id);
	const found =
		sites.length > MOST_SITES_WITH_HOPS ? null : await hopsAt(viewerOf(actor), ids, MOST_HOPS + 1);
	const hops = found && found.length <= MOST_HOPS ? found : null;
	const hubs = sites.length > MOST_SITES ? [] : await hubsAt(ids, MOST_HUBS);
	const content = { hops: hops ?? [], hubs, hopCount: hops && hops.length };
	if (sites.length <= MOST_SITES) {
		const byName = sites.toSorted((a, b) => a.name.localeCompare(b.name));
		return { ...content, siteCount: sites.length, sites: byName, groups: [] };
	}
	return { ...content, ...(counted ?? (await groupsOf(view))), sites: [] };
}

async function groupsOf(view: MapView): Promise<Pick<MapContent, 'groups' | 'siteCount'>> {
	const groups = await siteGroupsIn(view, GROUP_CELLS);
	return { groups, siteCount: groups.reduce((sum, { count }) => sum + count, 0) };
}

/** The view that holds every site, or undefined while there is none. */
export function extentOfSites(actor: Actor): Promise<MapView | undefined> {
	requireMay(actor, 'read-hops');
	return extentOfAllSites();
}
