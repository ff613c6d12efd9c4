import type { HopPlan } from '../budget/hopPlan';
import { farEnd, type End } from '../ends';
import type { FieldRecord, RecordKind } from '../record/records';

/** The level at the end with the baton changed although nobody has recorded a movement. */
export interface UnaskedMovement {
	/** The end that must have moved. */
	movedEnd: End;
	seenAt: End;
	changeDb: number;
	/** Readings of {@link seenAt} from this place in the feed on belong to the new pointing. */
	sinceSeq: number;
}

/** Swing and slow fading stay below this, dB. */
const CHANGE_DB = 4;
/** Nearer the floor than this a level means little, dB. */
const ABOVE_FLOOR_DB = 8;
/** Records that neither move a dish nor change a level. */
const SAYS_NOTHING: ReadonlySet<RecordKind> = new Set([
	'note',
	'advice',
	'test-result',
	'baton-request',
	'crew-mode',
	'aimed'
]);

/**
 * Movement without the baton, noticed by the other end's level: two readings in a row at the end
 * that holds the baton differ from the one before by more than fading and sway explain, and no
 * movement, tightening or remedy of either end lies between them. The newest such change counts,
 * until the baton passes or the end moves itself.
 */
export function unaskedMovement(
	records: readonly FieldRecord[],
	baton: End,
	plan: HopPlan
): UnaskedMovement | null {
	const least = plan.received[baton].floorDbm + ABOVE_FLOOR_DB;
	let steadyDbm: number | undefined;
	let stray: { seq: number; levelDbm: number } | undefined;
	let found: UnaskedMovement | null = null;
	for (const record of records) {
		if (record.kind !== 'reading') {
			if (SAYS_NOTHING.has(record.kind)) continue;
			steadyDbm = undefined;
			stray = undefined;
			if (record.end === baton || record.kind === 'baton') found = null;
			continue;
		}
		const { levelDbm, purpose } = record.payload;
		if (record.end !== baton || levelDbm === null || purpose === 'sweep') continue;
		if (steadyDbm === undefined || Math.abs(levelDbm - steadyDbm) < CHANGE_DB) {
			steadyDbm = levelDbm;
			stray = undefined;
		} else if (!stray || Math.abs(levelDbm - stray.levelDbm) > CHANGE_DB / 2) {
			stray = { seq: record.seq, levelDbm };
		} else {
			if (Math.max(steadyDbm, levelDbm) >= least) {
				found = {
					movedEnd: farEnd(baton),
					seenAt: baton,
					changeDb: levelDbm - steadyDbm,
					sinceSeq: stray.seq
				};
			}
			steadyDbm = levelDbm;
			stray = undefined;
		}
	}
	return found;
}
