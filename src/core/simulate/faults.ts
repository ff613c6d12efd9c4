import type { Cause } from '../diagnose/causes/keys';
import { ENDS, farEnd, type End, type PerEnd } from '../ends';
import { dbFromRatio } from '../units/decibel';

/** Faults that a simulated hop can have, named as the diagnosis names them. */
export const SIMULATED_FAULTS = [
	'crossed-polarization',
	'power-control-on',
	'adaptive-modulation-on',
	'power-low-a',
	'power-low-b',
	'wrong-sub-band',
	'wrong-curve-a',
	'wrong-curve-b',
	'pick-up',
	'film-left-in',
	'feeder-bad',
	'obstruction',
	'rain',
	'wrong-arm',
	'wrong-dish',
	'overload',
	'side-lobe-a',
	'side-lobe-b',
	'side-lobe-both',
	'moved-while-locking',
	'crossed-cables'
] as const satisfies readonly Cause[];
export type SimulatedFault = (typeof SIMULATED_FAULTS)[number];

/** Whether a cause of the diagnosis can be played by the simulator. */
export function isSimulatedFault(cause: string): cause is SimulatedFault {
	return (SIMULATED_FAULTS as readonly string[]).includes(cause);
}

/**
 * Where a fault can be: at either end, so that planting it may name one; or nowhere of its own, since its
 * name says the end, it lies in the path, or one end having it is the same as the other.
 */
export const PLACES: Readonly<Record<SimulatedFault, 'either-end' | 'whole-hop'>> = {
	'crossed-polarization': 'whole-hop',
	'power-control-on': 'either-end',
	'adaptive-modulation-on': 'either-end',
	'power-low-a': 'whole-hop',
	'power-low-b': 'whole-hop',
	'wrong-sub-band': 'whole-hop',
	'wrong-curve-a': 'whole-hop',
	'wrong-curve-b': 'whole-hop',
	'pick-up': 'either-end',
	'film-left-in': 'whole-hop',
	'feeder-bad': 'whole-hop',
	obstruction: 'whole-hop',
	rain: 'whole-hop',
	'wrong-arm': 'either-end',
	'wrong-dish': 'either-end',
	overload: 'either-end',
	'side-lobe-a': 'whole-hop',
	'side-lobe-b': 'whole-hop',
	'side-lobe-both': 'whole-hop',
	'moved-while-locking': 'either-end',
	'crossed-cables': 'either-end'
};

/** Faults at work on a hop, and where. */
export type FaultsAtWork = readonly { fault: SimulatedFault; end: End | null }[];

/** Whether a fault is at work at an end, or anywhere where none is named. */
export function isAtWork(faults: FaultsAtWork, fault: SimulatedFault, at?: End): boolean {
	return faults.some(
		(one) => one.fault === fault && (at === undefined || one.end === null || one.end === at)
	);
}

/** Whether a dish begins on a side lobe. */
export function beginsOnSideLobe(faults: FaultsAtWork, end: End): boolean {
	return (
		isAtWork(faults, 'side-lobe-both') ||
		isAtWork(faults, end === 'A' ? 'side-lobe-a' : 'side-lobe-b')
	);
}

/** Loss of both directions under a fault, dB, made-up but of the usual size. */
const COMMON_LOSS_DB: Partial<Record<SimulatedFault, number>> = {
	'wrong-sub-band': 70,
	'film-left-in': 7,
	obstruction: 14,
	rain: 8
};
/** One size of dish smaller: its gain, and its beam wider, as catalogues step by 1.5 in diameter. */
const SMALLER_DISH_DB = 20 * Math.log10(1.5);
export const WIDER_BEAM = 1.5;
/** An overloaded receiver gets so much more than its maximum, dB. */
const BEYOND_MAXIMUM_DB = 6;
const LOW_POWER_DB = 9;
/** Power control aims this far below the planned level, dB. */
const HELD_BELOW_PLAN_DB = 6;
/** How far it can lower its power, and raise it above the planned one, dB. */
const CONTROL_DOWN_DB = 20;
const CONTROL_UP_DB = 4;
/** Lower modulations send more: below so much under plan, dB, by so much, dB. */
const MODULATION_STEPS: readonly (readonly [belowPlanDb: number, moreDb: number])[] = [
	[18, 5],
	[8, 3]
];
/** A reversed or mistaken curve: the shown level errs by this share of its distance from plan. */
const WRONG_CURVE_DB = 11;

