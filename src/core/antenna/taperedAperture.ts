import { besselJ1, besselJ2 } from './bessel';

/**
 * Field amplitude of a circular aperture lit by a parabola on a pedestal,
 * f(r) = C + (1 − C)(1 − r²), relative to its value on axis.
 *
 * @param u (πD/λ)·sin θ, any real number; even in u
 * @param pedestal C, edge over centre amplitude, 0 (full taper) to 1 (uniform)
 * @returns signed amplitude, 1 at u = 0, crossing zero at every null
 * Source: C. A. Balanis, Antenna Theory, 3rd ed., section 12.9 (circular aperture distributions);
 * transform of (1 − r²)^n: 2^(n+1)·n!·J_(n+1)(u)/u^(n+1).
 */
export function taperedApertureField(u: number, pedestal: number): number {
	const au = Math.abs(u);
	if (au < 1e-4) return 1;
	const uniform = (2 * besselJ1(au)) / au;
	const parabolic = (8 * besselJ2(au)) / (au * au);
	const parabolicWeight = (1 - pedestal) / 2;
	return (pedestal * uniform + parabolicWeight * parabolic) / (pedestal + parabolicWeight);
}

/**
 * Half of the full half-power width in u, found once per pedestal by bisection.
 *
 * @param pedestal field at the rim against the centre, 0 to 1
 */
export function halfPowerU(pedestal: number): number {
	const target = Math.SQRT1_2;
	let low = 1;
	let high = 2.5;
	for (let i = 0; i < 60; i++) {
		const middle = (low + high) / 2;
		if (taperedApertureField(middle, pedestal) > target) low = middle;
		else high = middle;
	}
	return (low + high) / 2;
}

/** Pedestal of a feed that lights the rim 11 dB below the centre: usual for a parabolic dish. */
export const USUAL_PEDESTAL = 0.28;

export interface PatternLandmarks {
	/** First null, in beamwidths off axis. */
	firstNullBeamwidths: number;
	/** Top of the first side lobe, in beamwidths off axis. */
	firstSideLobeBeamwidths: number;
	/** Depth of the first side lobe below the main lobe, dB, positive. */
	firstSideLobeDb: number;
}

/**
 * Where the first null and the first side lobe of the ideal pattern lie. Deterministic search.
 *
 * @param pedestal field at the rim against the centre, 0 to 1
 */
export function patternLandmarks(pedestal: number): PatternLandmarks {
	const perBeamwidth = 2 * halfPowerU(pedestal);
	const step = 1e-3;
	let firstNull = Number.NaN;
	let top = 0;
	let topAt = Number.NaN;
	for (let u = 1; u < 14; u += step) {
		const field = taperedApertureField(u, pedestal);
		if (Number.isNaN(firstNull)) {
			if (field <= 0) firstNull = u;
			continue;
		}
		if (-field > top) {
			top = -field;
			topAt = u;
		} else if (field > 0) break;
	}
	return {
		firstNullBeamwidths: firstNull / perBeamwidth,
		firstSideLobeBeamwidths: topAt / perBeamwidth,
		firstSideLobeDb: -20 * Math.log10(top)
	};
}

/**
 * Co-polar gain of the ideal pattern relative to its peak, dB (0 or below), never under `floorDb`.
 *
 * @param offAxisBeamwidths angle off axis in units of the half-power beamwidth; small angles
 * @param floorDb the level to which scatter fills the nulls of a real dish, default −45
 * @param pedestal field at the rim against the centre, 0 to 1
 */
export function relativeGainDb(
	offAxisBeamwidths: number,
	pedestal: number = USUAL_PEDESTAL,
	floorDb = -45
): number {
	const u = offAxisBeamwidths * 2 * halfPowerUCached(pedestal);
	const field = taperedApertureField(u, pedestal);
	const power = field * field + 10 ** (floorDb / 10);
	return 10 * Math.log10(power / (1 + 10 ** (floorDb / 10)));
}

const halfPowerCache = new Map<number, number>();

function halfPowerUCached(pedestal: number): number {
	let value = halfPowerCache.get(pedestal);
	if (value === undefined) {
		value = halfPowerU(pedestal);
		halfPowerCache.set(pedestal, value);
	}
	return value;
}
