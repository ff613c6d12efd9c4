import { EARTH_RADIUS_M } from '../units/constants';
import { requireInRange } from '../units/errors';
import { itemAt, lastOf } from '../units/lists';
import { wavelengthM } from '../units/wavelength';

/**
 * Loss of a single knife edge, dB: 6.9 + 20·log10(√((ν−0.1)²+1) + ν − 0.1), 0 for ν ≤ −0.78.
 *
 * @param nu Fresnel–Kirchhoff parameter, any finite
 * Source: ITU-R P.526-15, §4.1, equation (31).
 */
export function knifeEdgeLossDb(nu: number): number {
	if (nu <= -0.78) return 0;
	return 6.9 + 20 * Math.log10(Math.sqrt((nu - 0.1) ** 2 + 1) + nu - 0.1);
}

/**
 * ν of an edge: −√2 · h/F1 with the clearance h positive below the ray. Source: P.526-15, §4.1.
 *
 * @param clearanceRatio h/F1, any finite
 */
export function knifeEdgeParameter(clearanceRatio: number): number {
	return -Math.SQRT2 * clearanceRatio;
}

/**
 * Quick value of the diffraction loss over average terrain, dB: 10 − 20·h/F1, never below 0.
 * Holds for losses above about 15 dB; nearer grazing it is an estimate.
 *
 * @param clearanceRatio h/F1, any finite
 * Source: ITU-R P.530-18, §2.2.1, equation (2).
 */
export function quickDiffractionLossDb(clearanceRatio: number): number {
	return Math.max(0, 10 - 20 * clearanceRatio);
}

/** What stands between two antennas, with the antennas themselves. */
export interface DiffractionPath {
	/** From end A, rising, at least two; the last is the length of the path, m. */
	distancesM: readonly number[];
	/** Ground and what stands on it at each distance, without the earth's bulge, m a.m.s.l. */
	surfacesAmslM: readonly number[];
	/** Antenna centres, m a.m.s.l. */
	antennaAmslM: { A: number; B: number };
	/** Effective-earth factor, 0.3 to 10. */
	kFactor: number;
	/** 0.1 to 1000. */
	frequencyGhz: number;
}

/** A diffraction loss and what it is made of, dB. */
export interface DiffractionLoss {
	/** Bullington on the profile, and what the spherical earth adds to it. */
	lossDb: number;
	/** Bullington construction on the profile as it is. */
	profileDb: number;
	/** The same on a smooth surface through it. */
	smoothDb: number;
	/** Loss of the spherical earth under the same antennas. */
	sphericalDb: number;
}

/**
 * Diffraction loss of a path by the complete delta-Bullington method, dB: Bullington on the profile, and
 * the spherical-earth loss as far as it is more than Bullington on the smooth profile.
 *
 * @throws OutOfRangeError for k or frequency outside their ranges
 * Source: ITU-R P.526-15, §4.5.3 with §4.5.1, §4.5.2 and §3.2; land (relative permittivity 22, 0.003 S/m),
 * horizontal polarization. At 1 GHz and above and antennas over a metre high, ground and polarization
 * change the result by less than 0.2 dB.
 */
export function deltaBullingtonLoss(path: DiffractionPath): DiffractionLoss {
	requireInRange('kFactor', path.kFactor, 0.3, 10);
	requireInRange('frequencyGhz', path.frequencyGhz, 0.1, 1000);
	const { distancesM, surfacesAmslM, antennaAmslM } = path;
	const lengthM = lastOf(distancesM);
	if (!(lengthM > 0)) return { lossDb: 0, profileDb: 0, smoothDb: 0, sphericalDb: 0 };
	const profileDb = bullingtonLossDb(path);
	const foot = smoothSurfaceAmslM(path);
	const overSmooth = {
		A: Math.max(LEAST_HEIGHT_M, antennaAmslM.A - foot.A),
		B: Math.max(LEAST_HEIGHT_M, antennaAmslM.B - foot.B)
	};
	const smoothDb = bullingtonLossDb({
		...path,
		surfacesAmslM: surfacesAmslM.map(() => 0),
		antennaAmslM: overSmooth
	});
	const sphericalDb = sphericalEarthLossDb({
		lengthM,
		heightsM: overSmooth,
		effectiveRadiusM: path.kFactor * EARTH_RADIUS_M,
		frequencyGhz: path.frequencyGhz
	});
	return {
		lossDb: profileDb + Math.max(0, sphericalDb - smoothDb),
		profileDb,
		smoothDb,
		sphericalDb
	};
}

