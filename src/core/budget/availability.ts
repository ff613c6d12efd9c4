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
import { STATED_TO_PERCENT } from '../propagation/rain';
import { LONGEST_RAIN_PATH_KM, rainOutage, type RainOutage } from '../propagation/rainOutage';
import { outageWithDiversity, selectiveOutagePercent } from '../propagation/selectiveFading';
import { signatureOf } from '../catalogue/signature';
import { carriesTraffic, CONFIGURATION_RULES, type Carrier } from './configuration';
import type { CarrierCombination, DirectionRule } from './configurationKinds';
import {
	antennaHeights,
	requireDishAt,
	type DirectionBudget,
	type ModulationMargin
} from './directionBudget';
import type { HopPlanInput } from './planInput';
import { itemAt, lastOf, present } from '../units/lists';

/** Minutes of a mean year. */
export const MINUTES_PER_YEAR = 525_960;

/** Outage of one direction in one modulation, every cause in percent of an average year. */
export interface DirectionAvailability {
	carrierNumber: number;
	receivingEnd: End;
	modulation: string;
	capacityMbitS: number;
	marginDb: number;
	/** Fades of the whole channel. */
	multipathPercent: number;
	/** Distortion within it; null where the radio states no signature, absent in plans frozen before. */
	selectivePercent?: number | null;
	rainPercent: number;
	/** Whether the rain method reaches the margin: `less` and `more` give its last stated value. */
	rainRange: RainOutage['range'];
	/** Loss of discrimination in clear air; null where only one polarization is used. */
	clearAirCrossPolarPercent: number | null;
	/** The same in rain; null where not used or not stated for the frequency. */
	rainCrossPolarPercent: number | null;
	totalPercent: number;
	availabilityPercent: number;
	/** Whether the figures are a bound, the method reaching no further; absent in plans frozen before. */
	bound?: AvailabilityBound;
	outageMinutesPerYear: number;
}

/** The true availability is better, or worse, than the figure. */
export type AvailabilityBound = 'better' | 'worse' | null;

/** What a hop carries for so much of the year. */
export interface CapacityShare {
	availabilityPercent: number;
	/** Of all carriers together, in the direction that carries less, Mbit/s. */
	mbitS: number;
}

/** An availability with whether it is a bound. */
export interface CountedAvailability {
	percent: number;
	bound: AvailabilityBound;
}

export interface HopAvailability {
	/** Multipath occurrence of the worst month, percent. */
	occurrencePercent: number;
	/** Worst month to average year. */
	annualShare: number;
	roughnessM: number | null;
	method: 'quick' | 'detailed';
	directions: DirectionAvailability[];
	/** In the wanted modulation of each carrier, the worse direction, by the rule of combination. */
	achievedPercent: number;
	/** Absent in plans frozen before they were kept, as the next two. */
	bound?: AvailabilityBound;
	/** How carriers combine; null where one alone has traffic. */
	combined?: { rule: CarrierCombination; all: number; any: number; capacity: number } | null;
	capacity?: CapacityShare[];
	/** The same by each way of counting directions, and which was chosen; absent as above. */
	byDirection?: { rule: DirectionRule } & Record<DirectionRule, CountedAvailability>;
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
					improvement: improvement(end, margin.modulation)?.factor ?? null
				})
			);
		})
	);
	const traffic = carriers.filter((carrier) => carriesTraffic(carrier, input.configuration.kind));
	const { combine } = input.configuration;
	const counted = {
		worse: combinationOf(
			traffic.map((carrier) => worseOf(carrier, directions)),
			combine
		),
		either: combinationOf(
			traffic.map((carrier) => eitherOf(carrier, directions)),
			combine
		)
	};
	const { achievedPercent, bound, combined } = counted[input.directionRule];
	return {
		occurrencePercent: occurrence(main.transmitFrequencyGhz.A),
		annualShare: share,
		roughnessM,
		method: detailedBy === null ? 'quick' : 'detailed',
		directions,
		achievedPercent,
		bound,
		combined,
		capacity: capacityShares(traffic, directions),
		byDirection: {
			rule: input.directionRule,
			worse: { percent: counted.worse.achievedPercent, bound: counted.worse.bound },
			either: { percent: counted.either.achievedPercent, bound: counted.either.bound }
		},
		requiredPercent: input.requiredAvailabilityPercent,
		// What is at most so much may be less.
		holds: bound !== 'worse' && achievedPercent >= input.requiredAvailabilityPercent,
		diversity: weaker(ENDS.map((end) => improvement(end, input.operatingModulation))),
		notModelled: notModelled(input, carriers, pathKm, detailedBy !== null)
	};
}

