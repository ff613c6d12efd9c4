import type { Adjuster } from '../catalogue/parts';
import { farEnd, type Axis, type End, type PerEnd } from '../ends';
import { makeLevelCurve, type LevelCurve, type LevelCurvePoint } from '../radio/levelCurve';
import { adjusterAngleDeg, adjusterTurns } from '../sweep/adjusterScale';
import { sumOfLevelsDb } from '../units/decibel';
import { CENTRED, turnNut, type AdjusterState } from './mechanics';
import { between, makeRandomStream, normalDeviate } from './random';
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
	azimuth: Adjuster;
	tilt: Adjuster;
}

export interface SimulatedHopInput {
	seed: number;
	ends: PerEnd<SimulatedEndInput>;
}

export type HopPosition = PerEnd<Record<Axis, AdjusterState>>;

export interface SimulatedHop {
	/** Where the adjusters stand before anyone has touched them. */
	start: HopPosition;
	/** True position of the far end in each adjuster's frame, degrees: the answer. */
	boresightDeg: PerEnd<Record<Axis, number>>;
	/** Turns one nut of one end; returns the new position, the old one is left as it was. */
	turn(position: HopPosition, end: End, axis: Axis, toTurns: number): HopPosition;
	/** A fastener goes to torque: the dish is kicked a little, the same way every time. */
	tighten(position: HopPosition, end: End, axis: Axis, fastenerIndex: number): HopPosition;
	/** Level at one end's receiver, without meter noise. */
	levelDbm(position: HopPosition, end: End, elapsedS: number): number;
	/** What the meter on one end's level port shows; `sequence` makes its noise repeatable. */
	meterVolts(position: HopPosition, end: End, elapsedS: number, sequence: number): number;
}

/** Play of an adjuster's thread, turns. */
const PLAY_TURNS = 0.12;
const METER_NOISE_DB = 0.12;
/** Largest kick of one fastener, in beamwidths. */
const LARGEST_KICK_BEAMWIDTHS = 0.03;

/**
 * Stands in for radios, dishes, air and meter of one hop: two ends with two axes each, uneven
 * patterns, play in the threads, wind sway, slow fading, receiver floor and saturation, and each
 * end's own level port. Everything follows from the seed and the moves; nothing is random in it.
 */
export function makeSimulatedHop(input: SimulatedHopInput): SimulatedHop {
	const random = makeRandomStream(input.seed);
	const dishes: PerEnd<SimulatedDish> = {
		A: makeSimulatedDish(input.seed * 2 + 1, input.ends.A.beamwidthDeg),
		B: makeSimulatedDish(input.seed * 2 + 2, input.ends.B.beamwidthDeg)
	};
	const curves: PerEnd<LevelCurve> = {
		A: makeLevelCurve(input.ends.A.levelCurve),
		B: makeLevelCurve(input.ends.B.levelCurve)
	};
	const boresightDeg: SimulatedHop['boresightDeg'] = {
		A: drawBoresight(input.ends.A),
		B: drawBoresight(input.ends.B)
	};
	const fadePhase = between(random, 0, 2 * Math.PI);
	const swayPhase = { A: between(random, 0, 6), B: between(random, 0, 6) };

	function drawBoresight(end: SimulatedEndInput): Record<Axis, number> {
		const draw = (adjuster: Adjuster): number => {
			const reach = Math.min(0.55 * adjuster.travelDeg, 3.5 * end.beamwidthDeg);
			return between(random, 0.3, 1) * reach * (random() < 0.5 ? -1 : 1);
		};
		return { azimuth: draw(end.azimuth), tilt: 0.5 * draw(end.tilt) };
	}

	function dishGainDb(position: HopPosition, end: End, elapsedS: number): number {
		const parts = input.ends[end];
		const sway = 0.015 * parts.beamwidthDeg * Math.sin(elapsedS * 1.9 + swayPhase[end]);
		const azimuth =
			adjusterAngleDeg(parts.azimuth, position[end].azimuth.dishTurns) -
			boresightDeg[end].azimuth +
			sway;
		const tilt =
			adjusterAngleDeg(parts.tilt, position[end].tilt.dishTurns) - boresightDeg[end].tilt;
		return dishes[end](azimuth, tilt);
	}

	function levelDbm(position: HopPosition, end: End, elapsedS: number): number {
		const fadeDb =
			0.15 * Math.sin(elapsedS / 47 + fadePhase) + 0.1 * Math.sin(elapsedS / 13 - fadePhase);
		const signalDbm =
			input.ends[end].alignedLevelDbm +
			dishGainDb(position, end, elapsedS) +
			dishGainDb(position, farEnd(end), elapsedS) +
			fadeDb;
		const withFloor = sumOfLevelsDb([signalDbm, input.ends[end].floorDbm]);
		return Math.min(withFloor, input.ends[end].maxInputDbm);
	}

	function move(position: HopPosition, end: End, axis: Axis, next: AdjusterState): HopPosition {
		return { ...position, [end]: { ...position[end], [axis]: next } };
	}

	return {
		start: {
			A: { azimuth: CENTRED, tilt: CENTRED },
			B: { azimuth: CENTRED, tilt: CENTRED }
		},
		boresightDeg,
		turn(position, end, axis, toTurns) {
			const adjuster = input.ends[end][axis];
			const limit = adjusterTurns(adjuster, adjuster.travelDeg);
			return move(position, end, axis, turnNut(position[end][axis], toTurns, PLAY_TURNS, limit));
		},
		tighten(position, end, axis, fastenerIndex) {
			const adjuster = input.ends[end][axis];
			const kick = makeRandomStream(input.seed + 97 * (fastenerIndex + 1) + (end === 'A' ? 0 : 7));
			const kickDeg = between(kick, -1, 1) * LARGEST_KICK_BEAMWIDTHS * input.ends[end].beamwidthDeg;
			const { knobTurns, dishTurns } = position[end][axis];
			const kicked = adjusterTurns(adjuster, adjusterAngleDeg(adjuster, dishTurns) + kickDeg);
			return move(position, end, axis, { knobTurns, dishTurns: kicked });
		},
		levelDbm,
		meterVolts(position, end, elapsedS, sequence) {
			const noise = makeRandomStream(input.seed ^ Math.imul(sequence + 1, 2_654_435_761));
			const level = levelDbm(position, end, elapsedS) + METER_NOISE_DB * normalDeviate(noise);
			const step = input.ends[end].meterResolutionV;
			return Math.round(curves[end].voltsAt(level) / step) * step;
		}
	};
}
