import { randomUUID } from 'node:crypto';
import type { GeoPoint } from '#core/geodesy/geodesic';
import { inverseGeodesic } from '#core/geodesy/geodesic';
import { sampleTerrain, type SampledProfile } from '#core/path/samplePath';
import { terrainHeightM, type TerrainGrid } from '#core/path/terrainGrid';
import { requireMay, type Actor } from '../auth/actor';
import { unlessTaken } from '../db/taken';
import { invalid, notFound, refusal } from '../errors';
import { audit } from '../repositories/audit';
import {
	deleteRaster,
	findRasterFrame,
	insertRaster,
	listRasterFrames,
	rasterHeights,
	type RasterFrame
} from '../repositories/rasters';
import { inWorker } from '../jobs/pool';
import { rasterBounds } from '../terrain/shade';

export interface Raster {
	id: string;
	name: string;
	columns: number;
	rows: number;
	stepLatitudeDeg: number;
	west: number;
	east: number;
	north: number;
	south: number;
	lowestM: number;
	highestM: number;
	uploadedAt: Date;
}

/** Decoded rasters of this process, the least lately used dropped first. */
const grids = new Map<string, TerrainGrid>();
const shades = new Map<string, Buffer>();
const MOST_GRIDS = 4;

function rasterOf(row: RasterFrame): Raster {
	return {
		id: row.id,
		name: row.name,
		columns: row.columnCount,
		rows: row.rowCount,
		stepLatitudeDeg: row.stepLatitudeDeg,
		...rasterBounds({ ...row, columns: row.columnCount, rows: row.rowCount }),
		lowestM: row.lowestM,
		highestM: row.highestM,
		uploadedAt: row.uploadedAt
	};
}

/** Rasters of terrain, the finest first. */
export async function listRasters(actor: Actor): Promise<Raster[]> {
	requireMay(actor, 'read-hops');
	return (await listRasterFrames()).map(rasterOf);
}

/** Takes a GeoTIFF in. All or nothing: a file that cannot be read leaves no trace. */
export async function addRaster(actor: Actor, name: string, bytes: Uint8Array): Promise<Raster> {
	requireMay(actor, 'edit-sites');
	const raster = await inWorker('read-terrain', bytes);
	const id = randomUUID();
	const { columns, rows, heights, ...frame } = raster;
	await unlessTaken(
		() =>
			insertRaster({
				id,
				name,
				...frame,
				columnCount: columns,
				rowCount: rows,
				heights: Buffer.from(heights),
				uploadedBy: actor.userId,
				uploadedAt: new Date()
			}),
		() => {
			throw refusal('name-taken', 'raster').at('name');
		}
	);
	await audit(actor.userId, 'add-raster', `raster:${id}`, { name });
	return getRaster(id);
}

async function getRaster(id: string): Promise<Raster> {
	return rasterOf(await requireFrame(id));
}

async function requireFrame(id: string): Promise<RasterFrame> {
	const row = await findRasterFrame(id);
	if (!row) throw notFound('raster');
	return row;
}

/** Takes a raster away; profiles that were taken from it stay as they are. */
export async function removeRaster(actor: Actor, id: string): Promise<void> {
	requireMay(actor, 'edit-sites');
	const { name } = await getRaster(id);
	await deleteRaster(id);
	grids.delete(id);
	shades.delete(id);
	await audit(actor.userId, 'remove-raster', `raster:${id}`, { name });
}

async function gridOf(row: RasterFrame): Promise<TerrainGrid> {
	const known = grids.get(row.id);
	if (known) {
		grids.delete(row.id);
		grids.set(row.id, known);
		return known;
	}
	const packed = await rasterHeights(row.id);
	if (!packed) throw notFound('raster');
	const grid: TerrainGrid = {
		westDeg: row.westDeg,
		northDeg: row.northDeg,
		stepLongitudeDeg: row.stepLongitudeDeg,
		stepLatitudeDeg: row.stepLatitudeDeg,
		columns: row.columnCount,
		rows: row.rowCount,
		heightsM: await inWorker('unpack-terrain', {
			packed: new Uint8Array(packed),
			columns: row.columnCount
		})
	};
	grids.set(row.id, grid);
	if (grids.size > MOST_GRIDS) grids.delete(grids.keys().next().value!);
	return grid;
}

/** The shaded picture of a raster, PNG. */
export async function rasterPicture(actor: Actor, id: string): Promise<Buffer> {
	requireMay(actor, 'read-hops');
	const row = await requireFrame(id);
	let picture = shades.get(id);
	if (!picture) {
		picture = Buffer.from(await inWorker('shade-terrain', await gridOf(row)));
		if (shades.size > 20) shades.clear();
		shades.set(id, picture);
	}
	return picture;
}

/** Ground height at a place from the finest raster that knows it, m; undefined where none does. */
export async function groundAt(place: GeoPoint): Promise<number | undefined> {
	const frames = (await listRasterFrames()).filter((row) => overlaps(rasterOf(row), place, place));
	for (const row of frames.slice(0, MOST_GRIDS)) {
		const heightM = terrainHeightM(await gridOf(row), place.latitudeDeg, place.longitudeDeg);
		if (heightM !== undefined) return heightM;
	}
	return undefined;
}

/** Longest path that is sampled, km. */
const LONGEST_KM = 400;

/** Ground heights along a path, from the finest rasters that know it. */
export async function takeProfile(
	actor: Actor,
	request: { a: GeoPoint; b: GeoPoint; stepM: number }
): Promise<SampledProfile> {
	requireMay(actor, 'compute');
	const { lengthM } = inverseGeodesic(request.a, request.b);
	if (lengthM > LONGEST_KM * 1000) {
		throw invalid([
			{
				field: 'b',
				message: `The ends are ${(lengthM / 1000).toFixed(0)} km apart; a profile reaches ${LONGEST_KM} km.`
			}
		]);
	}
	if (lengthM < 2) throw invalid([{ field: 'b', message: 'Both ends are at the same place.' }]);
	const near = (await listRasterFrames()).filter((row) =>
		overlaps(rasterOf(row), request.a, request.b)
	);
	const used: { name: string; grid: TerrainGrid }[] = [];
	for (const row of near.slice(0, MOST_GRIDS))
		used.push({ name: row.name, grid: await gridOf(row) });
	return sampleTerrain(used, request.a, request.b, request.stepM);
}

/** Whether a raster may know something of a path; generous, since the sampling decides. */
function overlaps(raster: Raster, a: GeoPoint, b: GeoPoint): boolean {
	const south = Math.min(a.latitudeDeg, b.latitudeDeg) - 0.5;
	const north = Math.max(a.latitudeDeg, b.latitudeDeg) + 0.5;
	if (raster.north < south || raster.south > north) return false;
	const middle = (raster.west + raster.east) / 2;
	const near = (longitude: number): number =>
		longitude - 360 * Math.round((longitude - middle) / 360);
	const [west, east] = [near(a.longitudeDeg), near(b.longitudeDeg)].sort((p, q) => p - q);
	return west! <= raster.east + 0.5 && east! >= raster.west - 0.5;
}
