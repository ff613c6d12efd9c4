import { ENDS, farEnd, type End } from '../ends';
import { terrainRoughnessM } from '../path/roughness';
import { clearAirCrossPolarPercent, rainCrossPolarPercent } from '../propagation/crossPolarOutage';
import {
	frequencyDiversityImprovement,
	spaceDiversityImprovement,
	type Improvement
} from '../propagation/diversity';
import {
	annualShare,
	detailedOccurrencePercent,
	fadeExceededPercent,
	quickOccurrencePercent
} from '../propagation/multipath';
import { LONGEST_RAIN_PATH_KM, rainOutage, type RainOutage } from '../propagation/rainOutage';
import { CONFIGURATION_RULES, type Carrier } from './configuration';
import {
	antennaHeights,
	requireDishAt,
	type DirectionBudget,
	type ModulationMargin
} from './directionBudget';
import type { HopPlanInput } from './planInput';
import { itemAt, present } from '../units/lists';

/** Minutes of a mean year. */
export const MINUTES_PER_YEAR = 525_960;

/** Outage of one direction in one modulation, every cause in percent of an average year. */
export interface DirectionAvailability {
	carrierNumber: number;
	receivingEnd: End;
	modulation: string;
	capacityMbitS: number;
	marginDb: number;
	multipathPercent: number;
	rainPercent: number;
	/** Whether the rain method reaches the margin: `less` and `more` give its last stated value. */
	rainRange: RainOutage['range'];
	/** Loss of discrimination in clear air; null where only one polarization is used. */
	clearAirCrossPolarPercent: number | null;
	/** The same in rain; null where not used or not stated for the frequency. */
	rainCrossPolarPercent: number | null;
	totalPercent: number;
	availabilityPercent: number;
	outageMinutesPerYear: number;
}

export interface HopAvailability {
	/** Multipath occurrence of the worst month, percent. */
	occurrencePercent: number;
	/** Worst month to average year. */
	annualShare: number;
	roughnessM: number | null;
	method: 'quick' | 'detailed';
	directions: DirectionAvailability[];
	/** The worst direction of the aligned carrier in the operating modulation. */
	achievedPercent: number;
	requiredPercent: number;
	holds: boolean;
	/** Of the operating modulation, at the end that gains less; each direction counts with its own. */
	diversity: Improvement | null;
	notModelled: string[];
}

/**
 * Availability of every carrier, direction and modulation of a hop.
 *
 * Multipath and clear-air discrimination come from the worst month by the annual share; of rain
 * attenuation and rain discrimination the larger counts, then all are added.
 *
 * @param pathKm 0.001 to 400
 * @throws OutOfRangeError where the path or the climate lies outside what the recommendations state
 * Source: ITU-R P.530-18, §2.3, §2.4, §4 and §7.
 */
export function hopAvailability(
	input: HopPlanInput,
	carriers: readonly Carrier[],
	budgets: ReadonlyMap<number, Record<End, DirectionBudget>>,
	pathKm: number
): HopAvailability {
	const main = itemAt(carriers, 0);
	const middleLatitudeDeg =
		(input.ends.A.position.latitudeDeg + input.ends.B.position.latitudeDeg) / 2;
	const { profile } = input.path;
	const roughnessM = profile ? terrainRoughnessM(profile) : null;
	const detailedBy = input.multipathMethod === 'detailed' ? roughnessM : null;
	const occurrence = (frequencyGhz: number): number => {
		const path = multipathPath(input, main, pathKm, frequencyGhz);
		return detailedBy === null
			? quickOccurrencePercent(path)
			: detailedOccurrencePercent(path, detailedBy);
	};
	const share = annualShare(
		multipathPath(input, main, pathKm, main.transmitFrequencyGhz.A),
		middleLatitudeDeg
	);
	const improvement = (end: End, modulation: string): Improvement | null =>
		improvementOf(input, carriers, budgets, { pathKm, occurrence, end, modulation });
	const directions = carriers.flatMap((carrier) =>
		ENDS.flatMap((end) => {
			const budget = present(budgets.get(carrier.number), 'budget of the carrier')[end];
			return budget.margins.map((margin) =>
				directionOf(input, carrier, budget, margin, {
					pathKm,
					occurrencePercent: occurrence(budget.frequencyGhz),
					share,
					improvement: improvement(end, margin.modulation)?.factor ?? 1
				})
			);
		})
	);
	const achieved = directions
		.filter((d) => d.carrierNumber === 1 && d.modulation === input.operatingModulation)
		.reduce((worst, d) => Math.min(worst, d.availabilityPercent), 100);
	const known = directions.some((d) => d.modulation === input.operatingModulation);
	const achievedPercent = known ? achieved : 0;
	return {
		occurrencePercent: occurrence(main.transmitFrequencyGhz.A),
		annualShare: share,
		roughnessM,
		method: detailedBy === null ? 'quick' : 'detailed',
		directions,
		achievedPercent,
		requiredPercent: input.requiredAvailabilityPercent,
		holds: achievedPercent >= input.requiredAvailabilityPercent,
		diversity: weaker(ENDS.map((end) => improvement(end, input.operatingModulation))),
		notModelled: notModelled(input, carriers, pathKm, detailedBy !== null)
	};
}

function multipathPath(
	input: HopPlanInput,
	carrier: Carrier,
	pathKm: number,
	frequencyGhz: number
): Parameters<typeof quickOccurrencePercent>[0] {
	const heights = antennaHeights(input, carrier, 'A');
	return {
		frequencyGhz,
		pathKm,
		heightAAmslM: heights.A,
		heightBAmslM: heights.B,
		gradientDn1: input.climate.gradientDn1
	};
}

