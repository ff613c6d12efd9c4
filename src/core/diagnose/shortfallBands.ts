import { itemAt } from '../units/lists';

/** What being a certain number of dB below the plan would mean, for this hop. */
export type BandMeaning =
	| 'above-plan'
	| 'on-plan'
	| 'shoulder'
	| 'flank-or-lobe'
	| 'further-lobe'
	| 'side-lobe-one-end'
	| 'both-ends-or-crossed'
	| 'near-floor'
	| 'below-floor';

export interface ShortfallBand {
	meaning: BandMeaning;
	/** Bounds in dB below plan, `fromDb` nearer to the plan. */
	fromDb: number;
	toDb: number;
}

export interface ShortfallBandInput {
	toleranceDb: number;
	/** Depth of the first side lobe of each end's dish, dB. */
	ownFirstSideLobeDb: number;
	farFirstSideLobeDb: number;
	/** Cross-polar discrimination of the two antennas together, dB. */
	crossPolarDiscriminationDb: number;
	/** Planned level minus receiver floor, dB. */
	aboveFloorDb: number;
}

/** Spread of a real first side lobe about the catalogue's value, dB. */
const LOBE_SPREAD_DB = 4;
const LEAST_BAND_DB = 1;

/**
 * The bands of the shortfall well, from the plan downward without gaps, computed from this hop's own
 * antennas and radio. Between the shoulder and a catalogue’s side lobe a level may be low on the flank, or
 * the first lobe of a small or blocked dish, which lies 12 to 16 dB down; between one side lobe and two it
 * is a further lobe, or the rise between two.
 */
export function shortfallBands(input: ShortfallBandInput): ShortfallBand[] {
	const own = input.ownFirstSideLobeDb;
	const far = input.farFirstSideLobeDb;
	const oneFrom = Math.min(own, far) - LOBE_SPREAD_DB;
	const oneTo = Math.max(own, far) + LOBE_SPREAD_DB;
	const bothFrom = Math.min(own + far - 2 * LOBE_SPREAD_DB, input.crossPolarDiscriminationDb - 4);
	const bothTo = Math.max(own + far + LOBE_SPREAD_DB, input.crossPolarDiscriminationDb + 6);
	const floor = input.aboveFloorDb;
	const bounds: [BandMeaning, number][] = [
		['on-plan', -input.toleranceDb],
		['shoulder', input.toleranceDb],
		['flank-or-lobe', Math.max(input.toleranceDb + LEAST_BAND_DB, oneFrom - 6)],
		['side-lobe-one-end', oneFrom],
		['further-lobe', oneTo],
		['both-ends-or-crossed', Math.max(oneTo, bothFrom)],
		['near-floor', Math.min(bothTo, floor - 4)],
		['below-floor', floor]
	];
	const bands: ShortfallBand[] = [];
	for (const [i, [meaning, from]] of bounds.entries()) {
		const fromDb = Math.min(from, floor);
		const toDb = Math.min(
			bounds[i + 1]?.[1] ?? floor + 6,
			i === bounds.length - 1 ? Infinity : floor
		);
		if (toDb - fromDb >= LEAST_BAND_DB) bands.push({ meaning, fromDb, toDb });
	}
	return closeGaps(bands);
}

/** Dropping bands thinner than a dB leaves gaps: the band above is drawn down to the next. */
function closeGaps(bands: readonly ShortfallBand[]): ShortfallBand[] {
	return bands.map((band, i) => ({ ...band, toDb: bands[i + 1]?.fromDb ?? band.toDb }));
}

/**
 * The band in which a shortfall lies. Above the window is `above-plan`: as suspect as too low.
 *
 * @param shortfallDb below plan, any finite
 */
export function bandOfShortfall(bands: readonly ShortfallBand[], shortfallDb: number): BandMeaning {
	if (bands.length === 0 || shortfallDb < itemAt(bands, 0).fromDb) return 'above-plan';
	return bands.find((band) => shortfallDb <= band.toDb)?.meaning ?? 'below-floor';
}
