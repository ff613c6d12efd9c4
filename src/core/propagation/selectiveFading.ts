import { requireInRange } from '../units/errors';

/** What a radio states of one modulation at one channel width: the notch that it just still bears. */
export interface Signature {
	/** Width of the signature, MHz. */
	widthMhz: number;
	/** Depth of the notch at the limit, minimum-phase fades, dB. */
	minimumPhaseDb: number;
	/** The same for non-minimum-phase fades, dB. */
	nonMinimumPhaseDb: number;
	/** Delay of the echo with which it was measured, ns. */
	delayNs: number;
}

/**
 * Mean delay of the echoes of a path, ns: τm = 0.7·(d/50)^1.3.
 *
 * @param pathKm above 0 to 400
 * @throws OutOfRangeError outside this range
 * Source: ITU-R P.530-17, §5.1, equation of the mean time delay.
 */
export function meanEchoDelayNs(pathKm: number): number {
	requireInRange('pathKm', pathKm, 0.001, 400);
	return 0.7 * (pathKm / 50) ** 1.3;
}

/**
 * Share of the worst month in which multipath is active, 0 to 1: η = 1 − e^(−0.2·P0^0.75).
 *
 * @param occurrencePercent p0, 0 or more
 * @throws OutOfRangeError outside this range
 * Source: ITU-R P.530-17, §5.1, multipath activity parameter, P0 = p0/100.
 */
export function multipathActivity(occurrencePercent: number): number {
	requireInRange('occurrencePercent', occurrencePercent, 0, 1e9);
	return 1 - Math.exp(-0.2 * (occurrencePercent / 100) ** 0.75);
}

/**
 * Outage by distortion in the channel, percent of the worst month:
 * Ps = 2.15·η·(W·10^(−B_M/20)·τm²/τr + W·10^(−B_NM/20)·τm²/τr), W in GHz, τ in ns.
 *
 * @param occurrencePercent p0, 0 or more
 * @param pathKm above 0 to 400
 * @throws OutOfRangeError outside these ranges, or for a delay of the signature that is not above 0
 * Source: ITU-R P.530-17, §5.1, method of the signature.
 */
export function selectiveOutagePercent(
	signature: Signature,
	occurrencePercent: number,
	pathKm: number
): number {
	requireInRange('delayNs', signature.delayNs, 0.1, 100);
	requireInRange('widthMhz', signature.widthMhz, 0, 5000);
	const echoes = (meanEchoDelayNs(pathKm) ** 2 / signature.delayNs) * (signature.widthMhz / 1000);
	const notches =
		10 ** (-signature.minimumPhaseDb / 20) + 10 ** (-signature.nonMinimumPhaseDb / 20);
	return Math.min(100, 100 * 2.15 * multipathActivity(occurrencePercent) * echoes * notches);
}

/** Outage of a digital system in the worst month, percent, and what diversity leaves of it. */
export interface DigitalOutage {
	flatPercent: number;
	selectivePercent: number;
	totalPercent: number;
}

/**
 * Outage of a digital system with diversity in the worst month, percent. The improvement of flat fading
 * tells how far the two signals are correlated, and with that what is left of the distortion.
 *
 * Flat: Pdns = Pns/I. Selective: Pds = Ps²/(η·(1 − ks²)). Together: (Pds^0.75 + Pdns^0.75)^(4/3).
 *
 * @param flatPercent Pns without diversity, worst month, 0 to 100
 * @param selectivePercent Ps without diversity, worst month, 0 to 100
 * @param improvement I of flat fading, 1 or more
 * @param occurrencePercent p0, 0 or more
 * @throws OutOfRangeError outside these ranges
 * Source: ITU-R P.530-17, §6.2, outage of digital systems with diversity.
 */
export function outageWithDiversity(
	flatPercent: number,
	selectivePercent: number,
	improvement: number,
	occurrencePercent: number
): DigitalOutage {
	requireInRange('flatPercent', flatPercent, 0, 100);
	requireInRange('selectivePercent', selectivePercent, 0, 100);
	requireInRange('improvement', improvement, 1, 1e12);
	const activity = multipathActivity(occurrencePercent);
	const flat = flatPercent / 100 / improvement;
	const alone = selectivePercent / 100;
	let selective = 0;
	if (alone > 0 && activity > 0) {
		const apart = Math.min(1, (improvement * (flatPercent / 100)) / activity);
		const free = 1 - selectiveCorrelation(relativeAmplitude(1 - apart));
		// What two receivers leave is never more than what one has.
		selective = Math.min(alone, alone ** 2 / (activity * Math.max(1e-6, free)));
	}
	return {
		flatPercent: 100 * flat,
		selectivePercent: 100 * selective,
		totalPercent: 100 * Math.min(1, (selective ** 0.75 + flat ** 0.75) ** (4 / 3))
	};
}

/** Correlation of the relative amplitudes r_w from that of flat fading, k². */
function relativeAmplitude(flatCorrelation: number): number {
	return flatCorrelation <= 0.26
		? 1 - 0.9746 * (1 - flatCorrelation) ** 2.17
		: 1 - 0.6921 * (1 - flatCorrelation) ** 1.034;
}

/** Selective correlation k_s² from that of the relative amplitudes. */
function selectiveCorrelation(amplitude: number): number {
	if (amplitude <= 0.5) return 0.8238;
	const rest = 1 - amplitude;
	if (rest <= 0) return 1;
	return amplitude <= 0.9628
		? 1 - 0.195 * rest ** (0.109 - 0.13 * Math.log10(rest))
		: 1 - 0.3957 * rest ** 0.5136;
}
