import { rasters, type RasterRow } from '../db/tables';

/** A raster of terrain without its heights. */
export type RasterFrame = Omit<RasterRow, 'heights' | 'uploadedBy'>;

const OF_FRAME = [
	'id',
	'name',
	'westDeg',
	'northDeg',
	'stepLongitudeDeg',
	'stepLatitudeDeg',
	'columnCount',
	'rowCount',
	'lowestM',
	'highestM',
	'uploadedAt'
] as const;
const MOST_RASTERS = 500;

/** Rasters, the finest first. */
export function listRasterFrames(): Promise<RasterFrame[]> {
	return rasters.some(
		OF_FRAME,
		{},
		{
			order: [
				['stepLatitudeDeg', 'ASC'],
				['name', 'ASC']
			],
			limit: MOST_RASTERS
		}
	);
}

export async function findRasterFrame(id: string): Promise<RasterFrame | undefined> {
	const [row] = await rasters.some(OF_FRAME, { id });
	return row;
}

/** The packed heights of a raster. */
export async function rasterHeights(id: string): Promise<Buffer | undefined> {
	const [row] = await rasters.some(['heights'], { id });
	return row?.heights;
}

/** Throws TakenError where the name is in use. */
export function insertRaster(row: RasterRow): Promise<void> {
	return rasters.add(row);
}

export async function deleteRaster(id: string): Promise<void> {
	await rasters.remove({ id });
}
