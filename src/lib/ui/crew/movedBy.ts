import type { MovedSchedule, ProjectSchedule } from '#core/schedule/projectSchedule';

/** How far a schedule has moved since it was worked out. */
export interface MovedBy {
	/** Minutes by which all is done later; below 0 sooner. */
	laterMin: number;
	/** Hops of which something had a place and has none any more. */
	lostHops: string[];
	/** Whether that is worth a word. */
	worth: boolean;
}

/** Moves by less than this are none, minutes. */
const WORTH_MIN = 10;

/** @param moved undefined while it is not known */
export function movedBy(schedule: ProjectSchedule, moved: MovedSchedule | undefined): MovedBy {
	// Where not everything had a place, that is what is to be said.
	if (!moved || schedule.finish === null) return { laterMin: 0, lostHops: [], worth: false };
	const lostHops = [...new Set(moved.lost.map(({ hop }) => hop))];
	const laterMin = moved.finish === null ? 0 : moved.finish - schedule.finish;
	return { laterMin, lostHops, worth: lostHops.length > 0 || Math.abs(laterMin) >= WORTH_MIN };
}
