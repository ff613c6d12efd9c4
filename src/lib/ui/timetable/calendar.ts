import type { Timetable } from '#core/schedule/dayPlan';
import type { HopTask } from '#core/schedule/tasks';

/** What a calendar file is made of. */
export interface CalendarOf {
	hopName: string;
	/** Address of the timetable's page. */
	url: string;
	siteOf: Record<'A' | 'B', string>;
	crewOf: (id: string) => string;
	/** Only what this crew does; undefined for all. */
	crew?: string;
	madeAt: Date;
}

const MINUTE_MS = 60_000;

/** Stretches of work one after the other at one place by one crew are one entry, with what is done in it. */
interface Entry {
	crew: string;
	end: 'A' | 'B';
	from: number;
	to: number;
	titles: string[];
	ids: string[];
}
/** A pause within an entry that nobody leaves the place for, minutes. */
const LONGEST_PAUSE_MIN = 30;

export function entriesOf(
	{ placed }: Pick<Timetable, 'placed'>,
	tasks: readonly HopTask[],
	crew?: string
): Entry[] {
	const byId = new Map(tasks.map((task) => [task.id, task]));
	const entries: Entry[] = [];
	const last = new Map<string, Entry>();
	for (const { task: id, crew: who, from, to } of [...placed].sort((p, q) => p.from - q.from)) {
		const task = byId.get(id);
		if (!task || task.real?.done || (crew !== undefined && who !== crew)) continue;
		const open = last.get(who);
		if (open?.end === task.end && from - open.to <= LONGEST_PAUSE_MIN) {
			open.to = to;
			open.titles.push(task.title);
			open.ids.push(id);
			continue;
		}
		const entry = { crew: who, end: task.end, from, to, titles: [task.title], ids: [id] };
		entries.push(entry);
		last.set(who, entry);
	}
	return entries;
}

/** The timetable as iCalendar (RFC 5545): one entry for each stretch of work, the same id for it each time. */
export async function calendarText(
	timetable: Pick<Timetable, 'placed'>,
	tasks: readonly HopTask[],
	{ hopName, url, siteOf, crewOf, crew, madeAt }: CalendarOf
): Promise<string> {
	const { default: ical } = await import('ical-generator');
	const calendar = ical({
		name: `${hopName}${crew === undefined ? '' : `, ${crewOf(crew)}`}`,
		prodId: { company: 'skiaxis', product: 'timetable', language: 'EN' }
	});
	for (const entry of entriesOf(timetable, tasks, crew)) {
		calendar.createEvent({
			id: `${entry.ids[0] ?? ''}@skiaxis`.replaceAll('/', '-'),
			start: new Date(entry.from * MINUTE_MS),
			end: new Date(entry.to * MINUTE_MS),
			stamp: madeAt,
			summary: `${hopName}: end ${entry.end}, ${crewOf(entry.crew)}`,
			description: [...new Set(entry.titles)].join('\n'),
			location: siteOf[entry.end],
			url
		});
	}
	return calendar.toString();
}
