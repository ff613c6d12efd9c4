import type { RadioPart, SubBand } from '../catalogue/parts';

/** Which half of the pair an end sends in. */
export type Side = 'low' | 'high';

export interface SubBandUnit {
	/** As on the label, such as `1L`. */
	unit: string;
	index: number;
	side: Side;
	transmitGhz: readonly [number, number];
	receiveGhz: readonly [number, number];
}

/** Every unit that a radio is built in. */
export function subBandUnits(radio: RadioPart): SubBandUnit[] {
	return radio.subBands.flatMap((band: SubBand) => [
		{
			unit: `${band.index}L`,
			index: band.index,
			side: 'low' as const,
			transmitGhz: band.lowGhz,
			receiveGhz: band.highGhz
		},
		{
			unit: `${band.index}H`,
			index: band.index,
			side: 'high' as const,
			transmitGhz: band.highGhz,
			receiveGhz: band.lowGhz
		}
	]);
}

/** A unit of a radio by its name, such as `1L`; undefined when it has none such. */
export function findSubBandUnit(radio: RadioPart, unit: string): SubBandUnit | undefined {
	return subBandUnits(radio).find((candidate) => candidate.unit === unit);
}

/**
 * The unit whose halves hold a channel sent and received, or undefined when none does.
 *
 * @param transmitGhz, receiveGhz centres of the channel each way
 * @param channelWidthMhz above 0
 */
export function unitForPair(
	radio: RadioPart,
	transmitGhz: number,
	receiveGhz: number,
	channelWidthMhz: number
): SubBandUnit | undefined {
	return subBandUnits(radio).find(
		(unit) =>
			holdsChannel(unit.transmitGhz, transmitGhz, channelWidthMhz) &&
			holdsChannel(unit.receiveGhz, receiveGhz, channelWidthMhz)
	);
}

/**
 * Whether a whole channel lies inside a sub-band; a hertz of rounding is forgiven.
 *
 * @param centreGhz of the channel
 * @param channelWidthMhz above 0
 */
export function holdsChannel(
	[from, to]: readonly [number, number],
	centreGhz: number,
	channelWidthMhz: number
): boolean {
	const half = channelWidthMhz / 2000;
	return centreGhz - half >= from - 1e-9 && centreGhz + half <= to + 1e-9;
}

/**
 * Which half an end sends in, from the two frequencies of the pair.
 *
 * @param transmitGhz, receiveGhz centres of the channel each way, not alike
 */
export function sideOf(transmitGhz: number, receiveGhz: number): Side {
	return transmitGhz > receiveGhz ? 'high' : 'low';
}

/** A unit's name taken apart, such as `2H`; null when it is none. */
export function parseSubBandUnit(unit: string): { index: number; side: Side } | null {
	const match = /^(\d{1,2})([LH])$/.exec(unit);
	return match ? { index: Number(match[1]), side: match[2] === 'L' ? 'low' : 'high' } : null;
}
