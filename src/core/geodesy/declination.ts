import geomagnetism from 'geomagnetism';
import { wrapBearingDeg } from '../units/angle';
import { requireInRange } from '../units/errors';
import { requireGeoPoint, type GeoPoint } from './geodesic';

export interface Declination {
	/** East positive, degrees. */
	declinationDeg: number;
	modelName: string;
	/** Strength of the field that a compass follows, nT. */
	horizontalNt: number;
	/** True when the date lies outside the five years the model was made for. */
	outsideModelYears: boolean;
}

/**
 * Magnetic declination at a place and date.
 *
 * @param heightAmslM −500 to 10 000
 * @param date the day of the work; the core has no clock of its own
 * @throws OutOfRangeError outside these ranges
 * Source: the World Magnetic Model of the five years the date lies in, or the nearest there is, evaluated
 * by the geomagnetism package.
 */
export function magneticDeclination(point: GeoPoint, heightAmslM: number, date: Date): Declination {
	requireGeoPoint(point);
	requireInRange('heightAmslM', heightAmslM, -500, 10_000);
	const model = geomagnetism.model(date, { allowOutOfBoundsModel: true });
	const field = model.point([point.latitudeDeg, point.longitudeDeg, heightAmslM / 1000]);
	return {
		declinationDeg: field.decl,
		horizontalNt: field.h,
		modelName: `World Magnetic Model ${model.epoch}`,
		outsideModelYears: date < model.start_date || date > model.end_date
	};
}

/**
 * Compass bearing from a true azimuth: true − declination, wrapped to [0, 360).
 *
 * @param azimuthTrueDeg any finite
 * @param declinationDeg east positive
 */
export function compassBearingDeg(azimuthTrueDeg: number, declinationDeg: number): number {
	return wrapBearingDeg(azimuthTrueDeg - declinationDeg);
}
