import { requireInRange } from '../units/errors';

/** An improvement, with what keeps it from being trusted outside the range of its formula. */
export interface Improvement {
	/** Outage without over outage with, at least 1. */
	factor: number;
	/** Ranges of the source that this path leaves, in words; empty when inside all. */
	outside: string[];
}

function outside(checks: readonly [string, number, number, number][]): string[] {
	return checks
		.filter(([, value, from, to]) => value < from || value > to)
		.map(([what, , from, to]) => `${what} outside ${from} to ${to}`);
}

/**
 * Vertical space diversity for narrow-band signals:
 * I = (1 − e^(−0.04·S^0.87·f^−0.12·d^0.48·p0^−1.04))·10^((A−V)/10).
 *
 * @param separationM S between the antenna centres, m, above 0 to 100
 * @param occurrencePercent p0, above 0
 * @param fadeMarginDb A of the main antenna, dB
 * @param gainDifferenceDb V, |G1 − G2|, dB: by how much one antenna hears less than the other
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R P.530-18, §6.2.1, equation (39); data for 43–240 km, 2–11 GHz, 3–23 m.
 */
export function spaceDiversityImprovement(input: {
	separationM: number;
	frequencyGhz: number;
	pathKm: number;
	occurrencePercent: number;
	fadeMarginDb: number;
	gainDifferenceDb: number;
}): Improvement {
	requireInRange('separationM', input.separationM, 0, 100);
	const { separationM, frequencyGhz, pathKm, occurrencePercent } = input;
	const exponent =
		-0.04 *
		separationM ** 0.87 *
		frequencyGhz ** -0.12 *
		pathKm ** 0.48 *
		Math.max(1e-12, occurrencePercent) ** -1.04;
	const factor =
		(1 - Math.exp(exponent)) * 10 ** ((input.fadeMarginDb - input.gainDifferenceDb) / 10);
	return {
		factor: Math.max(1, factor),
		outside: outside([
			['path', pathKm, 43, 240],
			['frequency', frequencyGhz, 2, 11],
			['separation', separationM, 3, 23]
		])
	};
}

/**
 * In-band frequency diversity: I = (80/(f²·d))·(Δf/f)·10^(F/10), never below 1.
 *
 * @param spacingGhz Δf between the two carriers, 0 or more; counted to 5 % of f at most
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R P.530-18, §6.2.5 (non-selective part); data for 2–11 GHz, 30–70 km, Δf/f to 5 %.
 */
export function frequencyDiversityImprovement(input: {
	frequencyGhz: number;
	spacingGhz: number;
	pathKm: number;
	fadeMarginDb: number;
}): Improvement {
	const { frequencyGhz, pathKm, fadeMarginDb } = input;
	requireInRange('spacingGhz', input.spacingGhz, 0, 100);
	const share = Math.min(0.05, input.spacingGhz / frequencyGhz);
	const factor = (80 / (frequencyGhz ** 2 * pathKm)) * share * 10 ** (fadeMarginDb / 10);
	return {
		factor: Math.max(1, factor),
		outside: outside([
			['path', pathKm, 30, 70],
			['frequency', frequencyGhz, 2, 11]
		])
	};
}
