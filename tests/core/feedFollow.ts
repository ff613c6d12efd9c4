import {
	adviseRotation,
	discriminationNeed,
	type DiscriminationReading
} from '#core/polarization/discrimination';
import { makeLevelCurve, readingLevelDbm } from '#core/radio/levelCurve';
import { simulatedHopOf } from '#core/simulate/fromPlan';
import type { HopPosition, SimulatedHop } from '#core/simulate/simulatedHop';
import { adjusterTurns } from '#core/sweep/adjusterScale';
import { catalogue, configured, hopInput, part, soundPlan } from './planFixture';

/** A hop with traffic on both polarizations of one channel. */
export const dual = hopInput(
	{ configuration: configured('dual-polarized', 20) },
	Object.fromEntries(
		(['A', 'B'] as const).map((end) => [
			end,
			{
				radio: part(catalogue.radios, 'RU-18'),
				dish: part(catalogue.dishes, 'DP-090-18'),
				mount: part(catalogue.mounts, 'MB-M'),
				coupling: part(catalogue.couplings, 'OT-18'),
				transmitFrequencyGhz: end === 'A' ? 17.85 : 18.86,
				subBandUnit: end === 'A' ? '1L' : '1H'
			}
		])
	)
);
export const plan = soundPlan(dual);
export const need = discriminationNeed(dual, plan.dish);

/** Stands both dishes on or beside their axis; `offBeamwidths` along a diagonal at A. */
function stood(sim: SimulatedHop, offBeamwidths: number): HopPosition {
	let position = sim.start;
	for (const end of ['A', 'B'] as const) {
		for (const axis of ['azimuth', 'tilt'] as const) {
			const off = end === 'A' ? (offBeamwidths * plan.dish[end].beamwidthDeg) / Math.SQRT2 : 0;
			const turns = adjusterTurns(dual.ends[end].mount[axis], sim.boresightDeg[end][axis] + off);
			position = sim.turn(sim.turn(position, end, axis, turns - 0.5), end, axis, turns);
		}
	}
	return position;
}

/** Follows the advice at A until it says something else than to read or turn. */
export function followFeed(
	seed: number,
	offBeamwidths: number
): { last: string; errorDeg: number; reads: number } {
	const sim = simulatedHopOf(dual, plan, seed);
	let position = stood(sim, offBeamwidths);
	const curve = makeLevelCurve(dual.ends.A.radio.levelPort.curve);
	const readings: DiscriminationReading[] = [];
	const read = (): void => {
		for (const sent of ['vertical', 'horizontal'] as const) {
			const { co, cross } = sim.polarizationVolts(position, 'A', sent, {
				elapsedS: readings.length * 20,
				sequence: readings.length
			});
			const level = (volts: number): number => readingLevelDbm(curve.read(volts)) ?? -99;
			readings.push({
				end: 'A',
				sent,
				turned: 'A',
				feedDeg: position.A.feedDeg,
				coDbm: level(co),
				crossDbm: level(cross)
			});
		}
	};
	for (let i = 0; i < 12; i++) {
		const advice = adviseRotation(plan, need, readings, {
			end: 'A',
			pointed: true,
			feedDeg: position.A.feedDeg
		});
		if (advice.kind !== 'read' && advice.kind !== 'turn') {
			return { last: advice.kind, errorDeg: sim.feedErrorDeg(position), reads: readings.length };
		}
		position = sim.turnFeed(position, 'A', Number(advice.feedDeg.toFixed(1)));
		read();
	}
	return { last: 'endless', errorDeg: sim.feedErrorDeg(position), reads: readings.length };
}
