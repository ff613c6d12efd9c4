import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { broughtOnto } from '$lib/ui/form/threeWay';

describe('typing brought onto what somebody else has saved', () => {
	const base = { name: 'Old', height: '10', climate: { broad: 'sea', k: '1.3' }, list: ['a'] };

	it('keeps what was typed and takes over the rest', () => {
		const typed = { ...base, height: '12', climate: { broad: 'sea', k: '1.2' } };
		const now = { ...base, name: 'New', climate: { broad: 'inland', k: '1.3' } };
		expect(broughtOnto(base, typed, now)).toEqual({
			name: 'New',
			height: '12',
			climate: { broad: 'inland', k: '1.2' },
			list: ['a']
		});
	});

	it('where both changed a field, the typed value stands: it is the one not saved yet', () => {
		expect(broughtOnto({ a: '1' }, { a: '2' }, { a: '3' })).toEqual({ a: '2' });
	});

	it('takes a list as one field', () => {
		const typed = { ...base, list: ['a', 'b'] };
		expect(broughtOnto(base, typed, { ...base, list: ['c'] }).list).toEqual(['a', 'b']);
		expect(broughtOnto(base, base, { ...base, list: ['c'] }).list).toEqual(['c']);
	});

	it('an emptied field is typed, too; a field that is gone is not brought back', () => {
		expect(broughtOnto({ a: '1', b: '2' }, { a: '', b: '3' }, { a: '1' })).toEqual({ a: '' });
	});

	it('takes up what is kept by what it answers: a field that was not there before', () => {
		const answers: Record<string, string> = {};
		expect(broughtOnto({ answers }, { answers: { power: 'no' } }, { answers })).toEqual({
			answers: { power: 'no' }
		});
	});

	it('gives exactly what was typed where nobody saved, and exactly what is saved where nobody typed', () => {
		const values = fc.record({
			a: fc.string(),
			b: fc.record({ c: fc.integer(), d: fc.array(fc.string()) })
		});
		fc.assert(
			fc.property(values, values, (was, other) => {
				expect(broughtOnto(was, other, was)).toEqual(other);
				expect(broughtOnto(was, was, other)).toEqual(other);
			})
		);
	});
});
