import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { besselJ0, besselJ1, besselJ2 } from '#core/antenna/bessel';
import { apertureGainDbi, halfPowerBeamwidthDeg } from '#core/antenna/gain';
import {
	patternLandmarks,
	relativeGainDb,
	taperedApertureField
} from '#core/antenna/taperedAperture';
import {
	findLevelCurveProblem,
	makeLevelCurve,
	type LevelCurvePoint
} from '#core/radio/levelCurve';
import { checkOverload } from '#core/radio/overload';
import { receiverFloorDbm } from '#core/radio/receiverFloor';
import { adjusterAngleDeg, adjusterTurns } from '#core/sweep/adjusterScale';
import { sumOfLevelsDb } from '#core/units/decibel';
import { catalogue, part } from './planFixture';

describe('Bessel functions', () => {
	// Origin: Abramowitz and Stegun, Table 9.1.
	it.each([
		[0.2, 0.9900249722, 0.0995008326, 0.0049834015],
		[1, 0.7651976866, 0.4400505857, 0.1149034849],
		[3, -0.2600519549, 0.3390589585, 0.4860912606],
		[5, -0.1775967713, -0.3275791376, 0.0465651163],
		[10, -0.2459357645, 0.0434727462, 0.2546303137]
	])('at %d', (x, j0, j1, j2) => {
		expect(besselJ0(x)).toBeCloseTo(j0, 6);
		expect(besselJ1(x)).toBeCloseTo(j1, 6);
		expect(besselJ2(x)).toBeCloseTo(j2, 6);
		expect(besselJ1(-x)).toBeCloseTo(-j1, 6);
	});
});

describe('pattern of a tapered aperture', () => {
	// Origin: Balanis, Antenna Theory, Table 12.1: uniform −17.6 dB, parabola −24.6 dB.
	it('has the first side lobe of the uniform and of the fully tapered aperture', () => {
		expect(patternLandmarks(1).firstSideLobeDb).toBeCloseTo(17.57, 1);
		expect(patternLandmarks(0).firstSideLobeDb).toBeCloseTo(24.64, 1);
	});

	it('has its first null of the uniform aperture at 3.8317 in u', () => {
		expect(taperedApertureField(3.8317, 1)).toBeCloseTo(0, 4);
		expect(taperedApertureField(5.1356, 0)).toBeCloseTo(0, 4);
	});

	it('is 0 dB on axis, −3 dB at half a beamwidth, even, and never above the axis', () => {
		expect(relativeGainDb(0)).toBeCloseTo(0, 6);
		expect(relativeGainDb(0.5)).toBeCloseTo(-3.01, 1);
		fc.assert(
			fc.property(fc.double({ min: 0, max: 8, noNaN: true }), (offset) => {
				expect(relativeGainDb(offset)).toBeLessThanOrEqual(1e-9);
				expect(relativeGainDb(-offset)).toBeCloseTo(relativeGainDb(offset), 9);
			})
		);
	});

	it('agrees with the aperture integrated by hand', () => {
		// ∫ f(r) J0(u r) r dr over the unit disc, by the midpoint rule: another way to the same field.
		const pedestal = 0.3;
		const integral = (u: number): number => {
			let sum = 0;
			const steps = 4000;
			for (let i = 0; i < steps; i++) {
				const r = (i + 0.5) / steps;
				sum += (pedestal + (1 - pedestal) * (1 - r * r)) * besselJ0(u * r) * r;
			}
			return sum / steps;
		};
		for (const u of [0.5, 1.7, 3, 4.5, 6.2, 9]) {
			expect(taperedApertureField(u, pedestal)).toBeCloseTo(integral(u) / integral(0), 5);
		}
	});
});

describe('gain and beamwidth', () => {
	// Origin: 10·log10(0.55·(π·1.2·13/0.299792)²) by hand.
	it('of a 1.2 m dish at 13 GHz', () => {
		expect(apertureGainDbi(13, 1.2, 0.55)).toBeCloseTo(41.67, 1);
		expect(halfPowerBeamwidthDeg(26.1, 0.6)).toBeCloseTo(1.34, 3);
	});

	it.each(catalogue.dishes)('$code: gain, width and diameter agree', (dish) => {
		for (const band of dish.bands) {
			expect(band.gainDbi).toBeLessThan(apertureGainDbi(band.atGhz, dish.diameterM, 0.8));
			expect(band.gainDbi).toBeGreaterThan(apertureGainDbi(band.atGhz, dish.diameterM, 0.4));
			expect(band.beamwidthDeg / halfPowerBeamwidthDeg(band.atGhz, dish.diameterM)).toBeCloseTo(
				1,
				1
			);
		}
	});

	it.each([0, -1, Number.NaN])('refuses a diameter of %d m', (diameter) => {
		expect(() => apertureGainDbi(13, diameter, 0.5)).toThrow(/diameterM/);
	});
});

