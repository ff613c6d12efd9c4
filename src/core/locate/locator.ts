import { makeRadialPattern, type PatternGuess, type RadialPattern } from '../sweep/radialPattern';

/** A level read at a position of the mount. */
export interface LocatorReading {
	azimuthDeg: number;
	tiltDeg: number;
	levelDbm: number;
}

export interface LocatorInput {
	frequencyGhz: number;
	dishDiameterM: number;
	/** Half-power beamwidth, degrees. */
	beamwidthDeg: number;
	/** Whether the beamwidth is one of this dish rather than the rule of thumb. */
	beamwidthKnown: boolean;
	plannedLevelDbm: number;
	floorDbm: number;
	/** Where the boresight may lie before anything is read, one sigma about (0, 0), degrees. */
	priorSigmaDeg: { azimuth: number; tilt: number };
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
	/** One-sigma uncertainty of either axis, degrees. */
	sigmaAzimuthDeg: number;
	sigmaTiltDeg: number;
	/** Level with this dish on its axis and everything else as it is, dBm. */
	axisLevelDbm: number;
}

export interface Location {
	/** Whether any reading rises out of the floor. */
	heard: boolean;
	/** The most probable boresight; null while nothing is heard. */
	boresight: Boresight | null;
	/** Probability that the boresight lies within a main lobe of {@link boresight}. */
	probability: number;
	/** The map over the whole search window. */
	map: ProbabilityMap;
}

/** A reading counts as heard this far above the floor, dB. */
export const HEARD_DB = 4;
/** Meter noise, slow fading and short sway on the flat of a lobe, dB. */
const NOISE_DB = 0.75;
/** Sway, play and reading jitter, in beamwidths: turned into dB by the local slope. */
const JITTER_BEAMWIDTHS = 0.05;
/** How far a side lobe of a real dish strays from the round model, dB. */
const UNEVEN_DB = 2.6;
const TAIL_DEGREES = 4;
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
/** A main lobe, seen from its axis, in beamwidths. */
const MAIN_LOBE_BEAMWIDTHS = 0.9;

const MIDDLE: PatternGuess = { pedestal: 0.26, blockage: 0.012, widthFactor: 1 };
const GUESSES: readonly PatternGuess[] = [
	{ pedestal: 0.2, blockage: 0.004, widthFactor: 0.96 },
	{ pedestal: 0.32, blockage: 0.022, widthFactor: 0.96 },
	{ pedestal: 0.26, blockage: 0.012, widthFactor: 1 },
	{ pedestal: 0.2, blockage: 0.022, widthFactor: 1.04 },
	{ pedestal: 0.32, blockage: 0.004, widthFactor: 1.04 }
];

/**
 * Where the far end is, from every reading and the prior: a probability over the dish's true
 * boresight. Each reading says by the dish's own pattern how far off it was taken; the loss common to
 * all of them (far end off its axis, crossed polarization, a plan that is wrong) is fitted for each
 * place and weighed by how likely such a loss is. Readings at the floor count too.
 *
 * The work is first done on a coarse grid with one pattern, then about the best places on fine grids
 * with several guesses at taper, blockage and width.
 */
export function locate(input: LocatorInput): Location {
	const readings = merged(input.readings, input.beamwidthDeg);
	const heard = readings.some((r) => r.levelDbm > input.floorDbm + HEARD_DB);
	const pattern = patternOf(MIDDLE, input);
	const coarse = coarseGrid(input);
	const logs = new Float64Array(coarse.columns * coarse.rows);
	const context = contextOf(input, readings);
	for (let row = 0; row < coarse.rows; row++) {
		const tilt = coarse.bottomDeg + row * coarse.stepDeg;
		for (let column = 0; column < coarse.columns; column++) {
			const azimuth = coarse.westDeg + column * coarse.stepDeg;
			logs[row * coarse.columns + column] =
				logPrior(input, azimuth, tilt) + logLikelihood(context, pattern, azimuth, tilt).log;
		}
	}
	const map = normalised(coarse, logs);
	if (!heard) return { heard, boresight: null, probability: 0, map };
	const fine = refine(input, context, coarse, logs);
	return { heard, ...fine, map };
}

