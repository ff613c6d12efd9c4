import type { Adjuster } from '../catalogue/parts';
import { ENDS, farEnd, type Axis, type End, type PerEnd } from '../ends';
import { makeLevelCurve, type LevelCurve, type LevelCurvePoint } from '../radio/levelCurve';
import { adjusterAngleDeg, adjusterTurns } from '../sweep/adjusterScale';
import { sumOfLevelsDb } from '../units/decibel';
import type { Cause } from '../diagnose/causes/keys';
import {
	commonLossDb,
	crossPolarGainDb,
	sentLevelDbm,
	beginsOnSideLobe,
	isAtWork,
	shownLevelDbm,
	WIDER_BEAM,
	type FaultsAtWork
} from './faults';
import { CENTRED, turnNut, type AdjusterState } from './mechanics';
import { between, makeRandomStream, normalDeviate } from './random';
import type { LinearPolarization } from '../propagation/rain';
import { makeSimulatedFeeds } from './simulatedFeeds';
import { makeSimulatedDish, type SimulatedDish } from './simulatedDish';

/** What the simulation needs to know of one end; all of it stands in the plan. */
export interface SimulatedEndInput {
	/** Level this end's radio would read with both ends on axis, dBm. */
	alignedLevelDbm: number;
	floorDbm: number;
	beamwidthDeg: number;
	maxInputDbm: number;
	levelCurve: readonly LevelCurvePoint[];
	meterResolutionV: number;
	/** How well the first heading is known, one sigma, degrees. */
	firstAimSigmaDeg: Record<Axis, number>;
	/** Discrimination of this dish on its axis, dB. */
	crossPolarDiscriminationDb: number;
	azimuth: Adjuster;
	tilt: Adjuster;
	/** By how much the arms of its coupling differ, dB; 0 without. */
	armDifferenceDb: number;
	/** What the far end hears less where this end's indoor cables are crossed, dB. */
	crossedCablesLossDb: number;
	/** Where this dish is one of another simulated hop already: the same dish, standing off in the same way. */
	sameAs?: { dishSeed: number; boresightDeg: Record<Axis, number> };
}

export interface SimulatedHopInput {
	seed: number;
	ends: PerEnd<SimulatedEndInput>;
	/** What is wrong with the hop besides its pointing. */
	faults?: FaultsAtWork;
}

export interface EndPosition extends Record<Axis, AdjusterState> {
	/** How far the whole mount was turned on its pipe, degrees; right is positive. */
	mountDeg: number;
	/** Turn of the feed from its first mark, degrees; clockwise seen from behind. */
	feedDeg: number;
}

export interface HopPosition extends PerEnd<EndPosition> {
	/** Faults that were set right. */
	remedied: readonly Cause[];
	/** Ends at which a fastener was tightened, and those that were loosened since: there it is done with more care. */
	tightened: readonly End[];
	loosened: readonly End[];
}

export interface SimulatedHop {
	/** Where the adjusters stand before anyone has touched them. */
	start: HopPosition;
	/** True position of the far end in each adjuster's frame, degrees: the answer. */
	boresightDeg: PerEnd<Record<Axis, number>>;
	/** What made the pattern of each dish. */
	dishSeeds: PerEnd<number>;
	/** Turns one nut of one end; returns the new position, the old one is left as it was. */
	turn(position: HopPosition, end: End, axis: Axis, toTurns: number): HopPosition;
	/** A fastener goes to torque: the dish is kicked a little, the same way every time. */
	tighten(position: HopPosition, end: End, axis: Axis, fastenerIndex: number): HopPosition;
	/** The whole mount goes round on its pipe, its adjuster centred; a hand does not hit the degree. */
	turnMount(position: HopPosition, end: End, byDeg: number): HopPosition;
	/** Fasteners are loosened again: the dish sags a little. */
	loosen(position: HopPosition, end: End): HopPosition;
	/** The feed is turned about the line of sight. */
	turnFeed(position: HopPosition, end: End, toDeg: number): HopPosition;
	/** What stands between the two feeds and the least cross-polar signal, degrees: the answer. */
	feedErrorDeg(position: HopPosition): number;
	/** Volts on the ports of the two polarizations at an end while the far end sends one of them. */
	polarizationVolts(
		position: HopPosition,
		end: End,
		sent: LinearPolarization,
		time: { elapsedS: number; sequence: number }
	): { co: number; cross: number };
	/** A fault is set right, if it is one. */
	remedy(position: HopPosition, cause: Cause): HopPosition;
	/** The faults still at work. */
	faultsOf(position: HopPosition): FaultsAtWork;
	/** How far a dish stands off its axis, beamwidths. */
	offAxisBeamwidths(position: HopPosition, end: End): number;
	/** Level at one end's receiver, without meter noise. */
	levelDbm(position: HopPosition, end: End, elapsedS: number): number;
	/**
	 * Level of another carrier on the same dish as its radio shows it, dBm: it stands above the first (or below,
	 * negative) by `aboveFirstDb`, for one dish and one path carry both.
	 */
	carrierLevelDbm(
		position: HopPosition,
		end: End,
		aboveFirstDb: number,
		time: { elapsedS: number; sequence: number }
	): number;
	/** What the meter on one end's level port shows; `sequence` makes its noise repeatable. */
	meterVolts(position: HopPosition, end: End, elapsedS: number, sequence: number): number;
}

