import { nearestOf, Places } from './places';
import { sumOfLevelsDb } from '../units/decibel';
import type { PatternGuess, RadialPattern } from '../sweep/radialPattern';
import {
	guessedPattern,
	levelWeight,
	MIDDLE_GUESS,
	MOST_SLOPE_DB,
	OVER_THE_MAP,
	signalMw,
	TAIL_DEGREES,
	TELLS_LEVEL_DB,
	unevenDbAt,
	type GuessedDish
} from '../sweep/readingModel';

/** A level read at a position of the mount. */
export interface LocatorReading {
	azimuthDeg: number;
	tiltDeg: number;
	levelDbm: number;
}

export interface LocatorInput extends GuessedDish {
	plannedLevelDbm: number;
	floorDbm: number;
	/** Where the boresight may lie before anything is read, one sigma about (0, 0), degrees. */
	priorSigmaDeg: { azimuth: number; tilt: number };
	/** Where an earlier turn of this end found its boresight, one sigma of either axis, degrees. */
	known?: { azimuthDeg: number; tiltDeg: number; sigmaDeg: number } | undefined;
	readings: readonly LocatorReading[];
}

/** A patch of the probability map: cells on an even grid, summing to the mass they hold. */
export interface ProbabilityMap {
	westDeg: number;
	bottomDeg: number;
	stepDeg: number;
	columns: number;
	rows: number;
	/** Row by row from the bottom; sums to 1. */
	mass: Float64Array;
}

export interface Boresight {
	azimuthDeg: number;
	tiltDeg: number;
	/** One-sigma width of the likeliest place on either axis, degrees: what leads a search on. */
	sigmaAzimuthDeg: number;
	sigmaTiltDeg: number;
	/** One-sigma uncertainty of either axis as it is told, with the scatter of the readings, degrees. */
	told: { azimuthDeg: number; tiltDeg: number };
	/** Level with this dish on its axis and everything else as it is, dBm. */
	axisLevelDbm: number;
}

export interface Location {
	/** Whether any reading rises out of the floor. */
	heard: boolean;
	/** The most probable boresight; null while nothing is heard. */
	boresight: Boresight | null;
	/**
	 * Probability that the boresight lies within a main lobe of {@link boresight}: over the whole window,
	 * the common loss integrated out.
	 */
	probability: number;
	/** Share of that place among the likeliest places alone: what leads a search on. */
	lead: number;
	/** The map over the whole search window. */
	map: ProbabilityMap;
}

/** A reading counts as heard this far above the floor, dB. */
export const HEARD_DB = 4;
/** Readings closer than this are one: unevenness correlates neighbours, so more add little. */
const MERGE_BEAMWIDTHS = 1 / 8;
/** More readings than this are merged further. */
const MOST_MERGED = 320;
/** The map reaches so many sigmas of the prior each way. */
const REACH_SIGMAS = 3.6;
const COARSE_PER_BEAMWIDTH = 2.6;
const MOST_COARSE_CELLS = 24_000;
const FINE_PER_BEAMWIDTH = 14;
const FINE_HALF_BEAMWIDTHS = 0.62;
const MOST_MODES = 6;
/** A place so much less likely than the best, as a logarithm, is weighed no further. */
const NEGLIGIBLE_COARSE = 70;
const NEGLIGIBLE_FINE = 14;
/** So many of the likeliest places are weighed with every pattern. */
const MOST_FINE_PLACES = 140;
/** A main lobe, seen from its axis, in beamwidths. */
const MAIN_LOBE_BEAMWIDTHS = 0.9;

const GUESSES: readonly PatternGuess[] = [
	{ pedestal: 0.2, blockage: 0.004, widthFactor: 0.96 },
	{ pedestal: 0.32, blockage: 0.022, widthFactor: 0.96 },
	MIDDLE_GUESS,
	{ pedestal: 0.2, blockage: 0.022, widthFactor: 1.04 },
	{ pedestal: 0.32, blockage: 0.004, widthFactor: 1.04 }
];

