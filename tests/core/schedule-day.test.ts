import { describe, expect, it } from 'vitest';
import durations from '#catalog/durations.json';
import {
	crewId,
	dayProblem,
	stretchOf,
	timetableOf,
	usualDayPlan,
	type DayPlan,
	type DayQuestion,
	type DayWeather,
	type Timetable
} from '#core/schedule/dayPlan';
import { hopJobs, hopTasks } from '#core/schedule/tasks';
import { EVERY_HOP } from './endFixture';
import { hopInput, soundPlan } from './planFixture';
import { violations } from './scheduleFixture';

const at = (iso: string): number => Date.parse(iso) / 60_000;
const places = {
	A: { latitudeDeg: 54, longitudeDeg: 10 },
	B: { latitudeDeg: 54.1, longitudeDeg: 10.1 }
};
/** Monday 15 June 2026, by a clock two hours ahead. */
const usual = usualDayPlan('2026-06-15', 'Europe/Berlin');

function questionOf(
	input = hopInput(),
	change: Partial<DayPlan> = {},
	now = at('2026-06-14T00:00Z')
): DayQuestion {
	const hop = {
		id: 'h',
		input,
		plan: soundPlan(input),
		places: { A: 'A', B: 'B' },
		acceptOnSite: false
	};
	return {
		...{ hopId: 'h', tasks: hopTasks(hop, durations), jobs: hopJobs(hop), places, now },
		plan: { ...usual, ...change }
	};
}
const startOf = ({ placed }: Timetable, task: string): number =>
	placed.find((one) => one.task === task)!.from;
/** Every hour of a day at both ends. */
const stormOn = (day: string, change: Partial<DayWeather>): DayWeather[] =>
	Array.from({ length: 24 }, (_, hour) =>
		(['A', 'B'] as const).map((end) => ({
			...{ end, at: `${day}T${String(hour).padStart(2, '0')}:00:00Z` },
			...{ windMs: 3, gustMs: 5, rainMmH: 0, lightning: false },
			...change
		}))
	).flat();

