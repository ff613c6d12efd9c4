import Papa from 'papaparse';
import { present } from '#core/units/lists';
import { requireMay, viewerOf, type Actor } from '../auth/actor';
import { toGpx } from '../formats/gpx';
import { hopRow, type OpenHop } from '../formats/hopTable';
import { FORMULA, type Format, type Subject } from '../formats/importFile';
import { siteRow } from '../formats/siteTable';
import type { PlanDraftValues } from '../../plan/resolve';
import { planDraftSchema } from '../schemas/inputs';
import { validate } from '../schemas/joi';
import { allHops } from '../repositories/hops';
import { allSites, type SiteContent } from '../repositories/sites';

const MEDIA_TYPE: Record<Format, string> = {
	csv: 'text/csv; charset=utf-8',
	geojson: 'application/geo+json',
	gpx: 'application/gpx+xml',
	json: 'application/json'
};

async function exportedSites(): Promise<SiteContent[]> {
	return (await allSites()).map(
		({ name, latitudeDeg, longitudeDeg, groundAmslM, notes, climate, conditions }) => ({
			name,
			latitudeDeg,
			longitudeDeg,
			groundAmslM,
			notes,
			climate,
			conditions
		})
	);
}

async function visibleHops(actor: Actor): Promise<OpenHop[]> {
	const hops = await allHops(viewerOf(actor));
	return hops.map(({ name, siteA, siteB, simulationSeed, planDraft }) => ({
		name,
		siteA,
		siteB,
		practice: simulationSeed !== null,
		plan: validate<PlanDraftValues>(planDraftSchema, JSON.parse(planDraft))
	}));
}

/** Sites or hops in an open format. Hops come with the sites they stand on where the format holds both. */
export async function exportAs(
	actor: Actor,
	subject: Subject,
	format: Format
): Promise<{ content: string; mediaType: string; fileName: string }> {
	requireMay(actor, 'read-hops');
	const sites = await exportedSites();
	const hops = subject === 'hops' ? await visibleHops(actor) : [];
	const named = new Set(hops.flatMap((hop) => [hop.siteA, hop.siteB]));
	const own = subject === 'hops' ? sites.filter((site) => named.has(site.name)) : sites;
	return {
		content: written(subject, format, own, hops),
		mediaType: MEDIA_TYPE[format],
		fileName: `${subject}.${format}`
	};
}

function written(
	subject: Subject,
	format: Format,
	sites: readonly SiteContent[],
	hops: readonly OpenHop[]
): string {
	if (format === 'gpx') return toGpx(sites, hops);
	if (format === 'json') {
		const document = {
			format: 'skiaxis-plan',
			version: 1,
			sites,
			...(subject === 'hops' ? { hops } : {})
		};
		return `${JSON.stringify(document, null, '\t')}\n`;
	}
	if (format === 'csv') {
		const rows = subject === 'sites' ? sites.map(siteRow) : hops.map(hopRow);
		return `${Papa.unparse(rows, { newline: '\n', escapeFormulae: FORMULA })}\n`;
	}
	const place = new Map(sites.map((site) => [site.name, site]));
	const features =
		subject === 'sites'
			? sites.map(({ latitudeDeg, longitudeDeg, ...properties }) => ({
					type: 'Feature',
					geometry: { type: 'Point', coordinates: [longitudeDeg, latitudeDeg] },
					properties
				}))
			: hops.map((hop) => ({
					type: 'Feature',
					geometry: {
						type: 'LineString',
						coordinates: [hop.siteA, hop.siteB].map((name) => {
							const site = present(place.get(name), 'place of the site');
							return [site.longitudeDeg, site.latitudeDeg];
						})
					},
					properties: hop
				}));
	return `${JSON.stringify({ type: 'FeatureCollection', features }, null, '\t')}\n`;
}
