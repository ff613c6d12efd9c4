/** Which of the two a coordinate is. */
export type CoordinateKind = 'latitude' | 'longitude';

const LETTERS: Record<CoordinateKind, { plus: string; minus: string; mostDeg: number }> = {
	latitude: { plus: 'N', minus: 'S', mostDeg: 90 },
	// East is O on some maps, and so is west on others: that letter is asked about, not guessed.
	longitude: { plus: 'E', minus: 'W', mostDeg: 180 }
};

const NUMBER = String.raw`\d+(?:[.,]\d+)?`;
const SHAPE = new RegExp(
	String.raw`^(?<sign>[-+−]?)\s*(?<before>[NSEW])?\s*(?<deg>${NUMBER})\s*[°º]?\s*` +
		String.raw`(?:(?<min>${NUMBER})\s*['′’]?\s*)?(?:(?<sec>${NUMBER})\s*(?:["″”]|''|′′)?\s*)?(?<after>[NSEW])?$`,
	'iu'
);

const numberOf = (text: string | undefined): number => Number((text ?? '0').replace(',', '.'));

/**
 * A latitude or longitude as people write them: decimal degrees with point or comma, degrees and minutes, or
 * degrees, minutes and seconds, with a sign or a letter of the compass before or after.
 *
 * @param text what was typed
 * @param kind which of the two it is
 * @returns decimal degrees, north and east positive, latitude −90 to 90, longitude −180 to 180; undefined where
 *   the text is no such coordinate, or may be read in two ways
 */
export function typedCoordinate(text: string, kind: CoordinateKind): number | undefined {
	const found = SHAPE.exec(text.trim())?.groups;
	if (!found) return undefined;
	const { sign, before, deg, min, sec, after } = found;
	const letter = (before ?? after)?.toUpperCase();
	const { plus, minus, mostDeg } = LETTERS[kind];
	// A letter on both sides, one of the other kind, or a letter against a sign say two things at once.
	if (before && after) return undefined;
	if (letter && (sign || (letter !== plus && letter !== minus))) return undefined;
	// Only the last part may be broken: 46.5° 30′ is no place.
	const parts = [deg, min, sec].filter((part) => part !== undefined);
	if (parts.slice(0, -1).some((part) => /[.,]/.test(part))) return undefined;
	const [minutes, seconds] = [numberOf(min), numberOf(sec)];
	if (minutes >= 60 || seconds >= 60) return undefined;
	const degrees = numberOf(deg) + minutes / 60 + seconds / 3600;
	if (degrees > mostDeg) return undefined;
	return letter === minus || sign === '-' || sign === '−' ? -degrees : degrees;
}
