import { offAxisLossDb } from '../antenna/envelope';
import type { DishPart } from '../catalogue/parts';
import { ENDS, farEnd, type End, type PerEnd } from '../ends';
import {
	levelWithReflectionsDb,
	reflectionsOf,
	swingOf,
	type Reflection,
	type ReflectionPath
} from '../path/reflection';
import { carriesTraffic, carriersOf, type Carrier } from './configuration';
import { antennaHeights, requireDishAt } from './directionBudget';
import type { HopPlanInput } from './planInput';

/** What reflections can do to the level of one direction of a carrier. */
export interface ReflectionSwing {
	carrierNumber: number;
	receivingEnd: End;
	/** The most by which the level rises and falls over k and tide, dB. */
	highDb: number;
	lowDb: number;
	/** The reflections at the k and tide of that swing, strongest first. */
	reflections: Reflection[];
	/** Those k and tide. */
	kFactor: number;
	tide: number;
}

/** From this k on the earth is flat to the ray. */
const FLAT_EARTH_K = 1000;
/** Low water, mean water, high water. */
const TIDES = [-1, 0, 1] as const;
/** Weaker than this beside the direct signal is not worth a word, dB. */
const WORTH_DB = 0.5;

/** Loss of a dish off its axis, by its envelope. */
function offAxisOf(dish: DishPart, frequencyGhz: number): (offAxisDeg: number) => number {
	const { gainDbi } = requireDishAt(dish, frequencyGhz);
	return (deg) => offAxisLossDb(gainDbi, dish.diameterM, frequencyGhz, Math.min(180, deg));
}

/** The path of a direction as its reflections are judged; undefined without a profile. */
function reflectionPath(
	input: HopPlanInput,
	carrier: Carrier,
	end: End,
	over: { kFactor: number; tide: number; raisedM?: PerEnd<number> }
): ReflectionPath | undefined {
	const { profile, obstacles, water, groundRoughnessM } = input.path;
	if (!profile) return undefined;
	const far = farEnd(end);
	const frequencyGhz = carrier.transmitFrequencyGhz[far];
	const heights = antennaHeights(input, carrier, end);
	const per = <T>(of: (at: End) => T): PerEnd<T> => ({ A: of('A'), B: of('B') });
	return {
		...{ profile, obstacles, water, groundRoughnessM, frequencyGhz },
		polarization: carrier.polarization,
		antennaAmslM: per((at) => heights[at] + (over.raisedM?.[at] ?? 0)),
		kFactor: over.kFactor,
		tide: over.tide,
		offAxisLossDb: per((at) =>
			offAxisOf(at === end ? carrier.receiveDish[end] : carrier.transmitDish[far], frequencyGhz)
		)
	};
}

/**
 * What reflections can do to each direction of every carrier with traffic, and of a diversity dish, over
 * the k of the climate and the tide; those that move the level by less than 0.5 dB are left out.
 */
export function reflectionSwings(
	input: HopPlanInput,
	carriers: readonly Carrier[]
): ReflectionSwing[] {
	const ks = [...new Set([input.climate.lowK, input.kFactor, FLAT_EARTH_K])];
	const tides = input.path.water.some(({ tideM }) => tideM > 0) ? TIDES : [0];
	return carriers
		.filter(
			(carrier) => carrier.role === 'diversity' || carriesTraffic(carrier, input.configuration.kind)
		)
		.flatMap((carrier) =>
			ENDS.flatMap((end): ReflectionSwing[] => {
				const states = ks.flatMap((kFactor) =>
					tides.flatMap((tide): ReflectionSwing[] => {
						const path = reflectionPath(input, carrier, end, { kFactor, tide });
						if (!path) return [];
						const reflections = reflectionsOf(path);
						return [
							{
								...{ carrierNumber: carrier.number, receivingEnd: end, kFactor, tide },
								...swingOf(reflections),
								reflections
							}
						];
					})
				);
				if (states.length === 0) return [];
				const worst = states.reduce((p, q) => (q.lowDb < p.lowDb ? q : p));
				return worst.lowDb > -WORTH_DB ? [] : [worst];
			})
		);
}

/** A curve of the level against what changes it, dB against the direct ray alone. */
export interface LevelCurveOver {
	/** State of the tide; null where there is none. */
	tide: number | null;
	/** What is changed, and the level there. */
	points: readonly (readonly [number, number])[];
}

/** What a planner sees of the reflections of one direction. */
export interface ReflectionFigures {
	/** Against k: its reciprocal, which the bending of the ray follows, evenly from 1/lowK to 0. */
	againstInverseK: LevelCurveOver[];
	/** Against the height of each antenna, the other as planned, m above ground. */
	againstHeight: PerEnd<LevelCurveOver[]>;
	/** Distance up or down to the next second dish that hears well while this one does not, m. */
	spacingM: PerEnd<number>;
}

const K_POINTS = 241;
const HEIGHT_POINTS = 81;
/** Heights shown above and below the planned one, in pitches of the level. */
const PITCHES_SHOWN = 1.5;

/**
 * Curves of the level over k and over the antenna heights, by tide; undefined without a profile or without
 * a reflection.
 *
 * @param carrierNumber, end a direction of the plan
 */
export function reflectionFigures(
	input: HopPlanInput,
	carrierNumber: number,
	end: End
): ReflectionFigures | undefined {
	const carrier = carriersOf(input).find(({ number }) => number === carrierNumber);
	const swing =
		carrier && reflectionSwings(input, [carrier]).find(({ receivingEnd }) => receivingEnd === end);
	const strongest = swing?.reflections[0];
	if (!carrier || !strongest) return undefined;
	const tides = input.path.water.some(({ tideM }) => tideM > 0) ? TIDES : [null];
	const frequencyGhz = carrier.transmitFrequencyGhz[farEnd(end)];
	const level = (over: Parameters<typeof reflectionPath>[3]): number => {
		const path = reflectionPath(input, carrier, end, over);
		return path ? levelWithReflectionsDb(reflectionsOf(path), frequencyGhz) : 0;
	};
	const most = 1 / input.climate.lowK;
	const overHeight = (at: End): LevelCurveOver[] => {
		const agl = input.ends[at].antennaHeightAglM;
		const half = Math.min(60, PITCHES_SHOWN * strongest.pitchM[at]);
		const from = Math.max(0.5, agl - half);
		return tides.map((tide) => ({
			tide,
			points: Array.from({ length: HEIGHT_POINTS }, (_, i) => {
				const heightM = from + ((agl + half - from) * i) / (HEIGHT_POINTS - 1);
				const raisedM = { A: 0, B: 0, [at]: heightM - agl };
				return [heightM, level({ kFactor: input.kFactor, tide: tide ?? 0, raisedM })] as const;
			})
		}));
	};
	return {
		againstInverseK: tides.map((tide) => ({
			tide,
			points: Array.from({ length: K_POINTS }, (_, i) => {
				const inverse = Math.max(1 / FLAT_EARTH_K, (most * i) / (K_POINTS - 1));
				return [inverse, level({ kFactor: 1 / inverse, tide: tide ?? 0 })] as const;
			})
		})),
		againstHeight: { A: overHeight('A'), B: overHeight('B') },
		spacingM: { A: strongest.pitchM.A / 2, B: strongest.pitchM.B / 2 }
	};
}
