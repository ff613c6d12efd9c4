import { describe, expect, it } from 'vitest';
import { relativeGainDb } from '#core/antenna/taperedAperture';
import {
	weigh,
	type Guidance,
	type GuidanceInput,
	type GuidanceReading,
	type Weighed
} from '#core/guide/guidance';
import { planSearch } from '#core/guide/searchPlan';
import { sumOfLevelsDb } from '#core/units/decibel';
import { base, BEAM } from './guidanceFixture';

const THERE = { azimuthDeg: 2.1, tiltDeg: -0.6 };

/** What a round dish reads that looks beside the far end, without noise. */
function looked(azimuthDeg: number, tiltDeg: number, lossDb = 0, there = THERE): GuidanceReading {
	const off = Math.hypot(azimuthDeg - there.azimuthDeg, tiltDeg - there.tiltDeg) / BEAM;
	return {
		azimuthDeg,
		tiltDeg,
		levelDbm: sumOfLevelsDb([base.plannedLevelDbm - lossDb + relativeGainDb(off), base.floorDbm])
	};
}
const line = (
	axis: 'azimuth' | 'tilt',
	from: number,
	to: number,
	across: number,
	lossDb = 0,
	there = THERE,
	count = 13
): GuidanceReading[] =>
	Array.from({ length: count }, (_, i) => {
		const along = from + ((to - from) * i) / (count - 1);
		return axis === 'azimuth'
			? looked(along, across, lossDb, there)
			: looked(across, along, lossDb, there);
	});
const silent = (azimuthDeg: number, tiltDeg: number): GuidanceReading => ({
	azimuthDeg,
	tiltDeg,
	levelDbm: base.floorDbm
});
const ask = (readings: readonly GuidanceReading[], change: Partial<GuidanceInput> = {}): Weighed =>
	weigh({ ...base, ...change, readings });
const advice = (
	readings: readonly GuidanceReading[],
	change: Partial<GuidanceInput> = {}
): Guidance => ask(readings, change).guidance;

/** Both axes swept through the far end, then back onto it. */
const aligned = (lossDb = 0, there = THERE): GuidanceReading[] => [
	...line('azimuth', there.azimuthDeg - 1.2, there.azimuthDeg + 1.2, there.tiltDeg, lossDb, there),
	...line('tilt', there.tiltDeg - 1.2, there.tiltDeg + 1.2, there.azimuthDeg, lossDb, there),
	looked(there.azimuthDeg, there.tiltDeg, lossDb, there)
];

