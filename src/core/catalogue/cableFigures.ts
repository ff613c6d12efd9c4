import type { CablePart, CoaxialData, IntermediateData } from './parts';
import { requireInRange } from '../units/errors';

/** Resistance of a cable there and back at 20 °C, Ω/km: two conductors, or inner conductor and screen. */
export function loopOhmPerKm({
	ohmPerKm,
	coaxial
}: Pick<CablePart, 'ohmPerKm' | 'coaxial'>): number {
	return ohmPerKm + (coaxial?.screenOhmPerKm ?? ohmPerKm);
}

/**
 * Attenuation of a coaxial cable, dB.
 *
 * @param lengthM 0 to 1000
 * @param mhz 1 to 3000
 * @throws OutOfRangeError outside these ranges
 * Source: conductor loss by the skin effect, which grows with the root of the frequency.
 */
export function coaxialLossDb(cable: CoaxialData, lengthM: number, mhz: number): number {
	requireInRange('lengthM', lengthM, 0, 1000);
	requireInRange('mhz', mhz, 1, 3000);
	return (cable.lossDbPer100M * Math.sqrt(mhz / cable.atMhz) * lengthM) / 100;
}

/** The higher intermediate frequency, at which a cable takes most, MHz. */
export function worstIntermediateMhz({ transmitMhz, receiveMhz }: IntermediateData): number {
	return Math.max(transmitMhz, receiveMhz);
}
