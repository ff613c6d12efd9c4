/** A deterministic stream of numbers in [0, 1). */
export type RandomStream = () => number;

/**
 * Deterministic generator from a 32-bit seed (mulberry32 mixing). The same seed gives the same
 * stream on every machine; not for secrets.
 *
 * @param seed taken as a whole number of 32 bits
 */
export function makeRandomStream(seed: number): RandomStream {
	let state = seed >>> 0;
	return () => {
		state = (state + 0x6d2b79f5) >>> 0;
		let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
		mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
		return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296;
	};
}

/** One normal deviate (mean 0, standard deviation 1) from two draws: Box and Muller (1958). */
export function normalDeviate(random: RandomStream): number {
	const radius = Math.sqrt(-2 * Math.log(1 - random()));
	return radius * Math.cos(2 * Math.PI * random());
}

/**
 * A value between two bounds.
 *
 * @param low, high any finite, low first
 */
export function between(random: RandomStream, low: number, high: number): number {
	return low + (high - low) * random();
}