describe('while nothing is heard', () => {
	const FIRST_REACH = 1.9 * 3 + 0.5 * BEAM;
	const plan = planSearch({ ...base, beamwidthDeg: BEAM });

	it('begins over the window of the first heading, and says what that takes and promises', () => {
		const first = advice([]);
		expect(first).toMatchObject({
			advice: 'sweep',
			boresight: null,
			probabilityOnMainLobe: 0,
			sweep: {
				axis: 'azimuth',
				fromDeg: expect.closeTo(-FIRST_REACH, 9) as number,
				toDeg: expect.closeTo(FIRST_REACH, 9) as number,
				stepDeg: plan.stepDeg
			}
		});
		expect(first.reasons).toEqual([
			'Begin with azimuth over the window of the first heading, slowly; do not stop at the first good signal.',
			`One line: ${plan.samples} readings, about ${Math.max(1, Math.round(plan.secondsByMeter / 60))} min with a meter that reads by itself, ${Math.round(plan.secondsByHand / 60)} min typed; finds the far end ${Math.min(99, Math.floor(100 * plan.probabilityOneEnd))} times in 100 if it looks this way, ${Math.floor(100 * plan.probabilityBothEnds)} times as it was first set. After 3 such turns of each end without a signal it is hardly the pointing.`
		]);
	});

	it('keeps inside the travel of the adjuster', () => {
		const { sweep } = advice([], { travel: { azimuthDeg: [-3, 2], tiltDeg: [-1, 1] } });
		expect([sweep!.fromDeg, sweep!.toDeg]).toEqual([-3, 2]);
	});

	const wide = { prior: { azimuthSigmaDeg: 3, tiltSigmaDeg: 2 } };
	const lines = planSearch({ ...base, ...wide, beamwidthDeg: BEAM }).lines.map(
		(line) => line.tiltDeg
	);
	const sweptAt = (tilt: number, reach = 9): GuidanceReading[] =>
		Array.from({ length: 21 }, (_, i) => silent(-reach + (i * reach) / 10, tilt));

	it('goes to the next line of tilt, then sweeps it over the whole search', () => {
		const to = advice(sweptAt(0), wide);
		expect(to).toMatchObject({
			advice: 'move',
			target: { azimuthDeg: 9, tiltDeg: lines[1]! },
			boresight: null
		});
		expect(to.reasons).toEqual([
			`Too little is heard so far: go to tilt +${lines[1]!.toFixed(2)}° for the next line.`
		]);
		const there = advice([...sweptAt(0), silent(9, lines[1]! + 0.19 * BEAM)], wide);
		expect(there.advice).toBe('sweep');
		expect(there.reasons[0]).toBe('Search: azimuth on the next line of tilt.');
		expect(there.reasons[1]).toMatch(new RegExp(`^All ${lines.length} lines of tilt: `));
		const { reachDeg } = planSearch({ ...base, ...wide, beamwidthDeg: BEAM });
		expect(there.sweep!.toDeg).toBeCloseTo(reachDeg, 9);
		expect(advice([...sweptAt(0), silent(9, lines[1]! + 0.21 * BEAM)], wide).advice).toBe('move');
	});

	it('counts a line as swept by three readings over two thirds of it, near enough to its tilt', () => {
		const after = (readings: GuidanceReading[]): number | undefined =>
			advice(readings, wide).target?.tiltDeg;
		const edges = (tilt: number): GuidanceReading[] => [-8, 0, 8].map((a) => silent(a, tilt));
		expect(after(edges(0))).toBeCloseTo(lines[1]!, 9);
		expect(after(edges(0.35 * BEAM))).toBeCloseTo(lines[1]!, 9);
		expect(after(edges(0.45 * BEAM))).toBe(0);
		expect(advice([silent(-8, 0), silent(8, 0)], wide).advice).toBe('sweep');
		expect(
			advice(
				[-3, 0, 3].map((a) => silent(a, 0)),
				wide
			).advice
		).toBe('sweep');
	});

	it('leaves out lines beyond the travel', () => {
		const low = { ...wide, travel: { azimuthDeg: [-12, 12], tiltDeg: [-12, 0.5] } as const };
		expect(advice(sweptAt(0), low).target!.tiltDeg).toBeCloseTo(lines[2]!, 9);
	});

	it('parks beside the plan when every line was swept, and then hands over', () => {
		const [park, next] = planSearch({ ...base, beamwidthDeg: BEAM }).parks;
		const parked = advice(sweptAt(0));
		expect(parked).toEqual({
			advice: 'move',
			target: park,
			boresight: null,
			probabilityOnMainLobe: 0,
			memory: { searches: 0, boresight: null },
			reasons: [
				'Nothing is heard on any line: stand at the next place of the search, then let the far end look.'
			]
		});
		const over = advice([...sweptAt(0), silent(park!.azimuthDeg, park!.tiltDeg)]);
		expect(over.advice).toBe('hand-over');
		expect(over.boresight).toBeNull();
		expect(over.reasons).toHaveLength(2);
		expect(over.memory).toEqual({ searches: 1, boresight: null });
		// A turn that begins at a park ends at the next of them, after more lines than the first search.
		const again = [silent(park!.azimuthDeg, park!.tiltDeg), ...sweptAt(0, 11.5)];
		const more = planSearch({ ...base, beamwidthDeg: BEAM }, false).lines.map(
			(line) => line.tiltDeg
		);
		expect(advice(again).target!.tiltDeg).toBeCloseTo(more[1]!, 9);
		const all = [again[0]!, ...more.flatMap((tilt) => sweptAt(tilt, 11.5))];
		expect(advice(all).target).toEqual(next);
	});

	it('has an end: after the turns that it promised it says what is most probably wrong', () => {
		const [park] = planSearch({ ...base, beamwidthDeg: BEAM }).parks;
		const over = [...sweptAt(0), silent(park!.azimuthDeg, park!.tiltDeg)];
		const after = (searches: number): Guidance =>
			advice(over, { memory: { searches, boresight: null } });
		expect(plan.turns).toBe(3);
		expect([after(0), after(1)].map((g) => [g.advice, g.memory?.searches])).toEqual([
			['hand-over', 1],
			['hand-over', 2]
		]);
		const spent = after(2);
		expect(spent).toMatchObject({ advice: 'check', spent: true, boresight: null });
		expect(spent.reasons[0]).toContain('a transmitter that is off, or another channel or sub-band');
		expect(spent.reasons[1]).toMatch(/^Cheapest first: /);
	});

	it('counts only searches in a row: an end that was heard begins to count anew', () => {
		const memory = { searches: 2, boresight: null };
		const heard = advice(aligned(), { memory });
		expect(heard.advice).toBe('lock');
		expect(heard.memory).toMatchObject({ searches: 0, boresight: heard.boresight });
		// In the middle of a turn nothing is added or lost.
		expect(advice([], { memory }).memory).toEqual(memory);
	});

	it('claims no more than it has met: a narrow beam that hardly hears is found by its headings', () => {
		const poor = { beamwidthDeg: 0.45, plannedLevelDbm: -80 };
		const narrow = planSearch({ ...base, ...poor });
		expect(narrow.met).toBeLessThan(0.5);
		expect(advice([], poor).reasons[1]).toContain(
			`12 such turns of each end meet only ${Math.floor(100 * narrow.met)} in 100 of the places`
		);
	});
});

