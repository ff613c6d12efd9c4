/** A device's clock and the server's may differ by so much before it is worth a word, s. */
export const CLOCK_TOLERANCE_S = 120;

/**
 * How far the clock of a device was ahead for certain when it made a record: what came in before it was made was
 * made by a clock that is ahead. A clock that is behind cannot be told so from a record that waited.
 *
 * @param recordedAt when it was made by the device's clock, ISO 8601
 * @param receivedAt when the server had it by its own, ISO 8601
 * @returns s, above {@link CLOCK_TOLERANCE_S}; undefined where the clock may have been right
 */
export function clockAheadS(recordedAt: string, receivedAt: string): number | undefined {
	const aheadS = Math.round((Date.parse(recordedAt) - Date.parse(receivedAt)) / 1000);
	return aheadS > CLOCK_TOLERANCE_S ? aheadS : undefined;
}

/**
 * A difference of clocks in words, such as "10 min ahead" or "2 h behind".
 *
 * @param aheadS s; negative is behind
 */
export function clockWords(aheadS: number): string {
	const way = aheadS < 0 ? 'behind' : 'ahead';
	const minutes = Math.abs(aheadS) / 60;
	if (minutes < 90) return `${Math.round(minutes)} min ${way}`;
	const hours = minutes / 60;
	if (hours < 48) return `${Math.round(hours)} h ${way}`;
	return `${Math.round(hours / 24)} days ${way}`;
}