/**
 * Loss that air, feeders, arms and dishes add in both directions, dB.
 *
 * @param elapsedS seconds since any beginning: a bad joint swings with it
 * @param armDifferenceDb by how much the arms of an end differ, 0 or more
 */
export function commonLossDb(
	faults: FaultsAtWork,
	elapsedS: number,
	armDifferenceDb: PerEnd<number>
): number {
	const ofHop = faults.reduce((sum, { fault }) => {
		if (fault === 'feeder-bad') return sum + 6 + 1.8 * Math.sin(elapsedS / 3.1);
		return sum + (COMMON_LOSS_DB[fault] ?? 0);
	}, 0);
	return ENDS.reduce(
		(sum, end) =>
			sum +
			(isAtWork(faults, 'wrong-arm', end) ? armDifferenceDb[end] : 0) +
			(isAtWork(faults, 'wrong-dish', end) ? SMALLER_DISH_DB : 0),
		ofHop
	);
}

/** What an end is, as far as the far transmitter's faults need it. */
export interface SentTo {
	/** Planned level at this end, dBm. */
	plannedDbm: number;
	/** Its receiver's maximum input, dBm. */
	maxInputDbm: number;
	/** What the far end's crossed cables take from it, dB: another radio sends than the one asked. */
	crossedCablesLossDb: number;
}

/**
 * What the far transmitter makes of a level that would be `levelDbm` at its planned fixed power.
 * Power control holds a level below plan, so that the meter stays flat while the dish moves and even
 * rises as the aim gets worse; ACM sends more when the signal is poor.
 *
 * @param levelDbm received at the planned fixed power
 */
export function sentLevelDbm(
	faults: FaultsAtWork,
	end: End,
	levelDbm: number,
	{ plannedDbm, maxInputDbm, crossedCablesLossDb }: SentTo
): number {
	const far = farEnd(end);
	let level = levelDbm;
	if (isAtWork(faults, far === 'A' ? 'power-low-a' : 'power-low-b')) level -= LOW_POWER_DB;
	if (isAtWork(faults, 'crossed-cables', far)) level -= crossedCablesLossDb;
	if (isAtWork(faults, 'overload', end)) {
		// A transmitter beside it drowns the receiver, whatever its own dish looks at.
		return maxInputDbm + BEYOND_MAXIMUM_DB;
	}
	if (isAtWork(faults, 'adaptive-modulation-on', far)) {
		const step = MODULATION_STEPS.find(([below]) => level < plannedDbm - below);
		level += step?.[1] ?? 0;
	}
	if (isAtWork(faults, 'power-control-on', far)) {
		const held = plannedDbm - HELD_BELOW_PLAN_DB;
		level =
			level > held
				? Math.max(held, level - CONTROL_DOWN_DB)
				: Math.min(held, level + CONTROL_UP_DB);
	}
	return level;
}

/**
 * What the level port shows of a level.
 *
 * @param levelDbm true level at the receiver
 */
export function shownLevelDbm(faults: FaultsAtWork, end: End, levelDbm: number): number {
	return isAtWork(faults, end === 'A' ? 'wrong-curve-a' : 'wrong-curve-b')
		? levelDbm - WRONG_CURVE_DB
		: levelDbm;
}

/**
 * Cross-polar pattern of a dish against its own co-polar peak, dB: a null of the discrimination's
 * depth on axis with four lobes about it, rising to a little above it.
 *
 * @param offset radius in beamwidths and angle in radians about the axis
 * @param coPolarDb co-polar gain there, 0 or below
 * @param discriminationDb of the dish on its axis, above 0
 */
export function crossPolarGainDb(
	coPolarDb: number,
	discriminationDb: number,
	offset: { beamwidths: number; angle: number }
): number {
	const x = (offset.beamwidths / 0.6) ** 2;
	const lobes = 1.3 * x * Math.exp(1 - x) * Math.sin(2 * offset.angle) ** 2;
	return dbFromRatio(10 ** (coPolarDb / 10) + lobes) - discriminationDb;
}