describe('what must be looked into first', () => {
	const check = (readings: GuidanceReading[], change: Partial<GuidanceInput> = {}): string[] => {
		const { advice: kind, reasons, boresight } = advice(readings, change);
		return kind === 'check' && boresight === null ? reasons : [];
	};

	it('is a level more than 7 dB above the plan', () => {
		const at = (levelDbm: number): string[] => check([{ azimuthDeg: 0, tiltDeg: 0, levelDbm }]);
		expect(at(-35.9)[0]).toBe('−35.9 dBm is 7.1 dB above the plan: as suspect as too low.');
		expect(at(-36)).toEqual([]);
	});

	it('is more readings than any search takes', () => {
		const many = (count: number): GuidanceReading[] =>
			Array.from({ length: count }, (_, i) => silent((i % 30) * 0.3 - 4, 0));
		expect(check(many(901))[0]).toMatch(/^So many readings have not settled/);
		expect(check(many(900))).toEqual([]);
	});

	const flat = (count: number, reach: number, levelDbm: (i: number) => number): GuidanceReading[] =>
		Array.from({ length: count }, (_, i) => ({
			azimuthDeg: (reach * i) / (count - 1),
			tiltDeg: 0,
			levelDbm: levelDbm(i)
		}));

	it('is a level that does not follow the dish', () => {
		const found = check(flat(8, 2.2 * BEAM, (i) => -50 + 0.1 * i));
		expect(found[0]).toBe(
			'The level stays within 0.7 dB while the dish moved over 2.2 beams: it does not follow the pointing.'
		);
		const inTilt = flat(8, 2.2 * BEAM, () => -50).map(({ azimuthDeg, levelDbm }) => ({
			azimuthDeg: 0,
			tiltDeg: azimuthDeg,
			levelDbm
		}));
		expect(check(inTilt)).toHaveLength(2);
	});

	it.each([
		['too few readings', flat(7, 2.2 * BEAM, () => -50)],
		['too small a movement', flat(8, 1.9 * BEAM, () => -50)],
		['a level that changes', flat(8, 2.2 * BEAM, (i) => -50 + 0.2 * i)],
		['a level far below the plan', flat(8, 2.2 * BEAM, () => -59)],
		['one reading that fell into the floor', [...flat(8, 2.2 * BEAM, () => -50), silent(5, 0)]]
	])('is no such level with %s', (_, readings) => {
		expect(check(readings)).toEqual([]);
	});

	it('leaves out what is no reading', () => {
		const odd = { azimuthDeg: Number.NaN, tiltDeg: 0, levelDbm: 20 };
		expect(
			advice([odd, { ...odd, azimuthDeg: 0, levelDbm: Number.POSITIVE_INFINITY }]).advice
		).toBe('sweep');
	});
});

