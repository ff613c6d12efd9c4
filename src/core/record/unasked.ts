import { farEnd, type End } from '../ends';

/** The level at an end changed although nobody has recorded a movement. */
export interface UnaskedMovement {
	/** The end that must have moved. */
	movedEnd: End;
	seenAt: End;
	changeDb: number;
	/** Readings of {@link seenAt} from this place in the feed on belong to the new pointing. */
	sinceSeq: number;
}

/** What one end's readings have shown of movements that nobody recorded. */
export interface Watch {
	steadyDbm: number | null;
	stray: { seq: number; levelDbm: number } | null;
	found: UnaskedMovement | null;
}

export const UNWATCHED: Watch = { steadyDbm: null, stray: null, found: null };

/** Swing and slow fading stay below this, dB. */
const CHANGE_DB = 4;
/** Nearer the floor than this a level means little, dB. */
const ABOVE_FLOOR_DB = 8;

/**
 * Movement without the baton, noticed by the other end's level: two readings in a row differ from
 * the one before by more than fading and sway explain, and nothing that changes a level lies
 * between them. The newest such change counts, until the baton passes or the end itself does
 * something.
 *
 * @param floorDbm level at which the receiver of this end hears nothing
 */
export function watchReading(
	watch: Watch,
	end: End,
	reading: { seq: number; levelDbm: number },
	floorDbm: number
): Watch {
	const { steadyDbm, stray, found } = watch;
	const { seq, levelDbm } = reading;
	if (steadyDbm === null || Math.abs(levelDbm - steadyDbm) < CHANGE_DB) {
		return { steadyDbm: levelDbm, stray: null, found };
	}
	if (!stray || Math.abs(levelDbm - stray.levelDbm) > CHANGE_DB / 2) {
		return { steadyDbm, stray: { seq, levelDbm }, found };
	}
	const heard = Math.max(steadyDbm, levelDbm) >= floorDbm + ABOVE_FLOOR_DB;
	return {
		steadyDbm: levelDbm,
		stray: null,
		found: heard
			? {
					movedEnd: farEnd(end),
					seenAt: end,
					changeDb: levelDbm - steadyDbm,
					sinceSeq: stray.seq
				}
			: found
	};
}

/** After something that changes a level: a new beginning, and what was found before is explained. */
export function watchAnew(watch: Watch, explained: boolean): Watch {
	return { steadyDbm: null, stray: null, found: explained ? null : watch.found };
}