/** What an availability is where the rain method says no more than a bound of it. */
export const BOUND_OF: Record<RainOutage['range'], AvailabilityBound> = {
	within: null,
	extrapolated: null,
	less: 'better',
	more: 'worse'
};

/** One carrier in its wanted modulation. */
interface Wanted {
	availabilityPercent: number;
	bound: AvailabilityBound;
	capacityMbitS: number;
}

/** A modulation that a radio does not have carries nothing; the checks of the plan say so. */
const NOTHING: Wanted = { availabilityPercent: 0, bound: null, capacityMbitS: 0 };

function inWanted(
	carrier: Carrier,
	directions: readonly DirectionAvailability[]
): DirectionAvailability[] {
	return directions.filter(
		(d) => d.carrierNumber === carrier.number && d.modulation === carrier.modulation
	);
}

/**
 * Out when either direction is: rain and what it does to the discrimination meet both at once, so the larger
 * counts; clear-air fades of two frequencies are taken as never at the same time, which is the careful bound.
 */
function eitherOf(carrier: Carrier, directions: readonly DirectionAvailability[]): Wanted {
	const own = inWanted(carrier, directions);
	if (own.length === 0) return NOTHING;
	const rain = Math.max(...own.map((d) => Math.max(d.rainPercent, d.rainCrossPolarPercent ?? 0)));
	const clear = own.reduce(
		(sum, d) =>
			sum + d.multipathPercent + (d.selectivePercent ?? 0) + (d.clearAirCrossPolarPercent ?? 0),
		0
	);
	const out = own.some(({ totalPercent }) => totalPercent >= 100);
	const worse = own.reduce((p, q) => (q.availabilityPercent < p.availabilityPercent ? q : p));
	return {
		availabilityPercent: out ? 0 : Math.max(0, 100 - rain - clear),
		bound: boundOfAll(own, worse),
		capacityMbitS: Math.min(...own.map(({ capacityMbitS }) => capacityMbitS))
	};
}

/** The direction that is out more. */
function worseOf(carrier: Carrier, directions: readonly DirectionAvailability[]): Wanted {
	const own = inWanted(carrier, directions);
	if (own.length === 0) return NOTHING;
	const worse = own.reduce((p, q) => (q.availabilityPercent < p.availabilityPercent ? q : p));
	const { availabilityPercent, capacityMbitS } = worse;
	return { availabilityPercent, capacityMbitS, bound: boundOfAll(own, worse) };
}

/** The bound of a figure that several decide: the least of them, unless any may be worse than it says. */
function boundOfAll(
	all: readonly { bound?: AvailabilityBound }[],
	least: { bound?: AvailabilityBound }
): AvailabilityBound {
	return all.some(({ bound }) => bound === 'worse') ? 'worse' : (least.bound ?? null);
}

/**
 * The hop’s figure. Carriers of one path fade together: of all the worst counts, of any the best, and by
 * capacity each with its share of the whole.
 */
function combinationOf(
	wanted: readonly Wanted[],
	rule: CarrierCombination
): Required<Pick<HopAvailability, 'achievedPercent' | 'bound' | 'combined'>> {
	const ordered = wanted.toSorted((p, q) => p.availabilityPercent - q.availabilityPercent);
	const worst = itemAt(ordered, 0);
	if (ordered.length === 1) {
		return { achievedPercent: worst.availabilityPercent, bound: worst.bound, combined: null };
	}
	const best = lastOf(ordered);
	const whole = wanted.reduce((sum, { capacityMbitS }) => sum + capacityMbitS, 0);
	const weighted = wanted.reduce(
		(sum, { availabilityPercent, capacityMbitS }) => sum + availabilityPercent * capacityMbitS,
		0
	);
	const combined = {
		rule,
		all: worst.availabilityPercent,
		any: best.availabilityPercent,
		capacity: whole > 0 ? weighted / whole : 0
	};
	const bound = rule === 'any' ? best.bound : boundOfAll(wanted, worst);
	return { achievedPercent: combined[rule], bound, combined };
}

