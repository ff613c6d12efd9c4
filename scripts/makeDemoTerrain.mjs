/**
 * `node scripts/makeDemoTerrain.mjs`: writes demo/terrain.tif, the invented archipelago of the demo.
 * Deterministic: hills at the demo's sites, ridges between some of them, sea elsewhere.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './lib/setup.mjs';
import { writeGeoTiff } from './lib/tiffWriter.mjs';

const STEP = 1.5 / 3600;
const WEST = -118.56;
const NORTH = -46.03;
const COLUMNS = 1200;
const ROWS = 900;

const sites = readFileSync(join(ROOT, 'demo', 'sites.csv'), 'utf8')
	.trim()
	.split('\n')
	.slice(1)
	.map((line) => line.split(','))
	.map(([name, lat = '', lon = '', ground = '']) => ({
		name,
		lat: +lat,
		lon: +lon,
		ground: +ground
	}));

/** A repeatable number from two whole ones, 0 to 1. */
function noise(x, y) {
	let h = (Math.imul(x, 374761393) + Math.imul(y, 668265263)) | 0;
	h = Math.imul(h ^ (h >>> 13), 1274126177);
	return ((h ^ (h >>> 16)) >>> 0) / 4294967295;
}

function smoothNoise(x, y) {
	const x0 = Math.floor(x);
	const y0 = Math.floor(y);
	const ease = (t) => t * t * (3 - 2 * t);
	const [sx, sy] = [ease(x - x0), ease(y - y0)];
	const top = noise(x0, y0) * (1 - sx) + noise(x0 + 1, y0) * sx;
	const low = noise(x0, y0 + 1) * (1 - sx) + noise(x0 + 1, y0 + 1) * sx;
	return top * (1 - sy) + low * sy - 0.5;
}

const rough = (km, kn) =>
	smoothNoise(km / 2.1, kn / 2.1) * 1 +
	smoothNoise(km / 0.8, kn / 0.8) * 0.45 +
	smoothNoise(km / 0.3, kn / 0.3) * 0.2;

/** Half-width of each hill, km: broad moors, steep stacks. */
const WIDTH = {
	'Tern Stack': 1.5,
	'Kelp Head': 1.7,
	'Lantern Reach': 1.9,
	'Saltbeck Quay': 0.9,
	'Hollow Ness': 2.2,
	'Skerry Light': 0.6,
	'Upper Fell': 3.1,
	'Grey Ledge': 1.1,
	'Oar Haven': 1.4
};
/** A ridge that no site stands on: what stands in the way of one hop. */
const RIDGES = [{ lat: -46.128, lon: -118.452, high: 236, km: 1.0 }];

const heights = new Int16Array(COLUMNS * ROWS);
for (let row = 0; row < ROWS; row++) {
	const trueLat = NORTH - row * STEP;
	for (let column = 0; column < COLUMNS; column++) {
		const trueLon = WEST + column * STEP;
		// The coasts wander: the hills are looked up at a place moved by slow noise, but not near a site.
		const [ke, kn] = [(trueLon + 118.3) * 77, (trueLat + 46.2) * 111];
		const nearest = Math.min(
			...sites.map((s) => Math.hypot((trueLon - s.lon) * 77, (trueLat - s.lat) * 111))
		);
		const warp = 0.012 * Math.min(1, nearest / 1.2);
		const lat =
			trueLat +
			warp * (smoothNoise(ke / 1.9 + 7, kn / 1.9) + 0.5 * smoothNoise(ke / 0.7, kn / 0.7 + 3));
		const lon =
			trueLon +
			1.5 *
				warp *
				(smoothNoise(ke / 1.7, kn / 1.7 + 11) + 0.5 * smoothNoise(ke / 0.6 + 5, kn / 0.6));
		const east = (to) => (lon - to) * 111.32 * Math.cos((lat * Math.PI) / 180);
		const north = (to) => (lat - to) * 110.95;
		let height = -40;
		for (const site of sites) {
			const d = Math.hypot(east(site.lon), north(site.lat));
			const w = WIDTH[site.name] ?? 1.5;
			const shape = (site.ground + 40) * Math.exp(-((d / w) ** 2));
			// Close to the site the ground is what the survey says.
			const ripple =
				0.32 *
				site.ground *
				rough(east(-118.3), north(-46.2)) *
				Math.min(1, d / 0.5) *
				Math.exp(-((d / (1.5 * w)) ** 2));
			height = Math.max(height, shape - 40 + ripple);
		}
		for (const ridge of RIDGES) {
			const d = Math.hypot(east(ridge.lon), north(ridge.lat));
			height = Math.max(height, (ridge.high + 40) * Math.exp(-((d / ridge.km) ** 2)) - 40);
		}
		heights[row * COLUMNS + column] = Math.max(0, Math.round(height));
	}
}
const tiff = writeGeoTiff({
	columns: COLUMNS,
	rows: ROWS,
	value: (column, row) => heights[row * COLUMNS + column] ?? 0,
	tile: 128,
	westDeg: WEST,
	northDeg: NORTH,
	stepDeg: STEP
});
writeFileSync(join(ROOT, 'demo', 'terrain.tif'), tiff);
console.log(`demo/terrain.tif, ${COLUMNS} × ${ROWS}, ${(tiff.length / 1e6).toFixed(2)} MB`);
