import { itemAt, lastOf } from './lists';

/** A point of a curve: two values that belong together. */
export type CurvePoint = readonly [number, number];

/**
 * The value on a curve between its points, linearly; the first and last hold beyond them.
 *
 * @param points at least one, rising or falling by what `from` takes of them, in rising order of it
 * @param value any finite
 * @throws RangeError for a curve without a point
 */
export function valueOnCurve(
	points: readonly CurvePoint[],
	value: number,
	from: (point: CurvePoint) => number,
	to: (point: CurvePoint) => number
): number {
	const first = itemAt(points, 0);
	const last = lastOf(points);
	if (value <= from(first)) return to(first);
	if (value >= from(last)) return to(last);
	let i = 1;
	while (from(itemAt(points, i)) < value) i++;
	const lower = itemAt(points, i - 1);
	const upper = itemAt(points, i);
	const share = (value - from(lower)) / (from(upper) - from(lower));
	return to(lower) + share * (to(upper) - to(lower));
}
