import type { Spread } from './problem';
import { learned, type Observed } from './spread';
import type { Durations } from './tasks';

/** Longest time that anybody may say of a kind of work, minutes. */
export const MOST_WORK_MIN = 2880;

/** How long a kind of work takes, and where that is known from. */
export interface WorkTime {
	kind: string;
	/** As it comes with the program. */
	usual: Spread;
	/** In its place by the firm's own word; null where nobody has said. */
	said: Spread | null;
	/** How often its time stands in the records. */
	seen: number;
	/** What is planned with. */
	used: Spread;
}

/**
 * How long every kind of work takes: by the firm's word or else as usual, and more and more by what it really took.
 *
 * @param usual of every kind there is; others are not known
 */
export function workTimes(
	usual: Durations,
	said: Durations,
	seen: Readonly<Record<string, Observed>>
): WorkTime[] {
	return Object.entries(usual).map(([kind, its]) => {
		const own = Object.hasOwn(said, kind) ? (said[kind] ?? null) : null;
		const observed = Object.hasOwn(seen, kind) ? seen[kind] : undefined;
		return {
			...{ kind, usual: its, said: own, seen: observed?.n ?? 0 },
			used: observed ? learned(own ?? its, observed) : (own ?? its)
		};
	});
}

/** The same as durations that work is planned with. */
export const durationsOf = (times: readonly WorkTime[]): Durations =>
	Object.fromEntries(times.map(({ kind, used }) => [kind, used]));
