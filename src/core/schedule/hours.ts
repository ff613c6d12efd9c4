import { DateTime, IANAZone } from 'luxon';
import { getPosition, getTimes } from 'suncalc';
import type { GeoPoint } from '../geodesy/geodesic';
import { joined, type Span } from './spans';

const MINUTE_MS = 60_000;
/** A day of work may end after midnight, but not a whole day later. */
const DAY_MIN = 1440;

/** Days of the week on which somebody works, 1 Monday to 7 Sunday, and from when to when, minutes after midnight. */
export interface WorkingHours {
	/** IANA name of the zone in which the clock is read. */
	zone: string;
	days: readonly number[];
	fromMin: number;
	/** Up to 2880: work that begins in the evening goes on after midnight. */
	toMin: number;
	/** Days off, as `2026-12-24` in that zone. */
	daysOff: readonly string[];
}

/** Whether there is a zone of that name. */
export const isZone = (name: string): boolean => IANAZone.isValidZone(name);

const minutesOf = (at: DateTime): number => Math.floor(at.toMillis() / MINUTE_MS);

/**
 * A clock reading of a day as a moment. In the hour that a change of clocks leaves out it is the moment an hour
 * on; of an hour that comes twice it is the first.
 *
 * @param day as `2026-03-29`
 * @param minute after midnight, 0 to 2880
 */
export function clockMoment(day: string, minute: number, zone: string): number {
	const date = DateTime.fromISO(day, { zone }).plus({ days: Math.floor(minute / DAY_MIN) });
	const within = minute % DAY_MIN;
	const { year, month, day: of } = date;
	const read = DateTime.fromObject(
		{ year, month, day: of, hour: Math.floor(within / 60), minute: within % 60 },
		{ zone }
	);
	return Math.min(...read.getPossibleOffsets().map(minutesOf));
}

/** Every day that has a minute of the span in it, as `2026-03-29` in a zone. */
export function daysOf({ from, to }: Span, zone: string): string[] {
	const days: string[] = [];
	let at = DateTime.fromMillis(from * MINUTE_MS, { zone }).startOf('day');
	while (minutesOf(at) < to) {
		days.push(at.toISODate() ?? '');
		at = at.plus({ days: 1 });
	}
	return days;
}

/** When somebody works, by the clock of their zone, within a span. */
export function workingSpans(hours: WorkingHours, within: Span): Span[] {
	const { zone, days, fromMin, toMin, daysOff } = hours;
	const off = new Set(daysOff);
	// From the day before: its work may go on past midnight.
	const all = daysOf({ from: within.from - DAY_MIN, to: within.to }, zone).filter((day) => {
		const { weekday } = DateTime.fromISO(day, { zone });
		return days.includes(weekday) && !off.has(day);
	});
	return joined(
		all.map((day) => ({
			from: Math.max(within.from, clockMoment(day, fromMin, zone)),
			to: Math.min(within.to, clockMoment(day, toMin, zone))
		}))
	);
}

/** What counts as light: the sun above the horizon, or civil twilight too. */
export type LightSchool = 'sun' | 'civil';

/**
 * When it is light at a place, within a span. In a polar day that is all of it, in a polar night nothing.
 *
 * @param school with `civil` it is light while the sun is less than 6° below the horizon
 */
export function lightSpans(place: GeoPoint, school: LightSchool, within: Span): Span[] {
	const light: Span[] = [];
	// Solar days are taken by their noon; one more at either end, for places far from the zone's own meridian.
	for (let day = within.from - DAY_MIN; day < within.to + 2 * DAY_MIN; day += DAY_MIN) {
		const times = getTimes(new Date(day * MINUTE_MS), place.latitudeDeg, place.longitudeDeg);
		const [rise, set] = school === 'sun' ? [times.sunrise, times.sunset] : [times.dawn, times.dusk];
		const noon = times.solarNoon.getTime() / MINUTE_MS;
		// A sun that does not cross the height in a day is above it all day, or not at all.
		if (!rise && !set && !isLightAt(place, school, noon)) continue;
		light.push({
			from: Math.ceil(rise ? rise.getTime() / MINUTE_MS : noon - DAY_MIN / 2 - 1),
			to: Math.floor(set ? set.getTime() / MINUTE_MS : noon + DAY_MIN / 2 + 1)
		});
	}
	return joined(
		light.map(({ from, to }) => ({
			from: Math.max(from, within.from),
			to: Math.min(to, within.to)
		}))
	);
}

/** Height of the middle of the sun at which it rises and sets, by school, degrees; the first with its rim and the air's bending. */
const SUN_HEIGHT_DEG: Record<LightSchool, number> = { sun: -0.833, civil: -6 };

const isLightAt = (place: GeoPoint, school: LightSchool, minute: number): boolean =>
	getPosition(new Date(minute * MINUTE_MS), place.latitudeDeg, place.longitudeDeg).altitude >
	SUN_HEIGHT_DEG[school];
