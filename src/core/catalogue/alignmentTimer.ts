import type { RadioPart } from './parts';

/** Asked about again this long before a radio leaves the alignment state by itself, minutes. */
export const TIMER_WARNS_MIN = 30;

/** Where the timer of an alignment state stands. */
export interface AlignmentTimer {
	/** When the first radio leaves it by itself, ISO 8601. */
	endsAt: string;
	state: 'runs' | 'soon' | 'over';
	minutesLeft: number;
}

/**
 * When the radios of an end leave the alignment state by themselves: the one with the shortest timer
 * first. Undefined where none has one.
 *
 * @param enteredAt when the state was confirmed, ISO 8601
 * @param nowMs milliseconds since 1970
 */
export function alignmentTimer(
	radios: readonly Pick<RadioPart, 'alignmentState'>[],
	enteredAt: string,
	nowMs: number
): AlignmentTimer | undefined {
	const hours = radios.flatMap(({ alignmentState: { timer } }) => (timer ? [timer.hours] : []));
	if (hours.length === 0) return undefined;
	const endsMs = Date.parse(enteredAt) + Math.min(...hours) * 3_600_000;
	const minutesLeft = (endsMs - nowMs) / 60_000;
	return {
		endsAt: new Date(endsMs).toISOString(),
		state: minutesLeft <= 0 ? 'over' : minutesLeft <= TIMER_WARNS_MIN ? 'soon' : 'runs',
		minutesLeft
	};
}
