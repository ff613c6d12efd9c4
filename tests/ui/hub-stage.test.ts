import { describe, expect, it } from 'vitest';
import type { StationProgress } from '#core/bringup/bringUp';
import { STATION_STAGES } from '#core/bringup/bringUp';
import type { TerminalJudgement } from '#core/bringup/judgeTerminal';
import { judgeTerminalOf } from '#core/bringup/judgeTerminal';
import {
	isLinked,
	lampText,
	stageMark,
	stageWords,
	standingOf,
	type SignedTerminal
} from '$lib/ui/hubwork/stageWords';
import { HubFeed, LINKED, twoSectors, workOf } from '../core/bringUpFixture';

const work = workOf(twoSectors());
const LOFT = 't-Net loft';
const feed = (): HubFeed => new HubFeed(work);
const up = (): HubFeed =>
	feed().built('u1').add('u1', 'lamp', { state: 'searching', source: 'hand' }).built(LOFT);
const signedOf = (judgement: TerminalJudgement): SignedTerminal => ({
	...{ id: 'x', terminal: LOFT, number: 1, revisionNumber: 1, lastSeq: 1, judgement, causes: {} },
	...{ signature: { name: 'A', method: 'typed' }, signedBy: 'A', signedAt: new Date(0) },
	origin: { kind: 'own' }
});
const read = (to: HubFeed, offDb: number): HubFeed => {
	const { station } = to.at(LOFT);
	const planned = station.kind === 'terminal' ? station.served!.down.used.levelDbm : 0;
	return to.add(LOFT, 'link-level', {
		...{ downDbm: planned + offDb, upDbm: -55, downMbitS: 900, upMbitS: 900, source: 'hand' }
	});
};

describe('where a station stands, in words', () => {
	const cases: [string, () => StationProgress, string][] = [
		['nothing is done', () => feed().at(LOFT), 'To be put up'],
		['some steps are done', () => feed().step(LOFT, 'station-setup').at(LOFT), '1 of 14 steps'],
		[
			'a step is in trouble',
			() => feed().step(LOFT, 'station-box', { value: 1 }).at(LOFT),
			'0 of 14 steps, 1 in trouble'
		],
		['its unit is not up', () => feed().built(LOFT).at(LOFT), 'Waits for Sector 1'],
		['nobody has seen the lamp', () => up().at(LOFT), 'Lamp to be looked at'],
		[
			'the lamp shows no link',
			() => up().add(LOFT, 'lamp', { state: 'searching', source: 'hand' }).at(LOFT),
			'No link'
		],
		['it is linked', () => up().add(LOFT, 'lamp', LINKED).at(LOFT), 'Linked, level to be read'],
		[
			'it is too weak',
			() => read(up().add(LOFT, 'lamp', LINKED), -6).at(LOFT),
			'Linked, 6.0 dB below the plan'
		],
		[
			'it is too strong',
			() => read(up().add(LOFT, 'lamp', LINKED), 7).at(LOFT),
			'Linked, 7.0 dB above the plan'
		],
		[
			'its lamp says weak',
			() => read(up().add(LOFT, 'lamp', { state: 'weak', source: 'hand' }), 0).at(LOFT),
			'Linked, weak'
		],
		[
			'its cover is open',
			() => read(up().add(LOFT, 'lamp', LINKED), 0).at(LOFT),
			'Linked, cover to be closed'
		],
		[
			'all is done',
			() =>
				read(up().add(LOFT, 'lamp', LINKED), 0)
					.step(LOFT, 'station-cover')
					.at(LOFT),
			'Linked, to be accepted'
		],
		[
			'a unit is dark',
			() => feed().built('u1').add('u1', 'lamp', { state: 'dark', source: 'hand' }).at('u1'),
			'Not up'
		],
		['a unit is up', () => up().step('u1', 'station-cover').at('u1'), 'Up']
	];
	it.each(cases)('once %s', (_, at, words) => {
		expect(stageWords(at())).toBe(words);
	});

	it('covers every stage there is', () => {
		const seen = new Set(cases.map(([, at]) => at().stage));
		expect([...seen].sort()).toEqual([...STATION_STAGES].sort());
	});

	it('says that a terminal is accepted only where an acceptance stands', () => {
		const done = read(up().add(LOFT, 'lamp', LINKED), 0).step(LOFT, 'station-cover');
		const signed = signedOf(judgeTerminalOf(done.all(), LOFT)!);
		expect(stageWords(done.at(LOFT), signed)).toBe('Accepted');
		expect([stageMark(done.at(LOFT), true), stageMark(done.at(LOFT), false)]).toEqual(['✓', '●']);
	});

	it('an acceptance stands no more once what was signed for is read anew', () => {
		const done = read(up().add(LOFT, 'lamp', LINKED), 0).step(LOFT, 'station-cover');
		const signed = signedOf(judgeTerminalOf(done.all(), LOFT)!);
		expect(standingOf(done.all(), signed)).toBe(signed);
		expect(standingOf(done.all(), undefined)).toBeUndefined();
		expect(standingOf(read(done, 2).all(), signed)).toBeUndefined();
	});

	it('marks trouble by a sign, not by a colour alone', () => {
		const dark = up().add(LOFT, 'lamp', { state: 'dark', source: 'hand' }).at(LOFT);
		expect([stageMark(dark, false), isLinked(dark)]).toEqual(['▲', false]);
		expect(stageMark(feed().at(LOFT), false)).toBe('○');
		expect(isLinked(up().at('u1'))).toBe(false);
	});

	it('says a lamp as this part shows it, and plainly where nobody has typed that', () => {
		const lamps = [{ state: 'linked' as const, shows: 'green, steady' }];
		expect(lampText('linked', lamps)).toBe('linked: green, steady');
		expect(lampText('weak', lamps)).toBe('linked, weak');
		expect(lampText('dark', lamps)).toBe('Dark');
	});
});
