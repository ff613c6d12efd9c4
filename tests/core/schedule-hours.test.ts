import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { clockMoment, daysOf, isZone, lightSpans, workingSpans } from '#core/schedule/hours';
import {
	earliestWithin,
	inBoth,
	joined,
	minutesUntil,
	without,
	type Span
} from '#core/schedule/spans';
import { forbiddenSpans, type WeatherHour } from '#core/schedule/weather';

const at = (iso: string): number => Date.parse(iso) / 60_000;
const iso = (minute: number): string => `${new Date(minute * 60_000).toISOString().slice(0, 16)}Z`;
const told = (spans: readonly Span[]): string[] =>
	spans.map(({ from, to }) => `${iso(from)}/${iso(to)}`);
const week = { from: at('2026-03-23T00:00Z'), to: at('2026-03-30T00:00Z') };
const hours = {
	...{ zone: 'Europe/Berlin', days: [1, 2, 3, 4, 5], fromMin: 480, toMin: 1020 },
	daysOff: [] as string[]
};

describe('hours by the clock of a zone', () => {
	it('are hours of that clock, on its working days, less the days off', () => {
		const spans = told(workingSpans({ ...hours, daysOff: ['2026-03-24'] }, week));
		expect(spans).toHaveLength(4);
		expect(spans[0]).toBe('2026-03-23T07:00Z/2026-03-23T16:00Z');
		expect(spans[1]).toBe('2026-03-25T07:00Z/2026-03-25T16:00Z');
	});

	it.each([
		// The clock goes on by an hour on 29 March 2026, back on 25 October (rules of the IANA database).
		['the day before the clock goes on', '2026-03-28', 480, '2026-03-28T07:00Z'],
		['the day on which it goes on', '2026-03-29', 480, '2026-03-29T06:00Z'],
		['the hour that is left out', '2026-03-29', 150, '2026-03-29T01:30Z'],
		['the day on which it goes back', '2026-10-25', 480, '2026-10-25T07:00Z'],
		['the hour that comes twice', '2026-10-25', 150, '2026-10-25T00:30Z'],
		['after midnight of the next day', '2026-06-30', 1500, '2026-06-30T23:00Z'],
		['midnight itself', '2026-06-30', 1440, '2026-06-30T22:00Z']
	])('%s', (_, day, minute, moment) => {
		expect(iso(clockMoment(day, minute, 'Europe/Berlin'))).toBe(moment);
	});

	it('go on past midnight, and begin the evening before the first day', () => {
		const nights = { ...hours, days: [7, 1], fromMin: 1320, toMin: 1800 };
		expect(
			told(workingSpans(nights, { from: at('2026-03-23T00:00Z'), to: at('2026-03-24T12:00Z') }))
		).toEqual(['2026-03-23T00:00Z/2026-03-23T05:00Z', '2026-03-23T21:00Z/2026-03-24T05:00Z']);
	});

	it('are of a zone far from Greenwich and with a broken hour', () => {
		const spans = workingSpans(
			{ ...hours, zone: 'Pacific/Chatham' },
			{ from: at('2026-06-01T00:00Z'), to: at('2026-06-02T00:00Z') }
		);
		// 12 h 45 min ahead in winter: Tuesday morning there is Monday evening in Greenwich.
		expect(told(spans)).toEqual([
			'2026-06-01T00:00Z/2026-06-01T04:15Z',
			'2026-06-01T19:15Z/2026-06-02T00:00Z'
		]);
		expect([isZone('Pacific/Chatham'), isZone('Here/There')]).toEqual([true, false]);
	});

	it('days of a span are those it has a minute in', () => {
		expect(
			daysOf({ from: at('2026-01-01T22:59Z'), to: at('2026-01-01T23:01Z') }, 'Europe/Berlin')
		).toEqual(['2026-01-01', '2026-01-02']);
		expect(
			daysOf({ from: at('2026-01-01T22:00Z'), to: at('2026-01-01T23:00Z') }, 'Europe/Berlin')
		).toEqual(['2026-01-01']);
	});
});

