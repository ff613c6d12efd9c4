import type { Cause } from '../diagnose/causes/keys';
import { farEnd, type End } from '../ends';
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
	'rain'
] as const satisfies readonly Cause[];
export type SimulatedFault = (typeof SIMULATED_FAULTS)[number];

/** Whether a cause of the diagnosis can be played by the simulator. */
export function isSimulatedFault(cause: string): cause is SimulatedFault {
	return (SIMULATED_FAULTS as readonly string[]).includes(cause);
}

/** Loss of both directions under a fault, dB, made-up but of the usual size. */
const COMMON_LOSS_DB: Partial<Record<SimulatedFault, number>> = {
	'wrong-sub-band': 70,
	'film-left-in': 7,
	obstruction: 14,
	rain: 8
};
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
 * Loss that air and feeders add in both directions, dB.
 *
 * @param elapsedS seconds since any beginning: a bad joint swings with it
 */
export function commonLossDb(faults: readonly SimulatedFault[], elapsedS: number): number {
	return faults.reduce((sum, fault) => {
		if (fault === 'feeder-bad') return sum + 6 + 1.8 * Math.sin(elapsedS / 3.1);
		return sum + (COMMON_LOSS_DB[fault] ?? 0);
	}, 0);
}

/**
 * What the far transmitter makes of a level that would be `levelDbm` at its planned fixed power.
 * Power control holds a level below plan, so that the meter stays flat while the dish moves and even
 * rises as the aim gets worse; adaptive modulation sends more when the signal is poor.
 *
 * @param levelDbm received at the planned fixed power
 * @param plannedDbm planned level at this end
 */
export function sentLevelDbm(
	faults: readonly SimulatedFault[],
	end: End,
	levelDbm: number,
	plannedDbm: number
): number {
	let level = levelDbm;
	if (faults.includes(`power-low-${farEnd(end) === 'A' ? 'a' : 'b'}`)) level -= LOW_POWER_DB;
	if (faults.includes('adaptive-modulation-on')) {
		const step = MODULATION_STEPS.find(([below]) => level < plannedDbm - below);
		level += step?.[1] ?? 0;
	}
	if (faults.includes('power-control-on')) {
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
export function shownLevelDbm(
	faults: readonly SimulatedFault[],
	end: End,
	levelDbm: number
): number {
	return faults.includes(`wrong-curve-${end === 'A' ? 'a' : 'b'}`)
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
