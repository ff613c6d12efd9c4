import type { DishBand, DishPart } from './parts';

/** What a dish does at one frequency. */
export interface DishAtFrequency {
	gainDbi: number;
	beamwidthDeg: number;
	crossPolarDiscriminationDb: number;
	firstSideLobeDb: number;
}

/**
 * The band of a dish that holds a frequency, or undefined when its feed is for other bands.
 *
 * @param frequencyGhz any
 */
export function findDishBand(dish: DishPart, frequencyGhz: number): DishBand | undefined {
	return dish.bands.find((band) => frequencyGhz >= band.fromGhz && frequencyGhz <= band.toGhz);
}

/**
 * Gain and beamwidth of a dish at a frequency, scaled from the catalogue's frequency: gain by
 * 20·log10(f/f₀) and beamwidth by f₀/f, both for a constant illumination.
 *
 * @param frequencyGhz any
 * @returns undefined when no band of the dish holds the frequency
 */
export function findDishAt(dish: DishPart, frequencyGhz: number): DishAtFrequency | undefined {
	const band = findDishBand(dish, frequencyGhz);
	if (!band) return undefined;
	return {
		gainDbi: band.gainDbi + 20 * Math.log10(frequencyGhz / band.atGhz),
		beamwidthDeg: (band.beamwidthDeg * band.atGhz) / frequencyGhz,
		crossPolarDiscriminationDb: band.crossPolarDiscriminationDb,
		firstSideLobeDb: band.firstSideLobeDb
	};
}