/**
 * Where the far end is, from every reading and the prior: a probability over the dish's true
 * boresight. Each reading says by the dish's own pattern how far off it was taken; the loss common to
 * all of them (far end off its axis, crossed polarization, a plan that is wrong) is integrated out by how
 * likely such a loss is; fitted to each place, it leads to the likeliest ones. Readings at the floor count
 * too.
 *
 * The work is first done on a coarse grid with one pattern, then about the best places on fine grids
 * with several guesses at taper, blockage and width.
 */
export function locate(input: LocatorInput): Location {
	const readings = merged(input.readings, input.beamwidthDeg);
	const heard = readings.some((r) => r.levelDbm > input.floorDbm + HEARD_DB);
	const pattern = guessedPattern(MIDDLE_GUESS, input);
	const coarse = coarseGrid(input);
	const logs = new Float64Array(coarse.columns * coarse.rows);
	const whole = new Float64Array(logs.length);
	const context = contextOf(input, readings);
	let top = -Infinity;
	for (let row = 0; row < coarse.rows; row++) {
		const tilt = coarse.bottomDeg + row * coarse.stepDeg;
		for (let column = 0; column < coarse.columns; column++) {
			const azimuth = coarse.westDeg + column * coarse.stepDeg;
			const prior = logPrior(input, azimuth, tilt);
			const { log, integrated } = logLikelihood(
				context,
				pattern,
				azimuth,
				tilt,
				top - prior - NEGLIGIBLE_COARSE
			);
			logs[row * coarse.columns + column] = prior + log;
			whole[row * coarse.columns + column] = prior + integrated;
			if (prior + log > top) top = prior + log;
		}
	}
	const map = normalised(coarse, whole);
	if (!heard) return { heard, boresight: null, probability: 0, lead: 0, map };
	const fine = refine(input, context, coarse, logs, whole);
	return { heard, ...fine, map };
}

/**
 * Readings in one cell of an eighth of a beam become their mean; where that leaves more than the map
 * can weigh in good time, the cells grow.
 */
function merged(
	readings: readonly LocatorReading[],
	beamwidthDeg: number,
	size: number = MERGE_BEAMWIDTHS * beamwidthDeg
): LocatorReading[] {
	const cells = new Map<string, LocatorReading & { count: number }>();
	for (const reading of readings) {
		const key = `${Math.round(reading.azimuthDeg / size)} ${Math.round(reading.tiltDeg / size)}`;
		const cell = cells.get(key) ?? { azimuthDeg: 0, tiltDeg: 0, levelDbm: 0, count: 0 };
		cells.set(key, {
			azimuthDeg: cell.azimuthDeg + reading.azimuthDeg,
			tiltDeg: cell.tiltDeg + reading.tiltDeg,
			levelDbm: cell.levelDbm + reading.levelDbm,
			count: cell.count + 1
		});
	}
	if (cells.size > MOST_MERGED) return merged(readings, beamwidthDeg, 1.4 * size);
	return [...cells.values()].map(({ azimuthDeg, tiltDeg, levelDbm, count }) => ({
		azimuthDeg: azimuthDeg / count,
		tiltDeg: tiltDeg / count,
		levelDbm: levelDbm / count
	}));
}

type Grid = Omit<ProbabilityMap, 'mass'>;

function coarseGrid({ beamwidthDeg, priorSigmaDeg, known, readings }: LocatorInput): Grid {
	// What was read, or found before, far from the plan may be heard from further still.
	const places = known ? [...readings, known] : readings;
	const reach = (sigma: number, positions: readonly number[]): number =>
		Math.max(
			REACH_SIGMAS * sigma,
			1.5 * beamwidthDeg,
			...positions.map((p) => Math.abs(p) + beamwidthDeg)
		);
	const halfAzimuth = reach(
		priorSigmaDeg.azimuth,
		places.map((place) => place.azimuthDeg)
	);
	const halfTilt = reach(
		priorSigmaDeg.tilt,
		places.map((place) => place.tiltDeg)
	);
	const stepDeg = Math.max(
		beamwidthDeg / COARSE_PER_BEAMWIDTH,
		Math.sqrt((4 * halfAzimuth * halfTilt) / MOST_COARSE_CELLS)
	);
	const columns = 2 * Math.ceil(halfAzimuth / stepDeg) + 1;
	const rows = 2 * Math.ceil(halfTilt / stepDeg) + 1;
	return {
		westDeg: (-stepDeg * (columns - 1)) / 2,
		bottomDeg: (-stepDeg * (rows - 1)) / 2,
		stepDeg,
		columns,
		rows
	};
}

