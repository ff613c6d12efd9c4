import { describe, expect, it } from 'vitest';
import { inventoryOf } from '#core/budget/inventory';
import { ENDS } from '#core/ends';
import { discriminationPorts } from '#core/polarization/ports';
import { builtHop } from './endFixture';

describe('the ports at which a discrimination is read', () => {
	const names = (
		kind: Parameters<typeof builtHop>[0],
		sent: 'vertical' | 'horizontal',
		pair: 1 | 2 = 1,
		end: 'A' | 'B' = 'A'
	): string[] => {
		const { co, cross } = discriminationPorts(builtHop(kind, 'direct'), end, sent, pair);
		return [co.key, cross.key];
	};

	it('are those of the two planes, whichever is sent', () => {
		const dual = builtHop('dual-polarized', 'direct');
		const other = dual.ends.A.polarization === 'vertical' ? 'horizontal' : 'vertical';
		expect(names('dual-polarized', dual.ends.A.polarization)).toEqual(['radio-1', 'radio-2']);
		expect(names('dual-polarized', other)).toEqual(['radio-2', 'radio-1']);
	});

	it.each(ENDS)('are of the frequency that is sent, of four radios at %s', (end) => {
		const { radios } = inventoryOf(builtHop('four-radios', 'direct'), end);
		for (const pair of [1, 2] as const) {
			for (const sent of ['vertical', 'horizontal'] as const) {
				const [co, cross] = names('four-radios', sent, pair, end).map((key) =>
					radios.find((radio) => radio.key === key)
				);
				expect([co!.polarization, cross!.polarization]).toEqual([
					sent,
					sent === 'vertical' ? 'horizontal' : 'vertical'
				]);
				expect(co!.receiveFrequencyGhz).toBe(cross!.receiveFrequencyGhz);
			}
		}
		const of = (pair: 1 | 2): string => names('four-radios', 'vertical', pair, end)[0]!;
		expect(of(1)).not.toBe(of(2));
	});

	it('are one and the same on a hop of one plane', () => {
		for (const kind of ['single', 'hot-standby', 'frequency-diversity'] as const) {
			expect(new Set(names(kind, 'vertical')).size).toBe(1);
		}
	});
});
