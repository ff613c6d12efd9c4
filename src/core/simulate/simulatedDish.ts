import { halfPowerU, taperedApertureField } from '../antenna/taperedAperture';
import { between, makeRandomStream } from './random';

/** Gain of one real-looking dish relative to its peak, dB, by offsets from its axis in degrees. */
export type SimulatedDish = (azimuthOffsetDeg: number, tiltOffsetDeg: number) => number;

interface Ripple {
	order: number;
	phase: number;
	amplitudeDb: number;
}

const FILL = 10 ** (-46 / 10);

/**
 * A two-dimensional pattern with its own taper and blockage, and side lobes that are uneven round
 * the ring by up to a few dB, as feed arms and rim make them. Deterministic from the seed.
 *
 * @param beamwidthDeg half-power beamwidth, degrees
 * @param seed any whole number
 */
export function makeSimulatedDish(seed: number, beamwidthDeg: number): SimulatedDish {
	const random = makeRandomStream(seed);
	const pedestal = between(random, 0.2, 0.36);
	const blockage = between(random, 0.004, 0.026);
	const uPerDeg = (2 * halfPowerU(pedestal)) / beamwidthDeg;
	const ripples: Ripple[] = [1, 2, 3].map((order) => ({
		order,
		phase: between(random, 0, 2 * Math.PI),
		amplitudeDb: between(random, 0.2, 1.4)
	}));
	return (azimuthOffsetDeg, tiltOffsetDeg) => {
		const radius = Math.hypot(azimuthOffsetDeg, tiltOffsetDeg);
		const field = (taperedApertureField(radius * uPerDeg, pedestal) - blockage) / (1 - blockage);
		const roundDb = 10 * Math.log10(field * field + FILL);
		const beyondNull = Math.min(1, Math.max(0, radius / beamwidthDeg - 1));
		const angle = Math.atan2(tiltOffsetDeg, azimuthOffsetDeg);
		const unevenDb = ripples.reduce(
			(sum, { order, phase, amplitudeDb }) => sum + amplitudeDb * Math.cos(order * angle + phase),
			0
		);
		return Math.min(0, roundDb + beyondNull * unevenDb);
	};
}