/** The readings as arrays, strongest first: what speaks loudest settles a hopeless place soonest. */
interface Context {
	count: number;
	azimuthDeg: Float64Array;
	tiltDeg: Float64Array;
	levelDbm: Float64Array;
	/** Level of the far end alone, the floor taken off; of the first `usable` only. */
	signalDbm: Float64Array;
	usable: number;
	floorDbm: number;
	plannedLevelDbm: number;
	beamwidthDeg: number;
	/** Places in the pattern's table of the readings at hand, filled anew for every boresight. */
	scratch: Int32Array;
}

function contextOf(input: LocatorInput, readings: readonly LocatorReading[]): Context {
	const floorMw = 10 ** (input.floorDbm / 10);
	const sorted = [...readings].sort((p, q) => q.levelDbm - p.levelDbm);
	const array = (value: (reading: LocatorReading) => number): Float64Array =>
		Float64Array.from(sorted, value);
	return {
		count: sorted.length,
		azimuthDeg: array((reading) => reading.azimuthDeg),
		tiltDeg: array((reading) => reading.tiltDeg),
		levelDbm: array((reading) => reading.levelDbm),
		signalDbm: array(({ levelDbm }) => 10 * Math.log10(signalMw(levelDbm, floorMw))),
		usable: sorted.filter((reading) => reading.levelDbm > input.floorDbm + TELLS_LEVEL_DB).length,
		floorDbm: input.floorDbm,
		plannedLevelDbm: input.plannedLevelDbm,
		beamwidthDeg: input.beamwidthDeg,
		scratch: new Int32Array(sorted.length)
	};
}

/** A little mass far out, in peaks of the prior: crews do set a heading grossly wrong. */
const FAR_OUT = 0.0003;

/** An earlier turn is believed so far: it may have found a side lobe, or the dish may have been knocked. */
const KNOWN_SHARE = 0.8;
/** What an earlier turn knew is held for no better than this, beamwidths: readings of now must settle it. */
const KNOWN_LEAST_BEAMWIDTHS = 0.12;

function logPrior(
	{ priorSigmaDeg, known, beamwidthDeg }: LocatorInput,
	azimuthDeg: number,
	tiltDeg: number
): number {
	const normal = (x: number, sigma: number): number =>
		Math.exp(-0.5 * (x / sigma) ** 2) / sigma + FAR_OUT / sigma;
	const first = normal(azimuthDeg, priorSigmaDeg.azimuth) * normal(tiltDeg, priorSigmaDeg.tilt);
	if (!known) return Math.log(first);
	const sigma = Math.max(known.sigmaDeg, KNOWN_LEAST_BEAMWIDTHS * beamwidthDeg);
	const x = (azimuthDeg - known.azimuthDeg) / sigma;
	const y = (tiltDeg - known.tiltDeg) / sigma;
	const found = Math.exp(-0.5 * (x * x + y * y)) / (sigma * sigma);
	return Math.log(KNOWN_SHARE * found + (1 - KNOWN_SHARE) * first);
}

/** Sum of two levels d dB apart over the lower one, dB, and the share of the upper one: by tables. */
const SUM_FROM_DB = -60;
const SUM_PER_DB = 20;
const SUM_COUNT = 160 * SUM_PER_DB;
const ABOVE_FLOOR_DB = new Float64Array(SUM_COUNT);
const SHARE_OF_SIGNAL = new Float64Array(SUM_COUNT);
for (let i = 0; i < SUM_COUNT; i++) {
	const ratio = 10 ** ((SUM_FROM_DB + (i + 0.5) / SUM_PER_DB) / 10);
	ABOVE_FLOOR_DB[i] = 10 * Math.log10(1 + ratio);
	SHARE_OF_SIGNAL[i] = ratio / (1 + ratio);
}

/** A common level is taken to be at most so far above the plan, dB. */
const MOST_ABOVE_PLAN_DB = 6;
/** Below this no pattern goes, dB. */
const LEAST_GAIN_DB = -90;
/** Of the readings that are heard, the strongest tell the common level; more add nothing. */
const MOST_FOR_LEVEL = 48;
/** The most that one reading can add to a log likelihood: its variance at the least. */
const MOST_PER_READING = -0.5 * Math.log(OVER_THE_MAP.noiseDb ** 2);
/** Products are turned into a logarithm after so many factors, long before they overflow. */
const FACTORS = 6;

