import { describe, expect, it } from 'vitest';
import { guide, type GuidanceInput, type GuidanceReading } from '#core/guide/guidance';
import { locate } from '#core/locate/locator';
import { relativeGainDb } from '#core/antenna/taperedAperture';
import { sumOfLevelsDb } from '#core/units/decibel';
import { makeApertureDish } from './apertureDish';
import { makeForeignDish } from './foreignDish';
import { followTool, GuidedHop } from './guidedHop';
import { base, BEAM } from './guidanceFixture';
import { catalogue } from './planFixture';

/** A noiseless round dish with its boresight at a place and a loss common to every reading. */
function reading(
	azimuthDeg: number,
	tiltDeg: number,
	boresight = { azimuthDeg: 2.1, tiltDeg: -0.6 },
	lossDb = 0
): GuidanceReading {
	const off = Math.hypot(azimuthDeg - boresight.azimuthDeg, tiltDeg - boresight.tiltDeg) / BEAM;
	const levelDbm = sumOfLevelsDb([
		base.plannedLevelDbm - lossDb + relativeGainDb(off),
		base.floorDbm
	]);
	return { azimuthDeg, tiltDeg, levelDbm };
}

const cut = (tiltDeg: number, lossDb = 0): GuidanceReading[] =>
	Array.from({ length: 23 }, (_, i) => reading(-8 + i * 0.72, tiltDeg, undefined, lossDb));

describe('the locator', () => {
	const located = (readings: readonly GuidanceReading[]): ReturnType<typeof locate> =>
		locate({
			...base,
			beamwidthDeg: BEAM,
			beamwidthKnown: true,
			priorSigmaDeg: { azimuth: 3, tilt: 0.5 },
			readings
		});

	it('without readings is the prior, and its map sums to one', () => {
		const { map, heard, boresight } = located([]);
		expect([heard, boresight]).toEqual([false, null]);
		expect(map.mass.reduce((sum, m) => sum + m, 0)).toBeCloseTo(1, 9);
		const best = map.mass.reduce((top, m, i) => (m > map.mass[top]! ? i : top), 0);
		expect(map.westDeg + (best % map.columns) * map.stepDeg).toBeCloseTo(0, 6);
	});

	it('one cut tells azimuth finely and tilt by how deep it passed', () => {
		const { boresight, heard } = located(cut(0));
		expect(heard).toBe(true);
		expect(boresight!.azimuthDeg).toBeCloseTo(2.1, 1);
		expect(Math.abs(boresight!.tiltDeg)).toBeLessThan(0.9);
		expect(boresight!.sigmaTiltDeg).toBeGreaterThan(boresight!.sigmaAzimuthDeg);
	});

	it('finds the place whatever the far end costs', () => {
		for (const lossDb of [0, 7, 21, 31]) {
			const readings = [
				...cut(-0.5, lossDb),
				...Array.from({ length: 13 }, (_, i) => reading(2.1, -2 + i * 0.25, undefined, lossDb))
			];
			const { boresight, probability } = located(readings);
			expect(boresight!.azimuthDeg).toBeCloseTo(2.1, 1);
			expect(boresight!.tiltDeg).toBeCloseTo(-0.6, 1);
			expect(boresight!.axisLevelDbm).toBeCloseTo(base.plannedLevelDbm - lossDb, 0);
			expect(probability).toBeGreaterThan(0.95);
		}
	});

	it('knows the main lobe from a side lobe by the level alone, when that is on plan', () => {
		expect(located([reading(2.1, -0.6)]).boresight!.sigmaAzimuthDeg).toBeLessThan(0.6 * BEAM);
	});

	it('takes the order and the repetition of readings for what they are worth: nothing', () => {
		const readings = cut(-0.4);
		const first = located(readings).boresight!;
		const again = located([...readings].reverse().concat(readings)).boresight!;
		expect(again.azimuthDeg).toBeCloseTo(first.azimuthDeg, 6);
	});
});

