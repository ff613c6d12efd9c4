import { offAxisLossDb } from '../antenna/envelope';
import { inverseGeodesic } from '../geodesy/geodesic';
import { antennaTiltDeg } from '../geodesy/tilt';
import { freeSpaceLossDb } from '../propagation/freeSpace';
import { thresholdRiseDb } from '../radio/thresholdRise';
import { bearingDifferenceDeg, degToRad, radToDeg } from '../units/angle';
import { sumOfLevelsDb } from '../units/decibel';
import { requireInRange } from '../units/errors';
import type { Station } from './stations';

/** What one sender brings to one receiver. */
export interface Contribution {
	from: Station;
	at: Station;
	distanceKm: number;
	/** Off the axes of the dish that hears and of the one that sends, degrees. */
	offAxisHereDeg: number;
	offAxisThereDeg: number;
	/** Whether the polarizations are crossed. */
	crossed: boolean;
	/** How the channels lie to each other. */
	channels: 'same' | 'adjacent' | 'second';
	/** What the ground takes beyond free space, dB; null while nobody has looked. */
	terrainDb: number | null;
	/** In the receiver’s channel, dBm. */
	levelDbm: number;
}

/** All that a receiver hears of others. */
export interface ReceiverInterference {
	at: Station;
	/** Strongest first. */
	contributions: Contribution[];
	/** Sum, dBm; −Infinity of none. */
	levelDbm: number;
	/** Own signal over the sum, clear air, dB; Infinity of none. */
	carrierToInterferenceDb: number;
	/** By how much every threshold rises, dB. */
	degradationDb: number;
}

/** Nearer than this over the ground two stations stand at one site, where masts and filters decide, m. */
const SAME_SITE_M = 100;
/** Bending of the ray that is reckoned with between strangers. */
const K_FACTOR = 4 / 3;
/** Discrimination of a dish falls from its full value at half a beamwidth off to none at five. */
const CROSS_POLAR_BEAMWIDTHS = [0.5, 5] as const;
/** Weaker than the floor by this much, a sender is left out: it raises a threshold by less than 0.02 dB. */
const NEGLIGIBLE_DB = 25;

/**
 * Share of a sender’s power that falls into a receiver’s channel, both spread evenly over their widths.
 *
 * @param senderMhz, receiverMhz middles of the channels, MHz
 * @param senderWidthMhz, receiverWidthMhz above 0
 * @throws OutOfRangeError for a width that is not above 0
 */
export function overlapShare(
	senderMhz: number,
	senderWidthMhz: number,
	receiverMhz: number,
	receiverWidthMhz: number
): number {
	requireInRange('senderWidthMhz', senderWidthMhz, 1e-6, 1e6);
	requireInRange('receiverWidthMhz', receiverWidthMhz, 1e-6, 1e6);
	const from = Math.max(senderMhz - senderWidthMhz / 2, receiverMhz - receiverWidthMhz / 2);
	const to = Math.min(senderMhz + senderWidthMhz / 2, receiverMhz + receiverWidthMhz / 2);
	// A touch of two edges that are the same number but for rounding is none.
	return to - from > 1e-6 ? (to - from) / senderWidthMhz : 0;
}

/** What of a sender’s power a receiver cannot keep off, dB; null where it is kept off, or nothing is stated. */
function channelLossDb(
	sender: Station,
	at: Station
): { channels: Contribution['channels']; lossDb: number } | null {
	if (!sender.sends) return null;
	const [senderMhz, ownMhz] = [sender.sends.frequencyGhz * 1000, at.hears.frequencyGhz * 1000];
	const share = overlapShare(senderMhz, sender.channelWidthMhz, ownMhz, at.channelWidthMhz);
	if (share > 0) return { channels: 'same', lossDb: -10 * Math.log10(share) };
	const steps = Math.abs(senderMhz - ownMhz) / ((sender.channelWidthMhz + at.channelWidthMhz) / 2);
	const { adjacentChannelDb, secondChannelDb } = at.hears;
	if (steps < 1.5) {
		return adjacentChannelDb === null ? null : { channels: 'adjacent', lossDb: adjacentChannelDb };
	}
	if (steps < 2.5 && secondChannelDb !== null)
		return { channels: 'second', lossDb: secondChannelDb };
	return null;
}

