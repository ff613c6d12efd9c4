import { joined, type Span } from './spans';

/** Weather of one hour at a place, as somebody typed it or a forecast says; null where it is not known. */
export interface WeatherHour {
	/** Beginning, minutes since 1970 UTC. */
	at: number;
	windMs: number | null;
	gustMs: number | null;
	rainMmH: number | null;
	/** Whether thunderstorms are to be expected. */
	lightning: boolean;
}

/** What holds up a task. */
export const LIMITS = ['climb', 'lift', 'open'] as const;
/** Somebody is up there; something hangs on a rope; a connector or flange is open. */
export type Limit = (typeof LIMITS)[number];

/** Up to where work of a kind goes on, by the rules of those who do it. */
export interface WeatherLimits {
	/** Mean wind and gust for climbing and for lifting, m/s. */
	climbWindMs: number;
	climbGustMs: number;
	liftWindMs: number;
	liftGustMs: number;
	/** Rain over open connectors, mm/h. */
	openRainMmH: number;
}

const over = (value: number | null, limit: number): boolean => value !== null && value > limit;

/**
 * Whether an hour forbids work under a limit. What is not known forbids nothing.
 *
 * @returns what of the weather does, in a word; undefined where nothing does
 */
export function forbiddenBy(
	hour: WeatherHour,
	limit: Limit,
	limits: WeatherLimits
): 'wind' | 'gusts' | 'rain' | 'lightning' | undefined {
	const { windMs, gustMs, rainMmH, lightning } = hour;
	switch (limit) {
		case 'climb':
			if (lightning) return 'lightning';
			if (over(windMs, limits.climbWindMs)) return 'wind';
			return over(gustMs, limits.climbGustMs) ? 'gusts' : undefined;
		case 'lift':
			if (lightning) return 'lightning';
			if (over(windMs, limits.liftWindMs)) return 'wind';
			return over(gustMs, limits.liftGustMs) ? 'gusts' : undefined;
		case 'open':
			return over(rainMmH, limits.openRainMmH) ? 'rain' : undefined;
	}
}

const HOUR_MIN = 60;

/** When the weather of a place forbids work under a limit. */
export function forbiddenSpans(
	hours: readonly WeatherHour[],
	limit: Limit,
	limits: WeatherLimits
): Span[] {
	return joined(
		hours
			.filter((hour) => forbiddenBy(hour, limit, limits))
			.map(({ at }) => ({ from: at, to: at + HOUR_MIN }))
	);
}
