import { describe, expect, it } from 'vitest';
import { makeLevelFollower, worthKeeping } from '#core/meter/levelFollower';
import { readScpiAnswer, takeLines } from '#core/meter/scpi';
import { makeLevelCurve, type LevelCurvePoint } from '#core/radio/levelCurve';
import { toneHz, levelInSpokenWords } from '$lib/ui/align/sound';

const rising: LevelCurvePoint[] = [
	[-90, 0.2],
	[-20, 3.7]
];
const falling: LevelCurvePoint[] = [
	[-90, 3.7],
	[-20, 0.2]
];

describe.each([
	['rising', rising],
	['falling', falling]
])('following a meter on a %s port', (_, points) => {
	const curve = makeLevelCurve(points);
	const follow = (levels: readonly number[], everyMs = 100): number[] => {
		const follower = makeLevelFollower(curve, 0.001);
		return levels.map((level, i) => follower.take(curve.voltsAt(level), i * everyMs).levelDbm!);
	};

	it('quiets a restless digit', () => {
		const noisy = Array.from({ length: 40 }, (_, i) => -50 + 0.2 * Math.sin(i * 7.3));
		const shown = follow(noisy).slice(10);
		const spread = (values: readonly number[]): number => Math.max(...values) - Math.min(...values);
		expect(spread(shown)).toBeLessThan(0.6 * spread(noisy));
	});

	it('shows a drop with the very reading that brings it', () => {
		const shown = follow([-50, -50.1, -50, -49.9, -50, -56, -56.2]);
		expect(shown[4]).toBeCloseTo(-50, 0);
		expect(shown[5]).toBeCloseTo(-56, 6);
	});

	it('lets a rise wait until half of what is smoothed has risen, and no longer', () => {
		const shown = follow([-60, -60, -60, -60, -50, -50, -50, -50, -50, -50]);
		expect(shown[4]).toBeCloseTo(-60, 6);
		expect(shown.at(-1)).toBeCloseTo(-50, 6);
	});

	it('tells its rate and resolution, and calls a voltage the port cannot give pick-up', () => {
		const follower = makeLevelFollower(curve, 0.001);
		for (let i = 0; i < 20; i++) follower.take(1.2 + 0.05 * (i % 2), i * 200);
		const shown = follower.take(1.2, 4000);
		expect(shown.perSecond).toBeCloseTo(5, 6);
		// A meter seen to step by 0.05 V is that coarse, whatever its last digit: 0.05 V/2 at 0.05 V/dB.
		expect(follower.stepV()).toBeCloseTo(0.05, 9);
		expect(shown.resolutionDb).toBeCloseTo(0.5, 2);
		expect(follower.take(6.5, 4200)).toMatchObject({ pickUp: true, levelDbm: null });
	});
});

it('keeps what is new, what is old, and what comes or goes', () => {
	const last = { levelDbm: -50, recordedAtMs: 0 };
	expect(worthKeeping(last, -50.3, 1000)).toBe(false);
	expect(worthKeeping(last, -50.5, 1000)).toBe(true);
	expect(worthKeeping(last, -50, 30_000)).toBe(true);
	expect(worthKeeping(last, null, 1000)).toBe(true);
	expect(worthKeeping({ ...last, levelDbm: null }, null, 1000)).toBe(false);
});

describe('a meter that speaks SCPI', () => {
	it.each([
		['+1.23456789E+00', 1.23456789],
		['-0.0123', -0.0123],
		['1.5 VDC', 1.5],
		['.25E-3', 0.00025],
		['7', 7]
	])('answers %s', (line, volts) => {
		expect(readScpiAnswer(line)).toEqual({ kind: 'volts', volts });
	});

	it('says overload with the number the standard has for it, and all else is no number', () => {
		expect(readScpiAnswer('9.9E37').kind).toBe('overload');
		expect(readScpiAnswer('-9.90000000E+37').kind).toBe('overload');
		expect(readScpiAnswer('ERR 102')).toEqual({ kind: 'not-a-number', text: 'ERR 102' });
		expect(readScpiAnswer('').kind).toBe('not-a-number');
		expect(readScpiAnswer('1.2.3').kind).toBe('not-a-number');
	});

	it('comes in pieces: lines are cut whatever ends them, half a line waits', () => {
		expect(takeLines('1.2\r\n3.4\n5.')).toEqual({ lines: ['1.2', '3.4'], rest: '5.' });
		expect(takeLines('1.2\r')).toEqual({ lines: [], rest: '1.2\r' });
		expect(takeLines('1.2\r\n')).toEqual({ lines: ['1.2'], rest: '' });
		expect(takeLines('1\r2\r3')).toEqual({ lines: ['1', '2'], rest: '3' });
	});
});

describe('the level for the ear', () => {
	it('rises in pitch with the level, an octave for twelve dB', () => {
		expect(toneHz(12) * 2).toBeCloseTo(toneHz(0), 6);
		expect(toneHz(5)).toBeGreaterThan(toneHz(6));
		expect(toneHz(300)).toBeGreaterThanOrEqual(90);
	});

	it('is said in a breath, with the side of the plan', () => {
		expect(levelInSpokenWords(20.64)).toBe('20 point 6 below.');
		expect(levelInSpokenWords(-2.1)).toBe('2 point 1 above.');
		expect(levelInSpokenWords(null)).toBe('No level.');
		expect(levelInSpokenWords(0.01)).toBe('On plan.');
	});
});
