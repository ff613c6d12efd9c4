import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compassBearingDeg, magneticDeclination } from '#core/geodesy/declination';
import { directGeodesic, inverseGeodesic, type GeoPoint } from '#core/geodesy/geodesic';
import { antennaTiltDeg } from '#core/geodesy/tilt';
import { bearingDifferenceDeg, wrapBearingDeg } from '#core/units/angle';

const at = (latitudeDeg: number, longitudeDeg: number): GeoPoint => ({ latitudeDeg, longitudeDeg });

describe('geodesic on WGS 84', () => {
	// Origin: length of one degree of meridian from the ellipsoid's own series (a = 6378137, f = 1/298.257223563).
	it('gives a degree of meridian at the equator and at 45°', () => {
		expect(inverseGeodesic(at(0, 0), at(1, 0)).lengthM).toBeCloseTo(110_574.39, 1);
		expect(inverseGeodesic(at(45, 0), at(46, 0)).lengthM).toBeCloseTo(111_141.55, 1);
	});

	it('gives a degree of the equator exactly as an arc of its radius', () => {
		expect(inverseGeodesic(at(0, 10), at(0, 11)).lengthM).toBeCloseTo(
			(Math.PI / 180) * 6_378_137,
			4
		);
	});

	it('has bearings at the two ends that differ by 180° less the convergence of meridians', () => {
		const line = inverseGeodesic(at(60, 10), at(60, 12));
		const difference = bearingDifferenceDeg(line.azimuthAtFirstDeg, line.azimuthAtSecondDeg);
		// Convergence is about Δλ·sin φ = 2°·sin 60°.
		expect(180 - Math.abs(difference)).toBeCloseTo(2 * Math.sin(Math.PI / 3), 2);
	});

	it('crosses the antimeridian the short way', () => {
		const line = inverseGeodesic(at(-20, 179.95), at(-20, -179.95));
		expect(line.lengthM).toBeLessThan(11_000);
		expect(line.azimuthAtFirstDeg).toBeCloseTo(90, 1);
	});

	it('goes forward and finds its way back', () => {
		fc.assert(
			fc.property(
				fc.double({ min: -80, max: 80, noNaN: true }),
				fc.double({ min: -180, max: 180, noNaN: true }),
				fc.double({ min: 0, max: 359.9, noNaN: true }),
				fc.double({ min: 10, max: 200_000, noNaN: true }),
				(latitude, longitude, azimuth, length) => {
					const start = at(latitude, longitude);
					const line = inverseGeodesic(start, directGeodesic(start, azimuth, length));
					expect(line.lengthM).toBeCloseTo(length, 3);
					expect(Math.abs(bearingDifferenceDeg(line.azimuthAtFirstDeg, azimuth))).toBeLessThan(
						1e-4
					);
				}
			)
		);
	});

	it('refuses latitude 91 and names it', () => {
		expect(() => inverseGeodesic(at(91, 0), at(0, 0))).toThrow(/latitudeDeg/);
	});
});

describe('declination and compass', () => {
	// Origin: test values published with the World Magnetic Model 2025, 0 km, declination in degrees.
	it.each([
		[2025, 80, 0, 1.28],
		[2025, 0, 120, -0.16],
		[2025, -80, -120, 68.78]
	])('%d at latitude %d, longitude %d', (year, latitude, longitude, expected) => {
		const found = magneticDeclination(at(latitude, longitude), 0, new Date(Date.UTC(year, 0, 1)));
		expect(found.declinationDeg).toBeCloseTo(expected, 1);
		expect(found.outsideModelYears).toBe(false);
	});

	it('says so when the day lies outside the years of the model', () => {
		const found = magneticDeclination(at(40, 0), 0, new Date(Date.UTC(2031, 5, 1)));
		expect(found.outsideModelYears).toBe(true);
		expect(found.modelName).toContain('2025');
	});

	it('takes east declination off the true azimuth and wraps', () => {
		expect(compassBearingDeg(10, 27)).toBe(343);
		expect(compassBearingDeg(350, -20)).toBe(10);
		expect(wrapBearingDeg(-0)).toBe(0);
		expect(wrapBearingDeg(-1e-15)).toBeLessThan(360);
	});
});

describe('tilt', () => {
	// Origin: atan(100/10000) = 0.57294° less 10000/(2·4/3·6371000) rad = 0.03372°.
	it('is the rise less half the angle of the effective earth', () => {
		expect(antennaTiltDeg(100, 200, 10_000)).toBeCloseTo(0.57294 - 0.03372, 4);
		expect(antennaTiltDeg(200, 100, 10_000)).toBeCloseTo(-0.57294 - 0.03372, 4);
	});

	it('looks down at both ends of a level hop, more under a lower k', () => {
		expect(antennaTiltDeg(300, 300, 40_000)).toBeCloseTo(-0.1349, 3);
		expect(antennaTiltDeg(300, 300, 40_000, 2 / 3)).toBeCloseTo(
			2 * antennaTiltDeg(300, 300, 40_000),
			9
		);
	});

	it('sums over both ends to the earth angle alone, whatever the heights', () => {
		fc.assert(
			fc.property(
				fc.double({ min: 0, max: 3000, noNaN: true }),
				fc.double({ min: 0, max: 3000, noNaN: true }),
				(a, b) => {
					const sum = antennaTiltDeg(a, b, 25_000) + antennaTiltDeg(b, a, 25_000);
					expect(sum).toBeCloseTo(2 * antennaTiltDeg(0, 0, 25_000), 9);
				}
			)
		);
	});
});
