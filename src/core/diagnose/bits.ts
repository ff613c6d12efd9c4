/** Bits below which a test tells nothing. */
export const LEAST_BITS = 0.04;
/** Bits of doubt below which nothing is left to tell. */
export const SETTLED_BITS = 0.25;
/** Minutes that every test costs beside its own: to say it, to get there, to record it. */
const MINUTES_ABOUT_A_TEST = 2;

/**
 * How much is in doubt among hypotheses, bits.
 *
 * @param probabilities each 0 to 1, 1 together
 */
export const entropyBits = (probabilities: Iterable<number>): number =>
	[...probabilities].reduce((sum, p) => (p > 1e-9 ? sum - p * Math.log2(p) : sum), 0);

/**
 * Bits of doubt that are left, on the average, once the answer to a yes-or-no question is known.
 *
 * @param weights of the hypotheses, each 0 to 1, 1 together
 * @param chance of the answer under a hypothesis by its place, 0 to 1
 */
export function doubtAfter(
	weights: readonly number[],
	chance: (yes: boolean, place: number) => number
): number {
	let doubt = 0;
	let mass = 0;
	for (const yes of [true, false]) {
		const joint = weights.map((weight, place) => weight * chance(yes, place));
		const probability = joint.reduce((sum, p) => sum + p, 0);
		doubt += probability * entropyBits(joint.map((p) => p / Math.max(1e-12, probability)));
		mass += probability;
	}
	return doubt / mass;
}

/**
 * What a test is worth: what it tells, set against what it costs.
 *
 * @param gainBits of doubt taken away on the average, 0 or more
 * @param minutes that it takes, 0 or more
 */
export const worthOf = (gainBits: number, minutes: number): number =>
	gainBits / Math.sqrt(minutes + MINUTES_ABOUT_A_TEST);
