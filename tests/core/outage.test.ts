import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
	clearAirCrossPolarPercent,
	rainCrossPolarPercent,
	rainXpdDb
} from '#core/propagation/crossPolarOutage';
import {
	frequencyDiversityImprovement,
	spaceDiversityImprovement
} from '#core/propagation/diversity';
import {
	annualShare,
	detailedOccurrencePercent,
	fadeExceededPercent,
	quickOccurrencePercent,
	type MultipathPath
} from '#core/propagation/multipath';
import { rainAttenuation } from '#core/propagation/rain';
import { rainOutage } from '#core/propagation/rainOutage';

const path: MultipathPath = {
	frequencyGhz: 7.5,
	pathKm: 40,
	heightAAmslM: 300,
	heightBAmslM: 180,
	gradientDn1: -300
};

describe('multipath', () => {
	// Computed another way: logarithms added by hand from the equations of P.530-17 §2.3.1.
	it('occurs as often as both equations say', () => {
		const ep = 120 / 40;
		const quick =
			-4.6 +
			0.81 +
			3.1 * Math.log10(40) -
			1.29 * Math.log10(1 + ep) +
			0.8 * Math.log10(7.5) -
			0.00089 * 180;
		expect(Math.log10(quickOccurrencePercent(path))).toBeCloseTo(quick, 9);
		const detailed =
			-4.4 +
			0.81 -
			0.46 * Math.log10(10 + 25) +
			3.4 * Math.log10(40) -
			1.03 * Math.log10(1 + ep) +
			0.8 * Math.log10(7.5) -
			0.00076 * 180;
		expect(Math.log10(detailedOccurrencePercent(path, 25))).toBeCloseTo(detailed, 9);
	});

	it('falls ten times with every 10 dB deep in the tail', () => {
		const p0 = quickOccurrencePercent(path);
		expect(fadeExceededPercent(p0, 35) / fadeExceededPercent(p0, 45)).toBeCloseTo(10, 6);
		expect(fadeExceededPercent(p0, 40)).toBeCloseTo(p0 * 1e-4, 9);
	});

	it('joins shallow and deep fading without a step, never rises with depth, and begins at most at 100 %', () => {
		for (const p0 of [0.01, 0.5, 8, 60, 400]) {
			const transition = 25 + 1.2 * Math.log10(p0);
			const below = fadeExceededPercent(p0, transition - 1e-6);
			const above = fadeExceededPercent(p0, transition + 1e-6);
			expect(below / above).toBeCloseTo(1, 4);
			let last = fadeExceededPercent(p0, 0.01);
			expect(last).toBeLessThanOrEqual(100);
			for (let a = 0.5; a < 60; a += 0.5) {
				const now = fadeExceededPercent(p0, a);
				expect(now).toBeLessThanOrEqual(last + 1e-9);
				last = now;
			}
		}
	});

	it('of the year is less than of the worst month, by at most 10.8 dB', () => {
		for (const latitude of [0, 30, 45, 46, 60, -46]) {
			const share = annualShare(path, latitude);
			expect(share).toBeLessThanOrEqual(1);
			expect(share).toBeGreaterThanOrEqual(10 ** -1.08 - 1e-12);
		}
		// By hand at 60°: |cos 120°|^0.7 = 0.6156; ΔG = 10.5 − 5.6·log(1.1−0.6156) − 2.7·log 40 + 1.7·log 4.
		const wanted =
			10.5 - 5.6 * Math.log10(1.1 - 0.5 ** 0.7) - 2.7 * Math.log10(40) + 1.7 * Math.log10(4);
		expect(-10 * Math.log10(annualShare(path, 60))).toBeCloseTo(wanted, 6);
	});

	it('refuses gradients and heights that are none', () => {
		expect(() => quickOccurrencePercent({ ...path, gradientDn1: 20 })).toThrow('gradientDn1');
		expect(() => quickOccurrencePercent({ ...path, pathKm: 0 })).toThrow('pathKm');
		expect(() => fadeExceededPercent(1, -1)).toThrow('fadeDb');
	});
});

