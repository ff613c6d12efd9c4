import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { typedCoordinate } from '#core/geodesy/typedCoordinate';

describe('a coordinate as it is typed', () => {
	it.each([
		['-46.205', -46.205],
		['−46.205', -46.205],
		['-46,205', -46.205],
		['46.205 S', -46.205],
		['S 46.205', -46.205],
		['s46.205°', -46.205],
		["46° 12.3' S", -46.205],
		['46°12\'18"S', -46.205],
		['46 12 18 S', -46.205],
		['46° 12′ 18″ S', -46.205],
		['-46 12 18', -46.205],
		['46 12 18 s', -46.205],
		['0', 0],
		['90', 90]
	])('%s', (text, deg) => {
		expect(typedCoordinate(text, 'latitude')).toBeCloseTo(deg, 9);
	});

	it.each([
		['', 'nothing'],
		['far west', 'words'],
		['91', 'beyond the pole'],
		['46 60 0', 'sixty minutes'],
		['46 12 61', 'sixty-one seconds'],
		['46.5 30 S', 'a broken degree with minutes'],
		['46 12.5 18', 'a broken minute with seconds'],
		['-46.2 S', 'a sign and a letter'],
		['S 46.2 S', 'two letters'],
		['46.2 E', 'a letter of the other kind'],
		['1,234.5', 'two separators'],
		['46 12 18 7', 'a fourth part']
	])('%s is none: %s', (text) => {
		expect(typedCoordinate(text, 'latitude')).toBeUndefined();
	});

	it('of a longitude knows east and west, and goes half way round', () => {
		expect(typedCoordinate('118°17.16′W', 'longitude')).toBeCloseTo(-118.286, 9);
		expect(typedCoordinate('E 179 59 59.9', 'longitude')).toBeCloseTo(179.99997222, 7);
		expect(typedCoordinate('180.1', 'longitude')).toBeUndefined();
		expect(typedCoordinate('46 S', 'longitude')).toBeUndefined();
	});

	it('is the same written as degrees, minutes and seconds and read again', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 0, max: 89 }),
				fc.nat(59),
				fc.nat(59_999),
				fc.boolean(),
				(d, m, ms, south) => {
					const text = `${d}° ${m}′ ${(ms / 1000).toFixed(3)}″ ${south ? 'S' : 'N'}`;
					const deg = d + m / 60 + ms / 3_600_000;
					expect(typedCoordinate(text, 'latitude')).toBeCloseTo(south ? -deg : deg, 10);
				}
			)
		);
	});
});
