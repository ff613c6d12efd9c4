import { describe, expect, it } from 'vitest';
import { bracketed, cutCount, leadsNowhere, readNear, trailingGuesses } from '#core/guide/coverage';
import { adviseAt, type Guidance, type GuidanceReading } from '#core/guide/guidance';
import { nextLine, outsideSearch, parkAndHandOver, searchOf } from '#core/guide/searching';
import { planSearch } from '#core/guide/searchPlan';
import type { Situation } from '#core/guide/situation';
import type { Boresight } from '#core/locate/locator';
import { base, BEAM } from './guidanceFixture';

/** Places are given in beams about a middle that is not the planned one, so that no sign can cancel. */
const MIDDLE = { azimuthDeg: 2.1, tiltDeg: -0.9 };
const spot = (across: number, up: number, levelDbm = -50): GuidanceReading => ({
	azimuthDeg: MIDDLE.azimuthDeg + across * BEAM,
	tiltDeg: MIDDLE.tiltDeg + up * BEAM,
	levelDbm
});
const read = (
	...readings: GuidanceReading[]
): { readings: readonly GuidanceReading[]; beamwidthDeg: number } => ({
	readings,
	beamwidthDeg: BEAM
});
const many = (count: number, of: (i: number) => GuidanceReading): GuidanceReading[] =>
	Array.from({ length: count }, (_, i) => of(i));
const map = new Float64Array(1).fill(1);

/** An end that stands where it read last, with a map whose likeliest place is given. */
function situation(
	readings: GuidanceReading[],
	probability: number,
	change: Partial<typeof base> = {}
): Situation {
	return {
		input: { ...base, ...change, readings },
		readings,
		beamwidthDeg: BEAM,
		here: readings.at(-1) ?? { azimuthDeg: 0, tiltDeg: 0 },
		location: {
			heard: true,
			boresight: null,
			probability,
			lead: probability,
			map: { westDeg: 0, bottomDeg: 0, stepDeg: 1, columns: 1, rows: 1, mass: map }
		}
	};
}
/** Sigmas in beams. */
const boresight = (azimuthSigma: number, tiltSigma: number, place = MIDDLE): Boresight => ({
	...place,
	sigmaAzimuthDeg: azimuthSigma * BEAM,
	sigmaTiltDeg: tiltSigma * BEAM,
	told: { azimuthDeg: azimuthSigma * BEAM, tiltDeg: tiltSigma * BEAM },
	axisLevelDbm: -44
});
const advice = (
	readings: GuidanceReading[],
	probability: number,
	sigmas: readonly [number, number],
	change: Partial<typeof base> = {},
	place = MIDDLE
): Guidance =>
	adviseAt(situation(readings, probability, change), boresight(sigmas[0], sigmas[1], place));
const cross = (of: number): GuidanceReading[] => [
	spot(-of, 0),
	spot(of, 0),
	spot(0, -of),
	spot(0, of)
];
/** Swept lines of the whole search: nothing is left of it. */
const searched = (change: Partial<typeof base> = {}): GuidanceReading[] =>
	[true, false].flatMap((first) => {
		const plan = planSearch({ ...base, ...change, beamwidthDeg: BEAM }, first);
		return plan.lines
			.map((line) => line.tiltDeg)
			.flatMap((tiltDeg) =>
				many(25, (i) => ({
					azimuthDeg: plan.reachDeg * (i / 12 - 1),
					tiltDeg,
					levelDbm: base.floorDbm
				}))
			);
	});