function patternOf(guess: PatternGuess, input: LocatorInput): RadialPattern {
	return makeRadialPattern(
		guess,
		input.frequencyGhz,
		input.dishDiameterM,
		input.beamwidthKnown ? input.beamwidthDeg : undefined
	);
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

function coarseGrid({ beamwidthDeg, priorSigmaDeg, readings }: LocatorInput): Grid {
	// What was read far from the plan may be heard from further still.
	const reach = (sigma: number, positions: readonly number[]): number =>
		Math.max(
			REACH_SIGMAS * sigma,
			1.5 * beamwidthDeg,
			...positions.map((p) => Math.abs(p) + beamwidthDeg)
		);
	const halfAzimuth = reach(
		priorSigmaDeg.azimuth,
		readings.map((r) => r.azimuthDeg)
	);
	const halfTilt = reach(
		priorSigmaDeg.tilt,
		readings.map((r) => r.tiltDeg)
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

interface Context {
	readings: readonly (LocatorReading & { signalMw: number; usable: boolean })[];
	floorMw: number;
	floorDbm: number;
	plannedLevelDbm: number;
	beamwidthDeg: number;
}

function contextOf(input: LocatorInput, readings: readonly LocatorReading[]): Context {
	const floorMw = 10 ** (input.floorDbm / 10);
	return {
		readings: readings.map((reading) => ({
			...reading,
			signalMw: Math.max(1e-13, 10 ** (reading.levelDbm / 10) - floorMw),
			usable: reading.levelDbm > input.floorDbm + 3
		})),
		floorMw,
		floorDbm: input.floorDbm,
		plannedLevelDbm: input.plannedLevelDbm,
		beamwidthDeg: input.beamwidthDeg
	};
}

function logPrior({ priorSigmaDeg }: LocatorInput, azimuthDeg: number, tiltDeg: number): number {
	// A little mass far out: crews do set a heading grossly wrong.
	const normal = (x: number, sigma: number): number =>
		Math.exp(-0.5 * (x / sigma) ** 2) / sigma + 0.003 / (10 * sigma);
	return (
		Math.log(normal(azimuthDeg, priorSigmaDeg.azimuth)) +
		Math.log(normal(tiltDeg, priorSigmaDeg.tilt))
	);
}

/** Log likelihood of a boresight, with the common level that fits best and is likely at all. */
function logLikelihood(
	context: Context,
	pattern: RadialPattern,
	azimuthDeg: number,
	tiltDeg: number
): { log: number; axisLevelDbm: number } {
	const { readings, floorMw, plannedLevelDbm, beamwidthDeg } = context;
	if (readings.length === 0) return { log: 0, axisLevelDbm: plannedLevelDbm };
	let sum = 0;
	let weights = 0;
	for (const reading of readings) {
		if (!reading.usable) continue;
		const x = reading.azimuthDeg - azimuthDeg;
		const y = reading.tiltDeg - tiltDeg;
		const radius = Math.sqrt(x * x + y * y);
		const slope = pattern.slopeDbPerDeg(radius) * beamwidthDeg;
		const weight = 1 / (1 + (slope / 12) ** 2 + (radius > pattern.firstNullDeg ? 6 : 0));
		sum += weight * 10 * Math.log10(reading.signalMw / pattern.gainRatio(radius));
		weights += weight;
	}
	const axisLevelDbm =
		weights > 0
			? Math.min(plannedLevelDbm + 6, sum / weights)
			: silentAxisLevel(context, pattern, azimuthDeg, tiltDeg);
	const axisMw = 10 ** (axisLevelDbm / 10);
	const jitterDeg = JITTER_BEAMWIDTHS * beamwidthDeg;
	let log = logPriorOfLevel(axisLevelDbm - plannedLevelDbm);
	for (const reading of readings) {
		const x = reading.azimuthDeg - azimuthDeg;
		const y = reading.tiltDeg - tiltDeg;
		const radius = Math.sqrt(x * x + y * y);
		const signalMw = axisMw * pattern.gainRatio(radius);
		const share = signalMw / (signalMw + floorMw);
		const slopeDb = Math.min(12, pattern.slopeDbPerDeg(radius) * jitterDeg) * share;
		const unevenDb = radius > pattern.firstNullDeg ? UNEVEN_DB * share : 0;
		const variance = NOISE_DB * NOISE_DB + slopeDb * slopeDb + unevenDb * unevenDb;
		const residual = reading.levelDbm - 10 * Math.log10(signalMw + floorMw);
		log -=
			((TAIL_DEGREES + 1) / 2) * Math.log1p((residual * residual) / (TAIL_DEGREES * variance)) +
			0.5 * Math.log(variance);
	}
	return { log, axisLevelDbm };
}

/** Nothing heard: the highest common level that still keeps every reading in the floor. */
function silentAxisLevel(
	{ readings, floorDbm, plannedLevelDbm }: Context,
	pattern: RadialPattern,
	azimuthDeg: number,
	tiltDeg: number
): number {
	let most = 1e-9;
	for (const reading of readings) {
		const x = reading.azimuthDeg - azimuthDeg;
		const y = reading.tiltDeg - tiltDeg;
		most = Math.max(most, pattern.gainRatio(Math.sqrt(x * x + y * y)));
	}
	return Math.min(plannedLevelDbm, floorDbm - 10 * Math.log10(most) - 3);
}

/**
 * Log prior of the level on axis minus plan, dB: nothing else wrong (about 0), the far end on a side
 * lobe (−14 to −30), crossed (−24 to −38), both or far out (to −60); well above plan all but excluded.
 */
function logPriorOfLevel(differenceDb: number): number {
	const bump = (mean: number, sigma: number): number =>
		Math.exp(-0.5 * ((differenceDb - mean) / sigma) ** 2) / sigma;
	const wide = differenceDb < 3 && differenceDb > -70 ? 0.006 : 1e-7;
	return Math.log(0.45 * bump(0, 1.8) + 0.3 * bump(-21, 5) + 0.2 * bump(-34, 8) + wide);
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
}

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
	coarseLogs: Float64Array
): Pick<Location, 'boresight' | 'probability'> {
	const { beamwidthDeg } = input;
	const halfDeg = Math.max(FINE_HALF_BEAMWIDTHS * beamwidthDeg, 0.75 * grid.stepDeg);
	const stepDeg = beamwidthDeg / FINE_PER_BEAMWIDTH;
	const steps = Math.ceil(halfDeg / stepDeg);
	const patterns = GUESSES.map((guess) => patternOf(guess, input));
	const middle = patternOf(MIDDLE, input);
	const cells: FineCell[] = [];
	for (const mode of modesOf(grid, coarseLogs, halfDeg)) {
		// One pattern first on every other place; the guesses only where it is worth it.
		const tried: FineCell[] = [];
		for (let j = -steps; j <= steps; j += 2) {
			for (let i = -steps; i <= steps; i += 2) {
				tried.push(
					cellAt(input, context, middle, mode.azimuthDeg + i * stepDeg, mode.tiltDeg + j * stepDeg)
				);
			}
		}
		const top = Math.max(...tried.map((cell) => cell.log));
		for (const cell of tried) {
			if (cell.log < top - 25) continue;
			for (const pattern of patterns) {
				for (const [di, dj] of [
					[0, 0],
					[1, 0],
					[0, 1],
					[1, 1]
				] as const) {
					cells.push(
						cellAt(
							input,
							context,
							pattern,
							cell.azimuthDeg + di * stepDeg,
							cell.tiltDeg + dj * stepDeg
						)
					);
				}
			}
		}
	}
	return summarised(cells, beamwidthDeg);
}

function cellAt(
	input: LocatorInput,
	context: Context,
	pattern: RadialPattern,
	azimuthDeg: number,
	tiltDeg: number
): FineCell {
	const { log, axisLevelDbm } = logLikelihood(context, pattern, azimuthDeg, tiltDeg);
	return { azimuthDeg, tiltDeg, axisLevelDbm, log: log + logPrior(input, azimuthDeg, tiltDeg) };
}

function summarised(
	cells: readonly FineCell[],
	beamwidthDeg: number
): Pick<Location, 'boresight' | 'probability'> {
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
		probability: Math.min(0.9999, near.mass / total)
	};
}
