import { CONFIGURATION_RULES } from '../budget/configuration';
import type { HopPlanInput } from '../budget/planInput';
import type { EndElectrical, HopPlan } from '../budget/hopPlan';
import { farEnd, type End } from '../ends';
import type { LinearPolarization } from '../propagation/rain';
import { degToRad, radToDeg } from '../units/angle';
import { dbFromRatio } from '../units/decibel';
import { numberText } from '../units/text';
import { findFeedRotation, type FeedRotation, type RotationReading } from './feedRotation';
import { itemAt } from '../units/lists';

/**
 * Discrimination that two perfect antennas turned against each other by an angle still have, dB.
 *
 * @param rotationDeg −89 to 89
 * Source: 20·log10(tan δ): 1° → 35.2 dB, 5.7° → 20.0 dB.
 */
export function discriminationOfRotationDb(rotationDeg: number): number {
	return -20 * Math.log10(Math.abs(Math.tan(degToRad(rotationDeg))));
}

/**
 * Rotation that alone would leave a discrimination, degrees: the inverse of the above.
 *
 * @param discriminationDb any finite; of 0 dB it is 45°
 */
export function rotationOfDiscriminationDeg(discriminationDb: number): number {
	return radToDeg(Math.atan(10 ** (-discriminationDb / 20)));
}

/**
 * Discrimination that two antennas have together at worst: their leaks add as voltages, dB.
 *
 * @param ownDb, farDb discrimination of each, above 0
 * Source: two leaks in phase.
 */
export function combinedDiscriminationDb(ownDb: number, farDb: number): number {
	return -20 * Math.log10(10 ** (-ownDb / 20) + 10 ** (-farDb / 20));
}

/**
 * And as a rule: their leaks add as powers, dB.
 *
 * @param ownDb, farDb discrimination of each, above 0
 * Source: two leaks in quadrature.
 */
export function usualDiscriminationDb(ownDb: number, farDb: number): number {
	return -dbFromRatio(10 ** (-ownDb / 10) + 10 ** (-farDb / 10));
}

/** Margin over the modulation's signal-to-noise ratio, so that the other polarization is no fade, dB. */
const INTERFERENCE_MARGIN_DB = 6;
/** What one polarization alone asks: enough that a crossed feed would be seen, dB. */
const SINGLE_PLANE_DB = 20;

/** A frequency pair of the hop: its first, or its second. */
export type PairNumber = 1 | 2;

/** What tells the second pair in a sentence; nothing of the first. */
export const pairWords = (pair: PairNumber): string => (pair === 2 ? ', second frequency' : '');

export interface DiscriminationNeed {
	/** What is to be reached, dB. */
	neededDb: number;
	/** What the antennas give together at worst and as a rule, dB. */
	antennasDb: number;
	usualDb: number;
	/** Whether both polarizations carry traffic on one channel. */
	dual: boolean;
	/** Frequency pairs on which both polarizations carry traffic, each to be shown. */
	pairs: readonly PairNumber[];
	why: string;
	/** The antennas cannot give what is asked. */
	impossible: boolean;
}

/** What discrimination this hop must show, from its antennas, modulation and canceller. */
export function discriminationNeed(
	input: HopPlanInput,
	dish: Record<End, EndElectrical>
): DiscriminationNeed {
	const { coChannelDual: dual, secondPair } = CONFIGURATION_RULES[input.configuration.kind];
	const [own, far] = [dish.A.crossPolarDiscriminationDb, dish.B.crossPolarDiscriminationDb];
	const antennasDb = combinedDiscriminationDb(own, far);
	const usualDb = usualDiscriminationDb(own, far);
	const modulation = input.ends.A.radio.modulations.find(
		(candidate) => candidate.name === input.operatingModulation
	);
	const snrDb = modulation?.requiredSnrDb ?? 0;
	const byTraffic = snrDb + INTERFERENCE_MARGIN_DB - input.configuration.cancellerDb;
	const neededDb = dual
		? // Nothing worse than what the antennas give even at worst is accepted, canceller or not.
			Math.max(SINGLE_PLANE_DB, byTraffic, antennasDb)
		: SINGLE_PLANE_DB;
	return {
		neededDb,
		antennasDb,
		usualDb,
		dual,
		pairs: dual && secondPair ? [1, 2] : [1],
		impossible: dual && byTraffic > usualDb,
		why: dual
			? `${input.operatingModulation} needs ${numberText(byTraffic, 1)} dB with an XPIC of ${numberText(input.configuration.cancellerDb, 0)} dB; the antennas give ${numberText(antennasDb, 1)} dB at worst.`
			: 'One polarization only: enough that a crossed feed would be seen.'
	};
}