describe('what a turn has read already', () => {
	it('counts cuts of seven readings along an axis, near enough to the place', () => {
		const along = (count: number, up: number, reach = 1): GuidanceReading[] =>
			many(count, (i) => spot(reach * (i / (count - 1) - 0.5) * 2, up));
		expect(cutCount(read(...along(6, 0)), MIDDLE, 'azimuth')).toBe(0);
		expect(cutCount(read(...along(7, 0)), MIDDLE, 'azimuth')).toBe(1);
		expect(cutCount(read(...along(13, 0)), MIDDLE, 'azimuth')).toBe(1);
		expect(cutCount(read(...along(7, 0.24)), MIDDLE, 'azimuth')).toBe(1);
		expect(cutCount(read(...along(7, 0.26)), MIDDLE, 'azimuth')).toBe(0);
		expect(cutCount(read(...along(7, -0.24)), MIDDLE, 'azimuth')).toBe(1);
		expect(cutCount(read(...along(7, 0, 1.19)), MIDDLE, 'azimuth')).toBe(1);
		expect(cutCount(read(...along(7, 0, 1.21)), MIDDLE, 'azimuth')).toBe(0);
		// The same line is a cut in tilt only where it runs in tilt.
		expect(cutCount(read(...along(7, 0)), MIDDLE, 'tilt')).toBe(0);
		const upright = many(7, (i) => spot(0.2, i / 6 - 0.5));
		expect(cutCount(read(...upright), MIDDLE, 'tilt')).toBe(1);
	});

	it('leads nowhere after five cuts along one axis and one along the other', () => {
		const cuts = (azimuth: number, tilt: number): GuidanceReading[] => [
			...many(7 * azimuth, (i) => spot(0.3 + (i % 7) / 10, 0)),
			...many(7 * tilt, (i) => spot(0, 0.3 + (i % 7) / 10))
		];
		expect(leadsNowhere(read(...cuts(5, 1)), MIDDLE)).toBe(true);
		expect(leadsNowhere(read(...cuts(1, 5)), MIDDLE)).toBe(true);
		expect(leadsNowhere(read(...cuts(4, 1)), MIDDLE)).toBe(false);
		expect(leadsNowhere(read(...cuts(5, 0)), MIDDLE)).toBe(false);
		expect(leadsNowhere(read(...cuts(9, 0)), MIDDLE)).toBe(false);
	});

	it('counts guesses as jumps in a row, up to now', () => {
		expect(trailingGuesses(read())).toBe(0);
		expect(trailingGuesses(read(spot(0, 0)))).toBe(0);
		expect(trailingGuesses(read(spot(0, 0), spot(0.9, 0)))).toBe(0);
		expect(trailingGuesses(read(spot(0, 0), spot(1.1, 0)))).toBe(1);
		expect(trailingGuesses(read(spot(0, 0), spot(-1.1, 0)))).toBe(1);
		expect(trailingGuesses(read(spot(0, 0), spot(0, 0.29)))).toBe(0);
		expect(trailingGuesses(read(spot(0, 0), spot(0, 0.31)))).toBe(1);
		expect(trailingGuesses(read(spot(0, 0), spot(0, -0.31)))).toBe(1);
		expect(
			trailingGuesses(read(spot(0, 0), spot(2, 0), spot(2.5, 0), spot(5, 0), spot(5, 1)))
		).toBe(2);
		expect(trailingGuesses(read(spot(0, 0), spot(2, 0), spot(2.5, 0)))).toBe(0);
	});

	it('has read a place within an eighth of a beam', () => {
		expect(readNear(read(), MIDDLE)).toBe(false);
		expect(readNear(read(spot(3, 0), spot(0.08, -0.08)), MIDDLE)).toBe(true);
		expect(readNear(read(spot(0.09, 0.09)), MIDDLE)).toBe(false);
		expect(readNear(read(spot(-0.119, 0)), MIDDLE)).toBe(true);
		expect(readNear(read(spot(0, 0.121)), MIDDLE)).toBe(false);
	});

	it('has an axis bracketed by a reading on either flank, near the middle of the other axis', () => {
		const between = (...readings: GuidanceReading[]): boolean =>
			bracketed(situation(readings, 1), MIDDLE, 'azimuth');
		expect(between(spot(-0.5, 0), spot(0.5, 0))).toBe(true);
		expect(between(spot(0.5, 0), spot(0.6, 0))).toBe(false);
		expect(between(spot(-0.5, 0), spot(-0.6, 0))).toBe(false);
		expect(between(spot(-0.21, 0), spot(0.94, 0))).toBe(true);
		expect(between(spot(-0.19, 0), spot(0.5, 0))).toBe(false);
		expect(between(spot(-0.5, 0), spot(0.96, 0))).toBe(false);
		expect(between(spot(-0.5, 0.49), spot(0.5, -0.49))).toBe(true);
		expect(between(spot(-0.5, 0.51), spot(0.5, 0))).toBe(false);
		expect(bracketed(situation([spot(0, 0.5), spot(0, -0.5)], 1), MIDDLE, 'tilt')).toBe(true);
		expect(bracketed(situation([spot(0, 0.5), spot(0, -0.5)], 1), MIDDLE, 'azimuth')).toBe(false);
	});

	it('needs no flank that lies beyond the adjuster', () => {
		const ends = (least: number, most: number): boolean =>
			bracketed(
				situation([spot(-0.5, 0)], 1, {
					travel: {
						azimuthDeg: [MIDDLE.azimuthDeg + least * BEAM, MIDDLE.azimuthDeg + most * BEAM],
						tiltDeg: [-12, 12]
					}
				}),
				MIDDLE,
				'azimuth'
			);
		expect(ends(-5, 0.29)).toBe(true);
		expect(ends(-5, 0.31)).toBe(false);
		const below = (least: number): boolean =>
			bracketed(
				situation([spot(0.5, 0)], 1, {
					travel: { azimuthDeg: [MIDDLE.azimuthDeg + least * BEAM, 12], tiltDeg: [-12, 12] }
				}),
				MIDDLE,
				'azimuth'
			);
		expect(below(-0.29)).toBe(true);
		expect(below(-0.31)).toBe(false);
	});
});

