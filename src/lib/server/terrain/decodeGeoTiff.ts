import { addDecoder, BaseDecoder, fromArrayBuffer, type GeoTIFFImage } from 'geotiff';
import type { TerrainGrid } from '#core/path/terrainGrid';
import { invalid } from '../errors';
import { BlockTooLarge, COMPRESSIONS, inflateBlock, unLzw, unpackBits } from './blocks';
import { itemAt } from '#core/units/lists';

/** A one-degree tile of one second is 13 million cells; larger rasters are to be cut. */
export const MOST_RASTER_CELLS = 16_000_000;
const LOWEST_M = -500;
const HIGHEST_M = 9000;

/** A refusal at the file, in words a planner can act on. */
function refuse(message: string): never {
	throw invalid([{ field: 'file', message }]);
}

/**
 * Reads a single-band GeoTIFF in geographic coordinates, stripped or tiled, of integers or floats,
 * compressed or not. Cells of no data, or of heights that the earth does not have, become NaN.
 * Size and coordinates are checked before any cell is decoded.
 */
export async function decodeGeoTiff(bytes: Uint8Array): Promise<TerrainGrid> {
	let image: GeoTIFFImage;
	try {
		const copy = new Uint8Array(bytes);
		const tiff = await fromArrayBuffer(copy.buffer);
		image = await tiff.getImage();
	} catch {
		return refuse('This is no GeoTIFF, or it is damaged.');
	}
	const columns = image.getWidth();
	const rows = image.getHeight();
	if (image.getSamplesPerPixel() !== 1) {
		refuse(`The raster has ${image.getSamplesPerPixel()} bands; one band of heights is needed.`);
	}
	if (columns < 2 || rows < 2) refuse('The raster needs at least two columns and two rows.');
	if (columns * rows > MOST_RASTER_CELLS) {
		refuse(
			`The raster has ${columns} × ${rows} cells; at most ${MOST_RASTER_CELLS / 1e6} million are taken. Cut it to the area of your hops.`
		);
	}
	requireBoundedBlocks(image, columns, rows);
	const place = placeOf(image, columns, rows);
	let cells: ArrayLike<number>;
	try {
		const rasters = await image.readRasters({ interleave: false, samples: [0] });
		cells = itemAt(rasters as unknown as ArrayLike<number>[], 0);
	} catch (error) {
		if (error instanceof BlockTooLarge) {
			refuse(
				'The raster unfolds to more than its size says: the file is damaged, or made to do harm.'
			);
		}
		return refuse('The cells of the raster cannot be read: the file is damaged or cut short.');
	}
	const noData = image.getGDALNoData();
	const heightsM = new Float32Array(columns * rows);
	let known = 0;
	for (let i = 0; i < heightsM.length; i++) {
		const value = itemAt(cells, i);
		const sound =
			Number.isFinite(value) && value !== noData && value >= LOWEST_M && value <= HIGHEST_M;
		heightsM[i] = sound ? value : Number.NaN;
		if (sound) known++;
	}
	if (known === 0) refuse('The raster holds no height between −500 and 9000 m.');
	return { ...place, columns, rows, heightsM };
}

/** A raster's blocks may overhang it, each by less than a block: so many times its cells at most. */
const MOST_OVERHANG = 8;

/** What the blocks are said to hold is known before any is unfolded, and bounded. */
function requireBoundedBlocks(image: GeoTIFFImage, columns: number, rows: number): void {
	const compression = image.fileDirectory.getValue('Compression') ?? COMPRESSIONS.none;
	if (!(Object.values(COMPRESSIONS) as number[]).includes(compression)) {
		refuse(
			`The raster is compressed in a way that is not read here (${compression}). Save it with LZW or Deflate, or without compression.`
		);
	}
	const [width, height] = [image.getTileWidth(), image.getTileHeight()];
	const blocks = Math.ceil(columns / width) * Math.ceil(rows / height);
	if (!(width > 0 && height > 0) || blocks * width * height > MOST_OVERHANG * MOST_RASTER_CELLS) {
		refuse('The blocks of the raster are larger than the raster itself.');
	}
}

/** The library's own decoders unfold whatever a block holds; these stop at what it is said to hold. */
function bounded(unfold: (bytes: Uint8Array, most: number) => Uint8Array): typeof BaseDecoder {
	return class extends BaseDecoder {
		override decodeBlock(buffer: ArrayBufferLike): ArrayBufferLike {
			const { tileWidth, tileHeight, bitsPerSample } = this.parameters;
			const bits = typeof bitsPerSample === 'number' ? bitsPerSample : (bitsPerSample[0] ?? 8);
			const most = Math.ceil((tileWidth * bits) / 8) * tileHeight;
			const block = unfold(new Uint8Array(buffer), most);
			return block.buffer.slice(block.byteOffset, block.byteOffset + block.byteLength);
		}
	};
}
for (const [numbers, unfold] of [
	[[COMPRESSIONS.deflate, COMPRESSIONS.deflateOld], inflateBlock],
	[[COMPRESSIONS.lzw], unLzw],
	[[COMPRESSIONS.packBits], unpackBits]
] as const) {
	const decoder = bounded(unfold);
	addDecoder([...numbers], () => Promise.resolve(decoder), undefined, false);
}

function placeOf(
	image: GeoTIFFImage,
	columns: number,
	rows: number
): Omit<TerrainGrid, 'columns' | 'rows' | 'heightsM'> {
	let origin: number[];
	let resolution: number[];
	let keys: Record<string, unknown>;
	try {
		origin = image.getOrigin();
		resolution = image.getResolution();
		keys = (image.getGeoKeys() ?? {}) as Record<string, unknown>;
	} catch {
		return refuse('The raster does not say where on earth it lies.');
	}
	if (keys.GTModelTypeGeoKey === 1) {
		refuse('The raster is in a projected grid; geographic coordinates (degrees) are needed.');
	}
	const stepLongitudeDeg = itemAt(resolution, 0);
	const stepLatitudeDeg = -itemAt(resolution, 1);
	if (!(stepLongitudeDeg > 0 && stepLatitudeDeg > 0)) {
		refuse('The raster is turned or mirrored; rows must run from north to south.');
	}
	// Pixel-is-point rasters name the middle of a cell, pixel-is-area ones its corner.
	const half = keys.GTRasterTypeGeoKey === 2 ? 0 : 0.5;
	const westDeg = itemAt(origin, 0) + half * stepLongitudeDeg;
	const northDeg = itemAt(origin, 1) - half * stepLatitudeDeg;
	const southDeg = northDeg - (rows - 1) * stepLatitudeDeg;
	const eastDeg = westDeg + (columns - 1) * stepLongitudeDeg;
	if (northDeg > 90.5 || southDeg < -90.5 || westDeg < -360 || eastDeg > 540) {
		refuse('The coordinates of the raster are no degrees of latitude and longitude.');
	}
	if (eastDeg - westDeg > 361) refuse('The raster is wider than the earth.');
	return { westDeg, northDeg, stepLongitudeDeg, stepLatitudeDeg };
}