/** Levels of one look at the far end's signal on both polarizations. */
export interface DiscriminationReading extends RotationReading {
	/** End at which it was read. */
	end: End;
	/** Polarization that the far end sent. */
	sent: LinearPolarization;
	/** Frequency pair that it was read on; the first where nothing is said. */
	pair?: 2;
	/** End whose feed was turned to `feedDeg`. */
	turned: End;
}

export interface DirectionDiscrimination {
	end: End;
	sent: LinearPolarization;
	pair: PairNumber;
	discriminationDb: number | null;
	verdict: 'reached' | 'short' | 'missing';
	reason: string;
}

/** The latest reading of every direction, polarization and frequency pair that the hop must show. */
export function judgeDirections(
	need: DiscriminationNeed,
	readings: readonly DiscriminationReading[],
	plane: LinearPolarization
): DirectionDiscrimination[] {
	const planes: LinearPolarization[] = need.dual ? ['vertical', 'horizontal'] : [plane];
	const asked = need.pairs.flatMap((pair) => planes.map((sent) => ({ pair, sent })));
	return (['A', 'B'] as const).flatMap((end) =>
		asked.map(({ pair, sent }): DirectionDiscrimination => {
			const latest = readings
				.filter((r) => r.end === end && r.sent === sent && (r.pair ?? 1) === pair)
				.at(-1);
			if (!latest) {
				return {
					end,
					sent,
					pair,
					discriminationDb: null,
					verdict: 'missing',
					reason: `Send ${sent} only from ${farEnd(end)}${pair === 2 ? `${pairWords(pair)},` : ''} and read both polarizations at ${end}.`
				};
			}
			const discriminationDb = latest.coDbm - latest.crossDbm;
			const shortDb = need.neededDb - discriminationDb;
			return {
				end,
				sent,
				pair,
				discriminationDb,
				verdict: shortDb <= 0 ? 'reached' : 'short',
				reason:
					shortDb <= 0
						? `${numberText(-shortDb, 1)} dB more than needed.`
						: `${numberText(shortDb, 1)} dB too little; a rotation of ${numberText(rotationOfDiscriminationDeg(discriminationDb), 1)}° alone would do that.`
			};
		})
	);
}

export type RotationAdvice =
	| { kind: 'pointing-first'; why: string[] }
	| { kind: 'read'; feedDeg: number; why: string[] }
	| {
			kind: 'turn';
			feedDeg: number;
			byDeg: number;
			sigmaDeg: number;
			floorDb: number;
			why: string[];
	  }
	| { kind: 'stands'; why: string[] }
	| { kind: 'not-rotation'; why: string[] };

/** Turning by less than this is not worth loosening the feed, degrees. */
const STANDS_DEG = 0.15;
/** The place must be known this well, degrees, or so many readings be spent. */
const SURE_DEG = 0.12;
const MOST_READINGS = 14;
const LOOK_ASIDE_DEG = 1.2;
/**
 * The two polarizations may disagree by so much about the rotation, degrees: what sound antennas leak
 * in phase on their axis shifts their minima apart.
 */
const AGREE_DEG = 1.6;
/** What remains at the best turn may be worse than the antennas' specification by this, dB. */
const FLOOR_SLACK_DB = 4;
/** Co-polar level this far under the plan says that the dishes are not pointed, dB. */
const POINTED_WITHIN_DB = 2.5;

/**
 * What to do with one end's feed. Pointing is told apart from rotation by three things: the co-polar
 * level, which rotation hardly changes; what remains at the best turn; and the two polarizations,
 * whose minima a rotation shifts alike while a cross-polar lobe shifts them apart.
 */