describe('the place of a guess', () => {
	it('lies outside the search beyond a beam of its lines, or three of its tilts', () => {
		const plan = planSearch({ ...base, beamwidthDeg: BEAM });
		const edge = plan.reachDeg + BEAM;
		const top = Math.max(...plan.lines.map((line) => line.tiltDeg)) + 3 * BEAM;
		const outside = (azimuthDeg: number, tiltDeg: number): boolean =>
			outsideSearch(plan, { azimuthDeg, tiltDeg }, BEAM);
		expect(outside(edge - 0.01, top - 0.01)).toBe(false);
		expect(outside(-edge + 0.01, -top + 0.01)).toBe(false);
		expect(outside(edge + 0.01, 0)).toBe(true);
		expect(outside(-edge - 0.01, 0)).toBe(true);
		expect(outside(0, top + 0.01)).toBe(true);
		expect(outside(0, -top - 0.01)).toBe(true);
		const wide = planSearch({
			...base,
			beamwidthDeg: BEAM,
			prior: { azimuthSigmaDeg: 3, tiltSigmaDeg: 3 }
		});
		expect(wide.lines.map((line) => line.tiltDeg).length).toBeGreaterThan(3);
		const highest = Math.max(...wide.lines.map((line) => line.tiltDeg)) + 3 * BEAM;
		expect(outsideSearch(wide, { azimuthDeg: 0, tiltDeg: highest - 0.01 }, BEAM)).toBe(false);
	});

	it('is where a parked end goes on from: which park it stood at tells which comes next', () => {
		const { parks } = planSearch({ ...base, beamwidthDeg: BEAM });
		expect(parks.length).toBeGreaterThan(3);
		for (const i of [0, 1, parks.length - 1]) {
			const park = parks[i]!;
			const near = {
				azimuthDeg: park.azimuthDeg + 0.1,
				tiltDeg: park.tiltDeg - 0.1,
				levelDbm: -88
			};
			const stood = situation([near, spot(9, 9)], 0);
			expect(searchOf(stood).first).toBe(false);
			const step = parkAndHandOver(stood, searchOf(stood));
			expect(step.advice).toBe('move');
			expect(step.target).toEqual(parks[(i + 1) % parks.length]);
		}
		const elsewhere = situation([{ azimuthDeg: 0.25, tiltDeg: 1.1, levelDbm: -88 }], 0);
		expect(searchOf(elsewhere).first).toBe(true);
		// There already, within a fifth of a beam: the far end searches.
		const [first] = parks;
		const at = (across: number, up: number): string =>
			parkAndHandOver(
				situation(
					[
						{ azimuthDeg: 0.3, tiltDeg: 3, levelDbm: -88 },
						{
							azimuthDeg: first!.azimuthDeg + across * BEAM,
							tiltDeg: first!.tiltDeg + up * BEAM,
							levelDbm: -88
						}
					],
					0
				),
				planSearch({ ...base, beamwidthDeg: BEAM })
			).advice;
		expect([at(0.13, 0.13), at(0.15, -0.15), at(0.19, 0), at(0, -0.21)]).toEqual([
			'hand-over',
			'move',
			'hand-over',
			'move'
		]);
	});

	it('is searched on, on a line that was not swept, while lines are left', () => {
		const nothing = situation([], 0);
		expect(nextLine(nothing, searchOf(nothing))?.sweep?.axis).toBe('azimuth');
		const all = situation(searched(), 0);
		expect(nextLine(all, searchOf(all))).toBeUndefined();
	});
});

