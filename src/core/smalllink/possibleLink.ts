import type { TerminalPart } from '../catalogue/parts';
import { inverseGeodesic, type GeoPoint } from '../geodesy/geodesic';
import { antennaTiltDeg, STANDARD_K_FACTOR } from '../geodesy/tilt';
import { amslOf, type LinkConditions } from '../hub/hubInput';
import { marginsOf, modulationInUse, rainOf, type SteeredMargin } from '../hub/terminalLink';
import { requiredHeightAtA, requiredHeightAtB } from '../path/antennaHeights';
import { judgeClearance, type ClearanceCheck } from '../path/clearanceSchool';
import { obstructionLoss } from '../path/obstructionLoss';
import type { Obstacle } from '../path/pathClearance';
import type { TerrainProfile } from '../path/samplePath';
import { freeSpaceLossDb } from '../propagation/freeSpace';
import { gasAttenuation } from '../propagation/gas';
import type { RainOutage } from '../propagation/rainOutage';
import { itemAt } from '../units/lists';

/** One of the two places. */
export interface LinkPlace extends GeoPoint {
	groundAmslM: number;
	heightAglM: number;
}

/** What is asked: two places, the same unit at both, and what stands between. */
export interface LinkQuestion extends LinkConditions {
	places: { A: LinkPlace; B: LinkPlace };
	part: TerminalPart;
	/** Middle of the channel, GHz; both directions share it. */
	frequencyGhz: number;
	profile: TerrainProfile | null;
	/** From place A on. */
	obstacles: readonly Obstacle[];
	/** Height of trees that stand all the way, m; 0 of none. */
	treesM: number;
}

/** Why it is not possible, or not for certain. */
export type LinkDoubt =
	| { code: 'no-ground' }
	| { code: 'no-limit' }
	/** Something stands in the line itself, so many metres into it, at that distance from A. */
	| { code: 'in-the-line'; distanceM: number; intoM: number; what: string | null }
	/** The line is free and the zone about it is not. */
	| { code: 'in-the-zone'; distanceM: number; ratio: number; what: string | null }
	| { code: 'trees' }
	| { code: 'too-weak'; missingDb: number }
	| { code: 'rain'; percent: number };

export interface LinkAnswer {
	/** `yes`; `perhaps`: it may work and is not to be promised; `no`. */
	verdict: 'yes' | 'perhaps' | 'no';
	doubts: LinkDoubt[];
	pathKm: number;
	bearingDeg: { A: number; B: number };
	tiltDeg: { A: number; B: number };
	/** Path at the median k with 0.6 of the first Fresnel zone wanted; null without the ground. */
	check: ClearanceCheck | null;
	/**
	 * What clears the way: so much higher at both places, or one of them alone at that height above ground, m; null
	 * where nothing is missing, or nothing known.
	 */
	needed: { bothHigherM: number; aloneAglM: { A: number; B: number } } | null;
	obstructionDb: number;
	margins: SteeredMargin[];
	/** The modulation with its reserve in clear air; null of none. */
	used: SteeredMargin | null;
	rateMbitS: number;
	rain: RainOutage | null;
}

/** Trees that stand all the way begin and end this far from the places, m. */
const CLEARING_M = 20;
/** Share of the first Fresnel zone that is to be free. */
const WANTED_RATIO = 0.6;

/**
 * Whether a small link between two places is possible: line of sight, the zone about it, level, rate and rain.
 *
 * @throws OutOfRangeError outside the ranges of the laws it asks
 * Source: ITU-R P.525, P.526-15, P.530-18, P.676-13 (reference air), at k = 4/3; 0.6 of F1 is common practice.
 */
