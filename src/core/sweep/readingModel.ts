import { makeRadialPattern, type PatternGuess, type RadialPattern } from './radialPattern';
import { itemAt } from '../units/lists';

/**
 * How a level that is read comes about: the pattern of the dish at the place where it stood, a loss
 * common to all readings, the receiver's floor, and what noise, sway and an uneven dish add to it. One
 * model for whoever reads levels backwards: the fit of a cut, and the map of where the far end is.
 */
export interface ReadingModel {
	/** Meter noise, slow fading and short sway on the flat of a lobe, dB. */
	noiseDb: number;
	/** Sway, play and reading jitter, in beamwidths: turned into dB by the local slope. */
	jitterBeamwidths: number;
	/** How far a side lobe of a real dish strays from the round model, dB. */
	unevenDb: number;
	/** Farther out lobes and nulls stand less and less where the model has them: dB for each beamwidth. */
	unevenPerBeamwidthDb: number;
	/** Log prior of the level on the axis minus plan, dB. */
	logPriorOfLevel: (differenceDb: number) => number;
	/** The same prior integrated: over a level that is known to a deviation only, or up to a level. */
	integrals: LevelIntegrals;
}

/** Integrals over the common level, dB, in the measure that the log prior has. */
export interface LevelIntegrals {
	/** Log of ∫ prior(x)·exp(−(x − difference)²/2σ²) dx. */
	logAround(differenceDb: number, sigmaDb: number): number;
	/** Log of ∫ prior(x) dx from far below up to a difference. */
	logUpTo(differenceDb: number): number;
}

/** Degrees of freedom of the heavy-tailed residual: gusts and mistyped values happen. */
export const TAIL_DEGREES = 4;
/** On the steepest flank sway moves a level by no more than this: nulls are filled by it, dB. */
export const MOST_SLOPE_DB = 12;
/** Up to here from the axis, in beamwidths, lobes are uneven alike. */
const UNEVEN_FROM_BEAMWIDTHS = 1.6;
/** A lobe strays by no more than this, dB: beyond it says nothing any more. */
const MOST_UNEVEN_DB = 6.5;
/** Least power that is left of a reading once the floor is taken off, mW: keeps its logarithm finite. */
const LEAST_SIGNAL_MW = 1e-13;
/** A reading so far above the floor tells the common level, dB. */
export const TELLS_LEVEL_DB = 3;
/** Slope at which a reading tells the common level half as well as one on the flat, dB a beamwidth. */
const HALF_WEIGHT_SLOPE_DB = 12;
/** A reading beyond the first null tells it so many times less: its lobe may be uneven. */
const LESS_BEYOND_NULL = 6;

/** A share of hops whose common loss lies about a mean, dB. */
interface LossGroup {
	share: number;
	meanDb: number;
	sigmaDb: number;
}

/** Above plan by more than this is all but ruled out, dB. */
const MOST_ABOVE_PLAN_DB = 3;
const RULED_OUT = 1e-7;

interface Unnamed {
	density: number;
	toDb: number;
}

/** What is thought of the common level before anything is read, as a density and integrated. */
function levelPrior(
	groups: readonly LossGroup[],
	unnamed: Unnamed
): Pick<ReadingModel, 'logPriorOfLevel' | 'integrals'> {
	return { logPriorOfLevel: logPrior(groups, unnamed), integrals: integralsOf(groups, unnamed) };
}