interface Likelihood {
	/** With the common level that fits best. */
	log: number;
	/** With the common level integrated out. */
	integrated: number;
	axisLevelDbm: number;
}

/**
 * Log likelihood of a boresight, with the common level that fits best and is likely at all.
 *
 * @param hopeless below this the sum is given up: what is returned then is a bound from above
 */
function logLikelihood(
	context: Context,
	pattern: RadialPattern,
	azimuthDeg: number,
	tiltDeg: number,
	hopeless = -Infinity
): Likelihood {
	const { count, usable, floorDbm, plannedLevelDbm, beamwidthDeg, scratch } = context;
	if (count === 0) return { log: 0, integrated: 0, axisLevelDbm: plannedLevelDbm };
	const { gainDb, slopeDbPerDeg, perDeg } = pattern.table;
	const uneven = unevenOf(pattern, beamwidthDeg);
	const last = gainDb.length - 1;
	const firstNull = pattern.firstNullDeg * perDeg;
	let sum = 0;
	let weights = 0;
	const forLevel = Math.min(usable, MOST_FOR_LEVEL);
	for (let i = 0; i < forLevel; i++) {
		const at = placeIn(context, i, azimuthDeg, tiltDeg, perDeg, last);
		scratch[i] = at;
		const slope = slopeDbPerDeg[at]! * beamwidthDeg;
		const weight = levelWeight(slope, at > firstNull);
		sum += weight * (context.signalDbm[i]! - gainDb[at]!);
		weights += weight;
	}
	const axisLevelDbm =
		weights > 0
			? Math.min(plannedLevelDbm + MOST_ABOVE_PLAN_DB, sum / weights)
			: silentAxisLevel(context, pattern, azimuthDeg, tiltDeg);
	const { noiseDb, jitterBeamwidths, logPriorOfLevel } = OVER_THE_MAP;
	const jitterDeg = jitterBeamwidths * beamwidthDeg;
	const aboveFloor = axisLevelDbm - floorDbm - SUM_FROM_DB;
	const likely = logPriorOfLevel(axisLevelDbm - plannedLevelDbm);
	let log = likely;
	// How well the readings together tell the common level, 1/dB².
	let precision = 0;
	let product = 1;
	let factors = 0;
	for (let i = 0; i < count; i++) {
		const at = i < forLevel ? scratch[i]! : placeIn(context, i, azimuthDeg, tiltDeg, perDeg, last);
		let cell = ((aboveFloor + gainDb[at]!) * SUM_PER_DB) | 0;
		if (cell < 0) cell = 0;
		else if (cell >= SUM_COUNT) cell = SUM_COUNT - 1;
		const share = SHARE_OF_SIGNAL[cell]!;
		let slopeDb = slopeDbPerDeg[at]! * jitterDeg;
		if (slopeDb > MOST_SLOPE_DB) slopeDb = MOST_SLOPE_DB;
		slopeDb *= share;
		let variance = noiseDb * noiseDb + slopeDb * slopeDb;
		if (at > firstNull) variance += uneven[at]! * share * share;
		if (i < forLevel) precision += (share * share) / variance;
		const residual = context.levelDbm[i]! - floorDbm - ABOVE_FLOOR_DB[cell]!;
		// (1 + r²/(n·v))^(n+1) · v, its square root being the inverse of a t density of n degrees.
		const t = 1 + (residual * residual) / (TAIL_DEGREES * variance);
		const t2 = t * t;
		product *= t2 * t2 * t * variance;
		if (++factors === FACTORS) {
			log -= 0.5 * Math.log(product);
			product = 1;
			factors = 0;
			if (log + (count - i - 1) * MOST_PER_READING < hopeless) {
				const bound = log + (count - i - 1) * MOST_PER_READING;
				return { log: bound, integrated: bound, axisLevelDbm };
			}
		}
	}
	log -= 0.5 * Math.log(product);
	const { integrals } = OVER_THE_MAP;
	const difference = axisLevelDbm - plannedLevelDbm;
	const level =
		precision > 0 && usable > 0
			? integrals.logAround(difference, 1 / Math.sqrt(precision))
			: integrals.logUpTo(difference);
	return { log, integrated: log - likely + level, axisLevelDbm };
}

