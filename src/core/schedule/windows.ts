import type { Relaxed } from './hindrance';
import { windowKey, type WorkTask } from './problem';
import { inBoth, without, type Span, type Spans } from './spans';
import { forbiddenSpans, type WeatherHour, type WeatherLimits } from './weather';

/** What work asks of light and weather at its place. */
export type Asked = Pick<WorkTask, 'limits' | 'light'>;

/** Light and weather at a place. */
export interface Outside {
	/** The stretch that is looked at. */
	within: Span;
	/** When it is light; only asked for where work needs it. */
	light: () => Spans;
	hours: readonly WeatherHour[];
	limits: WeatherLimits;
}

/** When work goes on at a place, by what it asks of light and weather. */
export function workWindow({ within, light, hours, limits }: Outside, asked: Asked): Span[] {
	let spans: Span[] = [within];
	if (asked.light) spans = inBoth(spans, light());
	for (const limit of asked.limits) spans = without(spans, forbiddenSpans(hours, limit, limits));
	return spans;
}

/** The windows of a problem: one for each place and each way to ask of light and weather there. */
export function windowsOf<Task extends WorkTask>(
	tasks: readonly Task[],
	windowAt: (task: Task) => Spans
): Map<string, Spans> {
	const windows = new Map<string, Spans>();
	for (const task of tasks) {
		const key = windowKey(task);
		if (task.place !== null && !windows.has(key) && (task.light || task.limits.length)) {
			windows.set(key, windowAt(task));
		}
	}
	return windows;
}

/** What work would ask without one of its rules. */
export const relaxed = ({ limits, light }: Asked, rule: Relaxed): Asked => ({
	limits: limits.filter((limit) => limit !== rule),
	light: light && rule !== 'light'
});
