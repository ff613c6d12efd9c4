import { describe, expect, it } from 'vitest';
import { mendedFaults, mountedParts } from '#core/accept/asMounted';
import { builtHop } from './endFixture';
import { feed, stateAfter, type Made } from './feed';

const input = builtHop('space-diversity', 'direct');
const label = (end: 'A' | 'B', part: string, code: string, serial: string): Made => [
	end,
	'part-label',
	{ ...{ part, code, serial, bandFromGhz: 7, bandToGhz: 8 }, subBandUnit: '1L', flange: '' }
];
const changed = (part: string, serial: string, reason: string): Made => [
	'A',
	'part-replaced',
	{ part, code: 'RU-07', serial, reason, photoIds: [] }
];

describe('the parts as mounted', () => {
	it('are those whose labels were read, by name and end', () => {
		const state = stateAfter(
			input,
			feed(
				label('A', 'radio-2', 'RU-07', 'S-2'),
				label('A', 'second-dish', 'DP-120-07', 'D-2'),
				label('B', 'radio-1', 'RU-07', 'S-9')
			)
		);
		expect(mountedParts(state, 'A')).toEqual([
			{ end: 'A', name: 'Radio 2', code: 'RU-07', serial: 'S-2', changed: '' },
			{ end: 'A', name: 'Second dish', code: 'DP-120-07', serial: 'D-2', changed: '' }
		]);
		expect(mountedParts(state, 'B').map(({ serial }) => serial)).toEqual(['S-9']);
	});

	it('are the later ones where a part was changed, with why; also one whose label nobody read', () => {
		const state = stateAfter(
			input,
			feed(
				label('A', 'radio-1', 'RU-07', 'S-1'),
				changed('radio-1', 'S-3', 'Struck by lightning'),
				changed('radio-1', 'S-4', 'Dead on arrival'),
				changed('radio-2', 'S-5', 'Water in it')
			)
		);
		expect(
			mountedParts(state, 'A').map(({ name, serial, changed: why }) => [name, serial, why])
		).toEqual([
			['Radio 1', 'S-4', 'Dead on arrival'],
			['Radio 2', 'S-5', 'Water in it']
		]);
	});
});

it('faults that were set right are told in the order of the record, with who did it', () => {
	const state = stateAfter(
		input,
		feed(['B', 'remedy', { cause: 'film-left-in' }], ['A', 'remedy', { cause: 'power-control-on' }])
	);
	expect(mendedFaults(state)).toMatchObject([
		{ end: 'B', by: 'test', at: new Date(0).toISOString() },
		{ end: 'A', by: 'test' }
	]);
	expect(mendedFaults(state).map(({ name }) => name)).not.toContain('film-left-in');
	expect(mendedFaults(stateAfter(input, feed()))).toEqual([]);
});
