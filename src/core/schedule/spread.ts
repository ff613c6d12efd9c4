import { belowShare } from '../units/normal';
import type { Spread } from './problem';

/** Standard normal deviate that one in ten lies beyond. */
const TENTH = 1.281_551_565_544_6;

/** Logarithmic widths below and above the middle. */
const widths = ({ low, likely, high }: Spread): { below: number; above: number } => ({
	below: Math.log(likely / low) / TENTH,
	above: Math.log(high / likely) / TENTH
});

/**
 * A time by the place it has among those that a piece of work takes: logarithmically normal on either side of its
 * middle, so that one in ten is shorter than `low`, half are shorter than `likely`, one in ten is longer than `high`.
 *
 * @param deviate standard normal
 * @returns minutes, above 0
 */
export function timeAt(spread: Spread, deviate: number): number {
	const { below, above } = widths(spread);
	return spread.likely * Math.exp(deviate * (deviate < 0 ? below : above));
}

/** Mean and variance of the times of a spread. */
function momentsOf(spread: Spread): { mean: number; variance: number } {
	const { below, above } = widths(spread);
	const raw = (power: number): number => {
		const up = power * above;
		const down = power * below;
		return (
			spread.likely ** power *
			(Math.exp(up ** 2 / 2) * belowShare(up, 1) + Math.exp(down ** 2 / 2) * belowShare(-down, 1))
		);
	};
	const mean = raw(1);
	return { mean, variance: raw(2) - mean ** 2 };
}

/**
 * The spread of the sum of times that have nothing to do with one another, by its mean and variance as of a
 * logarithmically normal time.
 *
 * @param spreads of none the sum takes no time
 */
export function sumOf(spreads: readonly Spread[]): Spread {
	let mean = 0;
	let variance = 0;
	for (const spread of spreads) {
		const one = momentsOf(spread);
		mean += one.mean;
		variance += one.variance;
	}
	if (mean === 0) return { low: 0, likely: 0, high: 0 };
	const width = Math.sqrt(Math.log(1 + variance / mean ** 2));
	const likely = mean / Math.exp(width ** 2 / 2);
	return {
		low: likely * Math.exp(-TENTH * width),
		likely,
		high: likely * Math.exp(TENTH * width)
	};
}

/** How many observed times weigh as much as what was assumed before. */
const PRIOR_WEIGHT = 5;
/** Times are not told apart more finely than this, as a share; nobody's work is that regular. */
const LEAST_WIDTH = 0.1;

/** What was seen of a kind of work: how often, and the sums of the logarithms of its minutes and of their squares. */
export interface Observed {
	n: number;
	sumLog: number;
	sumLog2: number;
}

/**
 * What is learned from, of single times.
 *
 * @param minutes each above 0
 */
export function gathered(minutes: readonly number[]): Observed {
	const logs = minutes.map(Math.log);
	return {
		n: logs.length,
		sumLog: logs.reduce((sum, log) => sum + log, 0),
		sumLog2: logs.reduce((sum, log) => sum + log ** 2, 0)
	};
}

/** What a kind of work takes by what was assumed and by what it really took. */
export function learned(assumed: Spread, { n, sumLog, sumLog2 }: Observed): Spread {
	if (n === 0) return assumed;
	const { below, above } = widths(assumed);
	const middle = (PRIOR_WEIGHT * Math.log(assumed.likely) + sumLog) / (PRIOR_WEIGHT + n);
	const scatter = Math.max(0, sumLog2 - 2 * middle * sumLog + n * middle ** 2);
	const width = (before: number): number =>
		Math.max(LEAST_WIDTH, Math.sqrt((PRIOR_WEIGHT * before ** 2 + scatter) / (PRIOR_WEIGHT + n)));
	return {
		low: Math.exp(middle - TENTH * width(below)),
		likely: Math.exp(middle),
		high: Math.exp(middle + TENTH * width(above))
	};
}