describe('rain', () => {
	const rainy = {
		frequencyGhz: 18,
		pathKm: 8,
		polarization: 'vertical',
		rainRate001MmH: 40
	} as const;

	it('uses up a margin for just the time whose attenuation it is', () => {
		fc.assert(
			fc.property(fc.double({ min: -3.9, max: -0.1, noNaN: true }), (log) => {
				const percentOfTime = 10 ** log;
				const { attenuationDb } = rainAttenuation({ ...rainy, percentOfTime });
				const { percent, range } = rainOutage({ ...rainy, marginDb: attenuationDb });
				expect(range).toBe(log < -3 ? 'extrapolated' : 'within');
				expect(percent / percentOfTime).toBeCloseTo(1, 6);
			}),
			{ numRuns: 50 }
		);
	});

	it('rises with rarity as far as its law is followed, at every frequency', () => {
		for (const frequencyGhz of [1, 8, 10, 18, 40, 80, 100]) {
			const at = (log: number): number =>
				rainAttenuation({ ...rainy, frequencyGhz, percentOfTime: 10 ** log }).attenuationDb;
			for (let log = -0.1; log > -3.99; log -= 0.05) {
				expect(at(Math.max(-4, log - 0.05))).toBeGreaterThan(at(log));
			}
		}
	});

	it('never takes less when it rains harder, or the path is longer', () => {
		const at = (rate: number, km: number): number =>
			rainAttenuation({ ...rainy, rainRate001MmH: rate, pathKm: km, percentOfTime: 0.01 })
				.attenuationDb;
		for (let rate = 5; rate < 150; rate += 5) expect(at(rate + 5, 8)).toBeGreaterThan(at(rate, 8));
		for (let km = 1; km < 40; km += 1) expect(at(40, km + 1)).toBeGreaterThan(at(40, km));
	});

	it('says where it ends: no rain, no margin, more margin than it states', () => {
		expect(rainOutage({ ...rainy, rainRate001MmH: 0, marginDb: 3 }).percent).toBe(0);
		expect(rainOutage({ ...rainy, marginDb: -1 }).percent).toBe(100);
		expect(rainOutage({ ...rainy, marginDb: 200 }).range).toBe('less');
		expect(rainOutage({ ...rainy, marginDb: 0.01 }).range).toBe('more');
		expect(rainOutage({ ...rainy, pathKm: 110, marginDb: 20 }).a001Db).toBe(
			rainOutage({ ...rainy, pathKm: 60, marginDb: 20 }).a001Db
		);
	});
});

describe('discrimination', () => {
	// By hand: U = 15 + 30·log 18 = 52.66; V = 12.8·18^0.19 = 22.17; 10 dB of rain leaves 30.49 dB.
	it('that rain leaves follows U − V·log CPA', () => {
		expect(rainXpdDb(18, 10)).toBeCloseTo(30.49, 1);
		expect(rainXpdDb(26, 10)).toBeCloseTo(15 + 30 * Math.log10(26) - 22.6, 6);
		expect(rainXpdDb(7, 10)).toBeUndefined();
		expect(rainXpdDb(38, 10)).toBeUndefined();
	});

	it('is lost less often with a canceller, more often with a denser modulation', () => {
		const outage = (needed: number, cancellerDb: number): number =>
			rainCrossPolarPercent({
				frequencyGhz: 18,
				a001Db: 30,
				requiredCarrierToInterferenceDb: needed,
				cancellerDb
			})!;
		expect(outage(27, 20)).toBeLessThan(outage(27, 0));
		expect(outage(27, 0)).toBeGreaterThan(outage(15, 0));
		const clear = (needed: number, cancellerDb: number): number =>
			clearAirCrossPolarPercent({
				antennaXpdDb: 30,
				occurrencePercent: 8,
				requiredCarrierToInterferenceDb: needed,
				cancellerDb
			});
		expect(clear(27, 20) / clear(27, 0)).toBeCloseTo(0.01, 9);
		expect(clear(37, 0) / clear(27, 0)).toBeCloseTo(10, 9);
	});

	it('in clear air follows the steps of P.530 §4.1 done by hand', () => {
		const p0 = 0.08;
		const eta = 1 - Math.exp(-0.2 * p0 ** 0.75);
		const margin = 35 - 10 * Math.log10((0.7 * eta) / p0) - 25;
		expect(
			clearAirCrossPolarPercent({
				antennaXpdDb: 30,
				occurrencePercent: 8,
				requiredCarrierToInterferenceDb: 25,
				cancellerDb: 0
			})
		).toBeCloseTo(100 * p0 * 10 ** (-margin / 10), 9);
	});
});

describe('diversity', () => {
	const base = {
		separationM: 10,
		frequencyGhz: 7,
		pathKm: 50,
		occurrencePercent: 10,
		fadeMarginDb: 35,
		gainDifferenceDb: 0
	};

	it('in space helps by the equation, more with more separation, and says when it is stretched', () => {
		const wanted =
			(1 - Math.exp(-0.04 * 10 ** 0.87 * 7 ** -0.12 * 50 ** 0.48 * 10 ** -1.04)) * 10 ** 3.5;
		const found = spaceDiversityImprovement(base);
		expect(found.factor).toBeCloseTo(wanted, 6);
		expect(found.outside).toEqual([]);
		expect(spaceDiversityImprovement({ ...base, separationM: 15 }).factor).toBeGreaterThan(
			found.factor
		);
		expect(
			spaceDiversityImprovement({ ...base, separationM: 2, frequencyGhz: 18 }).outside
		).toHaveLength(2);
		expect(spaceDiversityImprovement({ ...base, fadeMarginDb: 0 }).factor).toBe(1);
	});

	it('in frequency helps by the equation and counts at most 5 % of spacing', () => {
		const at = (spacingGhz: number): number =>
			frequencyDiversityImprovement({ frequencyGhz: 7, spacingGhz, pathKm: 40, fadeMarginDb: 35 })
				.factor;
		expect(at(0.14)).toBeCloseTo((80 / (49 * 40)) * 0.02 * 10 ** 3.5, 6);
		expect(at(3)).toBe(at(0.35));
	});
});
