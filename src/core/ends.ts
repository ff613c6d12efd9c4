/** The two ends of a hop. */
export type End = 'A' | 'B';

export const ENDS: readonly End[] = ['A', 'B'];

/** The end across the path. */
export function farEnd(end: End): End {
	return end === 'A' ? 'B' : 'A';
}

/** One value for either end. */
export type PerEnd<T> = Record<End, T>;

export type Axis = 'azimuth' | 'tilt';