describe('what a map says to do', () => {
	const SHARP = [0.05, 0.05] as const;
	const settled = [...cross(0.5), spot(0, 0)];

	it('is done where both axes are sharp, sure, bracketed, and the dish stands there', () => {
		expect(advice(settled, 0.96, SHARP)).toMatchObject({ advice: 'hand-over' });
		expect(
			advice(many(5, () => spot(0, 0, -43)).concat(cross(0.5), spot(0, 0, -43)), 0.96, SHARP).advice
		).toBe('lock');
		for (const [probability, sigmas] of [
			[0.94, SHARP],
			[0.96, [0.09, 0.05]],
			[0.96, [0.05, 0.09]]
		] as const) {
			expect(advice(settled, probability, sigmas).advice).toBe('sweep');
		}
		expect(advice([...settled, spot(0.08, 0)], 0.96, SHARP).advice).toBe('move');
		expect(advice([...settled, spot(0.06, 0)], 0.96, SHARP).advice).toBe('hand-over');
	});

	it('says how sure it is and how near', () => {
		const [first] = advice([...settled, spot(1, 0)], 0.953, [0.05, 0.07]).reasons;
		expect(first).toBe(
			'The main lobe lies at azimuth +2.10°, tilt −0.90° (95 % sure, to 0.07 of a beam).'
		);
		expect(advice([...settled, spot(1, 0)], 0.992, [0.07, 0.05]).reasons[0]).toContain(
			'(over 99 % sure, to 0.07 of a beam)'
		);
		const { boresight: found, probabilityOnMainLobe } = advice(settled, 0.96, [0.02, 0.04]);
		expect(found).toEqual({ ...MIDDLE, sigmaDeg: 0.04 * BEAM });
		expect(probabilityOnMainLobe).toBe(0.96);
	});

	it('turns the mount for a far end beyond the adjuster, once it is sure enough', () => {
		const travel = (
			axis: 'azimuth' | 'tilt',
			side: 1 | -1,
			beams: number
		): Partial<typeof base> => {
			const edge = (axis === 'azimuth' ? MIDDLE.azimuthDeg : MIDDLE.tiltDeg) - side * beams * BEAM;
			const range: [number, number] = side > 0 ? [-12, edge] : [edge, 12];
			return {
				travel: {
					azimuthDeg: axis === 'azimuth' ? range : [-12, 12],
					tiltDeg: axis === 'tilt' ? range : [-12, 12]
				}
			};
		};
		for (const axis of ['azimuth', 'tilt'] as const) {
			for (const side of [1, -1] as const) {
				const beyond = advice(settled, 0.86, [0.3, 0.3], travel(axis, side, 0.11));
				expect(beyond.beyond?.axis).toBe(axis);
				expect(advice(settled, 0.84, [0.3, 0.3], travel(axis, side, 0.11)).beyond).toBeUndefined();
				expect(advice(settled, 0.86, [0.3, 0.3], travel(axis, side, 0.09)).beyond).toBeUndefined();
			}
		}
	});

	it('goes on searching where a guess is not worth a move, and moves where it is', () => {
		const far = [spot(-3, 1), spot(-2.9, 1)];
		expect(advice(far, 0.29, [0.3, 0.3]).reasons[0]).toMatch(/^(Begin|Search|Too little)/);
		expect(advice(far, 0.31, [0.3, 0.3])).toMatchObject({
			advice: 'move',
			target: MIDDLE,
			probabilityOnMainLobe: 0.31
		});
	});

	it('goes on searching after four guesses in a row, and lets the far end search after eight', () => {
		const guesses = (count: number): GuidanceReading[] =>
			many(count + 1, (i) => spot(3 + 1.5 * i, i % 2));
		expect(advice(guesses(3), 0.5, [0.3, 0.3]).advice).toBe('move');
		expect(advice(guesses(4), 0.5, [0.3, 0.3]).target).not.toEqual(MIDDLE);
		// With every line swept there is nothing to search on: it guesses on, then it parks.
		const all = (count: number): GuidanceReading[] => [...searched(), ...guesses(count).slice(1)];
		expect(advice(all(5), 0.5, [0.3, 0.3])).toMatchObject({ advice: 'move', target: MIDDLE });
		const parked = advice(all(9), 0.5, [0.3, 0.3]);
		expect(parked.target).toEqual(planSearch({ ...base, beamwidthDeg: BEAM }).parks[0]);
		expect(parked.boresight).toBeNull();
		expect(advice(all(9), 0.96, [0.3, 0.3]).target).toEqual(MIDDLE);
	});

	it('does not follow a guess where the far end can hardly be, unless it is sharp', () => {
		const away = { azimuthDeg: 30, tiltDeg: 0 };
		const change = { travel: { azimuthDeg: [-40, 40], tiltDeg: [-12, 12] } as const };
		expect(advice([spot(0, 0)], 0.6, [0.3, 0.3], change, away).target).not.toEqual(away);
		expect(advice([spot(0, 0)], 0.96, SHARP, change, away)).toMatchObject({
			advice: 'move',
			target: away
		});
	});

	it('goes to the likely place before it sweeps, unless it was read already', () => {
		expect(advice([spot(0.29, 0)], 0.6, [0.5, 0.3]).advice).toBe('sweep');
		expect(advice([spot(0.31, 0)], 0.6, [0.5, 0.3])).toMatchObject({
			advice: 'move',
			target: MIDDLE
		});
		const seen = advice([spot(0, 0), spot(0.31, 0.1)], 0.6, [0.5, 0.3]);
		expect(seen).toMatchObject({ advice: 'sweep', sweep: { axis: 'azimuth' } });
		// The cross axis must stand at the place of the sweep.
		const aside = advice([spot(0, 0), spot(0.1, 0.31)], 0.6, [0.5, 0.3]);
		expect(aside).toMatchObject({
			advice: 'move',
			target: MIDDLE,
			reasons: ['Go to the likely place first, then sweep the azimuth from there.']
		});
		expect(advice([spot(0, 0), spot(0.1, 0.29)], 0.6, [0.5, 0.3]).advice).toBe('sweep');
	});

	it('sweeps the axis known worse; as far as its doubt, as finely as was swept before', () => {
		const sweepOf = (
			readings: GuidanceReading[],
			probability: number,
			sigmas: [number, number]
		): NonNullable<Guidance['sweep']> => advice(readings, probability, sigmas).sweep!;
		const here = [spot(0, 0)];
		expect(sweepOf(here, 0.9, [0.3, 0.2]).axis).toBe('azimuth');
		expect(sweepOf(here, 0.9, [0.2, 0.3]).axis).toBe('tilt');
		const fine = sweepOf(here, 0.9, [0.3, 0.2]);
		expect(fine.toDeg - MIDDLE.azimuthDeg).toBeCloseTo((0.7 + 2.2 * 0.3) * BEAM, 9);
		expect(MIDDLE.azimuthDeg - fine.fromDeg).toBeCloseTo((0.7 + 2.2 * 0.3) * BEAM, 9);
		expect(fine.stepDeg).toBeCloseTo(BEAM / 5, 9);
		expect(sweepOf(here, 0.9, [0.41, 0.2]).stepDeg).toBeCloseTo(BEAM / 3, 9);
		expect(sweepOf(here, 0.79, [0.3, 0.2]).stepDeg).toBeCloseTo(BEAM / 3, 9);
		expect(sweepOf(here, 0.81, [0.39, 0.2]).stepDeg).toBeCloseTo(BEAM / 5, 9);
		expect(advice(here, 0.81, [0.39, 0.2]).reasons[0]).toContain('A short sweep of azimuth');
		expect(advice(here, 0.81, [0.41, 0.2]).reasons[0]).toContain('known to 0.4 beams only');
		const doubtful = sweepOf(here, 0.9, [3, 0.2]);
		expect(doubtful.toDeg - MIDDLE.azimuthDeg).toBeCloseTo(4.7 * BEAM, 9);
		// One cut taken: finer by two fifths; five: by no more than three.
		const cut = (count: number): GuidanceReading[] => [
			...many(7 * count, (i) => spot(0.3 + (i % 7) / 10, 0)),
			...many(7 * count, (i) => spot(0, 0.3 + (i % 7) / 10)),
			spot(0, 0)
		];
		expect(sweepOf(cut(1), 0.9, [0.3, 0.2]).stepDeg).toBeCloseTo(BEAM / 7, 9);
		expect(sweepOf(cut(4), 0.9, [0.3, 0.2]).stepDeg).toBeCloseTo(BEAM / 11, 9);
	});

	it('sweeps the other axis where this one was cut twice more and that one is not sharp', () => {
		const cuts = (count: number): GuidanceReading[] => [
			...many(7 * count, (i) => spot(0.3 + (i % 7) / 10, 0)),
			spot(0, 0)
		];
		expect(advice(cuts(2), 0.9, [0.3, 0.2]).sweep!.axis).toBe('tilt');
		expect(advice(cuts(1), 0.9, [0.3, 0.2]).sweep!.axis).toBe('azimuth');
		expect(advice(cuts(2), 0.9, [0.3, 0.04]).sweep!.axis).toBe('azimuth');
		expect(advice(cuts(2), 0.9, [0.3, 0.05]).sweep!.axis).toBe('tilt');
		// Sharp and sure, one flank open: that axis, whichever is known worse.
		expect(
			advice([spot(-0.5, 0), spot(0.5, 0), spot(0, 0.5), spot(0, 0)], 0.96, [0.06, 0.05]).sweep!
				.axis
		).toBe('tilt');
		expect(
			advice([spot(0, -0.5), spot(0, 0.5), spot(0.5, 0), spot(0, 0)], 0.96, [0.05, 0.06]).sweep!
				.axis
		).toBe('azimuth');
	});

	it('says so where more of the same leads nowhere', () => {
		const over = [
			...many(35, (i) => spot(0.3 + (i % 7) / 10, 0)),
			...many(7, (i) => spot(0, 0.3 + (i % 7) / 10)),
			spot(0, 0)
		];
		const lost = advice(over, 0.9, [0.3, 0.2]);
		expect(lost.advice).toBe('check');
		expect(lost.reasons).toHaveLength(2);
		expect(lost.probabilityOnMainLobe).toBe(0.9);
	});

	it('judges the level by what was read within a tenth of a beam', () => {
		const level = (near: number): string =>
			advice([...cross(0.5), spot(near, 0, -60), spot(0, 0, -44)], 0.96, SHARP).reasons[0]!;
		expect(level(0.09)).toContain('9.0 dB are missing');
		expect(level(0.11)).toContain('−44.0 dBm, 1.0 dB below the plan');
	});
});