/** Lower over the smooth surface than this no antenna is taken to stand, m. */
const LEAST_HEIGHT_M = 0.01;

/**
 * Bullington construction, dB, with the correction of the method.
 *
 * Source: ITU-R P.526-15, §4.5.1, equations (50) to (58).
 */
function bullingtonLossDb({
	distancesM,
	surfacesAmslM,
	antennaAmslM: { A: fromM, B: toM },
	kFactor,
	frequencyGhz
}: DiffractionPath): number {
	const lengthM = lastOf(distancesM);
	const lambda = wavelengthM(frequencyGhz);
	const bulge = 1 / (2 * kFactor * EARTH_RADIUS_M);
	const slopeOfRay = (toM - fromM) / lengthM;
	let slopeFromA = Number.NEGATIVE_INFINITY;
	let slopeFromB = Number.NEGATIVE_INFINITY;
	let nuMost = Number.NEGATIVE_INFINITY;
	for (let i = 1; i < distancesM.length - 1; i++) {
		const d = itemAt(distancesM, i);
		const rest = lengthM - d;
		if (d <= 0 || rest <= 0) continue;
		const top = itemAt(surfacesAmslM, i) + bulge * d * rest;
		slopeFromA = Math.max(slopeFromA, (top - fromM) / d);
		slopeFromB = Math.max(slopeFromB, (top - toM) / rest);
		const above = top - (fromM * rest + toM * d) / lengthM;
		nuMost = Math.max(nuMost, above * Math.sqrt((2 * lengthM) / (lambda * d * rest)));
	}
	let nu = nuMost;
	// Where the highest top just touches the ray both constructions agree, and this one cannot fail.
	if (slopeFromA > slopeOfRay && slopeFromA + slopeFromB > 0) {
		const crossing = (toM - fromM + slopeFromB * lengthM) / (slopeFromA + slopeFromB);
		const at = Math.min(
			itemAt(distancesM, distancesM.length - 2),
			Math.max(itemAt(distancesM, 1), crossing)
		);
		const above =
			fromM + slopeFromA * crossing - (fromM * (lengthM - crossing) + toM * crossing) / lengthM;
		nu = above * Math.sqrt((2 * lengthM) / (lambda * at * (lengthM - at)));
	}
	const edgeDb = knifeEdgeLossDb(nu);
	return edgeDb + (1 - Math.exp(-edgeDb / 6)) * (10 + (0.02 * lengthM) / 1000);
}

/**
 * Height of a smooth surface through the profile under each end, m a.m.s.l.: no higher than the ground
 * there, and lowered where something stands above the line between the antennas.
 *
 * Source: ITU-R P.526-15, §4.5.2 (P.1812 Attachment 1, §5.6.2 has the same), with the lengths in metres.
 */
function smoothSurfaceAmslM({ distancesM, surfacesAmslM, antennaAmslM }: DiffractionPath): {
	A: number;
	B: number;
} {
	const lengthM = lastOf(distancesM);
	let v1 = 0;
	let v2 = 0;
	let highest = Number.NEGATIVE_INFINITY;
	let fromA = Number.NEGATIVE_INFINITY;
	let fromB = Number.NEGATIVE_INFINITY;
	for (let i = 1; i < distancesM.length; i++) {
		const [d, before] = [itemAt(distancesM, i), itemAt(distancesM, i - 1)];
		const [h, former] = [itemAt(surfacesAmslM, i), itemAt(surfacesAmslM, i - 1)];
		v1 += (d - before) * (h + former);
		v2 += (d - before) * (h * (2 * d + before) + former * (d + 2 * before));
		const rest = lengthM - d;
		if (d <= 0 || rest <= 0) continue;
		const above = h - (antennaAmslM.A * rest + antennaAmslM.B * d) / lengthM;
		highest = Math.max(highest, above);
		fromA = Math.max(fromA, above / d);
		fromB = Math.max(fromB, above / rest);
	}
	let A = (2 * v1 * lengthM - v2) / lengthM ** 2;
	let B = (v2 - v1 * lengthM) / lengthM ** 2;
	if (highest > 0 && fromA + fromB > 0) {
		A -= (highest * fromA) / (fromA + fromB);
		B -= (highest * fromB) / (fromA + fromB);
	}
	return {
		A: Math.min(A, itemAt(surfacesAmslM, 0)),
		B: Math.min(B, lastOf(surfacesAmslM))
	};
}

