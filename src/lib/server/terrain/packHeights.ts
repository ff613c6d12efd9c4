import { promisify } from 'node:util';
import { deflate, inflate } from 'node:zlib';
import type { TerrainGrid } from '#core/path/terrainGrid';
import { itemAt } from '#core/units/lists';

const pack = promisify(deflate);
const unpack = promisify(inflate);

/** Heights are kept in steps of 0.2 m above −600 m: finer than any raster is true. */
const STEP_M = 0.2;
const BASE_M = -600;
const NO_DATA = 65_535;

/** Packs heights small: steps of 0.2 m, differences along the row, deflated. */
export function packHeights(heightsM: Float32Array, columns: number): Promise<Buffer> {
	const steps = new Uint16Array(heightsM.length);
	let last = 0;
	for (let i = 0; i < heightsM.length; i++) {
		if (i % columns === 0) last = 0;
		const height = itemAt(heightsM, i);
		const step = Number.isNaN(height) ? NO_DATA : Math.round((height - BASE_M) / STEP_M);
		steps[i] = (step - last) & 0xffff;
		last = step;
	}
	return pack(Buffer.from(steps.buffer), { level: 6 });
}

/** The inverse of {@link packHeights}, true to 0.1 m. */
export async function unpackHeights(packed: Buffer, columns: number): Promise<Float32Array> {
	const bytes = await unpack(packed);
	const steps = new Uint16Array(bytes.buffer, bytes.byteOffset, bytes.byteLength / 2);
	const heightsM = new Float32Array(steps.length);
	let last = 0;
	for (let i = 0; i < steps.length; i++) {
		if (i % columns === 0) last = 0;
		last = (itemAt(steps, i) + last) & 0xffff;
		heightsM[i] = last === NO_DATA ? Number.NaN : BASE_M + last * STEP_M;
	}
	return heightsM;
}

/** A raster as it is kept: its frame, its extremes, its heights packed. */
export interface PackedTerrain extends Omit<TerrainGrid, 'heightsM'> {
	lowestM: number;
	highestM: number;
	heights: Uint8Array;
}

export async function packTerrain({ heightsM, ...frame }: TerrainGrid): Promise<PackedTerrain> {
	let lowestM = Infinity;
	let highestM = -Infinity;
	for (const height of heightsM) {
		if (height < lowestM) lowestM = height;
		if (height > highestM) highestM = height;
	}
	const heights = new Uint8Array(await packHeights(heightsM, frame.columns));
	return { ...frame, lowestM, highestM, heights };
}
