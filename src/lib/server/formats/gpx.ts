import XMLBuilder from 'fast-xml-builder';
import { XMLParser } from 'fast-xml-parser';
import { SyntaxValidator } from 'fast-xml-validator';
import type { OpenHop } from './hopTable';
import { present } from '#core/units/lists';

interface Waypoint {
	'@_lat': string;
	'@_lon': string;
	ele?: string;
	name?: string;
	desc?: string;
}

const list = <T>(value: T | T[] | undefined): T[] =>
	value === undefined ? [] : Array.isArray(value) ? value : [value];

/** Sites as GPX waypoints; hops as routes of two points. GPX carries places, not plans. */
export function toGpx(
	sites: readonly {
		name: string;
		latitudeDeg: number;
		longitudeDeg: number;
		groundAmslM: number;
		notes: string;
	}[],
	hops: readonly OpenHop[]
): string {
	const place = new Map(sites.map((site) => [site.name, site]));
	const point = (site: (typeof sites)[number]): Waypoint => ({
		'@_lat': String(site.latitudeDeg),
		'@_lon': String(site.longitudeDeg),
		ele: String(site.groundAmslM),
		name: site.name,
		...(site.notes ? { desc: site.notes } : {})
	});
	const builder = new XMLBuilder({ ignoreAttributes: false, format: true, indentBy: '\t' });
	return builder.build({
		'?xml': { '@_version': '1.0', '@_encoding': 'UTF-8' },
		gpx: {
			'@_version': '1.1',
			'@_creator': 'Skiaxis',
			'@_xmlns': 'http://www.topografix.com/GPX/1/1',
			wpt: sites.map(point),
			rte: hops
				.filter((hop) => place.has(hop.siteA) && place.has(hop.siteB))
				.map((hop) => ({
					name: hop.name,
					rtept: [
						point(present(place.get(hop.siteA), 'place of the site')),
						point(present(place.get(hop.siteB), 'place of the site'))
					]
				}))
		}
	});
}

/** Waypoints of a GPX file as rows of the site table. @throws Error when it is no GPX */
export function sitesFromGpx(text: string): Record<string, string>[] {
	const parser = new XMLParser({
		ignoreAttributes: false,
		parseTagValue: false,
		parseAttributeValue: false,
		// No entity of the file's own is ever expanded.
		processEntities: { enabled: true, maxTotalExpansions: 1000, maxEntityCount: 0 }
	});
	SyntaxValidator.validate(text);
	const parsed = parser.parse(text) as { gpx?: { wpt?: Partial<Waypoint> | Partial<Waypoint>[] } };
	if (parsed.gpx === undefined) throw new Error('no gpx element');
	return list(parsed.gpx.wpt).map((wpt) => ({
		name: wpt.name ?? '',
		latitude_deg: wpt['@_lat'] ?? '',
		longitude_deg: wpt['@_lon'] ?? '',
		ground_amsl_m: wpt.ele ?? '',
		notes: wpt.desc ?? ''
	}));
}
