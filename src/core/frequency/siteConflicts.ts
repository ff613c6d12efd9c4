import type { PlanFinding } from '../finding/planFinding';
import { ENDS, farEnd, type End } from '../ends';
import type { LinearPolarization } from '../propagation/rain';
import { bearingDifferenceDeg } from '../units/angle';
import { sideOf } from './subBand';

/** A carrier of another hop that stands at one of this hop's sites. */
export interface NeighbourCarrier {
	hopName: string;
	/** End of *this* hop whose site they share. */
	at: End;
	transmitGhz: number;
	receiveGhz: number;
	channelWidthMhz: number;
	polarization: LinearPolarization;
	azimuthTrueDeg: number;
}

export interface OwnCarrier {
	transmitGhz: number;
	receiveGhz: number;
	channelWidthMhz: number;
	polarization: LinearPolarization;
	azimuthTrueDeg: number;
}

/** Two frequencies share a band when this close, as a share of the frequency. */
const SAME_BAND_SHARE = 0.08;
/** Below this angle two dishes of one channel and polarization disturb each other, degrees. */
export const SMALL_ANGLE_DEG = 60;

/**
 * Conflicts of one hop with the others at its sites: a site that sends high and low in one band, and
 * the same channel and polarization at a small angle. Each says what to change.
 */
export function siteConflicts(
	own: Record<End, OwnCarrier>,
	neighbours: readonly NeighbourCarrier[],
	siteNames: Record<End, string>
): PlanFinding[] {
	return ENDS.flatMap((end) => {
		const mine = own[end];
		const found: PlanFinding[] = [];
		const at = neighbours.filter((neighbour) => neighbour.at === end);
		const sameBand = at.filter(
			(n) => Math.abs(n.transmitGhz - mine.transmitGhz) < SAME_BAND_SHARE * mine.transmitGhz
		);
		const side = sideOf(mine.transmitGhz, mine.receiveGhz);
		const opposite = sameBand.find((n) => sideOf(n.transmitGhz, n.receiveGhz) !== side);
		if (opposite) {
			found.push({
				severity: 'error',
				code: 'site-high-and-low',
				field: `ends.${end}.transmitFrequencyGhz`,
				message:
					`${siteNames[end]} sends ${side} here and ${side === 'high' ? 'low' : 'high'} on ${opposite.hopName} in the same band: ` +
					`its own transmitters would drown its receivers. Swap the pair of one hop, so that ${siteNames[end]} is all-${side} or all-${side === 'high' ? 'low' : 'high'}.`
			});
		}
		for (const n of sameBand) {
			const spacingMhz = Math.abs(n.transmitGhz - mine.transmitGhz) * 1000;
			const angle = Math.abs(bearingDifferenceDeg(n.azimuthTrueDeg, mine.azimuthTrueDeg));
			const touching = spacingMhz < (n.channelWidthMhz + mine.channelWidthMhz) / 2;
			if (touching && n.polarization === mine.polarization && angle < SMALL_ANGLE_DEG) {
				found.push({
					severity: 'error',
					code: 'same-channel-small-angle',
					field: `ends.${end}.transmitFrequencyGhz`,
					message: `At ${siteNames[end]} ${n.hopName} uses the same channel and polarization only ${angle.toFixed(0)}° away (under ${SMALL_ANGLE_DEG}°): take another channel or the other polarization, opposite end ${farEnd(end)} included.`
				});
			}
		}
		return found;
	});
}
