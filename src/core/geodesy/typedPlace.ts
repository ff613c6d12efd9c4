import type { GeoPoint } from './geodesic';
import { typedGridPlace } from './gridPlace';
import { typedCoordinate } from './typedCoordinate';

/**
 * A place typed in one field: two coordinates in any way they are written, or a place on the UTM grid;
 * undefined where it is none.
 */
export function typedPlace(text: string): GeoPoint | undefined {
	const onGrid = typedGridPlace(text);
	if (onGrid) return onGrid;
	// Where decimals have a comma, a semicolon stands between the two.
	const between = text.includes(';') ? ';' : text.includes(',') ? ',' : /\s+/;
	const [latitude, longitude, ...more] = text
		.split(between)
		.map((part) => part.trim())
		.filter(Boolean);
	if (latitude === undefined || longitude === undefined || more.length > 0) return undefined;
	const latitudeDeg = typedCoordinate(latitude, 'latitude');
	const longitudeDeg = typedCoordinate(longitude, 'longitude');
	if (latitudeDeg === undefined || longitudeDeg === undefined) return undefined;
	return { latitudeDeg, longitudeDeg };
}
