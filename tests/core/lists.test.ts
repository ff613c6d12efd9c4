import { expect, it } from 'vitest';
import { itemAt, lastOf, present } from '#core/units/lists';

it('gives what is there, also where that is nothing', () => {
	expect(itemAt([4, 5], 1)).toBe(5);
	expect(itemAt([undefined, 5], 0)).toBeUndefined();
	expect(itemAt(Float64Array.of(0, 2), 0)).toBe(0);
	expect(lastOf([4, 5])).toBe(5);
	expect(present(0, 'nought')).toBe(0);
	expect(present('', 'word')).toBe('');
});

it('says of a mistake in the program what is missing', () => {
	expect(() => itemAt([1], 1)).toThrow('no place 1 in a list of 1');
	expect(() => itemAt([1], -1)).toThrow(RangeError);
	expect(() => lastOf([])).toThrow('no place -1 in a list of 0');
	expect(() => present(null, 'mast')).toThrow('no mast');
	expect(() => present(undefined, 'mast')).toThrow(RangeError);
});
