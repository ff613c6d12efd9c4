import { ENDS, type End, type PerEnd } from '#core/ends';
import { clockMoment, daysOf } from '#core/schedule/hours';
import type { ProjectSchedule, Stint } from '#core/schedule/projectSchedule';
import type { Span } from '#core/schedule/spans';

/** One rail of the wall. */
export interface Lane {
	key: string;
	/** The end whose rail it is; null of a crew's. */
	end: End | null;
	label: string;
	stints: Stint[];
}

/** Rails that stand together: the two ends of a hop, or a crew. */
export interface Column {
	key: string;
	title: string;
	lanes: Lane[];
	/** When both ends are ready to be aligned; null where it is not told. */
	gate: number | null;
}

/** What of a schedule is drawn. */
type Drawn = Pick<ProjectSchedule, 'stints' | 'gates' | 'span'>;

interface Named {
	hops: readonly { id: string; name: string; sites: PerEnd<string> }[];
	crews: readonly { id: string; name: string }[];
}

/** Every hop that has something to do as two rails, the first to begin first. */
export function columnsByHop({ stints, gates }: Drawn, { hops }: Named): Column[] {
	const begins = (id: string): number =>
		Math.min(...stints.filter(({ hop }) => hop === id).map(({ from }) => from));
	return hops
		.filter(({ id }) => stints.some(({ hop }) => hop === id))
		.map(({ id, name, sites }) => ({
			...{ key: id, title: name },
			lanes: ENDS.map((end) => ({
				...{ key: id + end, end, label: sites[end] },
				stints: stints.filter((stint) => stint.hop === id && stint.end === end)
			})),
			gate: gates.find(({ hop }) => hop === id)?.at ?? null
		}))
		.sort((p, q) => begins(p.key) - begins(q.key) || p.title.localeCompare(q.title));
}

/** Every crew as one rail. */
export const columnsByCrew = ({ stints }: Drawn, { crews }: Named): Column[] =>
	crews.map(({ id, name }) => ({
		...{ key: id, title: name, gate: null },
		lanes: [{ key: id, end: null, label: '', stints: stints.filter(({ crew }) => crew === id) }]
	}));

/** A day of the wall: only the part of it in which there is work is drawn. */
export interface WallDay extends Span {
	day: string;
}

const HOUR = 60;

/** The days on which somebody works, from the first full hour to the last. */
export function wallDays({ stints, span }: Drawn, zone: string): WallDay[] {
	return daysOf(span, zone).flatMap((day) => {
		const begin = clockMoment(day, 0, zone);
		const end = clockMoment(day, 24 * HOUR, zone);
		const own = stints.filter(({ from, to }) => from < end && to > begin);
		if (own.length === 0) return [];
		const from = Math.max(begin, Math.min(...own.map((one) => one.from)));
		const to = Math.min(end, Math.max(...own.map((one) => one.to)));
		return [{ day, from: Math.floor(from / HOUR) * HOUR, to: Math.ceil(to / HOUR) * HOUR }];
	});
}

/** What of a stint lies within a day. */
export const within = (stint: Span, day: Span): Span | undefined => {
	const from = Math.max(stint.from, day.from);
	const to = Math.min(stint.to, day.to);
	return to > from ? { from, to } : undefined;
};
