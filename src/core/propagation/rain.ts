import { requireInRange } from '../units/errors';
import { itemAt } from '../units/lists';

export type LinearPolarization = 'vertical' | 'horizontal';

interface CoefficientFit {
	a: readonly number[];
	b: readonly number[];
	c: readonly number[];
	m: number;
	c0: number;
}

/** ITU-R P.838-3, Tables 1 to 4. */
const K_FIT: Record<LinearPolarization, CoefficientFit> = {
	horizontal: {
		a: [-5.3398, -0.35351, -0.23789, -0.94158],
		b: [-0.10008, 1.2697, 0.86036, 0.64552],
		c: [1.13098, 0.454, 0.15354, 0.16817],
		m: -0.18961,
		c0: 0.71147
	},
	vertical: {
		a: [-3.80595, -3.44965, -0.39902, 0.50167],
		b: [0.56934, -0.22911, 0.73042, 1.07319],
		c: [0.81061, 0.51059, 0.11899, 0.27195],
		m: -0.16398,
		c0: 0.63297
	}
};

const ALPHA_FIT: Record<LinearPolarization, CoefficientFit> = {
	horizontal: {
		a: [-0.14318, 0.29591, 0.32177, -5.3761, 16.1721],
		b: [1.82442, 0.77564, 0.63773, -0.9623, -3.2998],
		c: [-0.55187, 0.19822, 0.13164, 1.47828, 3.4399],
		m: 0.67849,
		c0: -1.95537
	},
	vertical: {
		a: [-0.07771, 0.56727, -0.20238, -48.2991, 48.5833],
		b: [2.3384, 0.95545, 1.1452, 0.791669, 0.791459],
		c: [-0.76284, 0.54039, 0.26809, 0.116226, 0.116479],
		m: -0.053739,
		c0: 0.83433
	}
};

function evaluate(fit: CoefficientFit, logFrequency: number): number {
	return fit.a.reduce(
		(sum, a, j) =>
			sum + a * Math.exp(-(((logFrequency - itemAt(fit.b, j)) / itemAt(fit.c, j)) ** 2)),
		fit.m * logFrequency + fit.c0
	);
}

/**
 * The k and α of γ = k·R^α for a linear polarization on a horizontal path.
 *
 * @param frequencyGhz 1 to 1000
 * @throws OutOfRangeError outside the range
 * Source: ITU-R P.838-3, equations (2) and (3), Tables 1 to 4.
 */
export function rainCoefficients(
	frequencyGhz: number,
	polarization: LinearPolarization
): { k: number; alpha: number } {
	requireInRange('frequencyGhz', frequencyGhz, 1, 1000);
	const logFrequency = Math.log10(frequencyGhz);
	return {
		k: 10 ** evaluate(K_FIT[polarization], logFrequency),
		alpha: evaluate(ALPHA_FIT[polarization], logFrequency)
	};
}

/** The share of time that the method is stated down to, percent of an average year. */
export const STATED_TO_PERCENT = 0.001;
/** How far its own law is followed beyond, half a minute a year: up to 100 GHz its attenuation rises with rarity to there. */
export const EXTRAPOLATED_TO_PERCENT = 1e-4;

export interface RainAttenuation {
	specificDbKm: number;
	/** Distance factor r: effective over real path length, at most 2.5. */
	distanceFactor: number;
	/** Attenuation exceeded for 0.01 % of an average year, dB. */
	a001Db: number;
	/** Attenuation exceeded for `percentOfTime` of an average year, dB. */
	attenuationDb: number;
}

/**
 * Rain attenuation along a terrestrial path.
 *
 * @param frequencyGhz 1 to 100
 * @param pathKm above 0, to 60
 * @param rainRate001MmH rate exceeded for 0.01 % of the time, 0 to 250
 * @param percentOfTime 0.001 to 1 as stated; to 0.0001 by the same law, which still rises there
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R P.530-18, §2.4.1, equations (32) to (35).
 */
export function rainAttenuation(input: {
	frequencyGhz: number;
	pathKm: number;
	polarization: LinearPolarization;
	rainRate001MmH: number;
	percentOfTime: number;
}): RainAttenuation {
	const { frequencyGhz, pathKm, polarization, rainRate001MmH, percentOfTime } = input;
	requireInRange('frequencyGhz', frequencyGhz, 1, 100);
	requireInRange('pathKm', pathKm, 0.001, 60);
	requireInRange('rainRate001MmH', rainRate001MmH, 0, 250);
	requireInRange('percentOfTime', percentOfTime, EXTRAPOLATED_TO_PERCENT, 1);
	if (rainRate001MmH === 0) {
		return { specificDbKm: 0, distanceFactor: 1, a001Db: 0, attenuationDb: 0 };
	}
	const { k, alpha } = rainCoefficients(frequencyGhz, polarization);
	const specificDbKm = k * rainRate001MmH ** alpha;
	const denominator =
		0.477 * pathKm ** 0.633 * rainRate001MmH ** (0.073 * alpha) * frequencyGhz ** 0.123 -
		10.579 * (1 - Math.exp(-0.024 * pathKm));
	// The recommendation caps r at 2.5; a short path makes the denominator small or negative.
	const distanceFactor = denominator > 0.4 ? 1 / denominator : 2.5;
	const a001Db = specificDbKm * pathKm * distanceFactor;
	return {
		specificDbKm,
		distanceFactor,
		a001Db,
		attenuationDb: a001Db * timeScaling(frequencyGhz, percentOfTime)
	};
}

/** A_p / A_0.01 of equations (33) to (35). */
function timeScaling(frequencyGhz: number, percentOfTime: number): number {
	const c0 = frequencyGhz >= 10 ? 0.12 + 0.4 * Math.log10((frequencyGhz / 10) ** 0.8) : 0.12;
	const c1 = 0.07 ** c0 * 0.12 ** (1 - c0);
	const c2 = 0.855 * c0 + 0.546 * (1 - c0);
	const c3 = 0.139 * c0 + 0.043 * (1 - c0);
	return c1 * percentOfTime ** -(c2 + c3 * Math.log10(percentOfTime));
}
