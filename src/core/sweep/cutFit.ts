import { makeRadialPattern, type PatternGuess, type RadialPattern } from './radialPattern';

/** One sample of a cut: where this axis stood and the level there. */
export interface CutSample {
	positionDeg: number;
	levelDbm: number;
}

export interface CutFitInput {
	samples: readonly CutSample[];
	frequencyGhz: number;
	dishDiameterM: number;
	beamwidthDeg: number;
	/** Whether `beamwidthDeg` is a measured value of this dish rather than the rule of thumb. */
	beamwidthKnown: boolean;
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
const MIDDLE_GUESS: PatternGuess = { pedestal: 0.26, blockage: 0.012, widthFactor: 1 };

/** Meter noise, slow fading and short sway on the flat of a lobe, dB. */
const NOISE_DB = 0.7;
/** Sway and reading jitter along the cut, in beamwidths: turned into dB by the local slope. */
const JITTER_BEAMWIDTHS = 0.045;
/** How far a side lobe of a real dish strays from the round model, dB. */
const UNEVEN_DB = 2.2;
/** Degrees of freedom of the heavy-tailed residual: gusts and mistyped values happen. */
const TAIL_DEGREES = 4;
/** Independent samples per beamwidth: unevenness correlates neighbours, so more add little. */
const INDEPENDENT_PER_BEAMWIDTH = 7;
const OFFSET_STEP_BEAMWIDTHS = 0.1;
const LARGEST_OFFSET_BEAMWIDTHS = 3.2;
/** A flat bottom above this level is not a receiver's floor, whatever the channel width, dBm. */
export const HIGHEST_FLOOR_DBM = -68;
/** A cut further off than this shows two humps with a dip: it crosses the ring, whatever the null. */
const WIDEST_MAIN_LOBE_CUT_BEAMWIDTHS = 1.05;
/** Starting points refined for each of the two readings of a cut. */
const STARTS_PER_READING = 12;

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
	const heard = samples.filter((s) => s.levelDbm > floorDbm + 2);
	if (heard.length < 5) return undefined;

	const context = makeContext(input, samples, floorDbm);
	const middle = patternOf(MIDDLE_GUESS, input);
	const patterns = GUESSES.map((guess) => patternOf(guess, input));
	const candidates: Candidate[] = [];
	for (const start of likelyStarts(context, middle)) {
		for (const pattern of patterns) {
			for (let shift = -2; shift <= 2; shift++) {
				const centreDeg = start.centreDeg + shift * 0.035 * input.beamwidthDeg;
				const candidate = evaluate(context, pattern, start.offsetDeg, centreDeg);
				if (candidate) candidates.push(candidate);
			}
		}
	}
	return candidates.length ? summarise(candidates, floorDbm) : undefined;
}

function patternOf(guess: PatternGuess, input: CutFitInput): RadialPattern {
	return makeRadialPattern(
		guess,
		input.frequencyGhz,
		input.dishDiameterM,
		input.beamwidthKnown ? input.beamwidthDeg : undefined
	);
}

/** Averages samples closer than a fiftieth of a beam, so that a standing dish does not outvote. */
function thinOut(samples: readonly CutSample[], beamwidthDeg: number): CutSample[] {
	const cells = new Map<number, { position: number; level: number; count: number }>();
	for (const { positionDeg, levelDbm } of samples) {
		const key = Math.round(positionDeg / (beamwidthDeg / 50));
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
	const at = (share: number): number => levels[Math.floor(share * (levels.length - 1))]!;
	const flat = at(0.2) - at(0.02) < 2 && at(0.1) < HIGHEST_FLOOR_DBM;
	return flat ? at(0.1) : at(0.02) - 4;
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
	const span = samples[samples.length - 1]!.positionDeg - samples[0]!.positionDeg;
	const independent = Math.max(6, (INDEPENDENT_PER_BEAMWIDTH * span) / input.beamwidthDeg);
	const floorMw = 10 ** (floorDbm / 10);
	return {
		samples: samples.map((sample) => ({
			...sample,
			signalMw: Math.max(1e-13, 10 ** (sample.levelDbm / 10) - floorMw)
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
	const first = samples[0]!.positionDeg - 1.2 * beamwidthDeg;
	const last = samples[samples.length - 1]!.positionDeg + 1.2 * beamwidthDeg;
	const step = Math.max(0.1 * beamwidthDeg, (last - first) / 160);
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
					Math.abs(other.centreDeg - candidate.centreDeg) < 0.13 * beamwidthDeg &&
					Math.abs(other.offsetDeg - candidate.offsetDeg) < 0.05 * beamwidthDeg
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
	const jitterDeg = JITTER_BEAMWIDTHS * beamwidthDeg;
	const axisMw = 10 ** (axisLevelDbm / 10);
	let logLikelihood = 0;
	for (const { positionDeg, levelDbm } of samples) {
		const radius = distance(positionDeg - centreDeg, offsetDeg);
		const signalMw = axisMw * pattern.gainRatio(radius);
		const share = signalMw / (signalMw + floorMw);
		const expected = Math.min(
			highestLevelDbm,
			Math.max(lowestLevelDbm, 10 * Math.log10(signalMw + floorMw))
		);
		const slopeDb = Math.min(12, pattern.slopeDbPerDeg(radius) * jitterDeg) * share;
		const unevenDb = radius > pattern.firstNullDeg ? UNEVEN_DB * share : 0;
		const variance = NOISE_DB * NOISE_DB + slopeDb * slopeDb + unevenDb * unevenDb;
		const residual = levelDbm - expected;
		logLikelihood -=
			((TAIL_DEGREES + 1) / 2) * Math.log1p((residual * residual) / (TAIL_DEGREES * variance)) +
			0.5 * Math.log(variance);
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
	for (const { positionDeg, levelDbm, signalMw } of context.samples) {
		if (levelDbm < context.floorDbm + 3 || levelDbm >= context.highestLevelDbm) continue;
		const radius = distance(positionDeg - centreDeg, offsetDeg);
		const slope = pattern.slopeDbPerDeg(radius) * context.beamwidthDeg;
		const weight = 1 / (1 + (slope / 12) ** 2 + (radius > pattern.firstNullDeg ? 6 : 0));
		sum += weight * Math.log10(signalMw / pattern.gainRatio(radius));
		weightSum += weight;
	}
	return weightSum > 0 ? (10 * sum) / weightSum : undefined;
}

/**
 * Log prior of the level on axis minus plan, dB. Either nothing else is wrong (about 0), the far
 * end stands on a side lobe (about −14 to −30), the link is crossed (about −24 to −38), or an
 * unnamed loss. A level far above plan is all but ruled out.
 */
function logPriorOfLevel(differenceDb: number): number {
	const bump = (mean: number, sigma: number): number =>
		Math.exp(-0.5 * ((differenceDb - mean) / sigma) ** 2) / sigma;
	const other = differenceDb < 3 && differenceDb > -55 ? 0.004 : 1e-7;
	return Math.log(0.5 * bump(0, 1.8) + 0.3 * bump(-21, 4) + 0.1 * bump(-30, 5) + other);
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
