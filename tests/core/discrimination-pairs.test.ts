import { describe, expect, it } from 'vitest';
import { judgeAcceptance } from '#core/accept/judgeAcceptance';
import type { End } from '#core/ends';
import { discriminationOf, polarizationBench } from '#core/guide/polarizationBench';
import { adviseRotation } from '#core/polarization/discrimination';
import type { RecordPayloads } from '#core/record/records';
import { sayRecord } from '#core/record/kinds';
import type { HopState } from '#core/record/hopState';
import { recordNamesOf } from '#core/tower/recordNames';
import { builtHop } from './endFixture';
import { feed, ready, stateAfter, type Made } from './feed';

const four = builtHop('four-radios', 'direct');
const dual = builtHop('dual-polarized', 'direct');

const read = (end: End, sent: 'vertical' | 'horizontal', pair: 1 | 2, dB: number): Made => [
	end,
	'discrimination',
	{
		...{ sent, turned: end, feedDeg: 0, coDbm: -40, crossDbm: -40 - dB, source: 'hand' as const },
		...(pair === 2 ? { pair } : {})
	} satisfies RecordPayloads['discrimination']
];
const both: Made[] = [
	['A', 'alignment-state', ready],
	['B', 'alignment-state', ready]
];
const readings = (end: End, pair: 1 | 2, dB = 45): Made[] => [
	read(end, 'vertical', pair, dB),
	read(end, 'horizontal', pair, dB)
];
const asked = (state: HopState): string[] =>
	discriminationOf(state).directions.map(
		({ end, sent, pair, verdict }) => `${end} ${sent} ${pair} ${verdict}`
	);

describe('discrimination of carrier pairs', () => {
	it('is asked of each frequency where both planes carry traffic on two, and of one else', () => {
		expect(asked(stateAfter(dual, feed(...both)))).toHaveLength(4);
		const state = stateAfter(four, feed(...both, ...readings('A', 1)));
		expect(asked(state)).toEqual([
			'A vertical 1 reached',
			'A horizontal 1 reached',
			'A vertical 2 missing',
			'A horizontal 2 missing',
			'B vertical 1 missing',
			'B horizontal 1 missing',
			'B vertical 2 missing',
			'B horizontal 2 missing'
		]);
	});

	it('leads to the second frequency once the first is read', () => {
		const state = stateAfter(four, feed(...both, ...readings('A', 1)));
		const aim = {
			...{ onMainLobe: true, onPlan: true, probability: 1, sigmaBeamwidths: 0.01 },
			expectedGainDb: 0
		};
		state.ends.A.aim = aim;
		state.ends.B.aim = aim;
		expect(polarizationBench(state, 'A').step).toMatchObject({
			kind: 'read',
			sent: 'vertical',
			pair: 2,
			why: ['Send vertical only from B, second frequency, and read both polarizations at A.']
		});
	});

	it('of the second frequency does not turn the feed, which the first sets', () => {
		const state = stateAfter(four, feed(...both, ...readings('A', 1), ...readings('A', 2, 21)));
		const { need } = discriminationOf(state);
		const own = state.ends.A.discriminations;
		const advise = (from: typeof own): unknown =>
			adviseRotation(state.plan, need, from, { end: 'A', pointed: true, feedDeg: 0 });
		expect(advise(own)).toEqual(advise(own.filter(({ pair }) => pair !== 2)));
	});

	it('stands in the acceptance line by line, and in the record by its words', () => {
		const state = stateAfter(
			four,
			feed(...both, ...readings('A', 1), ...readings('A', 2, 12), ...readings('B', 1))
		);
		const lines = judgeAcceptance(state).lines.filter(({ code }) =>
			code.startsWith('discrimination-')
		);
		expect(lines.map(({ code, verdict }) => [code, verdict])).toEqual([
			['discrimination-A-vertical', 'pass'],
			['discrimination-A-horizontal', 'pass'],
			['discrimination-A-vertical-second', 'deviation'],
			['discrimination-A-horizontal-second', 'deviation'],
			['discrimination-B-vertical', 'pass'],
			['discrimination-B-horizontal', 'pass'],
			['discrimination-B-vertical-second', 'missing'],
			['discrimination-B-horizontal-second', 'missing']
		]);
		expect(lines.every(({ code }) => /^[a-zA-Z-]{1,40}$/.test(code))).toBe(true);
		const [record] = feed(read('A', 'vertical', 2, 30));
		expect(sayRecord(record!, recordNamesOf(state))).toBe(
			'XPD, vertical sent, second frequency: 30.0 dB'
		);
	});
});