/**
 * Diffraction loss over a smooth spherical earth, dB.
 *
 * @param lengthM above 0
 * @param heightsM antennas over the surface, m, above 0
 * @param effectiveRadiusM k times the earth's radius
 * Source: ITU-R P.526-15, §3.2 (any distance), equations (19) to (26).
 */
export function sphericalEarthLossDb(input: {
	lengthM: number;
	heightsM: { A: number; B: number };
	effectiveRadiusM: number;
	frequencyGhz: number;
}): number {
	const { lengthM, heightsM, effectiveRadiusM, frequencyGhz } = input;
	const [h1, h2] = [heightsM.A, heightsM.B];
	const horizonM = Math.sqrt(2 * effectiveRadiusM) * (Math.sqrt(h1) + Math.sqrt(h2));
	if (lengthM >= horizonM) return beyondHorizonLossDb(input);
	const c = (h1 - h2) / (h1 + h2);
	const m = lengthM ** 2 / (4 * effectiveRadiusM * (h1 + h2));
	const cosine = ((3 * c) / 2) * Math.sqrt((3 * m) / (m + 1) ** 3);
	const b =
		2 *
		Math.sqrt((m + 1) / (3 * m)) *
		Math.cos(Math.PI / 3 + Math.acos(Math.min(1, Math.max(-1, cosine))) / 3);
	const d1 = (lengthM / 2) * (1 + b);
	const d2 = lengthM - d1;
	const least =
		((h1 - d1 ** 2 / (2 * effectiveRadiusM)) * d2 + (h2 - d2 ** 2 / (2 * effectiveRadiusM)) * d1) /
		lengthM;
	const wanted = 0.552 * Math.sqrt((d1 * d2 * wavelengthM(frequencyGhz)) / lengthM);
	if (!(least < wanted)) return 0;
	const grazing = beyondHorizonLossDb({
		...input,
		effectiveRadiusM: 0.5 * (lengthM / (Math.sqrt(h1) + Math.sqrt(h2))) ** 2
	});
	return Math.max(0, grazing) * (1 - least / wanted);
}

/** Ground that the method is worked with: land. */
const RELATIVE_PERMITTIVITY = 22;
const CONDUCTIVITY_S_M = 0.003;

/** First term of the residue series, dB. Source: ITU-R P.526-15, §3.1.1, equations (13) to (18). */
function beyondHorizonLossDb(input: {
	lengthM: number;
	heightsM: { A: number; B: number };
	effectiveRadiusM: number;
	frequencyGhz: number;
}): number {
	const radiusKm = input.effectiveRadiusM / 1000;
	const mhz = input.frequencyGhz * 1000;
	const ground = Math.hypot(RELATIVE_PERMITTIVITY - 1, (18_000 * CONDUCTIVITY_S_M) / mhz);
	const admittance = (0.36 * (radiusKm * mhz) ** (-1 / 3)) / Math.sqrt(ground);
	const k2 = admittance ** 2;
	const beta = (1 + 1.6 * k2 + 0.67 * k2 ** 2) / (1 + 4.5 * k2 + 1.53 * k2 ** 2);
	const x = (2.188 * beta * mhz ** (1 / 3) * radiusKm ** (-2 / 3) * input.lengthM) / 1000;
	const distanceDb =
		x >= 1.6 ? 11 + 10 * Math.log10(x) - 17.6 * x : -20 * Math.log10(x) - 5.6488 * x ** 1.425;
	const heightGainDb = (heightM: number): number => {
		const y = beta * 9.575e-3 * beta * mhz ** (2 / 3) * radiusKm ** (-1 / 3) * heightM;
		const gain =
			y > 2
				? 17.6 * Math.sqrt(y - 1.1) - 5 * Math.log10(y - 1.1) - 8
				: 20 * Math.log10(y + 0.1 * y ** 3);
		return Math.max(gain, 2 + 20 * Math.log10(admittance));
	};
	return -(distanceDb + heightGainDb(input.heightsM.A) + heightGainDb(input.heightsM.B));
}
