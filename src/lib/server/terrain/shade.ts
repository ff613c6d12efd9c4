import sharp from 'sharp';
import { terrainHeightM, type TerrainGrid } from '#core/path/terrainGrid';
import { itemAt } from '#core/units/lists';

const MOST_PIXELS = 1400;
/** Land from shore to summit, and what the light adds or takes; sea stays clear. */
const LAND: readonly [number, number, number][] = [
	[236, 231, 216],
	[217, 210, 189],
	[187, 177, 147],
	[150, 139, 108]
];

const mercator = (latitudeDeg: number): number =>
	Math.log(Math.tan(Math.PI / 4 + (latitudeDeg * Math.PI) / 360));
const inverse = (y: number): number => (Math.atan(Math.exp(y)) * 360) / Math.PI - 90;

/** The corners of a raster, half a cell beyond its outer middles, degrees. */
export function rasterBounds(grid: Omit<TerrainGrid, 'heightsM'>): {
	west: number;
	east: number;
	north: number;
	south: number;
} {
	return {
		west: grid.westDeg - grid.stepLongitudeDeg / 2,
		east: grid.westDeg + (grid.columns - 0.5) * grid.stepLongitudeDeg,
		north: Math.min(85, grid.northDeg + grid.stepLatitudeDeg / 2),
		south: Math.max(-85, grid.northDeg - (grid.rows - 0.5) * grid.stepLatitudeDeg)
	};
}

/** A picture of the terrain lit from the north-west, rows even in the Mercator projection. */
export async function shadeTerrain(grid: TerrainGrid): Promise<Buffer> {
	const { west, east, north, south } = rasterBounds(grid);
	const width = Math.min(MOST_PIXELS, grid.columns);
	const top = mercator(north);
	const bottom = mercator(south);
	const perPixel = ((east - west) * Math.PI) / 180 / width;
	const height = Math.max(2, Math.min(2 * MOST_PIXELS, Math.round((top - bottom) / perPixel)));
	const highest = grid.heightsM.reduce((most, h) => (h > most ? h : most), 1);
	const pixels = Buffer.alloc(width * height * 4);
	const stepLon = (east - west) / width;
	for (let y = 0; y < height; y++) {
		const latitude = inverse(top - ((y + 0.5) / height) * (top - bottom));
		const metresPerDegree = 111_320;
		const dx = 2 * stepLon * metresPerDegree * Math.cos((latitude * Math.PI) / 180);
		for (let x = 0; x < width; x++) {
			const longitude = west + (x + 0.5) * stepLon;
			const at = (lat: number, lon: number): number =>
				terrainHeightM(grid, Math.max(-90, Math.min(90, lat)), lon) ?? 0;
			const here = at(latitude, longitude);
			if (here <= 0.5) continue;
			const east1 = at(latitude, longitude + stepLon) - at(latitude, longitude - stepLon);
			const north1 = at(latitude + stepLon, longitude) - at(latitude - stepLon, longitude);
			const slopeX = east1 / dx;
			const slopeY = north1 / (2 * stepLon * metresPerDegree);
			// Light from the north-west, 45° high.
			const norm = Math.sqrt(slopeX * slopeX + slopeY * slopeY + 1);
			const light = (0.5 * slopeX - 0.5 * slopeY + 0.707) / norm;
			const tone = toneAt(here / highest, 0.72 + 0.4 * light);
			const i = (y * width + x) * 4;
			pixels[i] = tone[0];
			pixels[i + 1] = tone[1];
			pixels[i + 2] = tone[2];
			pixels[i + 3] = 255;
		}
	}
	return sharp(pixels, { raw: { width, height, channels: 4 } })
		.png({ palette: true })
		.toBuffer();
}

function toneAt(share: number, light: number): [number, number, number] {
	const at = Math.min(LAND.length - 1.001, Math.max(0, share) * (LAND.length - 1));
	const low = itemAt(LAND, Math.floor(at));
	const high = itemAt(LAND, Math.floor(at) + 1);
	const mix = (i: 0 | 1 | 2): number =>
		Math.max(0, Math.min(255, Math.round((low[i] + (at % 1) * (high[i] - low[i])) * light)));
	return [mix(0), mix(1), mix(2)];
}
