import type { GeoPoint } from '#core/geodesy/geodesic';
import { MOST_PROFILE_POINTS, type TerrainProfile } from '#core/path/samplePath';
import type { ObstacleForm } from './planForm';

/** A table as the CSV reader gives it. */
export interface CsvTable {
	data: Record<string, string>[];
	meta: { fields?: string[] | undefined };
}

export interface CsvProblem {
	kind: 'problem';
	/** Line, column and reason. */
	message: string;
}

function missing(table: CsvTable, columns: readonly string[]): CsvProblem | undefined {
	const absent = columns.find((column) => !(table.meta.fields ?? []).includes(column));
	return absent ? { kind: 'problem', message: `There is no column ${absent}.` } : undefined;
}

function numberAt(row: Record<string, string>, column: string, line: number): number | CsvProblem {
	const text = (row[column] ?? '').trim();
	const value = Number(text);
	return text !== '' && Number.isFinite(value)
		? value
		: {
				kind: 'problem',
				message: `Line ${line}, column ${column}: “${text.slice(0, 30)}” is no number.`
			};
}

/**
 * Points of a profile, columns `distance_m,ground_m`. The last distance must be the length of the
 * path within 2 %, and is brought onto it.
 */
export function readProfile(
	table: CsvTable,
	fileName: string,
	from: GeoPoint,
	to: GeoPoint,
	lengthM: number
): { kind: 'profile'; profile: TerrainProfile } | CsvProblem {
	const absent = missing(table, ['distance_m', 'ground_m']);
	if (absent) return absent;
	if (table.data.length < 2)
		return { kind: 'problem', message: 'A profile needs two points or more.' };
	if (table.data.length > MOST_PROFILE_POINTS) {
		return { kind: 'problem', message: `A profile takes at most ${MOST_PROFILE_POINTS} points.` };
	}
	const distancesM: number[] = [];
	const groundsAmslM: number[] = [];
	for (const [i, row] of table.data.entries()) {
		const line = i + 2;
		const distance = numberAt(row, 'distance_m', line);
		const ground = numberAt(row, 'ground_m', line);
		if (typeof distance === 'object') return distance;
		if (typeof ground === 'object') return ground;
		if (i === 0 && distance !== 0) {
			return {
				kind: 'problem',
				message: `Line ${line}, column distance_m: the first distance must be 0.`
			};
		}
		if (i > 0 && distance <= distancesM[i - 1]!) {
			return { kind: 'problem', message: `Line ${line}, column distance_m: distances must rise.` };
		}
		if (ground < -500 || ground > 9000) {
			return {
				kind: 'problem',
				message: `Line ${line}, column ground_m: ${ground} m is no height on earth.`
			};
		}
		distancesM.push(distance);
		groundsAmslM.push(ground);
	}
	const last = distancesM[distancesM.length - 1]!;
	if (Math.abs(last - lengthM) > 0.02 * lengthM) {
		return {
			kind: 'problem',
			message: `The profile is ${last.toFixed(0)} m long, the path ${lengthM.toFixed(0)} m: it is another path's.`
		};
	}
	const scale = lengthM / last;
	return {
		kind: 'profile',
		profile: {
			source: `imported from ${fileName}`,
			from: { latitudeDeg: from.latitudeDeg, longitudeDeg: from.longitudeDeg },
			to: { latitudeDeg: to.latitudeDeg, longitudeDeg: to.longitudeDeg },
			distancesM: distancesM.map((d) => Number((d * scale).toFixed(2))),
			groundsAmslM
		}
	};
}

const KINDS = new Set(['trees', 'building', 'other']);

/** Obstacles, columns `name,kind,distance_km,length_m,height_m`. */
export function readObstacles(
	table: CsvTable
): { kind: 'obstacles'; obstacles: ObstacleForm[] } | CsvProblem {
	const absent = missing(table, ['name', 'kind', 'distance_km', 'length_m', 'height_m']);
	if (absent) return absent;
	const obstacles: ObstacleForm[] = [];
	for (const [i, row] of table.data.entries()) {
		const line = i + 2;
		for (const column of ['distance_km', 'length_m', 'height_m']) {
			const value = numberAt(row, column, line);
			if (typeof value === 'object') return value;
			if (value < 0)
				return {
					kind: 'problem',
					message: `Line ${line}, column ${column}: ${value} is below zero.`
				};
		}
		if (!KINDS.has(row.kind ?? '')) {
			return {
				kind: 'problem',
				message: `Line ${line}, column kind: must be trees, building or other.`
			};
		}
		obstacles.push({
			name: (row.name ?? '').trim(),
			kind: row.kind!,
			distanceKm: row.distance_km!.trim(),
			lengthM: row.length_m!.trim(),
			heightM: row.height_m!.trim()
		});
	}
	return { kind: 'obstacles', obstacles };
}