/** Play of an adjuster's thread, turns. */
const PLAY_TURNS = 0.12;
const METER_NOISE_DB = 0.12;
/** Largest kick of one fastener, in beamwidths. */
const LARGEST_KICK_BEAMWIDTHS = 0.03;
/** A mount turned by hand ends within this share of the turn. */
const MOUNT_TURN_ERROR = 0.06;
/** A loosened dish sags by this much, beamwidths. */
const SAG_BEAMWIDTHS = 0.04;
/** A dish that begins on a side lobe stands so far beside its main one, beamwidths. */
const SIDE_LOBE_BEAMWIDTHS = 1.6;
/** A dish that moves while it is locked goes by so much at its second fastener, beamwidths. */
const MOVED_BEAMWIDTHS = 0.45;
/** With pick-up the meter shows about so many times what the port can give. */
const PICK_UP_VOLTS = 1.7;

/**
 * Stands in for radios, dishes, air and meter of one hop: two ends with two axes each, uneven
 * patterns, play in the threads, wind sway, slow fading, receiver floor and saturation, and each
 * end's own level port. Everything follows from the seed and the moves; nothing is random in it.
 */
export function makeSimulatedHop(input: SimulatedHopInput): SimulatedHop {
	const random = makeRandomStream(input.seed);
	const dishSeeds = {
		A: input.ends.A.sameAs?.dishSeed ?? input.seed * 2 + 1,
		B: input.ends.B.sameAs?.dishSeed ?? input.seed * 2 + 2
	};
	const dishes: PerEnd<SimulatedDish> = {
		A: makeSimulatedDish(dishSeeds.A, input.ends.A.beamwidthDeg),
		B: makeSimulatedDish(dishSeeds.B, input.ends.B.beamwidthDeg)
	};
	/** The same dishes one size smaller, for where the wrong one hangs. */
	const smaller: PerEnd<SimulatedDish> = {
		A: makeSimulatedDish(dishSeeds.A, WIDER_BEAM * input.ends.A.beamwidthDeg),
		B: makeSimulatedDish(dishSeeds.B, WIDER_BEAM * input.ends.B.beamwidthDeg)
	};
	const planted = input.faults ?? [];
	const curves: PerEnd<LevelCurve> = {
		A: makeLevelCurve(input.ends.A.levelCurve),
		B: makeLevelCurve(input.ends.B.levelCurve)
	};
	const boresightDeg: SimulatedHop['boresightDeg'] = {
		A: drawBoresight('A'),
		B: drawBoresight('B')
	};
	const feeds = makeSimulatedFeeds(input.seed);
	const fadePhase = between(random, 0, 2 * Math.PI);
	const swayPhase = { A: between(random, 0, 6), B: between(random, 0, 6) };

	/** As compass and level leave a crew; nobody is off by more than two sigmas here. */
	function drawBoresight(end: End): Record<Axis, number> {
		const { firstAimSigmaDeg, sameAs, beamwidthDeg } = input.ends[end];
		const draw = (sigmaDeg: number): number =>
			sigmaDeg * Math.min(2, Math.max(-2, normalDeviate(random)));
		if (sameAs) return sameAs.boresightDeg;
		const drawn = { azimuth: draw(firstAimSigmaDeg.azimuth), tilt: draw(firstAimSigmaDeg.tilt) };
		if (!beginsOnSideLobe(planted, end)) return drawn;
		const side = drawn.azimuth < 0 ? -1 : 1;
		return { azimuth: side * SIDE_LOBE_BEAMWIDTHS * beamwidthDeg, tilt: 0 };
	}

	function offAxisDeg(position: HopPosition, end: End): Record<Axis, number> {
		const parts = input.ends[end];
		const { azimuth, tilt, mountDeg } = position[end];
		return {
			azimuth:
				adjusterAngleDeg(parts.azimuth, azimuth.dishTurns) + mountDeg - boresightDeg[end].azimuth,
			tilt: adjusterAngleDeg(parts.tilt, tilt.dishTurns) - boresightDeg[end].tilt
		};
	}

	/** Gain of a dish below its peak, on its own polarization and on the other one, dB. */
	function dishGainDb(
		position: HopPosition,
		end: End,
		elapsedS: number
	): { co: number; cross: number } {
		const { beamwidthDeg, crossPolarDiscriminationDb } = input.ends[end];
		const off = offAxisDeg(position, end);
		const azimuth = off.azimuth + 0.015 * beamwidthDeg * Math.sin(elapsedS * 1.9 + swayPhase[end]);
		const wrong = isAtWork(faultsOf(position), 'wrong-dish', end);
		const co = (wrong ? smaller : dishes)[end](azimuth, off.tilt);
		const cross = crossPolarGainDb(co, crossPolarDiscriminationDb, {
			beamwidths: Math.hypot(azimuth, off.tilt) / beamwidthDeg,
			angle: Math.atan2(off.tilt, azimuth)
		});
		return { co, cross };
	}

	/** A dish that moves while it is locked has moved once it was tightened, and not after it was begun anew. */
	function movedWhileLocked({ tightened, loosened }: HopPosition, end: End | null): boolean {
		return ENDS.some(
			(at) => (end ?? at) === at && tightened.includes(at) && !loosened.includes(at)
		);
	}

	function faultsOf(position: HopPosition): FaultsAtWork {
		return planted.filter(
			({ fault, end }) =>
				!position.remedied.includes(fault) &&
				(fault !== 'moved-while-locking' || movedWhileLocked(position, end))
		);
	}

	const armDifferenceDb = {
		A: input.ends.A.armDifferenceDb,
		B: input.ends.B.armDifferenceDb
	};

	function levelDbm(position: HopPosition, end: End, elapsedS: number): number {
		const fadeDb =
			0.15 * Math.sin(elapsedS / 47 + fadePhase) + 0.1 * Math.sin(elapsedS / 13 - fadePhase);
		const faults = faultsOf(position);
		const own = dishGainDb(position, end, elapsedS);
		const far = dishGainDb(position, farEnd(end), elapsedS);
		// Crossed, either dish's cross-polar pattern meets the other's main one.
		const gainDb = isAtWork(faults, 'crossed-polarization')
			? sumOfLevelsDb([own.co + far.cross, own.cross + far.co]) - 3
			: own.co + far.co;
		const { alignedLevelDbm, maxInputDbm } = input.ends[end];
		const signalDbm = sentLevelDbm(
			faults,
			end,
			alignedLevelDbm + gainDb + fadeDb - commonLossDb(faults, elapsedS, armDifferenceDb),
			{
				plannedDbm: alignedLevelDbm,
				maxInputDbm,
				crossedCablesLossDb: input.ends[farEnd(end)].crossedCablesLossDb
			}
		);
		const withFloor = sumOfLevelsDb([signalDbm, input.ends[end].floorDbm]);
		return Math.min(withFloor, input.ends[end].maxInputDbm);
	}

	function move(position: HopPosition, end: End, next: Partial<EndPosition>): HopPosition {
		return { ...position, [end]: { ...position[end], ...next } };
	}

	/** The dish goes by an angle while the nut stands. */
	function shift(position: HopPosition, end: End, axis: Axis, byDeg: number): HopPosition {
		const adjuster = input.ends[end][axis];
		const { knobTurns, dishTurns } = position[end][axis];
		const shifted = adjusterTurns(adjuster, adjusterAngleDeg(adjuster, dishTurns) + byDeg);
		return move(position, end, { [axis]: { knobTurns, dishTurns: shifted } });
	}

	return {
		start: {
			A: { azimuth: CENTRED, tilt: CENTRED, mountDeg: 0, feedDeg: 0 },
			B: { azimuth: CENTRED, tilt: CENTRED, mountDeg: 0, feedDeg: 0 },
			remedied: [],
			tightened: [],
			loosened: []
		},
		boresightDeg,
		dishSeeds,
		turn(position, end, axis, toTurns) {
			const adjuster = input.ends[end][axis];
			const limit = adjusterTurns(adjuster, adjuster.travelDeg);
			return move(position, end, {
				[axis]: turnNut(position[end][axis], toTurns, PLAY_TURNS, limit)
			});
		},
		turnMount(position, end, byDeg) {
			const hand = makeRandomStream(input.seed + Math.round(byDeg * 1000) + (end === 'A' ? 3 : 5));
			const turned = byDeg * (1 + between(hand, -1, 1) * MOUNT_TURN_ERROR);
			return move(position, end, {
				azimuth: CENTRED,
				mountDeg: position[end].mountDeg + turned
			});
		},
		loosen: (position, end) => ({
			...shift(position, end, 'tilt', -SAG_BEAMWIDTHS * input.ends[end].beamwidthDeg),
			loosened: [...new Set([...position.loosened, end])]
		}),
		turnFeed: (position, end, toDeg) => move(position, end, { feedDeg: toDeg }),
		feedErrorDeg: (position) => feeds.errorDeg + position.A.feedDeg + position.B.feedDeg,
		polarizationVolts(position, end, sent, { elapsedS, sequence }) {
			const noise = makeRandomStream(input.seed ^ Math.imul(sequence + 7, 2_246_822_519));
			const parts = input.ends[end];
			const coDbm = levelDbm(position, end, elapsedS);
			const offset = (at: End): { beamwidths: number; angle: number; leakDb: number } => {
				const off = offAxisDeg(position, at);
				return {
					beamwidths: Math.hypot(off.azimuth, off.tilt) / input.ends[at].beamwidthDeg,
					angle: Math.atan2(off.tilt, off.azimuth),
					leakDb: input.ends[at].crossPolarDiscriminationDb
				};
			};
			const ratioDb = feeds.crossOverCoDb(
				feeds.errorDeg + position.A.feedDeg + position.B.feedDeg,
				sent,
				[offset('A'), offset('B')]
			);
			const crossDbm = sumOfLevelsDb([coDbm + ratioDb, parts.floorDbm]);
			const shown = (dbm: number): number => {
				const volts = curves[end].voltsAt(dbm + METER_NOISE_DB * normalDeviate(noise));
				return Math.round(volts / parts.meterResolutionV) * parts.meterResolutionV;
			};
			return { co: shown(coDbm), cross: shown(crossDbm) };
		},
		remedy: (position, cause) => ({ ...position, remedied: [...position.remedied, cause] }),
		faultsOf,
		offAxisBeamwidths(position, end) {
			const { azimuth, tilt } = offAxisDeg(position, end);
			return Math.hypot(azimuth, tilt) / input.ends[end].beamwidthDeg;
		},
		tighten(position, end, axis, fastenerIndex) {
			const kick = makeRandomStream(input.seed + 97 * (fastenerIndex + 1) + (end === 'A' ? 0 : 7));
			const moves =
				fastenerIndex === 1 &&
				!position.loosened.includes(end) &&
				isAtWork(planted, 'moved-while-locking', end);
			const share = between(kick, -1, 1) * LARGEST_KICK_BEAMWIDTHS;
			const kickDeg =
				(moves ? Math.sign(share || 1) * MOVED_BEAMWIDTHS : share) * input.ends[end].beamwidthDeg;
			const tightened = [...new Set([...position.tightened, end])];
			return shift({ ...position, tightened }, end, axis, kickDeg);
		},
		levelDbm,
		carrierLevelDbm(position, end, aboveFirstDb, { elapsedS, sequence }) {
			const noise = makeRandomStream(input.seed ^ Math.imul(sequence + 3, 3_266_489_917));
			const { floorDbm, maxInputDbm } = input.ends[end];
			const levelOfIt = levelDbm(position, end, elapsedS) + aboveFirstDb;
			const withFloor = sumOfLevelsDb([levelOfIt, floorDbm]);
			return Math.min(withFloor + METER_NOISE_DB * normalDeviate(noise), maxInputDbm);
		},
		meterVolts(position, end, elapsedS, sequence) {
			const noise = makeRandomStream(input.seed ^ Math.imul(sequence + 1, 2_654_435_761));
			const faults = faultsOf(position);
			const step = input.ends[end].meterResolutionV;
			if (isAtWork(faults, 'pick-up', end)) {
				const broadcast =
					curves[end].highestVolts * PICK_UP_VOLTS * (1 + 0.1 * normalDeviate(noise));
				return Math.round(broadcast / step) * step;
			}
			const level = levelDbm(position, end, elapsedS) + METER_NOISE_DB * normalDeviate(noise);
			return Math.round(curves[end].voltsAt(shownLevelDbm(faults, end, level)) / step) * step;
		}
	};
}