describe('the days of a hop', () => {
	it.each(EVERY_HOP)('are a timetable without a fault ($name)', ({ input }) => {
		const question = questionOf(input, { days: 10 });
		const problem = dayProblem(question);
		const table = timetableOf(question);
		expect(table.unplaced).toEqual([]);
		const crewOf = new Map([
			['h/A', crewId(0)],
			['h/B', crewId(1)]
		]);
		const placed = new Map(table.placed.map((one) => [one.task, one]));
		expect(violations(problem, placed, crewOf)).toEqual([]);
		expect(table.finish).toBe(Math.max(...table.placed.map(({ to }) => to)));
		// Nobody climbs in the dark.
		for (const task of question.tasks.filter(({ light }) => light)) {
			const where = placed.get(task.id)!;
			const light = table.light[task.end];
			expect(light.some(({ from, to }) => where.from >= from && where.to <= to)).toBe(true);
		}
	});

	it('begin and end by the clock of their zone, and leave out the days off', () => {
		expect(stretchOf(usual)).toEqual({
			from: at('2026-06-14T22:00Z'),
			to: at('2026-06-19T22:00Z')
		});
		const table = timetableOf(questionOf());
		expect(table.hours['crew-1']![0]).toEqual({
			from: at('2026-06-15T05:00Z'),
			to: at('2026-06-15T15:00Z')
		});
		const weekend = timetableOf(questionOf(hopInput(), { firstDay: '2026-06-13' }));
		expect(weekend.placed.every(({ from }) => from > at('2026-06-15T00:00Z'))).toBe(true);
	});

	it('put nothing before now, and go round a storm', () => {
		const late = timetableOf(questionOf(hopInput(), {}, at('2026-06-16T09:00Z')));
		expect(Math.min(...late.placed.map(({ from }) => from))).toBeGreaterThanOrEqual(
			at('2026-06-16T09:00Z')
		);
		const calm = timetableOf(questionOf());
		const storm = timetableOf(
			questionOf(hopInput(), { weather: stormOn('2026-06-15', { gustMs: 20 }) })
		);
		expect(startOf(calm, 'h/A/raise')).toBeLessThan(at('2026-06-16T00:00Z'));
		expect(startOf(storm, 'h/A/raise')).toBeGreaterThan(at('2026-06-16T00:00Z'));
		expect(storm.forbidden.A.map(({ limit }) => limit)).toEqual(['climb', 'lift']);
		// What is done on the ground is done meanwhile.
		expect(startOf(storm, 'h/A/assemble')).toBe(startOf(calm, 'h/A/assemble'));
		const rain = timetableOf(
			questionOf(hopInput(), { weather: stormOn('2026-06-15', { rainMmH: 4 }) })
		);
		expect(startOf(rain, 'h/A/raise')).toBe(startOf(calm, 'h/A/raise'));
		expect(startOf(rain, 'h/A/mount')).toBeGreaterThan(startOf(calm, 'h/A/mount'));
	});

	it('of one crew go back and forth, and take longer than those of two', () => {
		const two = timetableOf(questionOf());
		const one = timetableOf(questionOf(hopInput(), { crews: [usual.crews[0]!] }));
		expect(one.unplaced).toEqual([]);
		expect(new Set(one.placed.map(({ crew }) => crew))).toEqual(new Set(['crew-1']));
		expect(one.finish!).toBeGreaterThan(two.finish!);
	});

	it('of a crew that begins late make the other one wait, and say so', () => {
		const waitOf = (fromMin: number): Timetable['waits'] => {
			const crews = [usual.crews[0]!, { ...usual.crews[1]!, fromMin }];
			return timetableOf(questionOf(hopInput(), { crews })).waits.filter(
				({ crew }) => crew === 'crew-1'
			);
		};
		const minutes = [420, 480, 540].map((fromMin) =>
			waitOf(fromMin).reduce((sum, { from, to }) => sum + to - from, 0)
		);
		// Each hour that B begins later is one that A stands about.
		expect(minutes[1]! - minutes[0]!).toBeGreaterThan(30);
		expect(minutes[2]! - minutes[1]!).toBeGreaterThan(30);
		expect(waitOf(540)[0]).toMatchObject({ on: { kind: 'crew', crew: 'crew-2' } });
	});

	it('that end with a boat end sooner every day', () => {
		const free = timetableOf(questionOf());
		const boat = timetableOf(questionOf(hopInput(), { awayByMin: 780, days: 10 }));
		expect(boat.finish!).toBeGreaterThan(free.finish!);
		for (const { to } of boat.placed)
			expect((to - at('2026-06-14T22:00Z')) % 1440).toBeLessThanOrEqual(750);
	});

	it('say what is in the way where they are too few, and whom a crew lacks', () => {
		const short = timetableOf(questionOf(hopInput(), { days: 1 }));
		expect(short.finish).toBeNull();
		expect(short.chances).toEqual([]);
		const first = short.unplaced.find(({ why }) => why.kind !== 'after')!;
		expect(first.why).toMatchObject({ kind: 'rule' });
		expect((first.why as { frees: string[] }).frees).toContain('end');
		const crews = [{ ...usual.crews[0]!, climbers: 0 }, usual.crews[1]!];
		const nobody = timetableOf(questionOf(hopInput(), { crews }));
		expect(nobody.unplaced[0]!.why).toEqual({
			kind: 'no-crew',
			lacks: [{ crew: 'crew-1', what: ['a climber'] }]
		});
	});

	it('keep what was pinned, and say how probable it is to be done that day and at all', () => {
		const pin = { task: 'h/A/sweep-coarse', at: '2026-06-18T08:00:00Z' };
		const table = timetableOf(questionOf(hopInput(), { pins: [pin] }));
		expect(startOf(table, pin.task)).toBe(at(pin.at));
		const [day, all] = timetableOf(questionOf()).chances;
		expect([day!.what, all!.what]).toEqual(['that-day', 'at-all']);
		expect(all!.share).toBeGreaterThanOrEqual(day!.share);
		expect(day!.share).toBeGreaterThan(0.02);
		expect(all!.share).toBeGreaterThan(0.95);
	});
});
