import { describe, expect, it } from 'vitest';
import { CAUSES } from '#core/diagnose/causes/keys';
import { isAtWork, SIMULATED_FAULTS } from '#core/simulate/faults';
import { PLANTABLE, plantedText, readPlanted } from '#core/simulate/planted';

describe('planted faults', () => {
	it('are every cause of the diagnosis', () => {
		expect(new Set<string>(SIMULATED_FAULTS)).toEqual(
			new Set(CAUSES.filter((cause) => cause !== 'none'))
		);
	});

	it('come back as they were written, alone and two at once', () => {
		for (const one of PLANTABLE) {
			expect(readPlanted(plantedText([one]))).toEqual([one]);
			for (const other of PLANTABLE) {
				if (one.fault === other.fault) continue;
				const text = plantedText([one, other]);
				expect(text.length).toBeLessThanOrEqual(100);
				expect(readPlanted(text)).toEqual([one, other]);
			}
		}
		expect(readPlanted('power-control-on@A+rain')).toEqual([
			{ fault: 'power-control-on', end: 'A' },
			{ fault: 'rain', end: null }
		]);
	});

	it.each([
		'',
		'thunder',
		'none',
		'rain@A',
		'power-control-on@C',
		'power-control-on@A@B',
		'rain+rain',
		'power-control-on@A+power-control-on@B',
		'rain+film-left-in+obstruction',
		'rain+'
	])('"%s" plants nothing', (text) => {
		expect(readPlanted(text)).toBeUndefined();
	});

	it('at one end work there alone', () => {
		const at = readPlanted('pick-up@B')!;
		expect([isAtWork(at, 'pick-up', 'A'), isAtWork(at, 'pick-up', 'B')]).toEqual([false, true]);
		const alike = readPlanted('pick-up')!;
		expect([isAtWork(alike, 'pick-up', 'A'), isAtWork(alike, 'pick-up')]).toEqual([true, true]);
		expect(isAtWork(alike, 'rain')).toBe(false);
	});
});
