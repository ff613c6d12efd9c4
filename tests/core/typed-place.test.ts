import { describe, expect, it } from 'vitest';
import { typedPlace } from '#core/geodesy/typedPlace';

describe('a place typed in one field', () => {
	it.each([
		['-46.2947, -118.2389', -46.2947, -118.2389],
		['-46.2947 -118.2389', -46.2947, -118.2389],
		['-46,2947; -118,2389', -46.2947, -118.2389],
		['46 17 41 S, 118 14 20 W', -46.294722, -118.238889]
	])('%s', (text, latitudeDeg, longitudeDeg) => {
		const place = typedPlace(text);
		expect(place?.latitudeDeg).toBeCloseTo(latitudeDeg, 5);
		expect(place?.longitudeDeg).toBeCloseTo(longitudeDeg, 5);
	});

	it.each(['', 'by the quay', '-46.2', '-46.2, -118.2, 4', '91, 0'])('%s is none', (text) => {
		expect(typedPlace(text)).toBeUndefined();
	});
});
