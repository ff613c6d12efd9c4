import type { LinearPolarization } from '../propagation/rain';
import { degToRad } from '../units/angle';
import { between, makeRandomStream } from './random';
import { itemAt } from '../units/lists';

/** Where one dish stands off its axis, and how deep its cross-polar signal lies on it. */
interface FeedOffset {
	beamwidths: number;
	angle: number;
	leakDb: number;
}

export interface SimulatedFeeds {
	/** How far the two feeds are turned against each other at first, degrees. */
	errorDeg: number;
	/** Cross-polar over co-polar signal received, dB. */
	crossOverCoDb(
		rotationDeg: number,
		sent: LinearPolarization,
		offsets: readonly FeedOffset[]
	): number;
}

/** As an eye and a mark leave it: enough that it must be turned. */
const LEAST_ERROR_DEG = 4;
const MOST_ERROR_DEG = 7;
/** On its axis a sound dish is better than its sheet by up to this factor of voltage. */
const BETTER_THAN_SHEET = [0.35, 0.8] as const;

/**
 * The two feeds of a hop about the line of sight. A rotation leaks tan δ with one sign for vertical
 * and the other for horizontal; what the antennas themselves leak, and the cross-polar lobes beside
 * the axis, have the same sign for both, so that the two minima move apart.
 *
 * @param seed any whole number
 */
export function makeSimulatedFeeds(seed: number): SimulatedFeeds {
	const random = makeRandomStream(seed * 31 + 17);
	const sign = random() < 0.5 ? -1 : 1;
	const errorDeg = sign * between(random, LEAST_ERROR_DEG, MOST_ERROR_DEG);
	const own = [0, 1].map(() => ({
		share: between(random, ...BETTER_THAN_SHEET),
		// Mostly out of phase with the main signal: what remains at the best turn.
		phase: between(random, 1.35, 1.79) * (random() < 0.5 ? -1 : 1)
	}));
	return {
		errorDeg,
		crossOverCoDb(rotationDeg, sent, offsets) {
			const turn = Math.tan(degToRad(rotationDeg)) * (sent === 'vertical' ? 1 : -1);
			let real = turn;
			let imaginary = 0;
			offsets.forEach(({ beamwidths, angle, leakDb }, i) => {
				const leak = 10 ** (-leakDb / 20);
				const { share, phase } = itemAt(own, i);
				const x = (beamwidths / 0.6) ** 2;
				const lobe = Math.sqrt(1.3 * x * Math.exp(1 - x)) * Math.sin(2 * angle);
				real += leak * (share * Math.cos(phase) + lobe);
				imaginary += leak * (share * Math.sin(phase) + 0.3 * lobe);
			});
			return 10 * Math.log10(real * real + imaginary * imaginary + 1e-9);
		}
	};
}