const CURVES: Record<string, LevelCurvePoint[]> = {
	rising: [
		[-90, 0.4],
		[-20, 3.55]
	],
	falling: [
		[-90, 1.85],
		[-20, 0.45]
	],
	bent: [
		[-95, 0.3],
		[-75, 0.62],
		[-55, 1.3],
		[-35, 2.2],
		[-20, 2.44]
	]
};

describe.each(Object.entries(CURVES))('level port, %s', (name, points) => {
	const curve = makeLevelCurve(points);

	it('passes through its points and knows its direction', () => {
		for (const [level, volts] of points) expect(curve.voltsAt(level)).toBeCloseTo(volts, 12);
		expect(curve.direction).toBe(name === 'falling' ? 'falling' : 'rising');
	});

	it('reads back what it gives', () => {
		fc.assert(
			fc.property(
				fc.double({ min: points[0]![0] + 0.01, max: points.at(-1)![0] - 0.01, noNaN: true }),
				(level) => {
					const reading = curve.read(curve.voltsAt(level), 1e-6);
					expect(reading.kind).toBe('level');
					if (reading.kind === 'level') expect(reading.levelDbm).toBeCloseTo(level, 6);
				}
			)
		);
	});

	it('calls a voltage outside its range implausible and one at its end a limit', () => {
		expect(curve.read(curve.highestVolts + 0.5)).toEqual({
			kind: 'implausible',
			reason: 'above-range'
		});
		expect(curve.read(curve.lowestVolts - 0.5)).toEqual({
			kind: 'implausible',
			reason: 'below-range'
		});
		expect(curve.read(Number.NaN)).toEqual({ kind: 'implausible', reason: 'not-a-number' });
		expect(curve.read(curve.highestVolts).kind).toBe('at-limit');
	});
});

it('a coarse meter costs more decibels where the curve is flat', () => {
	const bent = makeLevelCurve(CURVES.bent!);
	const at = (level: number): number => {
		const reading = bent.read(bent.voltsAt(level), 0.01);
		return reading.kind === 'level' ? reading.resolutionDb : Number.NaN;
	};
	// 0.24 V over 15 dB near the top, 0.9 V over 20 dB in the middle: ± half a digit each.
	expect(at(-28)).toBeCloseTo((0.005 * 15) / 0.24, 3);
	expect(at(-45)).toBeCloseTo((0.005 * 20) / 0.9, 3);
});

it.each([
	[[[-90, 1]], 'too-few-points'],
	[
		[
			[-90, 1],
			[-80, 1]
		],
		'volts-not-monotonic'
	],
	[
		[
			[-90, 1],
			[-80, 2],
			[-70, 1.5]
		],
		'volts-not-monotonic'
	],
	[
		[
			[-90, 1],
			[-90, 2]
		],
		'levels-not-increasing'
	],
	[
		[
			[-90, 1],
			[Number.NaN, 2]
		],
		'not-finite'
	]
] as [LevelCurvePoint[], string][])('curve %j is refused as %s', (points, problem) => {
	expect(findLevelCurveProblem(points)).toBe(problem);
	expect(() => makeLevelCurve(points)).toThrow(TypeError);
});

describe('overload', () => {
	const radio = part(catalogue.radios, 'RU-26');

	it('names the power to set, keeping the guard', () => {
		const fine = checkOverload(radio.maxInputDbm - 5, radio, 15, radio);
		expect(fine).toEqual({ kind: 'fine', headroomDb: 0 });
		const over = checkOverload(radio.maxInputDbm - 2.5, radio, 15, radio);
		expect(over).toEqual({ kind: 'overload', excessDb: 2.5, powerToSetDbm: 12 });
		const damage = checkOverload(radio.damageInputDbm, radio, 15, radio);
		expect(damage.kind).toBe('damage');
	});

	it('says so when no power is low enough', () => {
		expect(checkOverload(20, radio, 0, radio)).toMatchObject({ powerToSetDbm: null });
	});
});

it('receiver floor is kTB and the noise figure', () => {
	// Origin: −174 + 10·log10(28e6) + 6 = −93.53 dBm with kT₀ = −173.98 dBm/Hz.
	expect(receiverFloorDbm(28, 6)).toBeCloseTo(-93.504, 2);
});

it('turns and degrees of an adjuster are two ways of one thing', () => {
	const { azimuth } = part(catalogue.mounts, 'MB-S');
	expect(adjusterAngleDeg(azimuth, 1)).toBeCloseTo((180 / Math.PI) * Math.atan(1.75 / 130), 9);
	fc.assert(
		fc.property(fc.double({ min: -12, max: 12, noNaN: true }), (deg) => {
			expect(adjusterAngleDeg(azimuth, adjusterTurns(azimuth, deg))).toBeCloseTo(deg, 9);
		})
	);
});

it('levels are summed as powers, not as decibels', () => {
	expect(sumOfLevelsDb([-60, -60])).toBeCloseTo(-56.99, 2);
	expect(sumOfLevelsDb([-60, -90])).toBeCloseTo(-59.9957, 3);
});
