import { ENDS, farEnd, type End } from '#core/ends';
import type { Timetable } from '#core/schedule/dayPlan';
import { daysOf } from '#core/schedule/hours';
import { joined, type Span } from '#core/schedule/spans';
import type { HopTask } from '#core/schedule/tasks';

/** A task where it stands on its rail. */
export interface Block {
	task: HopTask;
	crew: string;
	from: number;
	to: number;
	state: 'done' | 'begun' | 'planned';
	pinned: boolean;
}

/** One day of both rails. */
export interface RailDay {
	/** As `2026-06-15`. */
	day: string;
	/** The stretch that is drawn. */
	from: number;
	to: number;
	blocks: Record<End, Block[]>;
	/** When the crew of an end stands by for the other one. */
	standBy: Record<End, Span[]>;
}

/** Drawn before and after what there is in a day, minutes. */
const MARGIN_MIN = 20;

/** The days of a timetable on which something is done, with what is done at either end. */
export function railDays(
	{ span, placed }: Pick<Timetable, 'span' | 'placed'>,
	tasks: readonly HopTask[],
	{ zone, pins, crews }: { zone: string; pins: readonly { task: string }[]; crews: number }
): RailDay[] {
	const byId = new Map(tasks.map((task) => [task.id, task]));
	const pinned = new Set(pins.map(({ task }) => task));
	const all = placed.flatMap(({ task: id, crew, from, to }): Block[] => {
		const task = byId.get(id);
		// What was only ticked off has no length to be drawn.
		if (!task || (task.real?.done && to === from)) return [];
		const state = task.real ? (task.real.done ? 'done' : 'begun') : 'planned';
		return [{ task, crew, from, to, state, pinned: state === 'planned' && pinned.has(id) }];
	});
	if (all.length === 0) return [];
	const first = Math.min(span.from, ...all.map(({ from }) => from));
	const last = Math.max(...all.map(({ to }) => to));
	return daysOf({ from: first, to: last + 1 }, zone).flatMap((day): RailDay[] => {
		const own = all.filter(
			({ from, to }) => daysOf({ from, to: Math.max(to, from + 1) }, zone)[0] === day
		);
		if (own.length === 0) return [];
		const of = (end: End): Block[] =>
			own.filter(({ task }) => task.end === end).sort((p, q) => p.from - q.from);
		const standBy = (end: End): Span[] =>
			crews < 2
				? []
				: joined(
						own.filter(
							({ task, state }) => state !== 'done' && task.attends && task.end === farEnd(end)
						)
					);
		return [
			{
				day,
				from: Math.min(...own.map(({ from }) => from)) - MARGIN_MIN,
				to: Math.max(...own.map(({ to }) => to)) + MARGIN_MIN,
				blocks: { A: of('A'), B: of('B') },
				standBy: { A: standBy('A'), B: standBy('B') }
			}
		];
	});
}

/** The block before or after one, on its own rail, over all days; itself where there is none. */
export function neighbour(days: readonly RailDay[], id: string, step: 1 | -1): string {
	for (const end of ENDS) {
		const list = days.flatMap(({ blocks }) => blocks[end]);
		const at = list.findIndex(({ task }) => task.id === id);
		if (at >= 0) return list[at + step]?.task.id ?? id;
	}
	return id;
}

/** Waits shorter than this are not drawn, minutes. */
const SHORTEST_WAIT_MIN = 5;

/** Waits of a day; crews that wait until the same moment are told together. */
export function waitsOn(
	day: Pick<RailDay, 'from' | 'to'>,
	waits: Timetable['waits'],
	crewOf: (id: string) => string
): { from: number; to: number; who: string }[] {
	const told = new Map<number, { from: number; crews: string[] }>();
	for (const { crew, from, to } of waits) {
		if (from < day.from || to > day.to || to - from < SHORTEST_WAIT_MIN) continue;
		const known = told.get(to);
		told.set(to, {
			from: Math.min(known?.from ?? from, from),
			crews: [...(known?.crews ?? []), crewOf(crew)]
		});
	}
	return [...told].map(([to, { from, crews }]) => ({
		...{ from, to },
		who: crews.length > 1 ? 'Both wait' : `${crews[0] ?? ''} waits`
	}));
}
