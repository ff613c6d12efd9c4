import { describe, expect, it } from 'vitest';
import usual from '#catalog/durations.json';
import { workTimes } from '#core/schedule/workTimes';
import { buildSteps } from '#core/tower/buildSteps';
import { minutesText, readTimes, saidOf, timesCsv, timesFormOf } from '$lib/ui/crew/timesForm';
import { WORK_KINDS } from '$lib/ui/words/workKinds';
import { EVERY_HOP } from '../core/endFixture';
import { soundPlan } from '../core/planFixture';

const said = { hoist: { low: 20, likely: 40, high: 90 } };
const times = workTimes(usual, said, {});
const form = timesFormOf(times);

describe('words of the kinds of work', () => {
	const named = WORK_KINDS.flatMap(({ kinds }) => Object.keys(kinds));

	it('name every kind that has a time, once', () => {
		expect([...named].sort()).toEqual(Object.keys(usual).sort());
	});

	it('name every step of every configuration', () => {
		for (const { input } of EVERY_HOP) {
			const bases = buildSteps(input, soundPlan(input), 'A').map(({ base }) => base);
			expect(bases.filter((base) => !named.includes(base))).toEqual([]);
		}
	});
});

describe('times of work as they are typed', () => {
	it('hold what the firm has said, and are left as usual where nothing is typed', () => {
		expect(form.hoist).toEqual({ low: '20', likely: '40', high: '90' });
		expect(form.fix).toEqual({ low: '', likely: '', high: '' });
		expect(saidOf(form)).toEqual({ said });
		expect(saidOf({ ...form, hoist: { low: ' ', likely: '', high: '' } })).toEqual({ said: {} });
		expect(saidOf({ fix: { low: '1,5', likely: '2', high: '2' } })).toEqual({
			said: { fix: { low: 1.5, likely: 2, high: 2 } }
		});
	});

	it.each([
		[{ low: '5', likely: '', high: '9' }, 'said.fix.likely', 'All three, or none.'],
		[{ low: '5', likely: 'x', high: '9' }, 'said.fix.likely', 'Minutes from 0.1 to 2880.'],
		[{ low: '0', likely: '1', high: '9' }, 'said.fix.low', 'Minutes from 0.1 to 2880.'],
		[{ low: '5', likely: '4', high: '9' }, 'said.fix.likely', 'Not below the low one.'],
		[{ low: '5', likely: '6', high: '5.5' }, 'said.fix.high', 'Not below the likely one.'],
		[{ low: '5', likely: '6', high: '2881' }, 'said.fix.high', 'Minutes from 0.1 to 2880.']
	])('%o are refused at %s', (fix, field, message) => {
		expect(saidOf({ ...form, fix })).toEqual({ problems: [{ field, message }] });
	});
});

describe('times of work as a file', () => {
	it('come back as what is planned with', () => {
		const read = readTimes(timesCsv(times), form);
		expect(read).toMatchObject({ count: Object.keys(usual).length });
		if (!('form' in read)) throw new Error('not read');
		const back = saidOf(read.form);
		if (!('said' in back)) throw new Error('not said');
		expect(back.said.hoist).toEqual(said.hoist);
		expect(back.said.fix).toEqual(usual.fix);
	});

	it('change only the kinds they name, in any order of their columns', () => {
		const text = 'High_min,kind,low_min,likely_min\n30,fix,10,20\n';
		expect(readTimes(text, form)).toEqual({
			form: { ...form, fix: { low: '10', likely: '20', high: '30' } },
			count: 1
		});
		// Three empty ones make it as usual again.
		expect(readTimes('kind,low_min,likely_min,high_min\nhoist,,,\n', form)).toMatchObject({
			form: { hoist: { low: '', likely: '', high: '' } }
		});
	});

	it.each([
		['kind,low_min\nfix,3\n', 'The file needs the columns kind, low_min, likely_min, high_min.'],
		['kind,low_min,likely_min,high_min\nfix,1,2,3\nnap,1,2,3\n', 'Line 3: there is no work “nap”.'],
		['kind,low_min,likely_min,high_min\nfix,4,2,3\n', 'Line 2, likely_min: Not below the low one.'],
		[
			'kind,low_min,likely_min,high_min\nconstructor,1,2,3\n',
			'Line 2: there is no work “constructor”.'
		]
	])('are refused with their line: %j', (text, problem) => {
		expect(readTimes(text, form)).toEqual({ problem });
	});
});

it.each([
	[0.24, '0.2'],
	[3, '3'],
	[9.94, '9.9'],
	[9.96, '10'],
	[44.6, '45']
])('%d minutes are shown as %s', (minutes, text) => {
	expect(minutesText(minutes)).toBe(text);
});
