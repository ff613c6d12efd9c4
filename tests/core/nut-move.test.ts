import { describe, expect, it } from 'vitest';
import type { MountPart } from '#core/catalogue/parts';
import { nutMove } from '#core/sweep/nutMove';
import { catalogue, part } from './planFixture';

const mount = part(catalogue.mounts, 'MB-S');
const withNut = (change: Partial<NonNullable<MountPart['azimuth']['nut']>>): MountPart => ({
	...mount,
	azimuth: { ...mount.azimuth, nut: { ...mount.azimuth.nut!, ...change } }
});

describe('a move of the nut', () => {
	// Six flats, 1.75 mm of pitch, the rod 62 mm free in the middle; clockwise turns right and shortens it.
	it('is counted in whole turns and flats, and in thread', () => {
		expect(nutMove(mount, 'azimuth', 0, 2.5, true)).toEqual({
			loosen: ['Azimuth clamp, upper nut', 'Azimuth clamp, lower nut'],
			way: 'clockwise',
			seenFrom: "the nut's end",
			turns: 2,
			flats: 3,
			ofFlats: 6,
			rodMm: 4.375,
			standsMm: 57.625
		});
		expect(nutMove(mount, 'tilt', 0, -0.34, true)).toMatchObject({
			loosen: ['Tilt clamp, left nut', 'Tilt clamp, right nut'],
			way: 'anticlockwise',
			turns: 0,
			flats: 2
		});
		// Nearly two turns are two turns, not one and six flats.
		expect(nutMove(mount, 'azimuth', 0, 1.95, true)).toMatchObject({ turns: 2, flats: 0 });
	});

	it('goes from where the nut stands, and says where the rod stands then', () => {
		const back = nutMove(mount, 'azimuth', 3, 1, true);
		expect(back).toMatchObject({ way: 'anticlockwise', turns: 2, flats: 0 });
		expect(back.standsMm).toBeCloseTo(62 - 1.75, 9);
		expect(nutMove(mount, 'azimuth', 0, -2, true).standsMm).toBeCloseTo(62 + 3.5, 9);
	});

	it.each([
		['right-or-up', 'shorter', 'clockwise', 62 - 1.75],
		['right-or-up', 'longer', 'clockwise', 62 + 1.75],
		['left-or-down', 'shorter', 'anticlockwise', 62 + 1.75],
		['left-or-down', 'longer', 'anticlockwise', 62 - 1.75]
	] as const)(
		'to the right, where clockwise goes %s and the rod becomes %s',
		(clockwise, rod, way, stands) => {
			const move = nutMove(withNut({ clockwise, rod }), 'azimuth', 0, 1, true);
			expect(move.way).toBe(way);
			expect(move.standsMm).toBeCloseTo(stands, 9);
		}
	);

	it('says no more than the sheet of the mount, and nothing of a rod that was set by other means', () => {
		const { nut, ...bare } = mount.azimuth;
		expect(nut).toBeDefined();
		expect(nutMove({ ...mount, azimuth: bare }, 'azimuth', 0, 1, true)).toMatchObject({
			way: null,
			seenFrom: null,
			standsMm: null,
			turns: 1
		});
		expect(nutMove(mount, 'azimuth', 0, 1, false).standsMm).toBeNull();
		expect(nutMove(mount, 'azimuth', 1, 1, true)).toMatchObject({
			way: null,
			turns: 0,
			flats: 0,
			rodMm: 0
		});
	});
});
