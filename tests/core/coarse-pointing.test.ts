import { describe, expect, it } from 'vitest';
import { advisePointing, type PointingShown } from '#core/bringup/coarsePointing';
import type { Station } from '#core/bringup/stations';
import { makeRandomStream, normalDeviate, type RandomStream } from '#core/simulate/random';
import { bearingDifferenceDeg, wrapBearingDeg } from '#core/units/angle';
import { belowShare, withinShare } from '#core/units/normal';
import { workOf } from './bringUpFixture';
import { harbour, hubTerminal, hubUnit } from './hubFixture';

const linkOf = (partCode: string, frequencyGhz: number): Station =>
	workOf(
		harbour({
			channelWidthMhz: 40,
			units: [hubUnit({ partCode, headingDeg: 90, frequencyGhz })],
			terminals: [hubTerminal({ partCode, bearingDeg: 90, distanceM: 900 })]
		})
	).stations[1]!;
const panel = linkOf('SL-58-P', 5.8);
const dish = linkOf('SL-58-D', 5.8);
const figures = linkOf('SL-24-D', 24.1);
const PLANNED_DBM = -58;

/** What a station shows where its beam is so far off the truth: a parabola, lobes beside it, scatter, steps. */
function shownAt(
	station: Station,
	headingDeg: number,
	truth: { headingDeg: number; peakDbm: number },
	random: RandomStream
): PointingShown {
	const off =
		Math.abs(bearingDifferenceDeg(truth.headingDeg, headingDeg)) / station.part.beamwidthDeg;
	const lobes = 16 + 4 * Math.abs(Math.sin(3 * off));
	const level = truth.peakDbm - Math.min(12 * off * off, lobes) + normalDeviate(random);
	const display = station.part.installation!.display;
	const step = display.filter(({ fromDbm }) => level >= fromDbm).length;
	if (display.length === 0) {
		return { headingDeg, levelDbm: level < -95 ? null : Math.round(level) };
	}
	return step === 0 ? { headingDeg, levelDbm: null } : { headingDeg, levelDbm: null, step };
}

/** Follows the advice to its end: how far off in beamwidths, and after how many looks. */
function followed(
	station: Station,
	seed: number
): { offBeams: number; looks: number; end: string } {
	const random = makeRandomStream(seed);
	const planned = wrapBearingDeg(station.aim.headingDeg);
	const truth = {
		headingDeg: wrapBearingDeg(planned + 8 * normalDeviate(random)),
		// The other end is off, too, or stands as planned: the level is not known beforehand.
		peakDbm: PLANNED_DBM - 6 * random()
	};
	const shown: PointingShown[] = [];
	for (let i = 0; i < 60; i++) {
		const advice = advisePointing(station, shown, PLANNED_DBM);
		if (advice.kind === 'stays' || advice.kind === 'beside' || advice.kind === 'set') {
			const off = bearingDifferenceDeg(truth.headingDeg, advice.headingDeg);
			return {
				offBeams: Math.abs(off) / station.part.beamwidthDeg,
				looks: shown.length,
				end: advice.kind
			};
		}
		shown.push(shownAt(station, advice.headingDeg, truth, random));
	}
	return { offBeams: Infinity, looks: 60, end: 'never' };
}

describe('pointing by a display in steps', () => {
	// A quarter of the beam off costs 0.75 dB: what no display of steps shows.
	it.each([
		['a flat panel by bars', panel, 5],
		['a dish by bars', dish, 5],
		['a narrow dish by figures', figures, 8]
	])('%s ends within a quarter of the beam, in a few looks', (_, station, mostLooks) => {
		const runs = Array.from({ length: 120 }, (_, i) => followed(station, i + 1));
		const right = runs.filter(({ offBeams }) => offBeams < 0.25).length;
		expect(right / runs.length).toBeGreaterThan(0.93);
		const looks = runs.map((run) => run.looks).sort((p, q) => p - q);
		expect(looks[60]).toBeLessThanOrEqual(mostLooks);
		expect(runs.filter(({ end }) => end === 'never')).toEqual([]);
	});

	it('begins at the plan, and goes out to either side while nothing is shown', () => {
		const nothing = (headingDeg: number): PointingShown => ({ headingDeg, levelDbm: null });
		const planned = wrapBearingDeg(panel.aim.headingDeg);
		const shown: PointingShown[] = [];
		const sides: number[] = [];
		for (let i = 0; i < 5; i++) {
			const { kind, headingDeg } = advisePointing(panel, shown, PLANNED_DBM);
			expect(kind).toBe('turn');
			sides.push(Math.round(bearingDifferenceDeg(planned, headingDeg)));
			shown.push(nothing(headingDeg));
		}
		expect(sides[0]).toBe(0);
		[14, -14, 28, -27].forEach((side, i) => expect(Math.abs(sides[i + 1]! - side)).toBeLessThan(2));
	});

	it('takes no best for the best that has not fallen on both sides', () => {
		const planned = wrapBearingDeg(panel.aim.headingDeg);
		const shown = [
			{ headingDeg: wrapBearingDeg(planned - 14), levelDbm: null, step: 1 },
			{ headingDeg: planned, levelDbm: null, step: 3 }
		];
		const { kind, headingDeg, why } = advisePointing(panel, shown, PLANNED_DBM);
		expect(kind).toBe('turn');
		expect(bearingDifferenceDeg(planned, headingDeg)).toBeGreaterThan(8);
		expect(why).toContain('right');
	});

	it('says so where the best lies far below the plan', () => {
		const planned = wrapBearingDeg(figures.aim.headingDeg);
		const shown = [-2, -1, 0, 1, 2].map((off) => ({
			headingDeg: wrapBearingDeg(planned + off),
			levelDbm: -78 - Math.round(12 * (off / 2.9) ** 2)
		}));
		const advice = advisePointing(figures, shown, PLANNED_DBM);
		expect(advice.kind).toBe('turn');
		expect(advice.why).toContain('20 dB below the plan');
		expect(advisePointing(figures, shown, -78).kind).toBe('set');
	});

	it('stays where it stands in the middle', () => {
		const planned = wrapBearingDeg(figures.aim.headingDeg);
		const shown = [-2, -1, 1, 2, 0].map((off) => ({
			headingDeg: wrapBearingDeg(planned + off),
			levelDbm: -58 - Math.round(12 * (off / 2.9) ** 2)
		}));
		expect(advisePointing(figures, shown, PLANNED_DBM).kind).toBe('stays');
		const away = advisePointing(figures, [...shown, shown[0]!], PLANNED_DBM);
		expect(away.kind).toBe('set');
		expect(bearingDifferenceDeg(planned, away.headingDeg)).toBeCloseTo(0, 0);
	});
});

describe('shares of a normal distribution', () => {
	// Source: tables of the normal distribution, 68.27 %, 95.45 %, 99.73 % within 1, 2, 3 sigma.
	it.each([
		[1, 0.6827],
		[2, 0.9545],
		[3, 0.9973]
	])('within %d sigma is %f', (z, share) => {
		expect(withinShare(2 * z, 2)).toBeCloseTo(share, 4);
		expect(belowShare(z, 1)).toBeCloseTo((1 + share) / 2, 4);
		expect(belowShare(-z, 1)).toBeCloseTo((1 - share) / 2, 4);
	});
	it('is all or nothing at no end', () => {
		expect([belowShare(Infinity, 1), belowShare(-Infinity, 1), belowShare(0, 1)]).toEqual([
			1, 0, 0.5
		]);
	});
});
