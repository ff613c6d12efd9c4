import { ratioFromDb } from '../units/decibel';
import { requireInRange } from '../units/errors';

export interface ExposureDistance {
	/** Distance in front of the dish beyond which the density stays below the reference, m. */
	distanceM: number;
	/** The near field caps the density at 4P/A; below the reference it is never reached. */
	neverReached: boolean;
}

/**
 * Distance on the axis at which the power density falls to a reference level.
 *
 * Far field S = EIRP/(4πr²); near field at most 4P/A, A the aperture's area.
 *
 * @param eirpDbm −20 to 110
 * @param powerDbm at the antenna, −60 to 60
 * @param diameterM of the dish, 0.05 to 15
 * @param referenceWM2 level of the locality, above 0 to 1000
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R BS.1698 and ITU-T K.52 far-field relation; near-field cap of aperture antennas.
 */
export function exposureDistance(input: {
	eirpDbm: number;
	powerDbm: number;
	diameterM: number;
	referenceWM2: number;
}): ExposureDistance {
	requireInRange('eirpDbm', input.eirpDbm, -20, 110);
	requireInRange('powerDbm', input.powerDbm, -60, 60);
	requireInRange('diameterM', input.diameterM, 0.05, 15);
	requireInRange('referenceWM2', input.referenceWM2, 0.001, 1000);
	const nearWM2 = nearFieldDensityWM2(input.powerDbm, input.diameterM);
	if (nearWM2 <= input.referenceWM2) return { distanceM: 0, neverReached: true };
	const eirpW = ratioFromDb(input.eirpDbm) / 1000;
	return {
		distanceM: Math.sqrt(eirpW / (4 * Math.PI * input.referenceWM2)),
		neverReached: false
	};
}

/**
 * Highest density in the near field of an aperture, W/m²: 4P/A.
 *
 * @param powerDbm at the antenna, any finite
 * @param diameterM above 0
 * Source: cap of the near field of aperture antennas.
 */
export function nearFieldDensityWM2(powerDbm: number, diameterM: number): number {
	return (4 * (ratioFromDb(powerDbm) / 1000)) / (Math.PI * (diameterM / 2) ** 2);
}