/** Variance of a lobe against the round model, dB², by place in the pattern's table. */
const unevenness = new WeakMap<RadialPattern, Float64Array>();

function unevenOf(pattern: RadialPattern, beamwidthDeg: number): Float64Array {
	const known = unevenness.get(pattern);
	if (known) return known;
	const made = pattern.table.gainDb.map((_, i) => {
		return unevenDbAt(OVER_THE_MAP, i / pattern.table.perDeg / beamwidthDeg) ** 2;
	});
	unevenness.set(pattern, made);
	return made;
}

/** Where a reading falls in the table of the pattern, the dish's axis being at a boresight. */
function placeIn(
	context: Context,
	i: number,
	azimuthDeg: number,
	tiltDeg: number,
	perDeg: number,
	last: number
): number {
	const x = context.azimuthDeg[i]! - azimuthDeg;
	const y = context.tiltDeg[i]! - tiltDeg;
	const at = (Math.sqrt(x * x + y * y) * perDeg + 0.5) | 0;
	return at < last ? at : last;
}

/** Nothing heard: the highest common level that still keeps every reading in the floor. */
function silentAxisLevel(
	context: Context,
	pattern: RadialPattern,
	azimuthDeg: number,
	tiltDeg: number
): number {
	const { gainDb, perDeg } = pattern.table;
	let most = LEAST_GAIN_DB;
	for (let i = 0; i < context.count; i++) {
		const at = placeIn(context, i, azimuthDeg, tiltDeg, perDeg, gainDb.length - 1);
		if (gainDb[at]! > most) most = gainDb[at]!;
	}
	return Math.min(context.plannedLevelDbm, context.floorDbm - most - TELLS_LEVEL_DB);
}

function normalised(grid: Grid, logs: Float64Array): ProbabilityMap {
	let top = -Infinity;
	for (const log of logs) if (log > top) top = log;
	const mass = new Float64Array(logs.length);
	let sum = 0;
	for (let i = 0; i < logs.length; i++) {
		mass[i] = Math.exp(logs[i]! - top);
		sum += mass[i]!;
	}
	for (let i = 0; i < mass.length; i++) mass[i]! /= sum;
	return { ...grid, mass };
}

interface FineCell {
	azimuthDeg: number;
	tiltDeg: number;
	axisLevelDbm: number;
	log: number;
	integrated: number;
	/** The patch it belongs to. */
	mode: number;
}

/** The places that a place on every other line and column stands for. */
const AROUND = [
	[0, 0],
	[1, 0],
	[0, 1],
	[1, 1]
] as const;

/** The best places of the coarse map, kept apart by at least the size of a fine patch. */
function modesOf(
	grid: Grid,
	logs: Float64Array,
	apartDeg: number
): { azimuthDeg: number; tiltDeg: number }[] {
	const order = Array.from(logs.keys()).sort((p, q) => logs[q]! - logs[p]!);
	const modes: { azimuthDeg: number; tiltDeg: number }[] = [];
	const best = logs[order[0]!]!;
	for (const i of order) {
		if (modes.length === MOST_MODES || logs[i]! < best - 60) break;
		const azimuthDeg = grid.westDeg + (i % grid.columns) * grid.stepDeg;
		const tiltDeg = grid.bottomDeg + Math.floor(i / grid.columns) * grid.stepDeg;
		const near = modes.some(
			(mode) =>
				Math.abs(mode.azimuthDeg - azimuthDeg) < apartDeg &&
				Math.abs(mode.tiltDeg - tiltDeg) < apartDeg
		);
		if (!near) modes.push({ azimuthDeg, tiltDeg });
	}
	return modes;
}

