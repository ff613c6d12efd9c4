import type { DishPart } from './parts';
import type { LinearPolarization } from '../propagation/rain';
import { patternFigures, type MeasuredPattern } from '../antenna/measuredPattern';

/**
 * A dish with its measured pattern in place of the catalogue's values, within the band of the
 * pattern. A pattern without a main lobe in its co-polar cut leaves the dish as it is.
 */
export function withPattern(
	dish: DishPart,
	pattern: MeasuredPattern | null,
	polarization: LinearPolarization
): DishPart {
	if (!pattern) return dish;
	const figures = patternFigures(pattern, polarization);
	const middle = (pattern.fromGhz + pattern.toGhz) / 2;
	const model =
		dish.bands.find((band) => middle >= band.fromGhz && middle <= band.toGhz) ?? dish.bands[0];
	if (!figures || !model) return dish;
	return {
		...dish,
		code: `${dish.code}, measured ${pattern.patternNumber || pattern.antennaModel}`.trim(),
		bands: [
			{
				...model,
				fromGhz: pattern.fromGhz,
				toGhz: pattern.toGhz,
				atGhz: middle,
				gainDbi: figures.gainDbi,
				beamwidthDeg: figures.beamwidthDeg,
				firstSideLobeDb: figures.firstSideLobeDb ?? model.firstSideLobeDb,
				crossPolarDiscriminationDb:
					figures.crossPolarDiscriminationDb ?? model.crossPolarDiscriminationDb
			}
		]
	};
}