/** Shares of the year that a capacity is told for, rising, percent. */
const TOLD_SHARES = [99, 99.9, 99.95, 99.99, 99.995, 99.999];

/** Each carrier in the best modulation that holds for that share, all fading together. */
function capacityShares(
	traffic: readonly Carrier[],
	directions: readonly DirectionAvailability[]
): CapacityShare[] {
	const carried = (end: End, percent: number): number =>
		traffic.reduce((sum, { number }) => {
			const held = directions.filter(
				(d) =>
					d.carrierNumber === number &&
					d.receivingEnd === end &&
					d.availabilityPercent >= percent &&
					// What is at most so much may be less.
					d.bound !== 'worse'
			);
			return sum + Math.max(0, ...held.map((d) => d.capacityMbitS));
		}, 0);
	const told = TOLD_SHARES.map((availabilityPercent) => ({
		availabilityPercent,
		mbitS: Math.min(...ENDS.map((end) => carried(end, availabilityPercent)))
	}));
	// What holds for more of the year need not be told for less.
	return told.filter(({ mbitS }, i) => mbitS > 0 && mbitS !== told[i + 1]?.mbitS);
}

/**
 * An availability in words: rounded down, with as many nines as there are, and whether it is a bound.
 *
 * @param percent 0 to 100
 */
