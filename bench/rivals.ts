import { ENDS, type End } from '../src/core/ends';
import type { GuidanceReading } from '../src/core/guide/guidance';
import { findLobes } from '../src/core/sweep/lobes';
import type { GuidedHop, HopOutcome } from '../tests/core/guidedHop';

type Axis = 'azimuth' | 'tilt';

const ROUNDS = 3;
const FIRST_PER_BEAMWIDTH = 3;
const FINE_PER_BEAMWIDTH = 6;
const FINE_REACH_BEAMWIDTHS = 1.3;
const WINDOW_SIGMAS = 2.6;

/** Where a school goes after a sweep. */
type Choice = (readings: readonly GuidanceReading[], axis: Axis, hop: GuidedHop) => number;

const position = (reading: GuidanceReading, axis: Axis): number =>
	axis === 'azimuth' ? reading.azimuthDeg : reading.tiltDeg;

/** Lock at the highest reading. */
const highest: Choice = (readings, axis) =>
	position(
		readings.reduce((p, q) => (q.levelDbm > p.levelDbm ? q : p)),
		axis
	);

/** An odd number of peaks: the middle one; an even number: the dip between the two best. */
const byPeaks: Choice = (readings, axis, hop) => {
	const samples = readings.map((r) => ({ positionDeg: position(r, axis), levelDbm: r.levelDbm }));
	const lobes = findLobes(samples, hop.dish.beamwidthDeg, hop.floorDbm);
	if (lobes.length === 0) return highest(readings, axis, hop);
	const top = Math.max(...lobes.map((lobe) => lobe.levelDbm));
	const counted = lobes.filter((lobe) => lobe.levelDbm > top - 26);
	const best = [...counted].sort((p, q) => q.levelDbm - p.levelDbm);
	if (counted.length % 2 === 1) return best[0]!.positionDeg;
	return (best[0]!.positionDeg + best[1]!.positionDeg) / 2;
};

function follow(hop: GuidedHop, sigma: Record<Axis, number>, choose: Choice): HopOutcome {
	for (let round = 0; round < ROUNDS; round++) {
		for (const end of ENDS) {
			for (const axis of ['azimuth', 'tilt'] as const)
				sweepAndGo(hop, end, axis, round, sigma, choose);
		}
	}
	return hop.outcome(2 * ROUNDS, 'locked');
}

function sweepAndGo(
	hop: GuidedHop,
	end: End,
	axis: Axis,
	round: number,
	sigma: Record<Axis, number>,
	choose: Choice
): void {
	const { beamwidthDeg } = hop.dish;
	const here = axis === 'azimuth' ? hop.place[end].azimuthDeg : hop.place[end].tiltDeg;
	const reach =
		round === 0
			? Math.max(WINDOW_SIGMAS * sigma[axis], FINE_REACH_BEAMWIDTHS * beamwidthDeg)
			: FINE_REACH_BEAMWIDTHS * beamwidthDeg;
	const middle = round === 0 ? 0 : here;
	const per = round === 0 ? FIRST_PER_BEAMWIDTH : FINE_PER_BEAMWIDTH;
	const readings = hop.sweep(end, axis, middle - reach, middle + reach, beamwidthDeg / per);
	const to = choose(readings, axis, hop);
	const place = { ...hop.place[end] };
	if (axis === 'azimuth') place.azimuthDeg = to;
	else place.tiltDeg = to;
	hop.goTo(end, place);
}

export const RIVALS: Record<string, (hop: GuidedHop, sigma: Record<Axis, number>) => HopOutcome> = {
	'lock at the highest reading': (hop, sigma) => follow(hop, sigma, highest),
	'count the peaks': (hop, sigma) => follow(hop, sigma, byPeaks)
};
