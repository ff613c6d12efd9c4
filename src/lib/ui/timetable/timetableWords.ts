import { DateTime } from 'luxon';
import type { Timetable } from '#core/schedule/dayPlan';
import type { Hindrance, Relaxed } from '#core/schedule/hindrance';
import type { HopTask } from '#core/schedule/tasks';
import type { Wait } from '#core/schedule/waits';
import { lengthWords } from './lengthWords';

export { lengthWords };

const MINUTE_MS = 60_000;

export const at = (minute: number, zone: string): DateTime =>
	DateTime.fromMillis(minute * MINUTE_MS, { zone });

/** A moment by the clock of the plan, as `14:20`. */
export const clockAt = (minute: number, zone: string): string => at(minute, zone).toFormat('HH:mm');

/** A day by that clock, as `Tue 16 June`. */
export const dayAt = (minute: number, zone: string): string =>
	at(minute, zone).setLocale('en-GB').toFormat('ccc d LLLL');

/** A task with its end: `Raise at B`. */
export const taskWords = ({ title, end }: Pick<HopTask, 'title' | 'end'>): string =>
	`${title} at ${end}`;

const RULES: Record<Relaxed, string> = {
	climb: 'the wind or lightning limit for climbing',
	lift: 'the wind limit for lifting',
	open: 'the rain over open joints',
	light: 'the daylight',
	hours: 'the hours of its crew',
	end: 'the last day that is looked at',
	way: 'the way there and back'
};

/** Why a task has no place, in a sentence. */
export function hindranceWords(
	why: Hindrance,
	named: {
		task: (id: string) => string;
		crew: (id: string) => string;
		clock: (at: number) => string;
	}
): string {
	switch (why.kind) {
		case 'no-crew':
			return why.lacks
				.map(({ crew, what }) => `${named.crew(crew)} lacks ${what.join(', ')}.`)
				.join(' ');
		case 'after':
			return `It waits for “${named.task(why.task)}”.`;
		case 'pin':
			return why.earliest === null
				? 'It cannot begin where it is pinned, nor at any other time.'
				: `It cannot begin where it is pinned; from ${named.clock(why.earliest)} on it can.`;
		case 'rule':
			return `In the way: ${why.frees.map((rule) => RULES[rule]).join('; or ')}.`;
		case 'several':
			return 'Several things are in the way at once.';
	}
}

/** Who waits for whom, in a sentence. */
export function waitWords(
	{ crew, from, to, on, task }: Wait,
	named: { task: (id: string) => string; crew: (id: string) => string }
): string {
	const who = `${named.crew(crew)} waits ${lengthWords(to - from)}`;
	switch (on.kind) {
		case 'crew':
			return on.task === task
				? `${who} for ${named.crew(on.crew)} to be there: ${named.task(task)}.`
				: `${who} for ${named.crew(on.crew)}: ${named.task(on.task)}.`;
		case 'pin':
			return `${who} for what is pinned: ${named.task(task)}.`;
		case 'window':
			return `${who} for light or weather: ${named.task(task)}.`;
	}
}

/** A share as people count: `about 8 times in 10`. */
export function shareWords(share: number): string {
	if (share >= 0.98) return 'almost surely';
	if (share <= 0.02) return 'hardly ever';
	return `about ${Math.round(share * 20) / 2} times in 10`;
}

/** When the alignment state of each end is expected; undefined where it is not. */
export function readyTimes(
	{ placed }: Timetable,
	tasks: readonly HopTask[]
): Partial<Record<'A' | 'B', number>> {
	const ready: Partial<Record<'A' | 'B', number>> = {};
	for (const { id, end, bench } of tasks) {
		const where = placed.find(({ task }) => task === id);
		if (bench === 'alignment-state' && where) ready[end] = where.to;
	}
	return ready;
}
