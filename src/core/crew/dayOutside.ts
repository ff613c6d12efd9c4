import type { End } from '../ends';
import type { GeoPoint } from '../geodesy/geodesic';
import { clockMoment, lightSpans } from '../schedule/hours';
import { weatherAt, type DayPlan } from '../schedule/dayPlan';
import { forbiddenSpans, LIMITS, type Limit } from '../schedule/weather';
import type { Span } from '../schedule/spans';

/** Light and weather of a day at an end; moments are minutes since 1970 UTC. */
export interface DayOutside {
	/** When it is light; empty in a polar night. */
	light: Span[];
	/** What the weather forbids, and when; empty where nobody has said anything of the weather. */
	forbidden: { limit: Limit; spans: Span[] }[];
	/** Whether anybody has said anything of the weather of that day. */
	weatherKnown: boolean;
}

/**
 * Light and weather at an end on one day.
 *
 * @param day as `2026-06-15`, by the clock of the zone
 * @param plan of the hop's days: its school of light, its limits and its weather; civil twilight where there is none
 */
export function dayOutside(
	place: GeoPoint,
	end: End,
	day: string,
	zone: string,
	plan: Pick<DayPlan, 'light' | 'limits' | 'weather'> | null
): DayOutside {
	const within = { from: clockMoment(day, 0, zone), to: clockMoment(day, 1440, zone) };
	const hours = plan
		? weatherAt(plan, end).filter(({ at }) => at + 60 > within.from && at < within.to)
		: [];
	const forbidden = plan
		? LIMITS.map((limit) => ({
				limit,
				spans: forbiddenSpans(hours, limit, plan.limits)
			})).filter(({ spans }) => spans.length > 0)
		: [];
	return {
		light: lightSpans(place, plan?.light ?? 'civil', within),
		forbidden,
		weatherKnown: hours.length > 0
	};
}
