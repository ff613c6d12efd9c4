import { requireInRange } from '../units/errors';
import type { LinearPolarization } from '../propagation/rain';

/** What a ray can be reflected by. */
export const GROUND_KINDS = ['land', 'sea', 'fresh'] as const;
export type GroundKind = (typeof GROUND_KINDS)[number];
/** What reflects, in words. */
export const GROUND_WORDS: Readonly<Record<GroundKind, string>> = {
	land: 'level ground',
	sea: 'the sea',
	fresh: 'still water'
};

/** Conductivity and permittivity of land, medium dry. Source: ITU-R P.527, curves of medium dry ground. */
const LAND = { permittivity: 15, conductivitySM: 0.035 };
/** Conductivity of the salts of sea water, S/m, at 15 °C. Source: ITU-R P.527. */
const SEA_CONDUCTIVITY_S_M = 4.3;
/** Water at 15 °C: static and high-frequency permittivity, relaxation frequency. Source: ITU-R P.527, Debye form. */
const WATER = { low: 82, high: 5.5, relaxationGhz: 14.6 };

/** A complex number. */
interface Complex {
	re: number;
	im: number;
}

/** Complex permittivity ε′ − jε″, with 18·σ/f of the conductivity. */
function permittivity(ground: GroundKind, frequencyGhz: number): Complex {
	if (ground === 'land') {
		return { re: LAND.permittivity, im: (-18 * LAND.conductivitySM) / frequencyGhz };
	}
	const x = frequencyGhz / WATER.relaxationGhz;
	const step = (WATER.low - WATER.high) / (1 + x * x);
	const salt = ground === 'sea' ? SEA_CONDUCTIVITY_S_M : 0;
	return { re: WATER.high + step, im: -(step * x) - (18 * salt) / frequencyGhz };
}

/**
 * Reflection coefficient of smooth ground at a grazing angle, as magnitude and phase.
 *
 * @param frequencyGhz 0.1 to 120
 * @param grazingRad 0 to π/2
 * @returns magnitude 0 to 1, phase in rad
 * @throws OutOfRangeError outside these ranges
 * Source: Fresnel's equations, as in ITU-R P.530-17, §6.1, with η = ε′ − j·18·σ/f and the water of P.527.
 */
export function reflectionCoefficient(
	ground: GroundKind,
	frequencyGhz: number,
	grazingRad: number,
	polarization: LinearPolarization
): { magnitude: number; phaseRad: number } {
	requireInRange('frequencyGhz', frequencyGhz, 0.1, 120);
	requireInRange('grazingRad', grazingRad, 0, Math.PI / 2);
	const eta = permittivity(ground, frequencyGhz);
	const sine = Math.sin(grazingRad);
	const root = squareRoot({ re: eta.re - Math.cos(grazingRad) ** 2, im: eta.im });
	const own =
		polarization === 'vertical' ? { re: eta.re * sine, im: eta.im * sine } : { re: sine, im: 0 };
	const top = { re: own.re - root.re, im: own.im - root.im };
	const bottom = { re: own.re + root.re, im: own.im + root.im };
	return {
		magnitude: Math.hypot(top.re, top.im) / Math.hypot(bottom.re, bottom.im),
		phaseRad: Math.atan2(top.im, top.re) - Math.atan2(bottom.im, bottom.re)
	};
}

/** The root with a real part of 0 or more. */
function squareRoot({ re, im }: Complex): Complex {
	const size = Math.hypot(re, im);
	const real = Math.sqrt((size + re) / 2);
	const imaginary = Math.sqrt((size - re) / 2);
	return { re: real, im: im < 0 ? -imaginary : imaginary };
}

/**
 * What roughness leaves of a reflection, 0 to 1: with g = 4π·σ·sin φ/λ,
 * √((1 + g²/2)/(1 + 2.35·g²/2 + 2π·(g²/2)²)).
 *
 * @param roughnessM σ, standard deviation of the surface, m, 0 or more
 * @param wavelengthM above 0
 * @param grazingRad 0 to π/2
 * Source: ITU-R P.530-17, §6.1, roughness factor of a surface by the Rayleigh criterion.
 */
export function roughnessFactor(
	roughnessM: number,
	wavelengthM: number,
	grazingRad: number
): number {
	const g = (4 * Math.PI * roughnessM * Math.sin(grazingRad)) / wavelengthM;
	const half = (g * g) / 2;
	return Math.sqrt((1 + half) / (1 + 2.35 * half + 2 * Math.PI * half * half));
}

/**
 * What the curved earth leaves of a reflection, 0 to 1: 1/√(1 + 2·d1·d2/(k·a·d·sin φ)).
 *
 * @param d1M, d2M from the place of reflection to the ends, m, above 0
 * @param grazingRad above 0
 * @param effectiveRadiusM k·a, m, above 0
 * Source: divergence of a thin bundle on a sphere; ITU-R P.530-17, §6.1 (factor D_v).
 */
export function divergenceFactor(
	d1M: number,
	d2M: number,
	grazingRad: number,
	effectiveRadiusM: number
): number {
	return (
		1 / Math.sqrt(1 + (2 * d1M * d2M) / (effectiveRadiusM * (d1M + d2M) * Math.sin(grazingRad)))
	);
}