export function adviseRotation(
	plan: Pick<HopPlan, 'received'>,
	need: DiscriminationNeed,
	readings: readonly DiscriminationReading[],
	state: { end: End; pointed: boolean; feedDeg: number }
): RotationAdvice {
	// One feed serves both frequencies: it is set by the first, whose levels compare with each other.
	const first = readings.filter(({ pair }) => pair !== 2);
	const own = first.filter((reading) => reading.turned === state.end);
	const latest = own.at(-1) ?? first.at(-1);
	const shortDb = latest ? plan.received[latest.end].plannedLevelDbm - latest.coDbm : 0;
	if (!state.pointed || shortDb > POINTED_WITHIN_DB) {
		return {
			kind: 'pointing-first',
			why: [
				state.pointed
					? `The co-polar level is ${numberText(shortDb, 1)} dB below the plan. Turning a feed by 5° costs 0.03 dB: this is pointing, or a loss.`
					: 'Both dishes must stand on their main lobe first: beside it the cross-polar pattern has lobes that look like a turned feed.'
			]
		};
	}
	const fits = (['vertical', 'horizontal'] as const)
		.map((sent) => {
			const seen = own.filter((reading) => reading.sent === sent);
			return { sent, seen, fit: fitOf(seen, plan) };
		})
		.filter(({ seen }) => seen.length > 0);
	const found = fits.flatMap(({ fit, sent }) => (fit.kind === 'found' ? [{ ...fit, sent }] : []));
	if (found.length < fits.length || found.length === 0) return readMore(fits, state.feedDeg);
	const feedDeg = found.reduce((sum, fit) => sum + fit.feedDeg, 0) / found.length;
	const apartDeg =
		found.length === 2 ? Math.abs(itemAt(found, 0).feedDeg - itemAt(found, 1).feedDeg) : 0;
	const floorDb = Math.min(...found.map((fit) => fit.floorDb));
	const sigmaDeg = Math.hypot(...found.map((fit) => fit.sigmaDeg)) / found.length;
	if (apartDeg > AGREE_DEG + 3 * sigmaDeg) {
		return {
			kind: 'not-rotation',
			why: [
				`The two polarizations have their minima ${numberText(apartDeg, 1)}° apart. A turned feed shifts both alike: look at the pointing again, then at the orthomode transducer.`
			]
		};
	}
	if (floorDb < need.antennasDb - FLOOR_SLACK_DB) {
		return {
			kind: 'not-rotation',
			why: [
				`No turn gives more than ${numberText(floorDb, 1)} dB, the antennas promise ${numberText(need.antennasDb, 1)} dB: a cross-polar lobe, water, or a part of the wrong polarization.`
			]
		};
	}
	const byDeg = feedDeg - state.feedDeg;
	if (sigmaDeg > 3 * SURE_DEG && own.length >= MOST_READINGS) {
		return {
			kind: 'not-rotation',
			why: [
				`After ${own.length} readings the least signal is still known only to ${numberText(sigmaDeg, 1)}°: something else makes it, most often the pointing.`
			]
		};
	}
	if (sigmaDeg > SURE_DEG && own.length < MOST_READINGS) {
		// A look from the side that was looked from less pins the middle down.
		const middle = own.reduce((sum, reading) => sum + reading.feedDeg, 0) / own.length;
		const lookDeg = feedDeg + (middle > feedDeg ? -LOOK_ASIDE_DEG : LOOK_ASIDE_DEG);
		return {
			kind: 'read',
			feedDeg: lookDeg,
			why: [
				`About ${numberText(feedDeg, 1, true)}°, to ${numberText(sigmaDeg, 1)}°: a look at ${numberText(lookDeg, 1, true)}° makes it sure.`
			]
		};
	}
	if (Math.abs(byDeg) <= Math.max(STANDS_DEG, sigmaDeg)) {
		return {
			kind: 'stands',
			why: [
				`Least cross-polar signal at ${numberText(feedDeg, 1, true)}°, the feed stands at ${numberText(state.feedDeg, 1, true)}°: leave it.`
			]
		};
	}
	return {
		kind: 'turn',
		feedDeg,
		byDeg,
		sigmaDeg,
		floorDb,
		why: [
			`Least cross-polar signal at ${numberText(feedDeg, 1, true)}° ± ${numberText(sigmaDeg, 1)}°; there about ${numberText(Math.min(floorDb, 60), 0)} dB remain.`,
			'Turn it, tighten, and read once more: the weak signal is the one that tells.'
		]
	};
}

function fitOf(
	seen: readonly DiscriminationReading[],
	plan: Pick<HopPlan, 'received'>
): FeedRotation {
	const [first] = seen;
	return first
		? findFeedRotation(seen, plan.received[first.end].floorDbm)
		: { kind: 'nothing-yet' };
}

function readMore(
	fits: readonly { sent: LinearPolarization; fit: FeedRotation }[],
	feedDeg: number
): RotationAdvice {
	for (const { fit, sent } of fits) {
		if (fit.kind === 'one-reading') {
			return {
				kind: 'read',
				feedDeg: fit.tryFeedDeg,
				why: [
					`With ${sent} sent it is ${numberText(fit.byDeg, 1)}° off at most, either way: turn the feed to ${numberText(fit.tryFeedDeg, 1, true)}° and read again.`
				]
			};
		}
		if (fit.kind === 'two-places') {
			return {
				kind: 'read',
				feedDeg: fit.tryFeedDeg,
				why: [
					`${numberText(fit.feedDeg[0], 1, true)}° or ${numberText(fit.feedDeg[1], 1, true)}°: a reading at the first tells which.`
				]
			};
		}
	}
	return {
		kind: 'read',
		feedDeg,
		why: ['Send one polarization only and read both at this end, as the feed stands.']
	};
}