describe('the next step of one end', () => {
	it('begins with azimuth over the window of the first heading, no coarser than the beam allows', () => {
		const { advice, sweep } = guide(base);
		expect(advice).toBe('sweep');
		expect(sweep!.axis).toBe('azimuth');
		expect(sweep!.toDeg - sweep!.fromDeg).toBeGreaterThan(2 * 1.9 * 3);
		expect(sweep!.stepDeg).toBeLessThan(0.7 * BEAM);
	});

	it('never sweeps or moves beyond the travel', () => {
		const narrow = { ...base, travel: { azimuthDeg: [-3, 2], tiltDeg: [-1, 1] } } as GuidanceInput;
		const first = guide(narrow).sweep!;
		expect([first.fromDeg, first.toDeg]).toEqual([-3, 2]);
		const { target } = guide({
			...narrow,
			readings: cut(0).filter((r) => r.azimuthDeg > -3 && r.azimuthDeg < 2)
		});
		if (target) {
			expect(target.azimuthDeg).toBeLessThanOrEqual(2);
			expect(Math.abs(target.tiltDeg)).toBeLessThanOrEqual(1);
		}
	});

	it('goes to the likely place, not to the highest reading of a cut beside the main lobe', () => {
		const beside = Array.from({ length: 25 }, (_, i) => reading(-3 + i * 0.4, 1.5));
		const { advice, target } = guide({ ...base, readings: beside });
		expect(advice).toBe('move');
		expect(Math.abs(target!.azimuthDeg - 2.1)).toBeLessThan(0.35 * BEAM);
	});

	const aligned = [
		...Array.from({ length: 11 }, (_, i) => reading(2.1 + (i - 5) * 0.2, -0.6)),
		...Array.from({ length: 11 }, (_, i) => reading(2.1, -0.6 + (i - 5) * 0.2)),
		reading(2.1, -0.6)
	];
	it('on plan in the middle of the main lobe says to lock', () => {
		expect(guide({ ...base, readings: aligned }).advice).toBe('lock');
	});

	it('short in the middle of the main lobe hands over, and says what is missing', () => {
		const short = aligned.map((r) => ({
			...r,
			levelDbm: sumOfLevelsDb([r.levelDbm - 20, base.floorDbm])
		}));
		const answer = guide({ ...base, readings: short });
		expect(answer.advice).toBe('hand-over');
		expect(answer.reasons.join(' ')).toMatch(/2\d\.\d dB are missing|19\.\d dB are missing/);
	});

	it('hears nothing, searches line by line, then parks and lets the far end search', () => {
		const readings: GuidanceReading[] = [];
		const silent = (azimuthDeg: number, tiltDeg: number): GuidanceReading => ({
			azimuthDeg,
			tiltDeg,
			levelDbm: base.floorDbm + 0.3 * Math.sin(azimuthDeg * 5 + readings.length)
		});
		const seen: string[] = [];
		let here = { azimuthDeg: 0, tiltDeg: 0 };
		for (let i = 0; i < 30; i++) {
			const answer = guide({ ...base, readings });
			seen.push(answer.advice);
			if (answer.advice === 'sweep') {
				const { fromDeg, toDeg, stepDeg } = answer.sweep!;
				for (let a = fromDeg; a <= toDeg; a += stepDeg) readings.push(silent(a, here.tiltDeg));
				here = { ...here, azimuthDeg: toDeg };
			} else if (answer.advice === 'move') {
				here = answer.target!;
				readings.push(silent(here.azimuthDeg, here.tiltDeg));
			} else break;
		}
		expect(seen.at(-1)).toBe('hand-over');
		expect(seen.filter((advice) => advice === 'sweep').length).toBeGreaterThanOrEqual(1);
		expect(seen.length).toBeLessThan(12);
	});

	it.each([
		[
			'a level far above the plan',
			cut(-0.6).map((r) => ({ ...r, levelDbm: r.levelDbm + 9 })),
			'above the plan'
		],
		[
			'a level that does not follow the dish',
			cut(0).map((r) => ({ ...r, levelDbm: -52 })),
			'does not follow'
		]
	])('asks to look into %s', (_, readings, words) => {
		const answer = guide({ ...base, readings });
		expect(answer.advice).toBe('check');
		expect(answer.reasons.join(' ')).toContain(words);
	});

	it('says when the far end lies beyond the adjuster', () => {
		const narrow = {
			...base,
			travel: { azimuthDeg: [-1, 1.4], tiltDeg: [-2, 2] }
		} as GuidanceInput;
		const readings = [
			...Array.from({ length: 12 }, (_, i) => reading(-1 + i * 0.218, -0.6)),
			...Array.from({ length: 11 }, (_, i) => reading(1.4, -1.6 + i * 0.2))
		];
		const answer = guide({ ...narrow, readings });
		expect(['check', 'sweep', 'move']).toContain(answer.advice);
		if (answer.advice === 'check') expect(answer.reasons.join(' ')).toContain('beyond the travel');
		expect(answer.boresight!.azimuthDeg).toBeGreaterThan(1.6);
	});
});

describe('the closed loop', { timeout: 120_000 }, () => {
	const dishes = catalogue.dishes.flatMap((dish) =>
		dish.bands.map((band) => ({
			name: dish.code,
			frequencyGhz: band.atGhz,
			diameterM: dish.diameterM,
			beamwidthDeg: band.beamwidthDeg
		}))
	);

	it.each(dishes)('$name, $beamwidthDeg°: whoever follows it lands on both main lobes', (dish) => {
		for (const seed of [11, 12, 13]) {
			const outcome = followTool(new GuidedHop(seed, dish, 3, 0.5), 3, 0.5);
			expect([outcome.stoppedAt, outcome.success]).toEqual(['locked', true]);
			expect(outcome.remainingDb).toBeLessThan(0.5);
		}
	});

	it(
		'also with lopsided, oval dishes that the tool’s own model does not know',
		{ timeout: 60_000 },
		() => {
			for (const [i, dish] of [...dishes, ...dishes].entries()) {
				const outcome = followTool(new GuidedHop(900 + i, dish, 3, 0.5, makeForeignDish), 3, 0.5);
				expect([i, outcome.stoppedAt, outcome.success]).toEqual([i, 'locked', true]);
			}
		}
	);

	it(
		'and with sums over apertures: blockage, struts, coma, astigmatism, a rough surface',
		{ timeout: 60_000 },
		() => {
			for (const [i, dish] of dishes.entries()) {
				const outcome = followTool(new GuidedHop(500 + i, dish, 3, 0.5, makeApertureDish), 3, 0.5);
				expect([i, outcome.stoppedAt, outcome.success]).toEqual([i, 'locked', true]);
			}
		}
	);
});
