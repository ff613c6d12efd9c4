import type { PatternGuess, RadialPattern } from './radialPattern';
import {
	ALONG_A_CUT,
	guessedPattern,
	levelWeight,
	logDensity,
	MIDDLE_GUESS,
	MOST_SLOPE_DB,
	signalMw,
	TELLS_LEVEL_DB,
	unevenDbAt,
	type GuessedDish
} from './readingModel';
import { itemAt, lastOf } from '../units/lists';

/** One sample of a cut: where this axis stood and the level there. */
export interface CutSample {
	positionDeg: number;
	levelDbm: number;
}

export interface CutFitInput extends GuessedDish {
	samples: readonly CutSample[];
	plannedLevelDbm: number;
	/** The range the level port can show: what lies beyond is clipped, not absent. */
	lowestLevelDbm: number;
	highestLevelDbm: number;
}

/** What the fit believes, as probabilities over the two readings of the cut. */
export interface CutFit {
	probabilityOnMainLobe: number;
	/** Best centre and its one-sigma uncertainty if the cut ran over the main lobe. */
	mainLobe: CutCentre;
	/** The same if it ran beside it, across the ring of side lobes. */
	beside: CutCentre;
	floorDbm: number;
}

export interface CutCentre {
	centreDeg: number;
	sigmaDeg: number;
	/** Distance from the cut to the axis of the beam, degrees, most probable value. */
	offsetDeg: number;
	/** Modelled level on the axis of the beam were this axis and the other one centred, dBm. */
	axisLevelDbm: number;
}

const GUESSES: readonly PatternGuess[] = [0.18, 0.34].flatMap((pedestal) =>
	[0, 0.012, 0.026].flatMap((blockage) =>
		[0.94, 1, 1.06].map((widthFactor) => ({ pedestal, blockage, widthFactor }))
	)
);

/** Independent samples per beamwidth: unevenness correlates neighbours, so more add little. */
const INDEPENDENT_PER_BEAMWIDTH = 7;
/** Grid of the coarse search: how far the cut may run off the beam, and in what steps. */
const OFFSET_STEP_BEAMWIDTHS = 0.1;
const LARGEST_OFFSET_BEAMWIDTHS = 3.2;
/** A flat bottom above this level is not a receiver's floor, whatever the channel width, dBm. */
export const HIGHEST_FLOOR_DBM = -68;
/** A cut further off than this shows two humps with a dip: it crosses the ring, whatever the null. */
const WIDEST_MAIN_LOBE_CUT_BEAMWIDTHS = 1.05;
/** Starting points refined for each of the two readings of a cut. */
const STARTS_PER_READING = 12;
/** Starting points nearer to each other than this are one, in beamwidths. */
const APART_CENTRE_BEAMWIDTHS = 0.13;
const APART_OFFSET_BEAMWIDTHS = 0.05;
/** Centres tried about a starting point: so many each way, so many beamwidths apart. */
const SHIFTS = 2;
const SHIFT_BEAMWIDTHS = 0.035;
/** Centres are looked for so far beyond either end of the cut, in beamwidths. */
const BEYOND_ENDS_BEAMWIDTHS = 1.2;
/** Step between centres of the coarse search, in beamwidths, and how many there are at the most. */
const CENTRE_STEP_BEAMWIDTHS = 0.1;
const MOST_CENTRES = 160;
/** A sample is heard so far above the floor, dB; fewer that are heard are no cut. */
const HEARD_DB = 2;
const FEWEST_HEARD = 5;
/** A cut has at least so many independent samples, however short. */
const FEWEST_INDEPENDENT = 6;
/** Samples closer than this share of a beam are one. */
const THIN_PER_BEAMWIDTH = 50;
/** A floor is flat when the lowest fifth of the samples spreads less than this, dB. */
const FLAT_DB = 2;
/** Where only nulls were reached the floor lies so much lower, dB. */
const BELOW_NULLS_DB = 4;

interface Candidate {
	offsetDeg: number;
	centreDeg: number;
	axisLevelDbm: number;
	logWeight: number;
	onMainLobe: boolean;
}

/**
 * Fits the round pattern of the dish to a cut, over every offset of the cut from the beam and
 * every centre, with the loss common to all samples free (the far end may be off, or the link
 * cross-polarized) and several guesses at taper, blockage and width.
 *
 * Levels well above the floor decide; nulls weigh little, since sway fills them. The shortfall
 * against plan enters as a prior on the common loss.
 *
 * @returns undefined when fewer than five samples lie above the floor
 */
export function fitCut(input: CutFitInput): CutFit | undefined {
	const samples = thinOut(input.samples, input.beamwidthDeg);
	const floorDbm = estimateFloorDbm(samples);
	const heard = samples.filter((s) => s.levelDbm > floorDbm + HEARD_DB);
	if (heard.length < FEWEST_HEARD) return undefined;

	const context = makeContext(input, samples, floorDbm);
	const middle = guessedPattern(MIDDLE_GUESS, input);
	const patterns = GUESSES.map((guess) => guessedPattern(guess, input));
	const candidates: Candidate[] = [];
	for (const start of likelyStarts(context, middle)) {
		for (const pattern of patterns) {
			for (let shift = -SHIFTS; shift <= SHIFTS; shift++) {
				const centreDeg = start.centreDeg + shift * SHIFT_BEAMWIDTHS * input.beamwidthDeg;
				const candidate = evaluate(context, pattern, start.offsetDeg, centreDeg);
				if (candidate) candidates.push(candidate);
			}
		}
	}
	return candidates.length ? summarise(candidates, floorDbm) : undefined;
}

