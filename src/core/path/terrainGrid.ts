import { requireInRange } from '../units/errors';
import { itemAt } from '../units/lists';

/**
 * Terrain heights on a regular grid of geographic coordinates, row 0 the northernmost.
 * A height is that of the middle of its cell; `null` data are NaN.
 */
export interface TerrainGrid {
	/** Longitude of the middle of the first column, degrees. */
	westDeg: number;
	/** Latitude of the middle of the first row, degrees. */
	northDeg: number;
	/** Distance between columns, degrees, above 0. */
	stepLongitudeDeg: number;
	/** Distance between rows, degrees, above 0. */
	stepLatitudeDeg: number;
	columns: number;
	rows: number;
	/** columns × rows heights, m a.m.s.l., NaN where the raster has no data. */
	heightsM: Float32Array;
}

/**
 * Terrain height by bilinear interpolation between the four nearest cell middles.
 *
 * @param latitudeDeg −90 to 90
 * @param longitudeDeg any finite; brought beside the raster by whole turns
 * @returns undefined outside the raster, or where one of the four cells has no data
 * @throws OutOfRangeError for a latitude that is none
 */
export function terrainHeightM(
	grid: TerrainGrid,
	latitudeDeg: number,
	longitudeDeg: number
): number | undefined {
	requireInRange('latitudeDeg', latitudeDeg, -90, 90);
	const middle = grid.westDeg + ((grid.columns - 1) * grid.stepLongitudeDeg) / 2;
	// A raster may lie across the antimeridian; the point is moved to the turn nearest its middle.
	const longitude = longitudeDeg - 360 * Math.round((longitudeDeg - middle) / 360);
	const x = (longitude - grid.westDeg) / grid.stepLongitudeDeg;
	const y = (grid.northDeg - latitudeDeg) / grid.stepLatitudeDeg;
	// Half a cell beyond the outer middles still belongs to the raster.
	if (!(x >= -0.5 && y >= -0.5 && x <= grid.columns - 0.5 && y <= grid.rows - 0.5))
		return undefined;
	const column = Math.min(grid.columns - 1, Math.max(0, x));
	const row = Math.min(grid.rows - 1, Math.max(0, y));
	const left = Math.min(grid.columns - 1, Math.floor(column));
	const top = Math.min(grid.rows - 1, Math.floor(row));
	const right = Math.min(grid.columns - 1, left + 1);
	const bottom = Math.min(grid.rows - 1, top + 1);
	const at = (c: number, r: number): number => itemAt(grid.heightsM, r * grid.columns + c);
	const shareX = column - left;
	const shareY = row - top;
	const upper = between(at(left, top), at(right, top), shareX);
	const lower = between(at(left, bottom), at(right, bottom), shareX);
	const height = between(upper, lower, shareY);
	return Number.isNaN(height) ? undefined : height;
}

/** Linear between two values; one of no weight may be unknown. */
function between(first: number, second: number, share: number): number {
	if (share === 0) return first;
	return share === 1 ? second : first * (1 - share) + second * share;
}
