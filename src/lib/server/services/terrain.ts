import { randomUUID } from 'node:crypto';
import { QueryTypes, UniqueConstraintError } from 'sequelize';
import type { GeoPoint } from '#core/geodesy/geodesic';
import { inverseGeodesic } from '#core/geodesy/geodesic';
import { sampleTerrain, type SampledProfile } from '#core/path/samplePath';
import type { TerrainGrid } from '#core/path/terrainGrid';
import { requireMay, type Actor } from '../auth/actor';
import { db } from '../db/connection';
import { invalid, notFound, refusal } from '../errors';
import { audit } from '../repositories/audit';
import { decodeGeoTiff } from '../terrain/decodeGeoTiff';
import { packHeights, unpackHeights } from '../terrain/packHeights';
import { rasterBounds, shadeTerrain } from '../terrain/shade';

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

interface RasterRow {
	id: string;
	name: string;
	westDeg: number;
	northDeg: number;
	stepLongitudeDeg: number;
	stepLatitudeDeg: number;
	columns: number;
	rows: number;
	lowestM: number;
	highestM: number;
	uploadedAt: Date;
}

const COLUMNS = `id, name, west_deg AS westDeg, north_deg AS northDeg,
	step_longitude_deg AS stepLongitudeDeg, step_latitude_deg AS stepLatitudeDeg,
	column_count AS columns, row_count AS \`rows\`, lowest_m AS lowestM, highest_m AS highestM,
	uploaded_at AS uploadedAt`;
const MOST_RASTERS = 500;

/** Decoded rasters of this process, the least lately used dropped first. */
const grids = new Map<string, TerrainGrid>();
const shades = new Map<string, Buffer>();
const MOST_GRIDS = 4;

function rasterOf(row: RasterRow): Raster {
	return {
		id: row.id,
		name: row.name,
		columns: row.columns,
		rows: row.rows,
		stepLatitudeDeg: row.stepLatitudeDeg,
		...rasterBounds(row),
		lowestM: row.lowestM,
		highestM: row.highestM,
		uploadedAt: row.uploadedAt
	};
}

async function rasterRows(): Promise<RasterRow[]> {
	return db().query<RasterRow>(
		`SELECT ${COLUMNS} FROM terrain_rasters ORDER BY step_latitude_deg, name LIMIT ?`,
		{ replacements: [MOST_RASTERS], type: QueryTypes.SELECT }
	);
}

/** Rasters of terrain, the finest first. */
export async function listRasters(actor: Actor): Promise<Raster[]> {
	requireMay(actor, 'read-hops');
	return (await rasterRows()).map(rasterOf);
}

/** Takes a GeoTIFF in. All or nothing: a file that cannot be read leaves no trace. */
export async function addRaster(actor: Actor, name: string, bytes: Uint8Array): Promise<Raster> {
	requireMay(actor, 'edit-sites');
	const grid = await decodeGeoTiff(bytes);
	const id = randomUUID();
	const heights = await packHeights(grid.heightsM, grid.columns);
	let lowestM = Infinity;
	let highestM = -Infinity;
	for (const height of grid.heightsM) {
		if (height < lowestM) lowestM = height;
		if (height > highestM) highestM = height;
	}
	try {
		await db().query(
			`INSERT INTO terrain_rasters (id, name, west_deg, north_deg, step_longitude_deg,
				step_latitude_deg, column_count, row_count, lowest_m, highest_m, heights, uploaded_by, uploaded_at)
			VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			{
				replacements: [
					id,
					name,
					grid.westDeg,
					grid.northDeg,
					grid.stepLongitudeDeg,
					grid.stepLatitudeDeg,
					grid.columns,
					grid.rows,
					lowestM,
					highestM,
					heights,
					actor.userId,
					new Date()
				]
			}
		);
	} catch (error) {
		if (!(error instanceof UniqueConstraintError)) throw error;
		throw refusal('name-taken', 'raster').at('name');
	}
	await audit(actor.userId, 'add-raster', `raster:${id}`, { name });
	return getRaster(id);
}

async function getRaster(id: string): Promise<Raster> {
	const [row] = await db().query<RasterRow>(`SELECT ${COLUMNS} FROM terrain_rasters WHERE id = ?`, {
		replacements: [id],
		type: QueryTypes.SELECT
	});
	if (!row) throw notFound('raster');
	return rasterOf(row);
}

/** Takes a raster away; profiles that were taken from it stay as they are. */
export async function removeRaster(actor: Actor, id: string): Promise<void> {
	requireMay(actor, 'edit-sites');
	const { name } = await getRaster(id);
	await db().query('DELETE FROM terrain_rasters WHERE id = ?', { replacements: [id] });
	grids.delete(id);
	shades.delete(id);
	await audit(actor.userId, 'remove-raster', `raster:${id}`, { name });
}

async function gridOf(row: RasterRow): Promise<TerrainGrid> {
	const known = grids.get(row.id);
	if (known) {
		grids.delete(row.id);
		grids.set(row.id, known);
		return known;
	}
	const [packed] = await db().query<{ heights: Buffer }>(
		'SELECT heights FROM terrain_rasters WHERE id = ?',
		{ replacements: [row.id], type: QueryTypes.SELECT }
	);
	if (!packed) throw notFound('raster');
	const grid: TerrainGrid = {
		westDeg: row.westDeg,
		northDeg: row.northDeg,
		stepLongitudeDeg: row.stepLongitudeDeg,
		stepLatitudeDeg: row.stepLatitudeDeg,
		columns: row.columns,
		rows: row.rows,
		heightsM: await unpackHeights(packed.heights, row.columns)
	};
	grids.set(row.id, grid);
	if (grids.size > MOST_GRIDS) grids.delete(grids.keys().next().value!);
	return grid;
}

/** The shaded picture of a raster, PNG. */
export async function rasterPicture(actor: Actor, id: string): Promise<Buffer> {
	requireMay(actor, 'read-hops');
	const row = (await rasterRows()).find((candidate) => candidate.id === id);
	if (!row) throw notFound('raster');
	let picture = shades.get(id);
	if (!picture) {
		picture = await shadeTerrain(await gridOf(row));
		if (shades.size > 20) shades.clear();
		shades.set(id, picture);
	}
	return picture;
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
	if (lengthM < 2) throw invalid([{ field: 'b', message: 'Both ends stand at the same place.' }]);
	const near = (await rasterRows()).filter((row) => overlaps(rasterOf(row), request.a, request.b));
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