/** Averages samples closer than a fiftieth of a beam, so that a standing dish does not outvote. */
function thinOut(samples: readonly CutSample[], beamwidthDeg: number): CutSample[] {
	const cells = new Map<number, { position: number; level: number; count: number }>();
	for (const { positionDeg, levelDbm } of samples) {
		const key = Math.round(positionDeg / (beamwidthDeg / THIN_PER_BEAMWIDTH));
		const cell = cells.get(key) ?? { position: 0, level: 0, count: 0 };
		cell.position += positionDeg;
		cell.level += levelDbm;
		cell.count += 1;
		cells.set(key, cell);
	}
	return [...cells.values()]
		.map(({ position, level, count }) => ({
			positionDeg: position / count,
			levelDbm: level / count
		}))
		.sort((p, q) => p.positionDeg - q.positionDeg);
}

/**
 * The receiver floor as this cut shows it. A flat bottom is the floor; a ragged one means that only
 * nulls were reached and the floor lies lower.
 */
export function estimateFloorDbm(samples: readonly CutSample[]): number {
	const levels = samples.map((s) => s.levelDbm).sort((p, q) => p - q);
	const at = (share: number): number => itemAt(levels, Math.floor(share * (levels.length - 1)));
	const flat = at(0.2) - at(0.02) < FLAT_DB && at(0.1) < HIGHEST_FLOOR_DBM;
	return flat ? at(0.1) : at(0.02) - BELOW_NULLS_DB;
}

interface FittedSample extends CutSample {
	/** Power of the far end alone, the floor taken off. */
	signalMw: number;
}

/** Math.hypot guards against overflow at many times the cost; no angle comes near that. */
function distance(x: number, y: number): number {
	return Math.sqrt(x * x + y * y);
}

interface Context {
	samples: readonly FittedSample[];
	floorDbm: number;
	floorMw: number;
	beamwidthDeg: number;
	plannedLevelDbm: number;
	lowestLevelDbm: number;
	highestLevelDbm: number;
	temper: number;
}

function makeContext(input: CutFitInput, samples: readonly CutSample[], floorDbm: number): Context {
	const span = lastOf(samples).positionDeg - itemAt(samples, 0).positionDeg;
	const independent = Math.max(
		FEWEST_INDEPENDENT,
		(INDEPENDENT_PER_BEAMWIDTH * span) / input.beamwidthDeg
	);
	const floorMw = 10 ** (floorDbm / 10);
	return {
		samples: samples.map((sample) => ({
			...sample,
			signalMw: signalMw(sample.levelDbm, floorMw)
		})),
		floorDbm,
		floorMw,
		beamwidthDeg: input.beamwidthDeg,
		plannedLevelDbm: input.plannedLevelDbm,
		lowestLevelDbm: input.lowestLevelDbm,
		highestLevelDbm: input.highestLevelDbm,
		temper: Math.min(1, independent / samples.length)
	};
}

/**
 * Offsets and centres worth a close look: a coarse search with one middling pattern, the best of
 * each reading of the cut (over the main lobe, beside it) kept, no two in the same place.
 */
function likelyStarts(context: Context, pattern: RadialPattern): Candidate[] {
	const { samples, beamwidthDeg } = context;
	const first = itemAt(samples, 0).positionDeg - BEYOND_ENDS_BEAMWIDTHS * beamwidthDeg;
	const last = lastOf(samples).positionDeg + BEYOND_ENDS_BEAMWIDTHS * beamwidthDeg;
	const step = Math.max(CENTRE_STEP_BEAMWIDTHS * beamwidthDeg, (last - first) / MOST_CENTRES);
	const found: Candidate[] = [];
	const offsetCount = Math.round(LARGEST_OFFSET_BEAMWIDTHS / OFFSET_STEP_BEAMWIDTHS);
	for (let i = 0; i <= offsetCount; i++) {
		const offsetDeg = i * OFFSET_STEP_BEAMWIDTHS * beamwidthDeg;
		for (let centreDeg = first; centreDeg <= last; centreDeg += step) {
			const candidate = evaluate(context, pattern, offsetDeg, centreDeg);
			if (candidate) found.push(candidate);
		}
	}
	found.sort((p, q) => q.logWeight - p.logWeight);
	const kept: Candidate[] = [];
	for (const onMainLobe of [true, false]) {
		let count = 0;
		for (const candidate of found) {
			if (candidate.onMainLobe !== onMainLobe) continue;
			const taken = kept.some(
				(other) =>
					Math.abs(other.centreDeg - candidate.centreDeg) <
						APART_CENTRE_BEAMWIDTHS * beamwidthDeg &&
					Math.abs(other.offsetDeg - candidate.offsetDeg) < APART_OFFSET_BEAMWIDTHS * beamwidthDeg
			);
			if (taken) continue;
			kept.push(candidate);
			if (++count === STARTS_PER_READING) break;
		}
	}
	return kept;
}

