import { halfPowerU, taperedApertureField } from '../antenna/taperedAperture';
import { RAD_PER_DEG } from '../units/constants';
import { wavelengthM } from '../units/wavelength';
import { itemAt } from '../units/lists';

/** One guess at what the dish's pattern may be: how strongly tapered, blocked, and how wide. */
export interface PatternGuess {
	/** Edge over centre amplitude of the illumination. */
	pedestal: number;
	/** Field share lost to blockage by the feed: raises odd side lobes, lowers even ones. */
	blockage: number;
	/** Real width over nominal width. */
	widthFactor: number;
}

/** Tabulated relative gain of a pattern guess against the angle off axis. */
export interface RadialPattern {
	guess: PatternGuess;
	/** First null, degrees off axis. */
	firstNullDeg: number;
	/** Gain relative to the axis as a power ratio, at a distance off axis in degrees. */
	gainRatio(offAxisDeg: number): number;
	/** Absolute slope of the gain, dB per degree. */
	slopeDbPerDeg(offAxisDeg: number): number;
	/** The same as tables over the angle off axis, for who reads them millions of times. */
	table: RadialTable;
}

/** Gain in dB and slope in dB per degree at index = angle · perDeg, the last value beyond the end. */
export interface RadialTable {
	gainDb: Float64Array;
	slopeDbPerDeg: Float64Array;
	perDeg: number;
}

const TABLE_STEP_U = 0.05;
const TABLE_END_U = 60;
const NULL_FILL = 10 ** (-48 / 10);

interface Table {
	gainRatio: Float64Array;
	gainDb: Float64Array;
	slopeDbPerU: Float64Array;
	firstNullU: number;
}

const tables = new Map<string, Table>();

function tableFor(pedestal: number, blockage: number): Table {
	const key = `${pedestal}/${blockage}`;
	const known = tables.get(key);
	if (known) return known;
	const count = Math.round(TABLE_END_U / TABLE_STEP_U) + 1;
	const gainDb = new Float64Array(count);
	const gainRatio = new Float64Array(count);
	let firstNullU = Number.NaN;
	for (let i = 0; i < count; i++) {
		const field = (taperedApertureField(i * TABLE_STEP_U, pedestal) - blockage) / (1 - blockage);
		gainRatio[i] = field * field + NULL_FILL;
		gainDb[i] = 10 * Math.log10(itemAt(gainRatio, i));
		if (Number.isNaN(firstNullU) && field <= 0) firstNullU = i * TABLE_STEP_U;
	}
	const slopeDbPerU = gainDb.map((_, i) => {
		const before = itemAt(gainDb, Math.max(0, i - 1));
		const after = itemAt(gainDb, Math.min(count - 1, i + 1));
		return Math.abs(after - before) / (2 * TABLE_STEP_U);
	});
	const table = { gainRatio, gainDb, slopeDbPerU, firstNullU };
	tables.set(key, table);
	return table;
}

/**
 * The pattern of a dish under one guess.
 *
 * @param frequencyGhz 0.1 to 1000
 * @param diameterM of the reflector
 * @param beamwidthDeg half-power beamwidth where it is known from the catalogue; without it the
 *   width follows from diameter and wavelength alone
 */
export function makeRadialPattern(
	guess: PatternGuess,
	frequencyGhz: number,
	diameterM: number,
	beamwidthDeg?: number
): RadialPattern {
	const table = tableFor(guess.pedestal, guess.blockage);
	const apertureUPerDeg = ((Math.PI * diameterM) / wavelengthM(frequencyGhz)) * RAD_PER_DEG;
	const nominalUPerDeg =
		beamwidthDeg === undefined ? apertureUPerDeg : (2 * halfPowerU(guess.pedestal)) / beamwidthDeg;
	const uPerDeg = nominalUPerDeg / guess.widthFactor;
	const last = table.gainRatio.length - 1;
	const perDeg = uPerDeg / TABLE_STEP_U;
	return {
		guess,
		firstNullDeg: table.firstNullU / uPerDeg,
		gainRatio(offAxisDeg) {
			const at = offAxisDeg * perDeg;
			const i = Math.floor(at);
			if (i >= last) return itemAt(table.gainRatio, last);
			const low = itemAt(table.gainRatio, i);
			return low + (at - i) * (itemAt(table.gainRatio, i + 1) - low);
		},
		slopeDbPerDeg(offAxisDeg) {
			return itemAt(table.slopeDbPerU, Math.min(last, Math.round(offAxisDeg * perDeg))) * uPerDeg;
		},
		table: {
			gainDb: table.gainDb,
			slopeDbPerDeg: table.slopeDbPerU.map((slope) => slope * uPerDeg),
			perDeg
		}
	};
}
