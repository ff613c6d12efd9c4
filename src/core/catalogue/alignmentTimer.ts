import type { RadioPart } from './parts';

/** Asked about again this long before a radio leaves the alignment state by itself, minutes. */
export const TIMER_WARNS_MIN = 30;

/** A radio in the alignment state. */
export interface TimedRadio {
	/** What the crew calls it, such as "Radio 2". */
	name: string;
	part: Pick<RadioPart, 'alignmentState'>;
	/** When its state was confirmed, ISO 8601. */
	enteredAt: string;
}

/** Where the timer of an alignment state stands. */
export interface AlignmentTimer {
	/** The radio that leaves first. */
	radio: string;
	/** When the first radio leaves it by itself, ISO 8601. */
	endsAt: string;
	state: 'runs' | 'soon' | 'over';
	minutesLeft: number;
}

/**
 * When the radios of an end leave the alignment state by themselves, each by its own timer from its own
 * entry: the first to leave. Undefined where none has a timer.
 *
 * @param nowMs milliseconds since 1970
 */
export function alignmentTimer(
	radios: readonly TimedRadio[],
	nowMs: number
): AlignmentTimer | undefined {
	const ends = radios.flatMap(({ name, part, enteredAt }) => {
		const { timer } = part.alignmentState;
		return timer ? [{ name, endsMs: Date.parse(enteredAt) + timer.hours * 3_600_000 }] : [];
	});
	if (ends.length === 0) return undefined;
	const { name, endsMs } = ends.reduce((first, one) => (one.endsMs < first.endsMs ? one : first));
	const minutesLeft = (endsMs - nowMs) / 60_000;
	return {
		radio: name,
		endsAt: new Date(endsMs).toISOString(),
		state: minutesLeft <= 0 ? 'over' : minutesLeft <= TIMER_WARNS_MIN ? 'soon' : 'runs',
		minutesLeft
	};
}
