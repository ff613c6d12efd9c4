import { dcSupply } from '../firstlook/dcSupply';
import { farEnd, type End, type PerEnd } from '../ends';
import { exposureDistance, type ExposureDistance, type Radiator } from '../firstlook/exposure';
import { pointingLossDb, windLook } from '../firstlook/wind';
import { inverseGeodesic } from '../geodesy/geodesic';
import type { ClearanceVerdict } from '../path/clearanceSchool';
import { hopAvailability, type HopAvailability } from './availability';
import { carriersOf, type Carrier } from './configuration';
import { hoistOf, inventoryOf } from './inventory';
import { directionBudget, requireDishAt, type DirectionBudget } from './directionBudget';
import { findInputProblems, isFatal } from './planChecks';
import { antennaAmslM, supplyVoltageV, type HopPlanInput } from './planInput';
import type {
	ClearanceSummary,
	EndElectrical,
	FirstLook,
	HopPlan,
	HopPlanResult
} from './planTypes';
import { clearanceOf } from './pathFigures';
import { pointingOf } from './pointingPlan';
import { reflectionSwings } from './reflectionFigures';
import { resultFindings } from './resultChecks';

export type { DirectionBudget } from './directionBudget';
export type {
	CarrierBudget,
	ClearanceSummary,
	EndElectrical,
	FirstLook,
	HopPlan,
	HopPlanResult
} from './planTypes';
import { present } from '../units/lists';

export type { Pointing } from './pointingPlan';

/**
 * Computes a hop from the choices of its planner: geometry, path, losses, the planned level of both
 * directions of every carrier in dBm and volts of each receiving radio's own port, overload,
 * availability, first looks, and findings.
 *
 * Expected mistakes of a plan come back as findings; the function throws only on shapes that the
 * caller's validation should have refused.
 */
export function planHop(input: HopPlanInput): HopPlanResult {
	const problems = findInputProblems(input);
	if (problems.some(isFatal)) return { kind: 'impossible', findings: problems };
	const line = inverseGeodesic(input.ends.A.position, input.ends.B.position);
	const pathKm = slantKm(line.lengthM, input);
	const carriers = carriersOf(input);
	const budgets = budgetsOf(input, carriers, pathKm);
	const dish = perEnd((end) => electricalAt(input, end));
	const received = present(budgets.get(1), 'budget of the main carrier');
	const plan: HopPlan = {
		pathKm,
		pointing: perEnd((end) => pointingOf(input, line, end, dish[end].beamwidthDeg)),
		received,
		dish,
		carriers: carriers.map(({ number, role, name, polarization }) => ({
			number,
			role,
			name,
			polarization,
			received: present(budgets.get(number), 'budget of the carrier')
		})),
		clearance: summaryOf(clearanceOf(input, pathKm)),
		availability: hopAvailability(input, carriers, budgets, pathKm),
		reflections: reflectionSwings(input, carriers),
		firstLook: perEnd((end) => firstLookAt(input, carriers, budgets, dish[end], end)),
		findings: problems
	};
	return {
		kind: 'plan',
		plan: { ...plan, findings: [...problems, ...resultFindings(input, plan)] }
	};
}

/**
 * The availability of an input alone, for asking what a value changes; undefined where it cannot be planned.
 *
 * @throws OutOfRangeError where the path or the climate lies outside what the recommendations state
 */
export function availabilityOf(input: HopPlanInput): HopAvailability | undefined {
	if (findInputProblems(input).some(isFatal)) return undefined;
	const line = inverseGeodesic(input.ends.A.position, input.ends.B.position);
	const pathKm = slantKm(line.lengthM, input);
	const carriers = carriersOf(input);
	return hopAvailability(input, carriers, budgetsOf(input, carriers, pathKm), pathKm);
}

function budgetsOf(
	input: HopPlanInput,
	carriers: readonly Carrier[],
	pathKm: number
): Map<number, PerEnd<DirectionBudget>> {
	return new Map(
		carriers.map((carrier) => [
			carrier.number,
			perEnd((end) => directionBudget(input, carrier, pathKm, end))
		])
	);
}

