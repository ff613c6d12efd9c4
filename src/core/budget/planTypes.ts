import type { DishAtFrequency } from '../catalogue/dishAt';
import type { DcSupply } from '../firstlook/dcSupply';
import type { HoistClass } from '../firstlook/hoist';
import type { PerEnd } from '../ends';
import type { ExposureDistance } from '../firstlook/exposure';
import type { WindLook } from '../firstlook/wind';
import type { HopAvailability } from './availability';
import type { Carrier } from './configuration';
import type { DirectionBudget } from './directionBudget';
import type { PlanFinding } from '../finding/planFinding';
import type { Pointing } from './pointingPlan';
import type { ReflectionSwing } from './reflectionFigures';

export interface EndElectrical extends DishAtFrequency {
	/** Frequency this end receives on: its beam for aligning. */
	receiveFrequencyGhz: number;
}

/** First looks at one end, each beside its caution: none replaces the licensed person. */
export interface FirstLook {
	exposure: { public: ExposureDistance; worker: ExposureDistance };
	wind: { operating: WindLook; survival: WindLook; swayLossDb: number };
	/** Supply at the unit in the worst case; null while cable or voltage is not said. */
	supply: DcSupply | null;
	hoist: HoistClass;
}

/** A carrier with its budgets, named by the end that receives. */
export interface CarrierBudget {
	number: number;
	role: Carrier['role'];
	name: string;
	polarization: Carrier['polarization'];
	received: PerEnd<DirectionBudget>;
}

export interface HopPlan {
	pathKm: number;
	pointing: PerEnd<Pointing>;
	/** Budget of the direction received at each end, of the carrier that is aligned on. */
	received: PerEnd<DirectionBudget>;
	/** The dish at each end, at the frequency it receives. */
	dish: PerEnd<EndElectrical>;
	/** Every carrier of the configuration, the aligned one first. */
	carriers: CarrierBudget[];
	/** Without the points of the profile: those follow from the input. Null without a profile. */
	clearance: ClearanceSummary | null;
	availability: HopAvailability;
	/** Directions whose level reflections move; absent in plans frozen before they were kept. */
	reflections?: ReflectionSwing[];
	firstLook: PerEnd<FirstLook>;
	findings: PlanFinding[];
}

export interface ClearanceSummary {
	schoolInWords: string;
	holds: boolean;
	checks: {
		kFactor: number;
		wantedRatio: number;
		why: string;
		worstRatio: number;
		worstDistanceKm: number;
		worstObstacle: string | null;
		holds: boolean;
		missingM: number;
		/** What reaches into the beam in the near field of a dish; absent where nothing does. */
		beforeDish?: {
			distanceKm: number;
			obstacle: string | null;
			clearanceM: number;
			dishRadiusM: number;
		};
	}[];
}

/** A plan, or the errors that keep it from being computed at all. */
export type HopPlanResult =
	{ kind: 'plan'; plan: HopPlan } | { kind: 'impossible'; findings: PlanFinding[] };