describe('light', () => {
	const day = { from: at('2026-03-20T00:00Z'), to: at('2026-03-21T00:00Z') };
	const minutes = (spans: readonly Span[]): number =>
		spans.reduce((sum, { from, to }) => sum + to - from, 0);

	it('at the equator on the equinox is half a day and a little, and more with twilight', () => {
		const place = { latitudeDeg: 0, longitudeDeg: 0 };
		// The rim of the sun and the bending of its rays by 0.833° at 15°/h on either side: 6.7 minutes more.
		expect(Math.abs(minutes(lightSpans(place, 'sun', day)) - 726.7)).toBeLessThan(2);
		expect(Math.abs(minutes(lightSpans(place, 'civil', day)) - 768)).toBeLessThan(2);
	});

	it.each([
		['a polar day is all light', 69, '2026-06-21', 'sun', 1440],
		['a polar night has none', 69, '2026-12-21', 'sun', 0],
		['and yet some twilight', 69, '2026-12-21', 'civil', 286],
		['far north not even that', 80, '2026-12-21', 'civil', 0],
		['a white night is light by twilight', 62, '2026-06-21', 'civil', 1440]
	] as const)('%s', (_, latitudeDeg, date, school, expected) => {
		const from = at(`${date}T00:00Z`);
		const light = lightSpans({ latitudeDeg, longitudeDeg: 20 }, school, { from, to: from + 1440 });
		expect(Math.abs(minutes(light) - expected)).toBeLessThan(5);
	});

	it('is found at every longitude, without gaps at midnight of Greenwich', () => {
		fc.assert(
			fc.property(fc.integer({ min: -180, max: 180 }), (longitudeDeg) => {
				const spans = lightSpans({ latitudeDeg: 40, longitudeDeg }, 'sun', week);
				// A week has seven days of light, one of which may be cut in two by the ends of the week.
				const lit = minutes(spans) / 7;
				expect(lit).toBeGreaterThan(700);
				expect(lit).toBeLessThan(770);
				expect(spans.length).toBeGreaterThanOrEqual(7);
				expect(spans.length).toBeLessThanOrEqual(8);
			}),
			{ numRuns: 60 }
		);
	});
});

describe('weather', () => {
	const limits = {
		...{ climbWindMs: 12, climbGustMs: 15, liftWindMs: 8, liftGustMs: 10, openRainMmH: 0.5 }
	};
	const hour = (i: number, change: Partial<WeatherHour>): WeatherHour => ({
		...{ at: i * 60, windMs: 3, gustMs: 5, rainMmH: 0, lightning: false },
		...change
	});

	it('forbids climbing and lifting by wind, gusts and lightning, open joints by rain', () => {
		const hoursOf = [
			hour(0, {}),
			hour(1, { windMs: 9 }),
			hour(2, { gustMs: 16 }),
			hour(3, { rainMmH: 2 }),
			hour(4, { lightning: true }),
			hour(5, { windMs: null, gustMs: null, rainMmH: null })
		];
		const places = (limit: 'climb' | 'lift' | 'open'): number[][] =>
			forbiddenSpans(hoursOf, limit, limits).map(({ from, to }) => [from / 60, to / 60]);
		expect(places('climb')).toEqual([
			[2, 3],
			[4, 5]
		]);
		expect(places('lift')).toEqual([
			[1, 3],
			[4, 5]
		]);
		expect(places('open')).toEqual([[3, 4]]);
	});

	it('at the limit itself work goes on', () => {
		expect(forbiddenSpans([hour(0, { windMs: 12, gustMs: 15 })], 'climb', limits)).toEqual([]);
	});
});

describe('stretches of time', () => {
	const spans = fc
		.array(fc.tuple(fc.nat(60), fc.nat(12)), { maxLength: 6 })
		.map((pairs) => pairs.map(([from, length]) => ({ from, to: from + length })));
	const minutesIn = (of: readonly Span[]): number[] =>
		[...Array(90).keys()].filter((minute) =>
			of.some(({ from, to }) => minute >= from && minute < to)
		);

	it('are joined, cut and taken away minute by minute', () => {
		fc.assert(
			fc.property(spans, spans, (some, others) => {
				const [a, b] = [joined(some), joined(others)];
				const [inA, inB] = [new Set(minutesIn(some)), new Set(minutesIn(others))];
				expect(minutesIn(a)).toEqual([...inA]);
				expect(minutesIn(inBoth(a, b))).toEqual([...inA].filter((minute) => inB.has(minute)));
				expect(minutesIn(without(a, b))).toEqual([...inA].filter((minute) => !inB.has(minute)));
				for (let i = 1; i < a.length; i += 1) expect(a[i]!.from).toBeGreaterThan(a[i - 1]!.to);
				expect(minutesUntil(a, 30)).toBe([...inA].filter((minute) => minute < 30).length);
			})
		);
	});

	it('the earliest place within them is the first that there is', () => {
		fc.assert(
			fc.property(spans, fc.nat(80), fc.integer({ min: 1, max: 10 }), (some, notBefore, length) => {
				const whole = joined(some);
				const inside = new Set(minutesIn(whole));
				const first = [...Array(90).keys()].find(
					(minute) =>
						minute >= notBefore && [...Array(length).keys()].every((i) => inside.has(minute + i))
				);
				expect(earliestWithin(whole, notBefore, length)).toBe(first);
			})
		);
	});
});
