import { describe, expect, it } from 'vitest';
import { inverseGeodesic } from '#core/geodesy/geodesic';
import { typedGridPlace } from '#core/geodesy/gridPlace';

describe('a place on the grid as it is typed', () => {
	it('stands on the central meridian where the meridian arc says', () => {
		// Arc from the equator to 45° on WGS 84: 4 984 944.378 m; on the grid 0.9996 of it.
		const place = typedGridPlace('31T 500000 4982950.400')!;
		expect(place.latitudeDeg).toBeCloseTo(45, 7);
		expect(place.longitudeDeg).toBeCloseTo(3, 9);
		const arc = inverseGeodesic({ latitudeDeg: 0, longitudeDeg: 3 }, place).lengthM;
		expect(arc * 0.9996).toBeCloseTo(4_982_950.4, 2);
	});

	it('reaches the border of its zone at the equator at the easting known for it', () => {
		// 3° from the meridian at the equator: easting 833 978.557 m.
		const place = typedGridPlace('31N 833978.557 0')!;
		expect(place.latitudeDeg).toBeCloseTo(0, 9);
		expect(place.longitudeDeg).toBeCloseTo(6, 7);
	});

	it('keeps distances off the meridian, as the scale of the grid says', () => {
		// Scale k = k0 (1 + x² / 2R²): 150 km off the meridian 1.0000 − 0.0004 + 0.000277.
		const [from, to] = ['20G 350000 4880000', '20G 350000 4881000'].map((text) =>
			typedGridPlace(text)!
		);
		const k = 0.9996 * (1 + (150_000 / 0.9996) ** 2 / (2 * 6_375_000 ** 2));
		expect(1000 / inverseGeodesic(from!, to!).lengthM).toBeCloseTo(k, 5);
		expect(from!.latitudeDeg).toBeLessThan(-46);
	});

	it('takes a letter as the band, and N or S as the hemisphere where that is what they must be', () => {
		const south = typedGridPlace('20G 350000 4880000')!;
		expect(typedGridPlace('20S 350000 4880000')).toEqual(south);
		// 36° north in the band S as well as 54° south: asked about, not guessed.
		expect(typedGridPlace('20S 350000 4000000')).toBeUndefined();
		expect(typedGridPlace('20S 350000 6000000')!.latitudeDeg).toBeLessThan(0);
		expect(typedGridPlace('20 g 350000 E 4880000 N')).toEqual(south);
		expect(typedGridPlace('zone 20G, E 350000, N 4880000')).toEqual(south);
		expect(typedGridPlace('20G 350000,5 4880000,5')!.latitudeDeg).not.toBe(south.latitudeDeg);
	});

	it.each([
		['', 'nothing'],
		['-46.2', 'degrees'],
		['61G 350000 4880000', 'zone 61'],
		['20I 350000 4880000', 'a letter that is no band'],
		['20G 35000 4880000', 'an easting with five digits'],
		['20G 950000 4880000', 'an easting outside the grid'],
		['20G 350000 40880000', 'a northing outside the grid'],
		['20T 350000 3880000', 'a northing that is not of the band']
	])('is nothing: %s (%s)', (text) => {
		expect(typedGridPlace(text)).toBeUndefined();
	});
});
