import { ratioFromDb } from '../units/decibel';
import { requireInRange } from '../units/errors';

export interface ExposureDistance {
	/** Distance in front of the dish beyond which the density stays below the reference, m. */
	distanceM: number;
	/** The near field caps the density at 4P/A; below the reference it is never reached. */
	neverReached: boolean;
}

/** Something that radiates in front of an end. */
export interface Radiator {
	/** −20 to 110. */
	eirpDbm: number;
	/** At the antenna, −60 to 60. */
	powerDbm: number;
	/** Of the dish, 0.05 to 15 m. */
	diameterM: number;
}

/**
 * Distance in front of dishes that look the same way at which their power densities together fall to a
 * reference level: each S = EIRP/(4πr²), and in its near field at most 4P/A, A the aperture's area.
 *
 * @param radiators what sends at the same time; their axes are taken as one
 * @param referenceWM2 level of the locality, above 0 to 1000
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R BS.1698 and ITU-T K.52 far-field relation, sum of the densities of all carriers;
 * near-field cap of aperture antennas.
 */
export function exposureDistance(
	radiators: readonly Radiator[],
	referenceWM2: number
): ExposureDistance {
	requireInRange('referenceWM2', referenceWM2, 0.001, 1000);
	const sources = radiators.map(({ eirpDbm, powerDbm, diameterM }) => {
		requireInRange('eirpDbm', eirpDbm, -20, 110);
		requireInRange('powerDbm', powerDbm, -60, 60);
		requireInRange('diameterM', diameterM, 0.05, 15);
		return {
			eirpW: ratioFromDb(eirpDbm) / 1000,
			nearWM2: nearFieldDensityWM2(powerDbm, diameterM)
		};
	});
	const densityWM2 = (distanceM: number): number =>
		sources.reduce(
			(sum, { eirpW, nearWM2 }) => sum + Math.min(nearWM2, eirpW / (4 * Math.PI * distanceM ** 2)),
			0
		);
	const nearest = sources.reduce((sum, { nearWM2 }) => sum + nearWM2, 0);
	if (nearest <= referenceWM2) return { distanceM: 0, neverReached: true };
	const eirpW = sources.reduce((sum, source) => sum + source.eirpW, 0);
	// Without any cap it would fall to the reference here; with caps no further out.
	let far = Math.sqrt(eirpW / (4 * Math.PI * referenceWM2));
	let near = 0;
	for (let i = 0; i < 60; i++) {
		const middle = (near + far) / 2;
		if (densityWM2(middle) > referenceWM2) near = middle;
		else far = middle;
	}
	return { distanceM: far, neverReached: false };
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