function refine(
	input: LocatorInput,
	context: Context,
	grid: Grid,
	coarseLogs: Float64Array,
	whole: Float64Array
): Pick<Location, 'boresight' | 'probability' | 'lead'> {
	const { beamwidthDeg } = input;
	const halfDeg = Math.max(FINE_HALF_BEAMWIDTHS * beamwidthDeg, 0.75 * grid.stepDeg);
	const stepDeg = beamwidthDeg / FINE_PER_BEAMWIDTH;
	const steps = Math.ceil(halfDeg / stepDeg);
	const patterns = GUESSES.map((guess) => guessedPattern(guess, input));
	const middle = guessedPattern(MIDDLE_GUESS, input);
	// One pattern first on every other place; the guesses only where they can matter.
	const tried: FineCell[] = [];
	let top = -Infinity;
	const at = (
		pattern: RadialPattern,
		mode: number,
		azimuthDeg: number,
		tiltDeg: number
	): FineCell => {
		const hopeless = top - 2 * NEGLIGIBLE_FINE;
		const cell = cellAt(input, context, pattern, azimuthDeg, tiltDeg, hopeless);
		if (cell.log > top) top = cell.log;
		return { ...cell, mode };
	};
	const modes = modesOf(grid, coarseLogs, halfDeg);
	for (const [patch, mode] of modes.entries()) {
		for (let j = -steps; j <= steps; j += 2) {
			for (let i = -steps; i <= steps; i += 2) {
				tried.push(at(middle, patch, mode.azimuthDeg + i * stepDeg, mode.tiltDeg + j * stepDeg));
			}
		}
	}
	const cells: FineCell[] = [];
	// Another pattern may lift a place by a little over the middle one, not by more.
	const worth = tried
		.filter((cell) => cell.log > top - NEGLIGIBLE_FINE)
		.sort((p, q) => q.log - p.log)
		.slice(0, MOST_FINE_PLACES);
	for (const { mode, azimuthDeg, tiltDeg } of worth) {
		for (const pattern of patterns) {
			for (const [di, dj] of AROUND) {
				cells.push(at(pattern, mode, azimuthDeg + di * stepDeg, tiltDeg + dj * stepDeg));
			}
		}
	}
	const found = summarised(cells, beamwidthDeg);
	const boresight = scattered(found.boresight, context, middle);
	// Everything that may be the place: fine where it was looked at finely, coarse elsewhere.
	const places = new Places(boresight, MAIN_LOBE_BEAMWIDTHS * beamwidthDeg);
	// Patches overlap: each place counts in the patch whose middle it is nearest to.
	const own = ({ mode, azimuthDeg, tiltDeg }: FineCell): boolean =>
		nearestOf(modes, azimuthDeg, tiltDeg) === mode;
	for (const cell of cells) {
		const { azimuthDeg, tiltDeg, integrated } = cell;
		if (own(cell)) places.add(azimuthDeg, tiltDeg, integrated, stepDeg ** 2 / patterns.length);
	}
	const weighed = new Set(worth);
	for (const cell of tried) {
		if (!weighed.has(cell) && own(cell))
			places.add(cell.azimuthDeg, cell.tiltDeg, cell.integrated, (2 * stepDeg) ** 2);
	}
	const reachDeg = (steps + 1) * stepDeg;
	for (let i = 0; i < whole.length; i++) {
		const azimuthDeg = grid.westDeg + (i % grid.columns) * grid.stepDeg;
		const tiltDeg = grid.bottomDeg + Math.floor(i / grid.columns) * grid.stepDeg;
		const finely = modes.some(
			(mode) =>
				Math.abs(mode.azimuthDeg - azimuthDeg) < reachDeg &&
				Math.abs(mode.tiltDeg - tiltDeg) < reachDeg
		);
		if (!finely) places.add(azimuthDeg, tiltDeg, whole[i]!, grid.stepDeg ** 2);
	}
	return { ...found, boresight, probability: places.share };
}

/** Readings so near to the axis tell how restless the mast is, in beamwidths. */
const RESTLESS_BEAMWIDTHS = 1.1;
/** One reading counts for no more than this in the scatter: a slip of the pen is no sway. */
const MOST_SCATTER = 9;
/** What the round model of a lobe leaves open of its middle, in beamwidths. */
const MODEL_SIGMA_BEAMWIDTHS = 1 / 130;
/** Found by `npm run bench:reliability`. */
const SCATTER_POWER = 0.72;
/** Fewer readings on the lobe than this say nothing of their scatter: place and level are fitted to them. */
const LEAST_FOR_SCATTER = 6;

