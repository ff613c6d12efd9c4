import { loopOhmPerKm } from '../catalogue/cableFigures';
import type { Adjuster, CablePart, RadioPart } from '../catalogue/parts';
import type {
	CableInstallation,
	ConnectorData,
	WeatherproofingKind
} from '../catalogue/installation';
import type { LiftingGear, PowerSource } from '../safety/gear';
import { degToRad } from '../units/angle';
import { requireInRange } from '../units/errors';

export interface LiftVerdict {
	/** Greatest load the weakest part allows, kg. */
	allowedKg: number;
	weakest: 'rope' | 'pulley' | 'sling';
	loadKg: number;
	/** Pull at the pulley's anchor: the load and the hand that holds it, kg. */
	anchorKg: number;
	holds: boolean;
	reason: string;
}

/**
 * Load against rope, pulley and sling. A single pulley turns the rope round, so that its anchor
 * carries the load twice.
 *
 * @param loadKg of the heaviest piece with its slings, 0 to 2000
 * @throws OutOfRangeError outside these ranges
 */
export function judgeLift(loadKg: number, gear: LiftingGear): LiftVerdict {
	requireInRange('loadKg', loadKg, 0, 2000);
	requireInRange('ropeFactor', gear.ropeFactor, 1, 20);
	requireInRange('ropeBreakingKg', gear.ropeBreakingKg, 1, 100_000);
	requireInRange('pulleyRatedKg', gear.pulleyRatedKg, 1, 100_000);
	requireInRange('slingRatedKg', gear.slingRatedKg, 1, 100_000);
	const anchorKg = 2 * loadKg;
	const limits = [
		{ part: 'rope', allowedKg: gear.ropeBreakingKg / gear.ropeFactor },
		// A pulley's rating is what its eye carries.
		{ part: 'pulley', allowedKg: gear.pulleyRatedKg / 2 },
		{ part: 'sling', allowedKg: gear.slingRatedKg }
	] as const;
	const weakest = limits.reduce((p, q) => (q.allowedKg < p.allowedKg ? q : p));
	const holds = loadKg <= weakest.allowedKg;
	return {
		allowedKg: weakest.allowedKg,
		weakest: weakest.part,
		loadKg,
		anchorKg,
		holds,
		reason: holds
			? `The ${weakest.part} is the weakest and allows ${weakest.allowedKg.toFixed(0)} kg; the anchor carries ${anchorKg.toFixed(0)} kg.`
			: `The ${weakest.part} allows ${weakest.allowedKg.toFixed(0)} kg, the load is ${loadKg.toFixed(0)} kg: take a stronger one, or lift in pieces.`
	};
}

export interface ClampPlan {
	count: number;
	/** Distances from the upper end, m. */
	positionsM: number[];
}

/**
 * Clamps or hangers of a run: the first near its upper end, then no further apart than allowed.
 *
 * @param lengthM 0 to 1000
 * @param firstM 0.05 to 10
 * @param everyM 0.1 to 10
 * @throws OutOfRangeError outside these ranges
 */
export function clampPlan(lengthM: number, firstM: number, everyM: number): ClampPlan {
	requireInRange('lengthM', lengthM, 0, 1000);
	requireInRange('firstM', firstM, 0.05, 10);
	requireInRange('everyM', everyM, 0.1, 10);
	// No room for one near each end: one in the middle.
	if (lengthM <= 2 * firstM) return { count: 1, positionsM: [lengthM / 2] };
	const between = Math.ceil((lengthM - 2 * firstM) / everyM - 1e-9);
	const steps = Math.max(1, between);
	const stepM = (lengthM - 2 * firstM) / steps;
	const positionsM = Array.from({ length: steps + 1 }, (_, i) => firstM + i * Math.max(0, stepM));
	return { count: positionsM.length, positionsM };
}

/**
 * Cable that must hang free at the unit so that the dish can swing through its whole adjustment
 * without pulling, and form a drip loop, m.
 *
 * @param leverM from the pivot to where the cable is held on the unit, 0.05 to 3
 * @param minBendRadiusMm of the cable, above 0
 * @throws OutOfRangeError outside these ranges
 */
export function serviceSlackM(
	azimuth: Pick<Adjuster, 'travelDeg'>,
	tilt: Pick<Adjuster, 'travelDeg'>,
	leverM: number,
	minBendRadiusMm: number
): { swingM: number; dripLoopM: number; totalM: number } {
	requireInRange('leverM', leverM, 0.05, 3);
	const swingM = leverM * degToRad(azimuth.travelDeg + tilt.travelDeg);
	// Half a turn at the least radius, down and up again.
	const dripLoopM = (2 * Math.PI * minBendRadiusMm) / 1000;
	return { swingM, dripLoopM, totalM: swingM + dripLoopM };
}

export type Tape = 'insulating tape' | 'waterproof tape' | 'sealing compound';

/** Layers wound over a joint by school, each down and back up with half overlap. */
const WRAP_LAYERS: Record<WeatherproofingKind, { tape: Tape; layers: number }[]> = {
	'compound-under-tape': [
		{ tape: 'insulating tape', layers: 1 },
		{ tape: 'sealing compound', layers: 1 },
		{ tape: 'insulating tape', layers: 2 }
	],
	'layered-tape': [
		{ tape: 'insulating tape', layers: 1 },
		{ tape: 'waterproof tape', layers: 2 },
		{ tape: 'insulating tape', layers: 3 }
	],
	sleeve: []
};
const TAPE_WIDTH_MM = 19;
/** Lies beyond the joint at either side, mm. */
const WRAP_BEYOND_MM = 50;
/** Usable length of one roll, m. */
const ROLL_M = 10;

