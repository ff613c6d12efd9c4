import { describe, expect, it } from 'vitest';
import {
	ALONG_A_CUT,
	guessedPattern,
	levelWeight,
	logDensity,
	MIDDLE_GUESS,
	OVER_THE_MAP,
	signalMw,
	unevenDbAt
} from '#core/sweep/readingModel';

const models = [
	['along a cut', ALONG_A_CUT],
	['over the map', OVER_THE_MAP]
] as const;

describe.each(models)('how a level is read %s', (_, model) => {
	it('expects the plan first, then one side lobe, then two; above plan is all but ruled out', () => {
		const prior = model.logPriorOfLevel;
		expect(prior(0)).toBeGreaterThan(prior(-21));
		expect(prior(-21)).toBeGreaterThan(prior(-45));
		// Between the plan and a side lobe lies what has no name.
		expect(prior(-10)).toBeLessThan(prior(-21));
		expect(prior(9)).toBeLessThan(prior(-45) - 5);
		expect(prior(-90)).toBeLessThan(prior(-45) - 5);
	});

	it('gives the losses that there are about all of the probability', () => {
		let mass = 0;
		for (let db = -70; db <= 10; db += 0.05) mass += 0.05 * Math.exp(model.logPriorOfLevel(db));
		// Heights are without 1/√(2π): a density but for that, and a tenth for what has no name.
		expect(mass / Math.sqrt(2 * Math.PI)).toBeGreaterThan(0.85);
		expect(mass / Math.sqrt(2 * Math.PI)).toBeLessThan(1.25);
	});

	it('trusts lobes less the farther out they lie, and none beyond all measure', () => {
		expect(unevenDbAt(model, 1)).toBe(model.unevenDb);
		expect(unevenDbAt(model, 4)).toBeGreaterThanOrEqual(model.unevenDb);
		expect(unevenDbAt(model, 40)).toBeLessThanOrEqual(6.5);
	});
});

describe('the parts of the reading model', () => {
	it('hours on a whole mount leave more room than one cut of minutes', () => {
		expect(OVER_THE_MAP.noiseDb).toBeGreaterThan(ALONG_A_CUT.noiseDb);
		expect(OVER_THE_MAP.jitterBeamwidths).toBeGreaterThan(ALONG_A_CUT.jitterBeamwidths);
		expect(OVER_THE_MAP.unevenDb).toBeGreaterThan(ALONG_A_CUT.unevenDb);
		expect(OVER_THE_MAP.logPriorOfLevel(-60)).toBeGreaterThan(ALONG_A_CUT.logPriorOfLevel(-60));
	});

	it('a reading on a flank or beyond the null tells the common level less', () => {
		expect(levelWeight(0, false)).toBe(1);
		expect(levelWeight(12, false)).toBeCloseTo(0.5, 12);
		expect(levelWeight(0, true)).toBeCloseTo(1 / 7, 12);
		expect(levelWeight(30, true)).toBeLessThan(levelWeight(30, false));
	});

	it('a gust is unlikely, not impossible: tails are heavier than those of a normal deviate', () => {
		const normal = (x: number, v: number): number => (-0.5 * x * x) / v - 0.5 * Math.log(v);
		expect(logDensity(0, 0.5)).toBeCloseTo(normal(0, 0.5), 12);
		expect(logDensity(8, 0.5)).toBeGreaterThan(normal(8, 0.5) + 40);
		expect(logDensity(3, 0.5)).toBe(logDensity(-3, 0.5));
		// Student's t with four degrees of freedom: (1 + x²/4v)^(−5/2) / √v.
		expect(logDensity(2, 1)).toBeCloseTo(-2.5 * Math.log(2), 12);
	});

	it('takes the floor off in power, and leaves a trace where nothing is left', () => {
		const floorMw = 10 ** -9;
		expect(10 * Math.log10(signalMw(-86.9897, floorMw))).toBeCloseTo(-90, 3);
		expect(signalMw(-90, floorMw)).toBeLessThan(1e-12);
		expect(signalMw(-95, floorMw)).toBeGreaterThan(0);
	});

	it('holds a width that is known of the dish, and frees one that is only a rule', () => {
		const dish = { frequencyGhz: 23, dishDiameterM: 0.6, beamwidthDeg: 1.7 };
		const known = guessedPattern(MIDDLE_GUESS, { ...dish, beamwidthKnown: true });
		const rule = guessedPattern(MIDDLE_GUESS, { ...dish, beamwidthKnown: false });
		// Blockage narrows the beam a little: within a tenth of a dB of half power.
		expect(Math.abs(10 * Math.log10(known.gainRatio(0.85)) + 3)).toBeLessThan(0.1);
		expect(rule.firstNullDeg).not.toBeCloseTo(known.firstNullDeg, 2);
	});
});