/** Length of the ray, km: over the ground, and up or down between the antennas. */
function slantKm(lengthM: number, { ends }: HopPlanInput): number {
	return Math.hypot(lengthM, antennaAmslM(ends.B) - antennaAmslM(ends.A)) / 1000;
}

function perEnd<T>(make: (end: End) => T): PerEnd<T> {
	return { A: make('A'), B: make('B') };
}

function electricalAt(input: HopPlanInput, end: End): EndElectrical {
	const receiveFrequencyGhz = input.ends[farEnd(end)].transmitFrequencyGhz;
	return { ...requireDishAt(input.ends[end].dish, receiveFrequencyGhz), receiveFrequencyGhz };
}

function summaryOf(verdict: ClearanceVerdict | undefined): ClearanceSummary | null {
	if (!verdict) return null;
	return {
		schoolInWords: verdict.schoolInWords,
		holds: verdict.holds,
		checks: verdict.checks.map(
			({ kFactor, wantedRatio, why, worstRatio, holds, missingM, clearance, beforeDish }) => ({
				kFactor,
				wantedRatio,
				why,
				worstRatio,
				worstDistanceKm: (clearance.worst?.distanceM ?? 0) / 1000,
				worstObstacle: clearance.worst?.obstacle ?? null,
				holds,
				missingM,
				...(beforeDish
					? {
							beforeDish: {
								distanceKm: beforeDish.distanceM / 1000,
								obstacle: beforeDish.obstacle,
								clearanceM: beforeDish.clearanceM,
								dishRadiusM: beforeDish.beamRadiusM
							}
						}
					: {})
			})
		)
	};
}

/** What an end sends at once in a state: a diversity dish only hears, and a standby unit sends in place of the main one. */
function radiatorsOf(
	carriers: readonly Carrier[],
	budgets: ReadonlyMap<number, PerEnd<DirectionBudget>>,
	end: End,
	state: 'operation' | 'alignment'
): Radiator[] {
	return carriers
		.filter(({ role }) => role !== 'diversity' && role !== 'standby')
		.map((carrier) => {
			// What this end radiates is in the budget that the far end receives.
			const budget = present(budgets.get(carrier.number), 'budget of the carrier')[farEnd(end)];
			const eirpDbm =
				state === 'operation' ? budget.eirpDbm : present(budget.alignmentEirpDbm, 'alignment EIRP');
			return {
				eirpDbm,
				powerDbm: eirpDbm - budget.transmitGainDbi,
				diameterM: carrier.transmitDish[end].diameterM
			};
		});
}

function firstLookAt(
	input: HopPlanInput,
	carriers: readonly Carrier[],
	budgets: ReadonlyMap<number, PerEnd<DirectionBudget>>,
	dish: EndElectrical,
	end: End
): FirstLook {
	const own = input.ends[end];
	const supplyV = supplyVoltageV(own);
	const states = (['operation', 'alignment'] as const).map((state) =>
		radiatorsOf(carriers, budgets, end, state)
	);
	const exposure = (referenceWM2: number): ExposureDistance =>
		states
			.map((radiators) => exposureDistance(radiators, referenceWM2))
			.reduce((p, q) => (q.distanceM > p.distanceM ? q : p));
	const { operatingMS, survivalMS, mastSwayDeg } = input.wind;
	return {
		exposure: {
			public: exposure(input.publicExposureWM2),
			worker: exposure(input.workerExposureWM2)
		},
		wind: {
			operating: windLook(operatingMS, own.dish.diameterM),
			survival: windLook(survivalMS, own.dish.diameterM),
			swayLossDb: pointingLossDb(mastSwayDeg, dish.beamwidthDeg)
		},
		supply:
			own.cable && supplyV !== null
				? dcSupply(supplyV, own.radio.consumptionW, own.cable, own.cableLengthM)
				: null,
		hoist: hoistOf(input, inventoryOf(input, end))
	};
}
