import type { ClimateInput } from './planInput';

/** Broad climates with values that stand in until local ones are typed. */
export const BROAD_CLIMATES = [
	'temperate-maritime',
	'temperate-continental',
	'dry',
	'cold',
	'tropical'
] as const;
export type BroadClimate = (typeof BROAD_CLIMATES)[number];

interface ClimateDefaults {
	words: string;
	kind: ClimateInput['kind'];
	rainRate001MmH: number;
	gradientDn1: number;
	lowK: number;
}

/** Middles of what such climates have; never used without saying so. */
export const CLIMATE_DEFAULTS: Record<BroadClimate, ClimateDefaults> = {
	'temperate-maritime': climate('temperate, by the sea', 'temperate', 32, -220, 0.67),
	'temperate-continental': climate('temperate, inland', 'temperate', 35, -280, 0.67),
	dry: climate('dry', 'temperate', 15, -450, 0.6),
	cold: climate('cold', 'temperate', 16, -180, 0.75),
	tropical: climate('tropical', 'tropical', 95, -420, 0.6)
};

function climate(
	words: string,
	kind: ClimateInput['kind'],
	rainRate001MmH: number,
	gradientDn1: number,
	lowK: number
): ClimateDefaults {
	return { words, kind, rainRate001MmH, gradientDn1, lowK };
}

export interface ClimateChoice {
	broad: BroadClimate;
	/** Typed values for this place; null takes the default of the broad climate. */
	rainRate001MmH: number | null;
	gradientDn1: number | null;
	lowK: number | null;
	/** Where the typed values come from. */
	source: string;
}

/** The values of a climate entry, each labelled with where it came from. */
export function climateOf(choice: ClimateChoice): ClimateInput {
	const defaults = CLIMATE_DEFAULTS[choice.broad];
	const fromDefault = `default of a ${defaults.words} climate`;
	const typed = choice.source.trim() || 'typed for this place, source not given';
	const pick = (value: number | null, other: number): [number, string] =>
		value === null ? [other, fromDefault] : [value, typed];
	const [rainRate001MmH, rainRateSource] = pick(choice.rainRate001MmH, defaults.rainRate001MmH);
	const [gradientDn1, gradientSource] = pick(choice.gradientDn1, defaults.gradientDn1);
	const [lowK, lowKSource] = pick(choice.lowK, defaults.lowK);
	return {
		kind: defaults.kind,
		rainRate001MmH,
		rainRateSource,
		gradientDn1,
		gradientSource,
		lowK,
		lowKSource,
		isDefault: [choice.rainRate001MmH, choice.gradientDn1, choice.lowK].includes(null)
	};
}

/**
 * The climate of a hop from those of its two sites: of each value the one that asks more of the link,
 * with its own source.
 */
export function combineClimates(a: ClimateInput, b: ClimateInput): ClimateInput {
	const rain = b.rainRate001MmH > a.rainRate001MmH ? b : a;
	const gradient = b.gradientDn1 < a.gradientDn1 ? b : a;
	const k = b.lowK < a.lowK ? b : a;
	return {
		kind: a.kind === 'tropical' || b.kind === 'tropical' ? 'tropical' : 'temperate',
		rainRate001MmH: rain.rainRate001MmH,
		rainRateSource: rain.rainRateSource,
		gradientDn1: gradient.gradientDn1,
		gradientSource: gradient.gradientSource,
		lowK: k.lowK,
		lowKSource: k.lowKSource,
		isDefault: a.isDefault || b.isDefault
	};
}

/** Nothing but the broad climate is said. */
export const UNSAID_CLIMATE: ClimateChoice = {
	broad: 'temperate-maritime',
	rainRate001MmH: null,
	gradientDn1: null,
	lowK: null,
	source: ''
};
