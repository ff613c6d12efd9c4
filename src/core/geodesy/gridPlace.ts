import type { GeoPoint } from './geodesic';

/** Third flattening of WGS 84 and the radius of its rectifying sphere, m. */
const FLATTENING = 1 / 298.257223563;
const N = FLATTENING / (2 - FLATTENING);
const EQUATOR_M = 6_378_137;
const RECTIFYING_M = (EQUATOR_M / (1 + N)) * (1 + N ** 2 / 4 + N ** 4 / 64);

/** Scale on the central meridian, and the offsets of the grid, m. */
const SCALE = 0.9996;
const FALSE_EASTING_M = 500_000;
const FALSE_NORTHING_M = 10_000_000;

/** Krüger's series in the third flattening, to its fourth power: below a millimetre within a zone. */
const BETA = [
	N / 2 - (2 / 3) * N ** 2 + (37 / 96) * N ** 3 - N ** 4 / 360,
	N ** 2 / 48 + N ** 3 / 15 - (437 / 1440) * N ** 4,
	(17 / 480) * N ** 3 - (37 / 840) * N ** 4,
	(4397 / 161_280) * N ** 4
];
const DELTA = [
	2 * N - (2 / 3) * N ** 2 - 2 * N ** 3 + (116 / 45) * N ** 4,
	(7 / 3) * N ** 2 - (8 / 5) * N ** 3 - (227 / 45) * N ** 4,
	(56 / 15) * N ** 3 - (136 / 35) * N ** 4,
	(4279 / 630) * N ** 4
];

/** Rows of latitude from 80° south, 8° each; I and O are left out, the last is 12° high. */
const BANDS = 'CDEFGHJKLMNPQRSTUVWX';

const SHAPE =
	/^(?:zone\s*)?(?<zone>\d{1,2})\s*(?<letter>[C-HJ-NP-X])\s*[,;]?\s*(?:E\s*)?(?<east>\d{6}(?:[.,]\d+)?)\s*(?:m?\s*E)?[\s,;]+(?:N\s*)?(?<north>\d{1,8}(?:[.,]\d+)?)\s*(?:m?\s*N)?$/iu;

/**
 * A place on the universal transverse Mercator grid of WGS 84, as `19G 345678 4881234`: zone 1 to 60, letter of
 * the band (or N or S for the hemisphere), easting 100 000 to 900 000 m, northing 0 to 10 000 000 m.
 *
 * @param text what was typed
 * @returns undefined where it is no such place, where band and northing contradict each other, or where S may
 *   be the band as well as the hemisphere
 * Source: L. Krüger (1912) by the series of C. F. F. Karney, "Transverse Mercator with an accuracy of a few
 *   nanometers", J. Geodesy 85 (2011), equations 35 to 37, to the fourth order.
 */
export function typedGridPlace(text: string): GeoPoint | undefined {
	const found = SHAPE.exec(text.trim())?.groups;
	if (!found) return undefined;
	const zone = Number(found.zone);
	const letter = found.letter!.toUpperCase();
	const eastingM = Number(found.east!.replace(',', '.'));
	const northingM = Number(found.north!.replace(',', '.'));
	if (zone < 1 || zone > 60 || northingM > FALSE_NORTHING_M) return undefined;
	if (eastingM < 100_000 || eastingM > 900_000) return undefined;
	const read = (south: boolean): GeoPoint => onGrid(zone, eastingM, northingM, south);
	if (letter === 'N') return read(false);
	if (letter === 'S') return inBand('S', read(false)) ? undefined : read(true);
	const place = read(letter < 'N');
	return inBand(letter, place) ? place : undefined;
}

/** Whether a latitude lies in its band, with a margin for a place on the border. */
function inBand(letter: string, { latitudeDeg }: GeoPoint): boolean {
	const from = -80 + 8 * BANDS.indexOf(letter);
	const margin = 0.01;
	return latitudeDeg >= from - margin && latitudeDeg <= (letter === 'X' ? 84 : from + 8) + margin;
}

function onGrid(zone: number, eastingM: number, northingM: number, south: boolean): GeoPoint {
	const radiusM = RECTIFYING_M * SCALE;
	const xi = (northingM - (south ? FALSE_NORTHING_M : 0)) / radiusM;
	const eta = (eastingM - FALSE_EASTING_M) / radiusM;
	let [along, across] = [xi, eta];
	BETA.forEach((beta, i) => {
		const order = 2 * (i + 1);
		along -= beta * Math.sin(order * xi) * Math.cosh(order * eta);
		across -= beta * Math.cos(order * xi) * Math.sinh(order * eta);
	});
	const conformal = Math.asin(Math.sin(along) / Math.cosh(across));
	const latitude = DELTA.reduce(
		(sum, delta, i) => sum + delta * Math.sin(2 * (i + 1) * conformal),
		conformal
	);
	const fromMeridian = Math.atan2(Math.sinh(across), Math.cos(along));
	const longitudeDeg = zone * 6 - 183 + (fromMeridian * 180) / Math.PI;
	return {
		latitudeDeg: (latitude * 180) / Math.PI,
		longitudeDeg:
			longitudeDeg > 180
				? longitudeDeg - 360
				: longitudeDeg < -180
					? longitudeDeg + 360
					: longitudeDeg
	};
}