/** The same aim, less sure where the readings on the lobe scatter by more than the model has them do. */
function scattered(
	boresight: Omit<Boresight, 'told'>,
	context: Context,
	pattern: RadialPattern
): Boresight {
	const { azimuthDeg, tiltDeg, axisLevelDbm } = boresight;
	const { beamwidthDeg, floorDbm, usable } = context;
	const { gainDb, slopeDbPerDeg, perDeg } = pattern.table;
	const { noiseDb, jitterBeamwidths } = OVER_THE_MAP;
	const radius = RESTLESS_BEAMWIDTHS * beamwidthDeg * perDeg;
	let sum = 0;
	let count = 0;
	for (let i = 0; i < usable; i++) {
		const at = placeIn(context, i, azimuthDeg, tiltDeg, perDeg, gainDb.length - 1);
		if (at > radius) continue;
		const slope = Math.min(
			MOST_SLOPE_DB,
			Math.abs(slopeDbPerDeg[at]! * jitterBeamwidths * beamwidthDeg)
		);
		const residual = context.levelDbm[i]! - sumOfLevelsDb([axisLevelDbm + gainDb[at]!, floorDbm]);
		sum += Math.min(MOST_SCATTER, residual ** 2 / (noiseDb ** 2 + slope ** 2));
		count += 1;
	}
	// Two coordinates and the level are fitted to the same readings.
	const scatter = count < LEAST_FOR_SCATTER ? 1 : Math.max(1, sum / (count - 3));
	// More than its root: the heavy tails of the fit have taken part of the scatter for slips.
	const scale = scatter ** SCATTER_POWER;
	const model = MODEL_SIGMA_BEAMWIDTHS * beamwidthDeg;
	return {
		...boresight,
		told: {
			azimuthDeg: Math.hypot(scale * boresight.sigmaAzimuthDeg, model),
			tiltDeg: Math.hypot(scale * boresight.sigmaTiltDeg, model)
		}
	};
}

function cellAt(
	input: LocatorInput,
	context: Context,
	pattern: RadialPattern,
	azimuthDeg: number,
	tiltDeg: number,
	hopeless: number
): Omit<FineCell, 'mode'> {
	const prior = logPrior(input, azimuthDeg, tiltDeg);
	const { log, integrated, axisLevelDbm } = logLikelihood(
		context,
		pattern,
		azimuthDeg,
		tiltDeg,
		hopeless - prior
	);
	return {
		azimuthDeg,
		tiltDeg,
		axisLevelDbm,
		log: log + prior,
		integrated: integrated + prior
	};
}

function summarised(
	cells: readonly FineCell[],
	beamwidthDeg: number
): { boresight: Omit<Boresight, 'told'>; lead: number } {
	const best = cells.reduce((p, q) => (q.log > p.log ? q : p));
	let total = 0;
	const near = { mass: 0, azimuth: 0, tilt: 0, azimuth2: 0, tilt2: 0, level: 0 };
	for (const cell of cells) {
		const mass = Math.exp(cell.log - best.log);
		total += mass;
		const x = cell.azimuthDeg - best.azimuthDeg;
		const y = cell.tiltDeg - best.tiltDeg;
		if (Math.hypot(x, y) > MAIN_LOBE_BEAMWIDTHS * beamwidthDeg) continue;
		near.mass += mass;
		near.azimuth += mass * x;
		near.tilt += mass * y;
		near.azimuth2 += mass * x * x;
		near.tilt2 += mass * y * y;
		near.level += mass * cell.axisLevelDbm;
	}
	const mean = { x: near.azimuth / near.mass, y: near.tilt / near.mass };
	const sigma = (square: number, m: number): number =>
		Math.sqrt(Math.max((beamwidthDeg / 80) ** 2, square / near.mass - m * m));
	return {
		boresight: {
			azimuthDeg: best.azimuthDeg + mean.x,
			tiltDeg: best.tiltDeg + mean.y,
			sigmaAzimuthDeg: sigma(near.azimuth2, mean.x),
			sigmaTiltDeg: sigma(near.tilt2, mean.y),
			axisLevelDbm: near.level / near.mass
		},
		lead: Math.min(0.9999, near.mass / total)
	};
}