/** Cumulative normal distribution. Source: Abramowitz and Stegun 26.2.17, to 10⁻⁷. */
function normalUpTo(x: number): number {
	const t = 1 / (1 + 0.2316419 * Math.abs(x));
	const tail =
		(Math.exp(-0.5 * x * x) / Math.sqrt(2 * Math.PI)) *
		t *
		(0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
	return x > 0 ? 1 - tail : tail;
}

function integralsOf(groups: readonly LossGroup[], { density, toDb }: Unnamed): LevelIntegrals {
	const root = Math.sqrt(2 * Math.PI);
	return {
		logAround(differenceDb, sigmaDb) {
			const inside = differenceDb < MOST_ABOVE_PLAN_DB && differenceDb > toDb;
			let sum = inside ? density : RULED_OUT;
			for (const group of groups) {
				const wide = Math.hypot(group.sigmaDb, sigmaDb);
				const sigmas = (differenceDb - group.meanDb) / wide;
				sum += (group.share / wide) * Math.exp(-0.5 * sigmas * sigmas);
			}
			return Math.log(sum * sigmaDb * root);
		},
		logUpTo(differenceDb) {
			let sum = RULED_OUT;
			sum += density * Math.max(0, Math.min(differenceDb, MOST_ABOVE_PLAN_DB) - toDb);
			for (const { share, meanDb, sigmaDb } of groups) {
				sum += share * root * normalUpTo((differenceDb - meanDb) / sigmaDb);
			}
			return Math.log(sum);
		}
	};
}

/** Log prior of a common loss from groups, and a density for losses that have no name. */
function logPrior(
	groups: readonly LossGroup[],
	unnamed: Unnamed
): (differenceDb: number) => number {
	// Asked for every place of a map: a plain loop is several times faster than a fold over objects.
	const means = Float64Array.from(groups, ({ meanDb }) => meanDb);
	const precisions = Float64Array.from(groups, ({ sigmaDb }) => 1 / sigmaDb);
	const heights = Float64Array.from(groups, ({ share, sigmaDb }) => share / sigmaDb);
	return (differenceDb) => {
		let density =
			differenceDb < MOST_ABOVE_PLAN_DB && differenceDb > unnamed.toDb
				? unnamed.density
				: RULED_OUT;
		for (let i = 0; i < means.length; i++) {
			const sigmas = (differenceDb - itemAt(means, i)) * itemAt(precisions, i);
			density += itemAt(heights, i) * Math.exp(-0.5 * sigmas * sigmas);
		}
		return Math.log(density);
	};
}

/** Spread of parts, meters and air about a plan that holds, dB. */
const PLAN_SIGMA_DB = 1.8;

/**
 * One axis turned through in one go, within minutes: little sway, no play, lobes near the beam. The far
 * end stands on a side lobe (−14 to −30 dB) or the link is crossed (−24 to −38).
 */
export const ALONG_A_CUT: ReadingModel = {
	noiseDb: 0.7,
	jitterBeamwidths: 0.045,
	unevenDb: 2.2,
	unevenPerBeamwidthDb: 0,
	...levelPrior(
		[
			{ share: 0.5, meanDb: 0, sigmaDb: PLAN_SIGMA_DB },
			{ share: 0.3, meanDb: -21, sigmaDb: 4 },
			{ share: 0.1, meanDb: -30, sigmaDb: 5 }
		],
		{ density: 0.004, toDb: -55 }
	)
};

/**
 * Every reading of an end, over hours, on both axes, with the play of the adjusters between them and far
 * lobes among them: a little more of everything. Both ends may be off, or one far out (to −60 dB).
 */
export const OVER_THE_MAP: ReadingModel = {
	noiseDb: 0.75,
	jitterBeamwidths: 0.05,
	unevenDb: 2.6,
	unevenPerBeamwidthDb: 0.9,
	...levelPrior(
		[
			{ share: 0.45, meanDb: 0, sigmaDb: PLAN_SIGMA_DB },
			{ share: 0.3, meanDb: -21, sigmaDb: 5 },
			{ share: 0.2, meanDb: -34, sigmaDb: 8 }
		],
		{ density: 0.006, toDb: -70 }
	)
};

/** Taper, blockage and width in the middle of what dishes have. */
export const MIDDLE_GUESS: PatternGuess = { pedestal: 0.26, blockage: 0.012, widthFactor: 1 };

/** The dish whose pattern is guessed at. */
export interface GuessedDish {
	frequencyGhz: number;
	dishDiameterM: number;
	/** Half-power beamwidth, degrees. */
	beamwidthDeg: number;
	/** Whether the beamwidth is one of this dish rather than the rule of thumb. */
	beamwidthKnown: boolean;
}

/** The pattern of a dish under one guess; its width is free where only the rule of thumb gives it. */
export function guessedPattern(guess: PatternGuess, dish: GuessedDish): RadialPattern {
	const { frequencyGhz, dishDiameterM, beamwidthDeg, beamwidthKnown } = dish;
	const known = beamwidthKnown ? beamwidthDeg : undefined;
	return makeRadialPattern(guess, frequencyGhz, dishDiameterM, known);
}

/** Power of the far end alone, the floor taken off, mW. */
export const signalMw = (levelDbm: number, floorMw: number): number =>
	Math.max(LEAST_SIGNAL_MW, 10 ** (levelDbm / 10) - floorMw);

/**
 * How well a reading tells the common level, 0 to 1. `slopeDb` is the slope in dB a beamwidth.
 *
 * @param slopeDb of the pattern there, dB a beamwidth, either sign
 */
export function levelWeight(slopeDb: number, beyondNull: boolean): number {
	const steep = slopeDb / HALF_WEIGHT_SLOPE_DB;
	return 1 / (1 + steep * steep + (beyondNull ? LESS_BEYOND_NULL : 0));
}

/**
 * How far a lobe strays from the round model at a distance off the axis, dB.
 *
 * @param beamwidths off the axis, 0 or more
 */
export function unevenDbAt(model: ReadingModel, beamwidths: number): number {
	const farther = Math.max(0, beamwidths - UNEVEN_FROM_BEAMWIDTHS);
	return Math.min(MOST_UNEVEN_DB, model.unevenDb + model.unevenPerBeamwidthDb * farther);
}

/**
 * Log density of a residual under a heavy-tailed deviate of some variance, but for a constant.
 *
 * @param residualDb level read minus level expected
 * @param variance dB²
 */
export function logDensity(residualDb: number, variance: number): number {
	return (
		-((TAIL_DEGREES + 1) / 2) * Math.log1p((residualDb * residualDb) / (TAIL_DEGREES * variance)) -
		0.5 * Math.log(variance)
	);
}