describe('the parks of a search', () => {
	it('cover the plane likeliest first: a coarse round, then a finer one between', () => {
		const { parks, hearingRadiusDeg } = planSearch({
			...base,
			beamwidthDeg: BEAM,
			prior: { azimuthSigmaDeg: 4, tiltSigmaDeg: 2 }
		});
		const coarse = Math.max(1.2 * BEAM, 1.2 * hearingRadiusDeg);
		expect(parks[0]!.azimuthDeg).toBe(0.4 * BEAM);
		expect(parks[0]!.tiltDeg).toBeCloseTo(0, 12);
		expect(parks.length).toBeLessThanOrEqual(24);
		const rank = ({ azimuthDeg, tiltDeg }: (typeof parks)[number]): number =>
			(azimuthDeg / 4) ** 2 + (tiltDeg / 2) ** 2;
		const isCoarse = (deg: number): boolean =>
			Math.abs(deg / coarse - Math.round(deg / coarse)) < 1e-9;
		const round = parks
			.slice(1)
			.filter(({ azimuthDeg, tiltDeg }) => isCoarse(azimuthDeg) && isCoarse(tiltDeg));
		const finer = parks.slice(1 + round.length);
		for (const ranks of [round, finer].map((list) => list.map(rank))) {
			expect(ranks).toEqual([...ranks].sort((p, q) => p - q));
		}
		// Of equals that to the right comes first, then the upper one.
		const pair = round.findIndex(({ azimuthDeg }) => azimuthDeg > 0);
		expect(round[pair + 1]!.azimuthDeg).toBeCloseTo(-round[pair]!.azimuthDeg, 9);
		// What the finer round adds stands apart from the coarse one.
		for (const park of finer) {
			for (const other of [{ azimuthDeg: 0, tiltDeg: 0 }, ...round]) {
				expect(
					Math.hypot(park.azimuthDeg - other.azimuthDeg, park.tiltDeg - other.tiltDeg)
				).toBeGreaterThan(0.6 * 1.7 * BEAM);
			}
		}
		expect(finer.length).toBeGreaterThan(0);
	});

	it('have no finer round where the coarse one is fine already', () => {
		const { parks, hearingRadiusDeg } = planSearch({
			...base,
			beamwidthDeg: BEAM,
			plannedLevelDbm: base.floorDbm + 12,
			prior: { azimuthSigmaDeg: 2, tiltSigmaDeg: 0.5 }
		});
		const coarse = Math.max(1.2 * BEAM, 1.2 * hearingRadiusDeg);
		expect(1.7 * BEAM).toBeGreaterThan(0.8 * coarse);
		const across = Math.floor((2.6 * 2) / coarse + 0.35);
		const upright = Math.floor((2.6 * 0.5) / coarse + 0.35);
		expect(parks).toHaveLength((2 * across + 1) * (2 * upright + 1));
	});
});