function evaluate(
	context: Context,
	pattern: RadialPattern,
	offsetDeg: number,
	centreDeg: number
): Candidate | undefined {
	const axisLevelDbm = commonLevel(context, pattern, offsetDeg, centreDeg);
	if (axisLevelDbm === undefined) return undefined;
	const { samples, floorMw, lowestLevelDbm, highestLevelDbm, beamwidthDeg } = context;
	const { noiseDb, jitterBeamwidths, logPriorOfLevel } = ALONG_A_CUT;
	const jitterDeg = jitterBeamwidths * beamwidthDeg;
	const unevenDb = unevenDbAt(ALONG_A_CUT, 0);
	const axisMw = 10 ** (axisLevelDbm / 10);
	let logLikelihood = 0;
	for (const { positionDeg, levelDbm } of samples) {
		const radius = distance(positionDeg - centreDeg, offsetDeg);
		const heardMw = axisMw * pattern.gainRatio(radius);
		const share = heardMw / (heardMw + floorMw);
		const expected = Math.min(
			highestLevelDbm,
			Math.max(lowestLevelDbm, 10 * Math.log10(heardMw + floorMw))
		);
		const slopeDb = Math.min(MOST_SLOPE_DB, pattern.slopeDbPerDeg(radius) * jitterDeg) * share;
		const strayDb = radius > pattern.firstNullDeg ? unevenDb * share : 0;
		const variance = noiseDb * noiseDb + slopeDb * slopeDb + strayDb * strayDb;
		logLikelihood += logDensity(levelDbm - expected, variance);
	}
	return {
		offsetDeg,
		centreDeg,
		axisLevelDbm,
		logWeight:
			context.temper * logLikelihood + logPriorOfLevel(axisLevelDbm - context.plannedLevelDbm),
		onMainLobe:
			offsetDeg < Math.min(pattern.firstNullDeg, WIDEST_MAIN_LOBE_CUT_BEAMWIDTHS * beamwidthDeg)
	};
}

/** The level on axis that fits the samples well above the floor, nearest lobes weighing most. */
function commonLevel(
	context: Context,
	pattern: RadialPattern,
	offsetDeg: number,
	centreDeg: number
): number | undefined {
	let sum = 0;
	let weightSum = 0;
	for (const { positionDeg, levelDbm, signalMw: heardMw } of context.samples) {
		if (levelDbm < context.floorDbm + TELLS_LEVEL_DB || levelDbm >= context.highestLevelDbm)
			continue;
		const radius = distance(positionDeg - centreDeg, offsetDeg);
		const slope = pattern.slopeDbPerDeg(radius) * context.beamwidthDeg;
		const weight = levelWeight(slope, radius > pattern.firstNullDeg);
		sum += weight * Math.log10(heardMw / pattern.gainRatio(radius));
		weightSum += weight;
	}
	return weightSum > 0 ? (10 * sum) / weightSum : undefined;
}

function summarise(candidates: readonly Candidate[], floorDbm: number): CutFit {
	const top = Math.max(...candidates.map((c) => c.logWeight));
	let mainWeight = 0;
	let besideWeight = 0;
	for (const c of candidates) {
		const weight = Math.exp(c.logWeight - top);
		if (c.onMainLobe) mainWeight += weight;
		else besideWeight += weight;
	}
	return {
		probabilityOnMainLobe: mainWeight / (mainWeight + besideWeight),
		mainLobe: centreOf(candidates.filter((c) => c.onMainLobe)),
		beside: centreOf(candidates.filter((c) => !c.onMainLobe)),
		floorDbm
	};
}

function centreOf(candidates: readonly Candidate[]): CutCentre {
	const nothing = {
		centreDeg: Number.NaN,
		sigmaDeg: Number.NaN,
		offsetDeg: Number.NaN,
		axisLevelDbm: Number.NaN
	};
	if (candidates.length === 0) return nothing;
	const best = candidates.reduce((p, q) => (q.logWeight > p.logWeight ? q : p));
	let weightSum = 0;
	let mean = 0;
	let square = 0;
	let offset = 0;
	let level = 0;
	for (const c of candidates) {
		const weight = Math.exp(c.logWeight - best.logWeight);
		const shift = c.centreDeg - best.centreDeg;
		weightSum += weight;
		mean += weight * shift;
		square += weight * shift * shift;
		offset += weight * c.offsetDeg;
		level += weight * c.axisLevelDbm;
	}
	mean /= weightSum;
	return {
		centreDeg: best.centreDeg + mean,
		sigmaDeg: Math.sqrt(Math.max(0, square / weightSum - mean * mean)),
		offsetDeg: offset / weightSum,
		axisLevelDbm: level / weightSum
	};
}
