/** A box of the map, degrees. */
export interface MapView {
	west: number;
	south: number;
	east: number;
	north: number;
}

/** A box as the index on places takes it, and its figures from south to east. */
export function boxOf({ south, north, west, east }: MapView): unknown[] {
	const corners = [
		[west, south],
		[east, south],
		[east, north],
		[west, north],
		[west, south]
	];
	const polygon = `POLYGON((${corners.map((corner) => corner.join(' ')).join(', ')}))`;
	return [polygon, south, north, west, east];
}
