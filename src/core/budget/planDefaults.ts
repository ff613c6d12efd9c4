import { climateOf, UNSAID_CLIMATE } from './climate';
import type { EndPlanInput, HopPlanInput, SiteConditions } from './planInput';

/** Nobody has said anything about the place yet. */
export const UNKNOWN_CONDITIONS: SiteConditions = {
	pipeDiameterMm: null,
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
	bendEPlaneMm: 0,
	bendHPlaneMm: 0,
	coupling: null,
	secondDish: null,
	secondDishOffsetM: -10,
	secondRadio: null,
	secondTransmitFrequencyGhz: null,
	secondPowerDbm: 10,
	cable: null,
	cableLengthM: 0,
	indoorUnit: null,
	powerSource: null,
	conditions: UNKNOWN_CONDITIONS
} satisfies Partial<EndPlanInput>;

/** What a hop is when a plan says nothing of it; reference levels as in `computation`: 10 and 50 W/m². */
export const HOP_DEFAULTS = {
	configuration: { kind: 'single', cancellerDb: 0 },
	path: { profile: null, obstacles: [], school: 'p530', obstruction: 'isolated' },
	climate: climateOf(UNSAID_CLIMATE),
	requiredAvailabilityPercent: 99.99,
	multipathMethod: 'detailed',
	eirpLimitDbm: null,
	publicExposureWM2: 10,
	workerExposureWM2: 50,
	wind: { operatingMS: 30, survivalMS: 55, mastSwayDeg: 0.1 },
	search: { compassSigmaDeg: 3, levelSigmaDeg: 0.5 },
	landmarks: []
} satisfies Partial<HopPlanInput>;

/** A stored input of an earlier form, with what it did not know yet filled in. */
export function withPlanDefaults(stored: HopPlanInput): HopPlanInput {
	return {
		...HOP_DEFAULTS,
		...stored,
		ends: {
			A: { ...END_DEFAULTS, ...stored.ends.A },
			B: { ...END_DEFAULTS, ...stored.ends.B }
		}
	};
}
