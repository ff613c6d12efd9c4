import type { ConfigurationKind } from '#core/budget/configurationKinds';
import { CONFIGURATIONS } from '#core/budget/configurationKinds';
import type { EndPlanInput, HopPlanInput } from '#core/budget/planInput';
import type { RadioPart } from '#core/catalogue/parts';
import { catalogue, configured, hopInput, part } from './planFixture';

/** How the radios of a hop stand to their dishes. */
export const BUILDS = ['direct', 'by waveguide', 'by coaxial cable'] as const;
export type Build = (typeof BUILDS)[number];

const COUPLING: Partial<Record<ConfigurationKind, string>> = {
	'hot-standby': 'CU-07',
	'frequency-diversity': 'CE-07',
	'dual-polarized': 'OT-07',
	'four-radios': 'DC-07'
};

/** Of the second band: a coaxial system has its modem indoors in either band. */
function secondRadio(coaxial: boolean): RadioPart {
	const radio = part(catalogue.radios, 'RU-18');
	const { intermediate } = part(catalogue.radios, 'RU-07C');
	return coaxial && intermediate ? { ...radio, intermediate } : radio;
}

/** One hop at 7 GHz of any configuration and build, with everything that is put up at an end. */
export function builtHop(
	kind: ConfigurationKind,
	build: Build,
	change: Partial<HopPlanInput> = {}
): HopPlanInput {
	const code = COUPLING[kind];
	const twoBands = kind === 'two-bands';
	const coaxial = build === 'by coaxial cable';
	const end = (high: boolean): Partial<EndPlanInput> => ({
		radio: part(catalogue.radios, coaxial ? 'RU-07C' : 'RU-07'),
		...(coaxial ? { cable: part(catalogue.cables, 'CX-10') } : {}),
		dish: part(catalogue.dishes, 'DP-120-07'),
		mount: part(catalogue.mounts, 'MB-M'),
		feeder: part(catalogue.feeders, build === 'by waveguide' ? 'WE-07' : 'FD-0'),
		feederLengthM: build === 'by waveguide' ? 25.5 : 0,
		coupling: code ? part(catalogue.couplings, code) : null,
		transmitFrequencyGhz: high ? 7.346 : 7.15,
		secondTransmitFrequencyGhz: twoBands ? (high ? 18.86 : 17.85) : high ? 7.402 : 7.206,
		subBandUnit: high ? '1H' : '1L',
		secondDish:
			kind === 'space-diversity'
				? part(catalogue.dishes, 'DP-120-07')
				: twoBands
					? part(catalogue.dishes, 'DP-060-18')
					: null,
		secondRadio: twoBands ? secondRadio(coaxial) : null,
		// A chassis where its two radio boards serve all; else one closed unit.
		indoorUnit: part(catalogue.indoorUnits, coaxial && kind !== 'four-radios' ? 'IU-C7' : 'IU-8'),
		powerSource: part(catalogue.powerSources, 'PS-48')
	});
	return hopInput(
		{ configuration: configured(kind, kind === 'four-radios' ? 20 : 0), ...change },
		{ A: end(false), B: end(true) }
	);
}

/** Every configuration in every build. */
export const EVERY_HOP = CONFIGURATIONS.flatMap((kind) =>
	BUILDS.map((build) => ({ name: `${kind}, ${build}`, kind, build, input: builtHop(kind, build) }))
);
