import { besselJ1 } from '#core/antenna/bessel';
import { between, makeRandomStream } from '#core/simulate/random';
import type { SimulatedDish } from '#core/simulate/simulatedDish';

/** Where (2·J1(u)/u)² has fallen to a half. */
const HALF_POWER_U = 1.61634;

/**
 * A dish that the tool's own model does not know: an evenly lit aperture with high side lobes, oval by
 * up to a tenth, lopsided by coma so that the lobes of one side stand several dB above those of the
 * other, and with a floor of scatter. Its beamwidth is the mean of both axes.
 */
export function makeForeignDish(seed: number, beamwidthDeg: number): SimulatedDish {
	const random = makeRandomStream(seed * 31 + 5);
	const oval = between(random, 0.95, 1.05);
	const lean = between(random, 0, Math.PI);
	const coma = between(random, 0.05, 0.28);
	const comaAt = between(random, 0, 2 * Math.PI);
	const scatterDb = between(random, -52, -42);
	const taper = between(random, 0.1, 0.5);
	return (azimuthOffsetDeg, tiltOffsetDeg) => {
		const x = Math.cos(lean) * azimuthOffsetDeg + Math.sin(lean) * tiltOffsetDeg;
		const y = Math.cos(lean) * tiltOffsetDeg - Math.sin(lean) * azimuthOffsetDeg;
		const radius = Math.hypot(x * oval, y / oval);
		const u = Math.max(1e-6, (2 * HALF_POWER_U * radius) / beamwidthDeg);
		const even = (2 * besselJ1(u)) / u;
		const angle = Math.atan2(tiltOffsetDeg, azimuthOffsetDeg);
		// Coma fills the nulls of one side and lifts its lobes; a taper lowers all of them.
		const lopsided = 1 + coma * Math.min(1, u / 4) * Math.cos(angle - comaAt) * 2;
		const field = even * (1 - taper * Math.min(1, (u / 5) ** 2)) * lopsided;
		return Math.min(0, 10 * Math.log10(field * field + 10 ** (scatterDb / 10)));
	};
}
