import { requireInRange } from '../units/errors';

/** Smallest discrimination at which the difference between clear air and antenna is stated, dB. */
const ANTENNA_LIMIT_DB = 35;
/** Mean of the coefficient U0 of the cross-polarization relation, dB (P.530-18, §4.2). */
const U0_DB = 15;

/**
 * Outage by loss of discrimination in clear air, percent of the worst month.
 *
 * XPD0 = XPDg + 5 (at most 40); η = 1 − e^(−0.2·P0^0.75); Q = −10·log10(k_XP·η/P0);
 * P_XP = P0·10^(−M/10) with M = XPD0 + Q − C0/I + canceller.
 *
 * @param antennaXpdDb least boresight discrimination of both antennas, 10 to 60
 * @param occurrencePercent p0, 0 or more
 * @param requiredCarrierToInterferenceDb C0/I of the modulation, 0 to 60
 * @param cancellerDb improvement of an interference canceller, 0 without one
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R P.530-18, §4.1, steps 1 to 6 with one transmitting antenna (k_XP = 0.7).
 */
export function clearAirCrossPolarPercent(input: {
	antennaXpdDb: number;
	occurrencePercent: number;
	requiredCarrierToInterferenceDb: number;
	cancellerDb: number;
}): number {
	requireInRange('antennaXpdDb', input.antennaXpdDb, 10, 60);
	requireInRange('cancellerDb', input.cancellerDb, 0, 40);
	const p0 = input.occurrencePercent / 100;
	if (!(p0 > 0)) return 0;
	const xpd0 = input.antennaXpdDb <= ANTENNA_LIMIT_DB ? input.antennaXpdDb + 5 : 40;
	const eta = 1 - Math.exp(-0.2 * p0 ** 0.75);
	const q = -10 * Math.log10((0.7 * eta) / p0);
	const marginDb = xpd0 + q - input.requiredCarrierToInterferenceDb + input.cancellerDb;
	return Math.min(100, 100 * p0 * 10 ** (-marginDb / 10));
}

/** V(f) of XPD = U − V·log10(CPA), or undefined outside 8 to 35 GHz. Source: P.530-18, §4.2.1. */
function rainXpdSlope(frequencyGhz: number): number | undefined {
	if (frequencyGhz >= 8 && frequencyGhz <= 20) return 12.8 * frequencyGhz ** 0.19;
	if (frequencyGhz > 20 && frequencyGhz <= 35) return 22.6;
	return undefined;
}

/**
 * Discrimination that rain leaves at a co-polar attenuation, dB: U − V(f)·log10(CPA),
 * U = 15 + 30·log10 f.
 *
 * @param attenuationDb CPA, above 0
 * @param frequencyGhz any; stated from 8 to 35
 * @returns undefined outside 8 to 35 GHz, where the relation is not stated
 * Source: ITU-R P.530-18, §4.2.1, equation (27).
 */
export function rainXpdDb(frequencyGhz: number, attenuationDb: number): number | undefined {
	const v = rainXpdSlope(frequencyGhz);
	if (v === undefined || !(attenuationDb > 0)) return undefined;
	return U0_DB + 30 * Math.log10(frequencyGhz) - v * Math.log10(attenuationDb);
}

/**
 * Outage by loss of XPD in rain, percent of the average year.
 *
 * @param a001Db rain attenuation exceeded for 0.01 % of the year, dB
 * @returns undefined outside 8 to 35 GHz
 * Source: ITU-R P.530-18, §4.2.2, steps 1 to 4 (n between −3 and 0).
 */
export function rainCrossPolarPercent(input: {
	frequencyGhz: number;
	a001Db: number;
	requiredCarrierToInterferenceDb: number;
	cancellerDb: number;
}): number | undefined {
	const v = rainXpdSlope(input.frequencyGhz);
	if (v === undefined) return undefined;
	if (!(input.a001Db > 0)) return 0;
	const u = U0_DB + 30 * Math.log10(input.frequencyGhz);
	const equivalentDb = 10 ** ((u - input.requiredCarrierToInterferenceDb + input.cancellerDb) / v);
	const ratio = equivalentDb / (0.12 * input.a001Db);
	const m = Math.min(40, 23.26 * Math.log10(ratio));
	const n = Math.min(0, Math.max(-3, (-12.7 + Math.sqrt(161.23 - 4 * m)) / 2));
	return 10 ** n;
}
