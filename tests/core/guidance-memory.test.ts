import { describe, expect, it } from 'vitest';
import {
	guide,
	type Guidance,
	type GuidanceMemory,
	type GuidanceReading
} from '#core/guide/guidance';
import { locate } from '#core/locate/locator';
import { relativeGainDb } from '#core/antenna/taperedAperture';
import { sumOfLevelsDb } from '#core/units/decibel';
import { followTool, GuidedHop, type DishOfHop } from './guidedHop';
import { base, BEAM } from './guidanceFixture';

const DISHES: DishOfHop[] = [
	{ name: 'wide', frequencyGhz: 13, diameterM: 0.6, beamwidthDeg: 2.69 },
	{ name: 'middle', frequencyGhz: 26, diameterM: 0.6, beamwidthDeg: 1.37 },
	{ name: 'narrow', frequencyGhz: 38, diameterM: 0.6, beamwidthDeg: 0.91 }
];

describe('what an end remembers of its earlier turns', () => {
	it('spares readings, and every hop ends as well without it', { timeout: 60_000 }, () => {
		const samples = { with: 0, without: 0 };
		for (let seed = 1; seed <= 12; seed++) {
			const dish = DISHES[seed % DISHES.length]!;
			const follow = (remembers: boolean): number => {
				const hop = new GuidedHop(seed, dish, 3, 0.5);
				const outcome = followTool(hop, 3, 0.5, undefined, remembers);
				expect([seed, remembers, outcome.stoppedAt, outcome.success]).toEqual([
					...[seed, remembers, 'locked', true]
				]);
				return outcome.sweepSamples + outcome.moves;
			};
			samples.with += follow(true);
			samples.without += follow(false);
		}
		expect(samples.with).toBeLessThan(samples.without);
	});

	const there = { azimuthDeg: 1.4, tiltDeg: -0.3 };
	const read = (azimuthDeg: number, tiltDeg: number): GuidanceReading => ({
		azimuthDeg,
		tiltDeg,
		levelDbm: sumOfLevelsDb([
			base.plannedLevelDbm +
				relativeGainDb(Math.hypot(azimuthDeg - there.azimuthDeg, tiltDeg - there.tiltDeg) / BEAM),
			base.floorDbm
		])
	});
	/** Follows the advice from where the dish stands until it is aimed; gives place and readings. */
	function aimed(
		memory: GuidanceMemory | undefined,
		from: GuidanceReading
	): { advice: Guidance; count: number } {
		const readings = [from];
		for (let i = 0; i < 40; i++) {
			const advice = guide({ ...base, readings, memory });
			if (advice.advice === 'move') {
				readings.push(read(advice.target!.azimuthDeg, advice.target!.tiltDeg));
			} else if (advice.advice === 'sweep') {
				const { axis, fromDeg, toDeg, stepDeg } = advice.sweep!;
				const here = readings.at(-1)!;
				for (let deg = fromDeg; deg <= toDeg + 1e-9; deg += stepDeg)
					readings.push(axis === 'azimuth' ? read(deg, here.tiltDeg) : read(here.azimuthDeg, deg));
			} else return { advice, count: readings.length };
		}
		throw new Error('never aimed');
	}

	it('is handed back with the answer, and makes the next turn shorter', () => {
		const first = aimed(undefined, read(0, 0));
		expect(first.advice.advice).toBe('lock');
		const { memory } = first.advice;
		expect(memory).toMatchObject({ searches: 0 });
		expect(memory!.boresight!.azimuthDeg).toBeCloseTo(there.azimuthDeg, 0);
		const again = aimed(memory, read(there.azimuthDeg, there.tiltDeg));
		expect(again.advice.advice).toBe('lock');
		expect(again.count).toBeLessThan(first.count);
	});

	it('is not believed against the readings: a dish that was knocked aside is found again', () => {
		for (const wrong of [
			{ azimuthDeg: there.azimuthDeg + 2 * BEAM, tiltDeg: there.tiltDeg },
			{ azimuthDeg: there.azimuthDeg, tiltDeg: there.tiltDeg - 1.5 * BEAM },
			{ azimuthDeg: there.azimuthDeg - 4 * BEAM, tiltDeg: 0 }
		]) {
			const memory = { searches: 0, boresight: { ...wrong, sigmaDeg: 0.03 * BEAM } };
			const { advice } = aimed(memory, read(wrong.azimuthDeg, wrong.tiltDeg));
			expect(advice.advice).toBe('lock');
			const { azimuthDeg, tiltDeg } = advice.boresight!;
			const off = Math.hypot(azimuthDeg - there.azimuthDeg, tiltDeg - there.tiltDeg);
			expect(off).toBeLessThan(0.1 * BEAM);
		}
	});

	it('narrows the map about the place, and leaves a fifth for everywhere else', () => {
		const known = { ...there, sigmaDeg: 0 };
		const place = {
			dishDiameterM: 0.6,
			frequencyGhz: 26,
			beamwidthDeg: BEAM,
			beamwidthKnown: true
		};
		const map = locate({
			...place,
			...{ plannedLevelDbm: base.plannedLevelDbm, floorDbm: base.floorDbm, known, readings: [] },
			priorSigmaDeg: { azimuth: 3, tilt: 0.5 }
		}).map;
		let near = 0;
		for (let i = 0; i < map.mass.length; i++) {
			const azimuth = map.westDeg + (i % map.columns) * map.stepDeg;
			const tilt = map.bottomDeg + Math.floor(i / map.columns) * map.stepDeg;
			if (Math.hypot(azimuth - there.azimuthDeg, tilt - there.tiltDeg) < 0.6 * BEAM)
				near += map.mass[i]!;
		}
		expect(near).toBeGreaterThan(0.7);
		expect(near).toBeLessThan(0.95);
	});
});