/** Angle between where a station looks and where another stands, degrees. */
function offAxisDeg(from: Station, to: Station, azimuthDeg: number, lengthM: number): number {
	const elevation = degToRad(
		antennaTiltDeg(from.antennaAmslM, to.antennaAmslM, Math.max(1, lengthM), K_FACTOR)
	);
	const tilt = degToRad(from.tiltDeg);
	const across = degToRad(bearingDifferenceDeg(from.azimuthTrueDeg, azimuthDeg));
	const cosine =
		Math.sin(tilt) * Math.sin(elevation) + Math.cos(tilt) * Math.cos(elevation) * Math.cos(across);
	return radToDeg(Math.acos(Math.min(1, Math.max(-1, cosine))));
}

function crossPolarAt({ crossPolarDb, beamwidthDeg }: Station, deg: number): number {
	const [full, none] = CROSS_POLAR_BEAMWIDTHS;
	const gone = (deg / beamwidthDeg - full) / (none - full);
	return crossPolarDb * (1 - Math.min(1, Math.max(0, gone)));
}

/**
 * What a sender brings to a receiver over free space, by the peak envelopes of both dishes; null where it is
 * of the same hop or site, keeps to other channels, or is too weak to count.
 *
 * @throws OutOfRangeError for figures that no dish has
 * Source: ITU-R P.525 for the distance, ITU-R F.699-7 for the dishes.
 */
export function contributionOf(sender: Station, at: Station): Contribution | null {
	if (sender.hopId === at.hopId || !sender.sends) return null;
	const channel = channelLossDb(sender, at);
	if (!channel) return null;
	const line = inverseGeodesic(at.position, sender.position);
	if (line.lengthM < SAME_SITE_M) return null;
	const distanceKm = Math.hypot(line.lengthM, at.antennaAmslM - sender.antennaAmslM) / 1000;
	const offAxisHereDeg = offAxisDeg(at, sender, line.azimuthAtFirstDeg, line.lengthM);
	const offAxisThereDeg = offAxisDeg(sender, at, line.azimuthAtSecondDeg, line.lengthM);
	const crossed = sender.polarization !== at.polarization;
	const { frequencyGhz } = sender.sends;
	const kept = [crossPolarAt(sender, offAxisThereDeg), crossPolarAt(at, offAxisHereDeg)];
	// What either dish turns over arrives, and adds up as voltages at the worst.
	const turned = kept.reduce((sum, db) => sum + 10 ** (-db / 20), 0);
	const crossPolarDb = crossed ? Math.max(0, -20 * Math.log10(turned)) : 0;
	const levelDbm =
		sender.sends.eirpDbm -
		offAxisLossDb(sender.sends.gainDbi, sender.diameterM, frequencyGhz, offAxisThereDeg) -
		freeSpaceLossDb(frequencyGhz, distanceKm) +
		at.hears.gainDbi -
		offAxisLossDb(at.hears.gainDbi, at.diameterM, frequencyGhz, offAxisHereDeg) -
		at.hears.lossDb -
		crossPolarDb -
		channel.lossDb;
	if (levelDbm < at.hears.floorDbm - NEGLIGIBLE_DB) return null;
	return {
		...{ from: sender, at, distanceKm, offAxisHereDeg, offAxisThereDeg, crossed },
		...{ channels: channel.channels, terrainDb: null, levelDbm }
	};
}

/** What a receiver hears, from what each sender brings to it. */
export function sumAt(at: Station, contributions: readonly Contribution[]): ReceiverInterference {
	const levelDbm = contributions.length
		? sumOfLevelsDb(contributions.map((one) => one.levelDbm))
		: -Infinity;
	return {
		at,
		contributions: contributions.toSorted((p, q) => q.levelDbm - p.levelDbm),
		levelDbm,
		carrierToInterferenceDb: at.hears.levelDbm - levelDbm,
		degradationDb: thresholdRiseDb(levelDbm, at.hears.floorDbm)
	};
}

/** What each of some receivers hears of some senders; those that hear nothing are among them. */
export function interferenceAt(
	receivers: readonly Station[],
	senders: readonly Station[]
): ReceiverInterference[] {
	return receivers.map((at) =>
		sumAt(
			at,
			senders.flatMap((sender) => contributionOf(sender, at) ?? [])
		)
	);
}

/**
 * The same with what the ground takes from a contribution.
 *
 * @param terrainDb loss beyond free space, 0 or more
 */
export function withTerrain(contribution: Contribution, terrainDb: number): Contribution {
	return { ...contribution, terrainDb, levelDbm: contribution.levelDbm - terrainDb };
}
