import { between, makeRandomStream } from '#core/simulate/random';
import type { SimulatedDish } from '#core/simulate/simulatedDish';

/** Points across the aperture. */
const ACROSS = 26;
/** Where the tool's own rule puts the half-power point of such an illumination, in u = π·D·sin θ/λ. */
const FIRST_U = 1.8;

/**
 * A dish that the tool's model does not know: the sum over its aperture, with its own taper, a feed in the
 * middle and the struts that carry it in the shadow, coma and astigmatism of a feed out of place, and a
 * surface that is not quite a parabola. Its beamwidth is the mean of its four half-power points, and its axis
 * is where it sends most.
 */
export function makeApertureDish(seed: number, beamwidthDeg: number): SimulatedDish {
	const random = makeRandomStream(seed * 131 + 71);
	const edge = 10 ** (-between(random, 7, 15) / 20);
	const blockage = between(random, 0.05, 0.16);
	const struts = random() < 0.5 ? 3 : 4;
	const strutAt = between(random, 0, 2 * Math.PI);
	const strutWidth = between(random, 0.015, 0.05);
	const coma = between(random, 0, 1.3);
	const comaAt = between(random, 0, 2 * Math.PI);
	const astigmatism = between(random, 0, 0.9);
	const astigmatismAt = between(random, 0, Math.PI);
	const roughness = between(random, 0, 0.25);
	const points: { x: number; y: number; re: number; im: number }[] = [];
	for (let i = 0; i < ACROSS; i++) {
		for (let j = 0; j < ACROSS; j++) {
			const x = (2 * i + 1) / ACROSS - 1;
			const y = (2 * j + 1) / ACROSS - 1;
			const r = Math.hypot(x, y);
			if (r > 1) continue;
			const angle = Math.atan2(y, x);
			// Drawn for every point, whether it is in the shadow or not: the same surface for each seed.
			const surface = roughness * (between(random, -1, 1) + between(random, -1, 1));
			if (r < blockage || inStrut(x, y, struts, strutAt, strutWidth)) continue;
			const amplitude = edge + (1 - edge) * (1 - r * r);
			const phase =
				coma * (r ** 3 - (2 / 3) * r) * Math.cos(angle - comaAt) +
				astigmatism * r * r * Math.cos(2 * (angle - astigmatismAt)) +
				surface;
			points.push({ x, y, re: amplitude * Math.cos(phase), im: amplitude * Math.sin(phase) });
		}
	}
	const power = (u: number, v: number): number => {
		let [re, im] = [0, 0];
		for (const point of points) {
			const turn = u * point.x + v * point.y;
			const [c, s] = [Math.cos(turn), Math.sin(turn)];
			re += point.re * c - point.im * s;
			im += point.re * s + point.im * c;
		}
		return re * re + im * im;
	};
	const axis = peakOf(power);
	const top = power(axis.u, axis.v);
	const half = [0, 1, 2, 3].map((k) => {
		const [du, dv] = [Math.cos((k * Math.PI) / 2), Math.sin((k * Math.PI) / 2)];
		let [low, high] = [0, 2 * FIRST_U];
		for (let i = 0; i < 30; i++) {
			const middle = (low + high) / 2;
			if (power(axis.u + middle * du, axis.v + middle * dv) > top / 2) low = middle;
			else high = middle;
		}
		return low;
	});
	const uPerDeg = half.reduce((sum, u) => sum + u, 0) / 2 / beamwidthDeg;
	// What spills over and scatters stands under everything.
	const scatter = 10 ** (-between(random, 42, 52) / 10);
	/** Beyond this the sampled aperture would repeat itself. */
	const farthest = (Math.PI * ACROSS) / 2 / Math.SQRT2;
	return (azimuthOffsetDeg, tiltOffsetDeg) => {
		const [u, v] = [axis.u + azimuthOffsetDeg * uPerDeg, axis.v + tiltOffsetDeg * uPerDeg];
		const off = Math.hypot(u, v);
		const shrink = off > farthest ? farthest / off : 1;
		const fall = shrink < 1 ? shrink ** 3 : 1;
		return Math.min(0, 10 * Math.log10((power(u * shrink, v * shrink) / top) * fall + scatter));
	};
}

function inStrut(x: number, y: number, struts: number, at: number, width: number): boolean {
	for (let k = 0; k < struts; k++) {
		const angle = at + (2 * Math.PI * k) / struts;
		const along = x * Math.cos(angle) + y * Math.sin(angle);
		const across = Math.abs(y * Math.cos(angle) - x * Math.sin(angle));
		if (along > 0 && across < width) return true;
	}
	return false;
}

/** Where a pattern is strongest: coma squints it. */
function peakOf(power: (u: number, v: number) => number): { u: number; v: number } {
	let best = { u: 0, v: 0 };
	for (let step = 0.4; step > 1e-3; step /= 2) {
		for (let moved = true; moved;) {
			moved = false;
			for (const [du, dv] of [
				[step, 0],
				[-step, 0],
				[0, step],
				[0, -step]
			] as const) {
				const next = { u: best.u + du, v: best.v + dv };
				if (power(next.u, next.v) > power(best.u, best.v)) {
					best = next;
					moved = true;
				}
			}
		}
	}
	return best;
}
