import type { End } from '../ends';
import type { HopState, PlacedReading } from '../record/hopState';

/** What one end has read that still compares, and where its dish stands now. */
export interface EndReadings {
	readings: readonly PlacedReading[];
	azimuthDeg: number;
	tiltDeg: number;
}

/**
 * The readings of an end that still say something about its own boresight, each at the place where
 * the dish then stood: what made earlier ones void is in the table of changes.
 */
export function endReadings({ ends }: HopState, end: End): EndReadings {
	const { comparable, angleDeg } = ends[end];
	return { readings: comparable, azimuthDeg: angleDeg.azimuth, tiltDeg: angleDeg.tilt };
}
