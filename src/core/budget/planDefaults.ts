import type { RadioPart } from '../catalogue/parts';
import { climateOf, UNSAID_CLIMATE } from './climate';
import { END_INITIAL, HOP_INITIAL, PATH_INITIAL } from './planFields';
import type { EndPlanInput, HopPlanInput, SiteConditions } from './planInput';

/** Nobody has said anything about the place yet. */
export const UNKNOWN_CONDITIONS: SiteConditions = {
	pipeDiameterMm: null,
	mastHeightM: null,
	pipeLeanDeg: null,
	earthPoint: '',
	supplyV: null,
	indoorPlace: '',
	access: '',
	hazards: '',
	gridCentralMeridianDeg: null
};

/** What an end is when a plan says nothing of it: one radio straight on one dish. */
export const END_DEFAULTS = {
	subBandUnit: '',
	bendEPlaneMm: END_INITIAL.bendEPlaneMm,
	bendHPlaneMm: END_INITIAL.bendHPlaneMm,
	coupling: null,
	secondDish: null,
	secondDishOffsetM: END_INITIAL.secondDishOffsetM,
	secondRadio: null,
	secondTransmitFrequencyGhz: null,
	secondPowerDbm: END_INITIAL.secondPowerDbm,
	interferenceDbm: null,
	secondInterferenceDbm: null,
	cable: null,
	cableLengthM: END_INITIAL.cableLengthM,
	rackFreeUnits: END_INITIAL.rackFreeUnits,
	crewContact: END_INITIAL.crewContact,
	indoorUnit: null,
	powerSource: null,
	conditions: UNKNOWN_CONDITIONS
} satisfies Partial<EndPlanInput>;

/** What a hop is when a plan says nothing of it. */
export const HOP_DEFAULTS = {
	...HOP_INITIAL,
	path: { profile: null, ...PATH_INITIAL },
	climate: climateOf(UNSAID_CLIMATE)
} satisfies Partial<HopPlanInput>;

/** A stored input of an earlier form, with what it did not know yet filled in. */
export function withPlanDefaults(stored: HopPlanInput): HopPlanInput {
	return {
		...HOP_DEFAULTS,
		...stored,
		configuration: { ...HOP_DEFAULTS.configuration, ...stored.configuration },
		path: { ...HOP_DEFAULTS.path, ...stored.path },
		ends: { A: endWithDefaults(stored.ends.A), B: endWithDefaults(stored.ends.B) }
	};
}

const NO_SUB_BANDS: Pick<RadioPart, 'subBands'> = { subBands: [] };

/** The first radios did not say which sub-bands they are built for. */
function endWithDefaults(stored: EndPlanInput): EndPlanInput {
	return {
		...END_DEFAULTS,
		...stored,
		conditions: { ...UNKNOWN_CONDITIONS, ...stored.conditions },
		radio: { ...NO_SUB_BANDS, ...stored.radio }
	};
}
