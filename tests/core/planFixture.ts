import cables from '../../catalog/cables.json';
import couplings from '../../catalog/couplings.json';
import dishes from '../../catalog/dishes.json';
import feeders from '../../catalog/feeders.json';
import hubUnits from '../../catalog/hub-units.json';
import indoorUnits from '../../catalog/indoor-units.json';
import mounts from '../../catalog/mounts.json';
import powerSources from '../../catalog/power-sources.json';
import radios from '../../catalog/radios.json';
import terminals from '../../catalog/terminals.json';
import type { Catalogue } from '#core/catalogue/parts';
import { END_DEFAULTS, HOP_DEFAULTS } from '#core/budget/planDefaults';
import { climateOf } from '#core/budget/climate';
import { planHop, type HopPlan } from '#core/budget/hopPlan';
import type { EndPlanInput, HopPlanInput, SiteConditions } from '#core/budget/planInput';
import { inverseGeodesic, type GeoPoint } from '#core/geodesy/geodesic';
import type { TerrainProfile } from '#core/path/samplePath';
import { REFERENCE_AIR } from '#core/propagation/gas';

// The files as they are; that they hold parts is checked by the server's own tests.
export const catalogue = {
	radios,
	dishes,
	mounts,
	feeders,
	couplings,
	cables,
	indoorUnits,
	powerSources,
	hubUnits,
	terminals
} as unknown as Catalogue;

export function part<T extends { code: string }>(parts: readonly T[], code: string): T {
	const found = parts.find((p) => p.code === code);
	if (!found) throw new Error(`no part ${code}`);
	return found;
}

/** Known in every respect, as a site is that somebody has visited. */
export const KNOWN_CONDITIONS: SiteConditions = {
	pipeDiameterMm: 89,
	mastHeightM: 40,
	pipeLeanDeg: 0.2,
	earthPoint: 'Bar',
	supplyV: 50,
	indoorPlace: 'Hut',
	access: 'Track',
	hazards: '',
	gridCentralMeridianDeg: null
};

/** Two hills at the ends of a path and the sea between. */
export function seaProfile(
	from: GeoPoint,
	to: GeoPoint,
	groundA: number,
	groundB: number
): TerrainProfile {
	const { lengthM } = inverseGeodesic(from, to);
	return {
		source: 'made up',
		from,
		to,
		distancesM: [0, 0.04, 0.1, 0.5, 0.9, 0.96, 1].map((share) => share * lengthM),
		groundsAmslM: [groundA, groundA - 60, 0, 0, 0, groundB - 60, groundB]
	};
}

const WEST: GeoPoint = { latitudeDeg: -46.2, longitudeDeg: -118.4 };
const EAST: GeoPoint = { latitudeDeg: -46.24, longitudeDeg: -118.286 };

/** A 26 GHz hop of about 9.8 km between two made-up islands; every field may be replaced. */
export function hopInput(
	change: Partial<HopPlanInput> = {},
	ends: { A?: Partial<EndPlanInput>; B?: Partial<EndPlanInput> } = {}
): HopPlanInput {
	const end = (own: Partial<EndPlanInput>): EndPlanInput => ({
		...END_DEFAULTS,
		siteName: 'Site',
		position: WEST,
		subBandUnit: '2H',
		cable: part(catalogue.cables, 'DC-25'),
		cableLengthM: 40,
		conditions: KNOWN_CONDITIONS,
		groundAmslM: 212,
		antennaHeightAglM: 24,
		radio: part(catalogue.radios, 'RU-26'),
		dish: part(catalogue.dishes, 'DP-060-26'),
		mount: part(catalogue.mounts, 'MB-S'),
		feeder: part(catalogue.feeders, 'FD-0'),
		feederLengthM: 0,
		polarization: 'vertical',
		transmitFrequencyGhz: 26.2,
		transmitPowerDbm: 16,
		alignmentPowerDbm: 15,
		mountSide: 'right',
		landmark: '',
		siteNotes: '',
		...own
	});
	return {
		...HOP_DEFAULTS,
		path: { ...HOP_DEFAULTS.path, profile: seaProfile(WEST, EAST, 212, 160) },
		climate: climateOf({
			broad: 'temperate-maritime',
			rainRate001MmH: 30,
			gradientDn1: -200,
			lowK: 0.7,
			source: 'gauges'
		}),
		requiredAvailabilityPercent: 99.9,
		hopName: 'Test hop',
		ends: {
			A: end({ siteName: 'West', ...ends.A }),
			B: end({
				siteName: 'East',
				position: EAST,
				subBandUnit: '2L',
				groundAmslM: 160,
				transmitFrequencyGhz: 25.22,
				...ends.B
			})
		},
		channelWidthMhz: 28,
		operatingModulation: '256 QAM',
		kFactor: 4 / 3,
		air: REFERENCE_AIR,
		additionalLossDb: 0,
		toleranceDb: 2,
		firstToMove: 'A',
		workDate: new Date('2026-11-24T00:00:00Z'),
		...change
	};
}

/** A configuration with nothing said of a second band. */
export const configured = (
	kind: HopPlanInput['configuration']['kind'],
	cancellerDb = 0
): HopPlanInput['configuration'] => ({ ...HOP_DEFAULTS.configuration, kind, cancellerDb });

/** Plans an input that is meant to be sound. */
export function soundPlan(input: HopPlanInput): HopPlan {
	const result = planHop(input);
	if (result.kind !== 'plan') throw new Error(JSON.stringify(result.findings));
	return result.plan;
}