export interface TapeNeed {
	tape: Tape;
	lengthM: number;
	rolls: number;
}

/**
 * Tape for a number of joints by the school of the cable: each layer half over the one before.
 *
 * @param joints 0 to 200
 * @throws OutOfRangeError outside that range
 */
export function tapeNeed(
	kind: WeatherproofingKind,
	{ wrapMm }: Pick<ConnectorData, 'wrapMm'>,
	joints: number
): TapeNeed[] {
	requireInRange('joints', joints, 0, 200);
	const lengths = new Map<Tape, number>();
	let diameter = wrapMm.diameter;
	for (const { tape, layers } of WRAP_LAYERS[kind]) {
		for (let layer = 0; layer < layers; layer++) {
			const turns = (wrapMm.length + 2 * WRAP_BEYOND_MM) / (TAPE_WIDTH_MM / 2);
			const lengthM = (turns * Math.PI * diameter * joints) / 1000;
			lengths.set(tape, (lengths.get(tape) ?? 0) + lengthM);
			diameter += tape === 'sealing compound' ? 6 : 1;
		}
	}
	return [...lengths].map(([tape, lengthM]) => rollsOf(tape, lengthM));
}

/**
 * Whole rolls of so much tape.
 *
 * @param lengthM 0 or more
 */
export function rollsOf(tape: Tape, lengthM: number): TapeNeed {
	return { tape, lengthM, rolls: Math.ceil(lengthM / ROLL_M) };
}

/** What is wound, in order, in words; empty for sleeves. */
export function wrapOrder(kind: WeatherproofingKind): string[] {
	return WRAP_LAYERS[kind].map(
		({ tape, layers }) => `${layers === 1 ? 'one layer' : `${layers} layers`} of ${tape}`
	);
}

/**
 * The gland insert for a cable, by its diameter; null where none fits.
 *
 * @param outerMm diameter over the sheath, above 0
 */
export function glandFor(
	outerMm: number,
	glands: CableInstallation['glands']
): CableInstallation['glands'][number] | null {
	return glands.find((gland) => outerMm >= gland.fromMm && outerMm <= gland.toMm) ?? null;
}

export interface PowerMatch {
	verdict: 'match' | 'no-power' | 'destroys';
	reason: string;
}

/** Longest cable of Ethernet over copper. Source: IEEE 802.3, channel of 100 m. */
export const LONGEST_ETHERNET_M = 100;

/**
 * Whether a source and a unit belong together. A passive injector never asks what it feeds.
 *
 * @param cableLengthM of the run between them, 0 or more
 */
export function matchPower(
	source: PowerSource,
	radio: Pick<RadioPart, 'consumptionW' | 'supplyMinV'> & {
		power: { kind: PowerSource['kind']; maxV: number };
	},
	cableLengthM: number
): PowerMatch {
	const { power } = radio;
	if (source.kind !== power.kind) {
		if (source.kind === 'poe-standard') {
			return {
				verdict: 'no-power',
				reason: 'A standard port asks first and gives nothing to a unit that does not answer.'
			};
		}
		return {
			verdict: 'destroys',
			reason: `A ${POWER_WORDS[source.kind]} feeds without asking; this unit takes ${POWER_WORDS[power.kind]} and may be destroyed.`
		};
	}
	if (source.voltageV > power.maxV) {
		return {
			verdict: 'destroys',
			reason: `${source.voltageV} V is above the ${power.maxV} V that this unit stands.`
		};
	}
	if (source.kind !== 'dc' && cableLengthM > LONGEST_ETHERNET_M) {
		return {
			verdict: 'no-power',
			reason: `Ethernet reaches ${LONGEST_ETHERNET_M} m; this run is ${cableLengthM} m.`
		};
	}
	if (source.powerW < radio.consumptionW || source.voltageV < radio.supplyMinV) {
		return {
			verdict: 'no-power',
			reason: `The unit takes ${radio.consumptionW} W at ${radio.supplyMinV} V or more.`
		};
	}
	return { verdict: 'match', reason: 'Source and unit belong together.' };
}

/** What feeds a unit, in words. */
export const POWER_WORDS: Readonly<Record<PowerSource['kind'], string>> = {
	dc: 'DC supply',
	'poe-standard': 'standard Power over Ethernet',
	'poe-passive': 'passive injector'
};

/** Steps in which an elliptical guide is bent: never more than this at once, degrees. */
const BEND_STEP_DEG = 15;

/**
 * A bend of a run: how many small steps, and how long it is at least.
 *
 * @param angleDeg 0 to 180
 * @param minRadiusMm 1 to 10 000
 * @throws OutOfRangeError outside these ranges
 */
export function bendPlan(
	angleDeg: number,
	minRadiusMm: number
): { steps: number; lengthM: number } {
	requireInRange('angleDeg', angleDeg, 0, 180);
	requireInRange('minRadiusMm', minRadiusMm, 1, 10_000);
	return {
		steps: Math.ceil(angleDeg / BEND_STEP_DEG),
		lengthM: (degToRad(angleDeg) * minRadiusMm) / 1000
	};
}

/**
 * Expected loop resistance of a cable with its far end shorted, ohm at 20 °C.
 *
 * @param lengthM of the run, 0 or more
 */
export function shortedLoopOhm(
	cable: Pick<CablePart, 'ohmPerKm' | 'coaxial'>,
	lengthM: number
): number {
	return (loopOhmPerKm(cable) * lengthM) / 1000;
}