export function possibleLink(question: LinkQuestion): LinkAnswer {
	const { places, part, frequencyGhz, profile } = question;
	const line = inverseGeodesic(places.A, places.B);
	const pathM = Math.max(1, line.lengthM);
	const pathKm = pathM / 1000;
	const amsl = { A: amslOf(places.A), B: amslOf(places.B) };
	const verdict = profile
		? judgeClearance({
				profile,
				obstacles: [...question.obstacles, ...treesAllTheWay(question.treesM, pathM)],
				antennaAmslM: amsl,
				frequencyGhz,
				rules: [
					{ kFactor: STANDARD_K_FACTOR, wantedRatio: WANTED_RATIO, why: '0.6 F1 at the median k' }
				],
				school: 'practice'
			})
		: null;
	const check = verdict ? itemAt(verdict.checks, 0) : null;
	const obstructionDb = check ? obstructionLoss(check.clearance, frequencyGhz).lossDb : 0;
	const lossDb =
		freeSpaceLossDb(frequencyGhz, pathKm) +
		gasAttenuation(frequencyGhz).totalDbKm * pathKm +
		obstructionDb;
	const margins = marginsOf(question, part, part, lossDb, 0);
	const used = modulationInUse(margins, question.reserveDb) ?? null;
	const rain = used ? rainOf(question, { frequencyGhz }, { pathKm }, margins) : null;
	const doubts = doubtsOf(question, check, margins, used, rain);
	return {
		verdict: verdictOf(doubts),
		doubts,
		pathKm,
		bearingDeg: { A: line.azimuthAtFirstDeg, B: line.azimuthAtSecondDeg },
		tiltDeg: {
			A: antennaTiltDeg(amsl.A, amsl.B, pathM),
			B: antennaTiltDeg(amsl.B, amsl.A, pathM)
		},
		check,
		needed:
			verdict && check && !check.holds
				? {
						bothHigherM: check.missingM,
						aloneAglM: {
							A: requiredHeightAtA(verdict, amsl.B) - places.A.groundAmslM,
							B: requiredHeightAtB(verdict, amsl.A) - places.B.groundAmslM
						}
					}
				: null,
		obstructionDb,
		margins,
		used,
		rateMbitS: used ? used.modulation.mbitSPerMhz * question.channelWidthMhz : 0,
		rain
	};
}

/** The trees of a question as they stand on the way, for whoever keeps them with the plan. */
export const standingTrees = ({ treesM }: LinkQuestion, { pathKm }: LinkAnswer): Obstacle[] =>
	treesAllTheWay(treesM, pathKm * 1000);

function treesAllTheWay(heightM: number, pathM: number): Obstacle[] {
	if (heightM <= 0 || pathM <= 2 * CLEARING_M) return [];
	const lengthM = pathM - 2 * CLEARING_M;
	// An obstacle is placed by its middle.
	return [{ name: 'trees', kind: 'trees', distanceKm: pathM / 2000, lengthM, heightM }];
}

function doubtsOf(
	question: LinkQuestion,
	check: ClearanceCheck | null,
	margins: readonly SteeredMargin[],
	used: SteeredMargin | null,
	rain: RainOutage | null
): LinkDoubt[] {
	const doubts: LinkDoubt[] = [];
	const worst = check?.clearance.worst;
	if (!check) doubts.push({ code: 'no-ground' });
	else if (worst && worst.clearanceM < 0) {
		const { distanceM, clearanceM, obstacle } = worst;
		doubts.push({ code: 'in-the-line', distanceM, intoM: -clearanceM, what: obstacle });
	} else if (worst && !check.holds) {
		const { distanceM, ratio, obstacle } = worst;
		doubts.push({ code: 'in-the-zone', distanceM, ratio, what: obstacle });
	}
	const trees = question.treesM > 0 || question.obstacles.some(({ kind }) => kind === 'trees');
	if (check && !check.holds && trees) doubts.push({ code: 'trees' });
	if (!used) {
		const missingDb = question.reserveDb - itemAt(margins, 0).marginDb;
		doubts.push({ code: 'too-weak', missingDb });
	}
	if (rain && rain.range !== 'less' && rain.percent > 100 - question.targetPercent) {
		doubts.push({ code: 'rain', percent: rain.percent });
	}
	if (question.eirpLimitDbm === null) doubts.push({ code: 'no-limit' });
	return doubts;
}

/** Nothing that stops it is a yes; what nobody knows, or what the year decides, is none. */
function verdictOf(doubts: readonly LinkDoubt[]): LinkAnswer['verdict'] {
	const codes = doubts.map(({ code }) => code);
	if (codes.includes('too-weak') || codes.includes('in-the-line')) return 'no';
	return doubts.length > 0 ? 'perhaps' : 'yes';
}