describe('once it is heard', () => {
	it('goes to the likely place, and says how sure it is', () => {
		// A line beside the main lobe.
		const { guidance, location } = ask(line('azimuth', -3, 7, 0.9, 0, THERE, 25));
		const { boresight } = location;
		expect(guidance).toMatchObject({
			advice: 'move',
			target: { azimuthDeg: boresight!.azimuthDeg, tiltDeg: boresight!.tiltDeg },
			probabilityOnMainLobe: location.probability,
			boresight: {
				azimuthDeg: boresight!.azimuthDeg,
				tiltDeg: boresight!.tiltDeg,
				sigmaDeg: Math.max(boresight!.told.azimuthDeg, boresight!.told.tiltDeg)
			}
		});
	});

	it('sweeps the axis that is known worse, as far and as finely as its doubt asks', () => {
		const readings = line('azimuth', THERE.azimuthDeg - 2, THERE.azimuthDeg + 2, THERE.tiltDeg);
		const { guidance, location } = ask([...readings, looked(2.1, -0.6)]);
		const { azimuthDeg, tiltDeg, sigmaAzimuthDeg, sigmaTiltDeg } = location.boresight!;
		expect(sigmaTiltDeg).toBeGreaterThan(sigmaAzimuthDeg);
		const sigma = sigmaTiltDeg / BEAM;
		const reach = (0.7 + Math.min(4, 2.2 * sigma)) * BEAM;
		expect(guidance.advice).toBe('sweep');
		expect(guidance.sweep).toMatchObject({
			axis: 'tilt',
			fromDeg: expect.closeTo(tiltDeg - reach, 9) as number,
			toDeg: expect.closeTo(tiltDeg + reach, 9) as number
		});
		expect(Math.abs(azimuthDeg - 2.1)).toBeLessThan(0.05);
		const rough = sigma > 0.4 || location.probability < 0.8;
		expect(guidance.sweep!.stepDeg).toBeCloseTo(BEAM / (rough ? 3 : 5), 9);
		expect(guidance.reasons[0]).toMatch(
			rough ? /^The tilt is known to \d\.\d beams only/ : /^A short sweep of tilt about/
		);
	});

	it('sweeps the flank that was not read yet, though the place is known', () => {
		const oneSided = [
			...line(
				'azimuth',
				THERE.azimuthDeg - 1.2,
				THERE.azimuthDeg + 1.2,
				THERE.tiltDeg,
				0,
				THERE,
				21
			),
			...line('tilt', THERE.tiltDeg - 1.2, THERE.tiltDeg, THERE.azimuthDeg, 0, THERE, 21)
		];
		const { guidance, location } = ask(oneSided);
		expect(location.probability).toBeGreaterThan(0.95);
		expect(guidance).toMatchObject({ advice: 'sweep', sweep: { axis: 'tilt' } });
		// Where the adjuster ends short of the flank, one must do.
		const ends = { travel: { azimuthDeg: [-12, 12], tiltDeg: [-12, -0.5] } as const };
		expect(advice([...oneSided, looked(2.1, -0.6)], ends).advice).toBe('lock');
	});

	it('locks in the middle on plan, within the tolerance', () => {
		expect(advice(aligned())).toMatchObject({
			advice: 'lock',
			reasons: [
				'The dish stands in the middle of its main lobe on both axes at −43.0 dBm, 0.0 dB above the plan.',
				'Tighten with the meter connected, one end at a time.'
			]
		});
		expect(advice(aligned(1.9)).advice).toBe('lock');
		expect(advice(aligned(2.1)).advice).toBe('hand-over');
		expect(advice(aligned(-1.5)).reasons[0]).toContain('1.5 dB above the plan');
	});

	it('goes back into the middle before anything is closed', () => {
		const off = [...aligned(), looked(THERE.azimuthDeg + 0.2 * BEAM, THERE.tiltDeg)];
		const back = advice(off);
		expect(back).toMatchObject({
			advice: 'move',
			target: {
				azimuthDeg: expect.closeTo(2.1, 1) as number,
				tiltDeg: expect.closeTo(-0.6, 1) as number
			}
		});
		expect(back.reasons).toEqual([
			expect.stringMatching(
				/^The main lobe lies at azimuth \+2\.1\d?°?.*tilt −0\.\d\d° \((over 99|\d\d) % sure, to 0\.\d\d of a beam\)\.$/
			),
			expect.stringMatching(/^There about −43\.[01] dBm is to be expected, as planned\.$/)
		]);
		expect(
			advice([...aligned(), looked(THERE.azimuthDeg + 0.04 * BEAM, THERE.tiltDeg)]).advice
		).toBe('lock');
		const short = advice([...aligned(9), looked(THERE.azimuthDeg + 0.3 * BEAM, THERE.tiltDeg, 9)]);
		expect(short.reasons[1]).toMatch(
			/^There about −5\d\.\d dBm is to be expected, [89]\.\d dB below the plan: the rest is at the far end\.$/
		);
	});

	it('hands over where it is short in the middle, and says what so much may be', () => {
		const some = advice(aligned(12));
		expect(some.advice).toBe('hand-over');
		expect(some.reasons).toEqual([
			'This dish stands in the middle of its main lobe, yet 12.0 dB are missing: what is left is at the far end.',
			'Let the far end find its main lobe while this one stands still.'
		]);
		const much = advice(aligned(25));
		expect(much.advice).toBe('hand-over');
		expect(much.reasons[1]).toContain('two things at once, or crossed polarization');
		expect(advice(aligned(23)).reasons[1]).toContain('Let the far end find');
	});

	it('reads the level where it stands, not the best it ever had', () => {
		const later = { ...looked(THERE.azimuthDeg, THERE.tiltDeg), levelDbm: -44 };
		const { reasons } = advice([...aligned(), later, later]);
		// Three readings here: −43, −44 and −44, and one of each cut through the middle.
		expect(reasons[0]).toMatch(/at −43\.[3-6] dBm, 0\.[3-6] dB below the plan/);
	});

	it('turns the mount when the far end lies beyond the adjuster, not when it lies at its end', () => {
		const beyond = (most: number): Guidance =>
			advice(aligned(0, { azimuthDeg: most + 0.2 * BEAM, tiltDeg: 0 }), {
				travel: { azimuthDeg: [-12, most], tiltDeg: [-12, 12] }
			});
		const found = beyond(4);
		expect(found).toMatchObject({
			advice: 'check',
			beyond: { axis: 'azimuth', byDeg: expect.closeTo(4 + 0.2 * BEAM, 1) as number }
		});
		expect(found.reasons[0]).toMatch(
			/^The far end lies at azimuth \+4\.\d\d°, beyond the travel of the adjuster\.$/
		);
		const inside = advice(aligned(0, { azimuthDeg: 4 + 0.05 * BEAM, tiltDeg: 0 }), {
			travel: { azimuthDeg: [-12, 4], tiltDeg: [-12, 12] }
		});
		expect(inside.beyond).toBeUndefined();
		const below = advice(aligned(0, { azimuthDeg: 0, tiltDeg: -2 }), {
			travel: { azimuthDeg: [-12, 12], tiltDeg: [-1.5, 12] }
		});
		expect(below).toMatchObject({ advice: 'check', beyond: { axis: 'tilt' } });
	});
});