export function availabilityText(percent: number, bound: AvailabilityBound = null): string {
	const digits = percent >= 99.9999 ? 6 : percent >= 99.999 ? 5 : 4;
	const scale = 10 ** digits;
	const text = (Math.floor(percent * scale + 1e-6) / scale).toFixed(digits);
	return `${bound ? `${bound} than ` : ''}${text} %`;
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
	const levelOf = (number: number): number =>
		present(budgets.get(number), 'budget of the carrier')[end].operatingLevelDbm;
	switch (input.configuration.kind) {
		case 'space-diversity':
			return spaceDiversityImprovement({
				separationM: Math.abs(second.receiveHeightOffsetM[end]),
				frequencyGhz,
				pathKm,
				occurrencePercent: at.occurrence(frequencyGhz),
				fadeMarginDb: marginOf(1),
				// A smaller dish and a path that is more obstructed weaken it alike.
				gainDifferenceDb: Math.abs(levelOf(1) - levelOf(2))
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

interface ClearAirPath {
	pathKm: number;
	occurrencePercent: number;
	share: number;
	/** Of diversity; null without. */
	improvement: number | null;
}

/** Flat and selective fading of an average year, percent; selective is null without a signature. */
function clearAirFading(
	carrier: Carrier,
	budget: DirectionBudget,
	margin: ModulationMargin,
	path: ClearAirPath
): { flatPercent: number; selectivePercent: number | null } {
	const { occurrencePercent, improvement, share, pathKm } = path;
	const flat = fadeExceededPercent(occurrencePercent, Math.max(0, margin.marginDb));
	const signature = signatureOf(
		carrier.radio[budget.receivingEnd],
		margin.modulation,
		carrier.channelWidthMhz
	);
	const selective = signature && selectiveOutagePercent(signature, occurrencePercent, pathKm);
	if (improvement === null || selective === undefined) {
		return {
			flatPercent: (flat * share) / (improvement ?? 1),
			selectivePercent: selective === undefined ? null : selective * share
		};
	}
	const left = outageWithDiversity(flat, selective, improvement, occurrencePercent);
	// The two together are more than their sum: what is more counts with the distortion.
	return {
		flatPercent: left.flatPercent * share,
		selectivePercent: (left.totalPercent - left.flatPercent) * share
	};
}

/** What wet covers leave of a margin that holds while it is dry: the hop is out whenever it rains, not always. */
const LEAST_MARGIN_DB = 1e-6;

/** Loss of the wet covers of both dishes of a direction, dB. */
function wetCoversDb(carrier: Carrier, end: End): number {
	const dishes = [carrier.receiveDish[end], carrier.transmitDish[farEnd(end)]];
	return dishes.reduce((sum, dish) => sum + (dish.cover?.wetLossDb ?? 0), 0);
}

function directionOf(
	input: HopPlanInput,
	carrier: Carrier,
	budget: DirectionBudget,
	margin: ModulationMargin,
	path: ClearAirPath
): DirectionAvailability {
	const out = margin.marginDb <= 0;
	const clear = clearAirFading(carrier, budget, margin, path);
	const multipathPercent = out ? 100 : clear.flatPercent;
	const rain = rainOutage({
		frequencyGhz: budget.frequencyGhz,
		pathKm: path.pathKm,
		polarization: carrier.polarization,
		rainRate001MmH: input.climate.rainRate001MmH,
		// In rain the covers of both dishes are wet as well.
		marginDb: out
			? margin.marginDb
			: Math.max(LEAST_MARGIN_DB, margin.marginDb - wetCoversDb(carrier, budget.receivingEnd))
	});
	const cross = crossPolarOf(input, carrier, budget, margin, path, rain);
	const rainAllPercent = Math.max(rain.percent, cross.rain ?? 0);
	const totalPercent = out
		? 100
		: Math.min(
				100,
				multipathPercent + (clear.selectivePercent ?? 0) + rainAllPercent + (cross.clear ?? 0)
			);
	return {
		carrierNumber: carrier.number,
		receivingEnd: budget.receivingEnd,
		modulation: margin.modulation,
		capacityMbitS: margin.capacityMbitS,
		marginDb: margin.marginDb,
		multipathPercent,
		selectivePercent: out && clear.selectivePercent !== null ? 0 : clear.selectivePercent,
		rainPercent: rain.percent,
		rainRange: rain.range,
		clearAirCrossPolarPercent: cross.clear,
		rainCrossPolarPercent: cross.rain,
		totalPercent,
		availabilityPercent: 100 - totalPercent,
		bound: out ? null : BOUND_OF[rain.range],
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
	const list = ['wet snow and ice on the dish', 'failures of equipment', 'ducting'];
	const unsigned = carriers.filter((carrier) =>
		ENDS.some(
			(end) => !signatureOf(carrier.radio[end], carrier.modulation, carrier.channelWidthMhz)
		)
	);
	const [first] = unsigned;
	if (first) {
		list.push(
			`selective fading: ${first.radio.A.code} states no signature for ${first.modulation} at ${first.channelWidthMhz} MHz`
		);
	}
	if (ENDS.every((end) => !input.ends[end].dish.cover)) {
		list.push('wet covers of the dishes: none states its loss');
	}
	if (!input.path.profile) list.push('obstruction: no terrain profile');
	if (input.multipathMethod === 'detailed' && !detailed) {
		list.push('terrain roughness: the quick multipath form stands in, for want of a profile');
	}
	const { requiredAvailabilityPercent } = input;
	if (requiredAvailabilityPercent > 100 - STATED_TO_PERCENT) {
		list.push(
			`rain rarer than ${STATED_TO_PERCENT} % of the year: the method is stated down to there, and its own law is followed beyond`
		);
	}
	if (pathKm > LONGEST_RAIN_PATH_KM) {
		list.push(
			`rain beyond ${LONGEST_RAIN_PATH_KM} km of path: that of ${LONGEST_RAIN_PATH_KM} km is taken`
		);
	}
	const dual = CONFIGURATION_RULES[input.configuration.kind].coChannelDual;
	const f = itemAt(carriers, 0).transmitFrequencyGhz.A;
	if (dual && (f < 8 || f > 35)) {
		list.push('loss of XPD in rain: stated from 8 to 35 GHz only');
	}
	return list;
}
