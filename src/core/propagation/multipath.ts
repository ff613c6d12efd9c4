import { degToRad } from '../units/angle';
import { requireInRange } from '../units/errors';

export interface MultipathPath {
	/** 0.25 to 100; the method is stated from about 1 (short paths hardly fade). */
	frequencyGhz: number;
	/** Above 0 to 400. */
	pathKm: number;
	/** Antenna centres above mean sea level, m. */
	heightAAmslM: number;
	heightBAmslM: number;
	/** Refractivity gradient of the lowest 65 m not exceeded for 1 % of the year, N/km, −1500 to 0. */
	gradientDn1: number;
}

/** Path inclination |ε_p|, mrad. Source: ITU-R P.530-17, §2.3.1. */
export function pathInclinationMrad(path: MultipathPath): number {
	return Math.abs(path.heightBAmslM - path.heightAAmslM) / path.pathKm;
}

function requirePath(path: MultipathPath): void {
	requireInRange('frequencyGhz', path.frequencyGhz, 0.25, 100);
	requireInRange('pathKm', path.pathKm, 0.001, 400);
	requireInRange('heightAAmslM', path.heightAAmslM, -500, 10_000);
	requireInRange('heightBAmslM', path.heightBAmslM, -500, 10_000);
	requireInRange('gradientDn1', path.gradientDn1, -1500, 0);
}

/**
 * Multipath occurrence factor p0, percent of the worst month at 0 dB, quick form:
 * K = 10^(−4.6 − 0.0027·dN1), p0 = K·d^3.1·(1+|ε_p|)^−1.29·f^0.8·10^(−0.00089·h_L).
 *
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R P.530-17, §2.3.1, the quick form; the last edition that states it by dN1.
 */
export function quickOccurrencePercent(path: MultipathPath): number {
	requirePath(path);
	const k = 10 ** (-4.6 - 0.0027 * path.gradientDn1);
	const lower = Math.min(path.heightAAmslM, path.heightBAmslM);
	return (
		k *
		path.pathKm ** 3.1 *
		(1 + pathInclinationMrad(path)) ** -1.29 *
		path.frequencyGhz ** 0.8 *
		10 ** (-0.00089 * lower)
	);
}

/**
 * The same with terrain roughness, detailed form:
 * K = 10^(−4.4 − 0.0027·dN1)·(10 + s_a)^−0.46, p0 = K·d^3.4·(1+|ε_p|)^−1.03·f^0.8·10^(−0.00076·h_L).
 *
 * @param roughnessM s_a, standard deviation of terrain heights, m, 0 to 2000
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R P.530-17, §2.3.1, the detailed form; the last edition that states it by dN1.
 */
export function detailedOccurrencePercent(path: MultipathPath, roughnessM: number): number {
	requirePath(path);
	requireInRange('roughnessM', roughnessM, 0, 2000);
	const k = 10 ** (-4.4 - 0.0027 * path.gradientDn1) * (10 + roughnessM) ** -0.46;
	const lower = Math.min(path.heightAAmslM, path.heightBAmslM);
	return (
		k *
		path.pathKm ** 3.4 *
		(1 + pathInclinationMrad(path)) ** -1.03 *
		path.frequencyGhz ** 0.8 *
		10 ** (-0.00076 * lower)
	);
}

/**
 * Percentage of the worst month in which a fade depth is exceeded, joined to shallow fading.
 *
 * @param occurrencePercent p0 of one of the forms above, above 0
 * @param fadeDb fade depth, 0 or more
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R P.530-17, §2.3.2, all fade depths.
 */
export function fadeExceededPercent(occurrencePercent: number, fadeDb: number): number {
	requireInRange('fadeDb', fadeDb, 0, 200);
	if (!(occurrencePercent > 0)) return 0;
	const transitionDb = 25 + 1.2 * Math.log10(occurrencePercent);
	if (fadeDb >= transitionDb) return Math.min(100, occurrencePercent * 10 ** (-fadeDb / 10));
	const pt = occurrencePercent * 10 ** (-transitionDb / 10);
	const qaPrime = (-20 * Math.log10(-Math.log((100 - pt) / 100))) / transitionDb;
	const shape = (a: number): number => 10 ** (-a / 20) + a / 800;
	const qt =
		(qaPrime - 2) / ((1 + 0.3 * 10 ** (-transitionDb / 20)) * 10 ** (-0.016 * transitionDb)) -
		4.3 * shape(transitionDb);
	const qa =
		2 + (1 + 0.3 * 10 ** (-fadeDb / 20)) * 10 ** (-0.016 * fadeDb) * (qt + 4.3 * shape(fadeDb));
	return 100 * (1 - Math.exp(-(10 ** ((-qa * fadeDb) / 20))));
}

/**
 * Factor from the worst month to the average year, 0 to 1.
 *
 * @param latitudeDeg of the path's middle, −90 to 90
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R P.530-17, §2.3.4: ΔG = 10.5 − 5.6·log10(1.1 ± |cos 2ξ|^0.7)
 * − 2.7·log10 d + 1.7·log10(1+|ε_p|), at most 10.8 dB; + for |ξ| ≤ 45°, − above.
 */
export function annualShare(path: MultipathPath, latitudeDeg: number): number {
	requireInRange('latitudeDeg', latitudeDeg, -90, 90);
	const c = Math.abs(Math.cos(2 * degToRad(latitudeDeg))) ** 0.7;
	const sign = Math.abs(latitudeDeg) <= 45 ? 1 : -1;
	const deltaDb =
		10.5 -
		5.6 * Math.log10(1.1 + sign * c) -
		2.7 * Math.log10(path.pathKm) +
		1.7 * Math.log10(1 + pathInclinationMrad(path));
	return 10 ** (-Math.max(0, Math.min(10.8, deltaDb)) / 10);
}
