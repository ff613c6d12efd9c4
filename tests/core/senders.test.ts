import { describe, expect, it } from 'vitest';
import { sendersWhileAligning } from '#core/budget/senders';
import type { ConfigurationKind } from '#core/budget/configurationKinds';
import { guide } from '#core/guide/guidance';
import { alignmentTimer, type TimedRadio } from '#core/catalogue/alignmentTimer';
import { builtHop } from './endFixture';
import { base } from './guidanceFixture';
import { catalogue, part } from './planFixture';

describe('who sends while an end aligns', () => {
	const at = (kind: ConfigurationKind): string =>
		sendersWhileAligning(builtHop(kind, 'direct'), 'A');

	it('is said of the far end, radio by radio, where there are several', () => {
		expect(at('single')).toBe('');
		expect(at('hot-standby')).toBe(
			'At B radio 1 sends: vertical, 7.346 GHz. Radio 2: muted, stands by.'
		);
		expect(at('space-diversity')).toContain('Radio 2: only hears, its transmitter off.');
		expect(at('two-bands')).toContain('Radio 2: of the other band, read after the first.');
		for (const kind of ['frequency-diversity', 'dual-polarized'] as const) {
			expect(at(kind)).toContain('Radio 2: muted while the first is aligned on.');
		}
		expect(at('four-radios').match(/muted/g)).toHaveLength(3);
	});
});

describe('the timer of an alignment state', () => {
	const at = '2026-11-28T08:00:00.000Z';
	const after = (minutes: number): number => Date.parse(at) + minutes * 60_000;
	const eight = part(catalogue.radios, 'RU-18');
	const held = part(catalogue.radios, 'RU-26');
	const timed = (of: TimedRadio['part'], name = 'Radio 1'): TimedRadio => ({
		...{ name, part: of },
		enteredAt: at
	});

	it('runs from the confirmation, warns half an hour before, and says when it is over', () => {
		expect(alignmentTimer([timed(eight)], after(0))).toEqual({
			radio: 'Radio 1',
			endsAt: '2026-11-28T16:00:00.000Z',
			state: 'runs',
			minutesLeft: 480
		});
		expect(alignmentTimer([timed(eight)], after(449))!.state).toBe('runs');
		expect(alignmentTimer([timed(eight)], after(450))!.state).toBe('soon');
		expect(alignmentTimer([timed(eight)], after(480))!.state).toBe('over');
	});

	it('is that of the radio that leaves first, and of none that stays', () => {
		expect(alignmentTimer([timed(held)], after(0))).toBeUndefined();
		const short = { alignmentState: { ...eight.alignmentState, timer: { hours: 2 } } };
		const three = [timed(held), timed(eight, 'Radio 2'), timed(short, 'Radio 3')];
		expect(alignmentTimer(three, after(0))).toMatchObject({ radio: 'Radio 3', minutesLeft: 120 });
		// Entered anew seven hours later, the short timer is no longer the first to end.
		const anew = { ...timed(short, 'Radio 3'), enteredAt: new Date(after(420)).toISOString() };
		expect(alignmentTimer([...three.slice(0, 2), anew], after(420))).toMatchObject({
			radio: 'Radio 2',
			minutesLeft: 60
		});
	});
});

it('a level far above the plan is answered with less power, and with what pointing off would cost', () => {
	const high = { azimuthDeg: 0, tiltDeg: 0, levelDbm: base.plannedLevelDbm + 9 };
	const { reasons } = guide({ ...base, readings: [high] });
	// 12·(0.6² − 0.5²) and 12·0.1²: the slope of a parabola of 12·(x/θ)².
	expect(reasons.join(' ')).toMatch(
		/never point off.*costs 3 dB.*change the level by 1\.3 dB; on the axis by 0\.1 dB/
	);
});
