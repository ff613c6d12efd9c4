/**
 * Share of a normal distribution within ±x of its mean.
 *
 * @param x any finite, or infinite
 * @param sigma above 0, in the unit of x
 * Source: erf by Abramowitz and Stegun (1964) 7.1.26, to 1.5e−7.
 */
export function withinShare(x: number, sigma: number): number {
	const z = Math.abs(x) / (sigma * Math.SQRT2);
	if (z === Number.POSITIVE_INFINITY) return 1;
	const t = 1 / (1 + 0.3275911 * z);
	const series =
		t *
		(0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))));
	return 1 - series * Math.exp(-z * z);
}

/** Share of a normal distribution below x from its mean; arguments as of {@link withinShare}. */
export const belowShare = (x: number, sigma: number): number =>
	0.5 * (1 + Math.sign(x) * withinShare(x, sigma));
