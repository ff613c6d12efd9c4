/**
 * A power ratio from decibels.
 *
 * @param db any finite
 */
export function ratioFromDb(db: number): number {
	return 10 ** (db / 10);
}

/**
 * Decibels from a power ratio. A ratio of zero gives −Infinity.
 *
 * @param ratio of powers, 0 or more
 * @throws RangeError for a negative one
 */
export function dbFromRatio(ratio: number): number {
	if (!(ratio >= 0)) throw new RangeError(`power ratio must be at least 0, got ${ratio}`);
	return 10 * Math.log10(ratio);
}

/** Sum of powers given as levels (dBm or dBW, all alike), added in linear units. */
export function sumOfLevelsDb(levelsDb: readonly number[]): number {
	return dbFromRatio(levelsDb.reduce((sum, level) => sum + ratioFromDb(level), 0));
}