function weaker(improvements: readonly (Improvement | null)[]): Improvement | null {
	return improvements.reduce((p, q) => (p && q && q.factor < p.factor ? q : p));
}

/** What diversity makes of the fades of one modulation at one end: it grows with that margin. */
function improvementOf(
	input: HopPlanInput,
	carriers: readonly Carrier[],
	budgets: ReadonlyMap<number, Record<End, DirectionBudget>>,
	at: { pathKm: number; occurrence: (ghz: number) => number; end: End; modulation: string }
): Improvement | null {
	const [main, second] = carriers;
	if (!main || !second) return null;
	const { pathKm, end } = at;
	const frequencyGhz = main.transmitFrequencyGhz[farEnd(end)];
	const marginOf = (number: number): number =>
		Math.max(
			0,
			present(budgets.get(number), 'budget of the carrier')[end].margins.find(
				(m) => m.modulation === at.modulation
			)?.marginDb ?? 0
		);
	switch (input.configuration.kind) {
		case 'space-diversity':
			return spaceDiversityImprovement({
				separationM: Math.abs(second.receiveHeightOffsetM[end]),
				frequencyGhz,
				pathKm,
				occurrencePercent: at.occurrence(frequencyGhz),
				fadeMarginDb: marginOf(1),
				gainDifferenceDb: Math.abs(
					requireDishAt(main.receiveDish[end], frequencyGhz).gainDbi -
						requireDishAt(second.receiveDish[end], frequencyGhz).gainDbi
				)
			});
		case 'frequency-diversity':
			return frequencyDiversityImprovement({
				frequencyGhz,
				spacingGhz: Math.abs(frequencyGhz - second.transmitFrequencyGhz[farEnd(end)]),
				pathKm,
				fadeMarginDb: Math.min(marginOf(1), marginOf(2))
			});
		default:
			return null;
	}
}

function directionOf(
	input: HopPlanInput,
	carrier: Carrier,
	budget: DirectionBudget,
	margin: ModulationMargin,
	path: { pathKm: number; occurrencePercent: number; share: number; improvement: number }
): DirectionAvailability {
	const out = margin.marginDb <= 0;
	const multipathPercent = out
		? 100
		: (fadeExceededPercent(path.occurrencePercent, margin.marginDb) * path.share) /
			path.improvement;
	const rain = rainOutage({
		frequencyGhz: budget.frequencyGhz,
		pathKm: path.pathKm,
		polarization: carrier.polarization,
		rainRate001MmH: input.climate.rainRate001MmH,
		marginDb: margin.marginDb
	});
	const cross = crossPolarOf(input, carrier, budget, margin, path, rain);
	const rainAllPercent = Math.max(rain.percent, cross.rain ?? 0);
	const totalPercent = out
		? 100
		: Math.min(100, multipathPercent + rainAllPercent + (cross.clear ?? 0));
	return {
		carrierNumber: carrier.number,
		receivingEnd: budget.receivingEnd,
		modulation: margin.modulation,
		capacityMbitS: margin.capacityMbitS,
		marginDb: margin.marginDb,
		multipathPercent,
		rainPercent: rain.percent,
		rainRange: rain.range,
		clearAirCrossPolarPercent: cross.clear,
		rainCrossPolarPercent: cross.rain,
		totalPercent,
		availabilityPercent: 100 - totalPercent,
		outageMinutesPerYear: (totalPercent / 100) * MINUTES_PER_YEAR
	};
}

function crossPolarOf(
	input: HopPlanInput,
	carrier: Carrier,
	budget: DirectionBudget,
	margin: ModulationMargin,
	path: { occurrencePercent: number; share: number },
	rain: RainOutage
): { clear: number | null; rain: number | null } {
	const { kind, cancellerDb } = input.configuration;
	if (!CONFIGURATION_RULES[kind].coChannelDual) return { clear: null, rain: null };
	const end = budget.receivingEnd;
	const xpd = Math.min(
		requireDishAt(carrier.receiveDish[end], budget.frequencyGhz).crossPolarDiscriminationDb,
		requireDishAt(carrier.transmitDish[farEnd(end)], budget.frequencyGhz).crossPolarDiscriminationDb
	);
	const needed = { requiredCarrierToInterferenceDb: margin.requiredSnrDb, cancellerDb };
	return {
		clear:
			path.share *
			clearAirCrossPolarPercent({
				antennaXpdDb: xpd,
				occurrencePercent: path.occurrencePercent,
				...needed
			}),
		rain:
			rainCrossPolarPercent({
				frequencyGhz: budget.frequencyGhz,
				a001Db: rain.a001Db,
				...needed
			}) ?? null
	};
}

function notModelled(
	input: HopPlanInput,
	carriers: readonly Carrier[],
	pathKm: number,
	detailed: boolean
): string[] {
	const list = [
		'frequency-selective distortion',
		'wet snow and ice on the dish',
		'failures of equipment'
	];
	if (!input.path.profile) list.push('obstruction: no terrain profile');
	if (input.multipathMethod === 'detailed' && !detailed) {
		list.push('terrain roughness: the quick multipath form stands in, for want of a profile');
	}
	if (pathKm > LONGEST_RAIN_PATH_KM) {
		list.push(
			`rain beyond ${LONGEST_RAIN_PATH_KM} km of path: that of ${LONGEST_RAIN_PATH_KM} km is taken`
		);
	}
	const dual = CONFIGURATION_RULES[input.configuration.kind].coChannelDual;
	const f = itemAt(carriers, 0).transmitFrequencyGhz.A;
	if (dual && (f < 8 || f > 35)) {
		list.push('loss of discrimination in rain: stated from 8 to 35 GHz only');
	}
	return list;
}
