import { CAUSES, type Cause } from './keys';
import { PATH } from './path';
import { POINTING } from './pointing';
import { RADIO } from './radio';
import { both, SOUND_SIGMA_DB, type CauseRow } from './row';
import { WAVEGUIDE } from './waveguide';

/** Every cause with all that is known of it; the compiler refuses a cause without a row. */
export const CAUSE_TABLE: Readonly<Record<Cause, CauseRow>> = {
	...POINTING,
	...WAVEGUIDE,
	...RADIO,
	...PATH,
	none: {
		name: 'nothing is wrong',
		predicts: 'both directions inside the window',
		prior: 0.05,
		alone: true,
		losses: () => [both(0, SOUND_SIGMA_DB)],
		marks: {}
	}
};

/** Whether two causes can be at work at once and be told apart. */
function goTogether(p: CauseRow, q: CauseRow): boolean {
	const oneFamily = p.family !== undefined && p.family === q.family;
	return !p.alone && !q.alone && !oneFamily;
}

/** Causes that may be at work two at once. */
export const CAUSE_PAIRS: readonly (readonly [Cause, Cause])[] = CAUSES.flatMap((p, i) =>
	CAUSES.slice(i + 1).flatMap((q) =>
		goTogether(CAUSE_TABLE[p], CAUSE_TABLE[q]) ? [[p, q] as const] : []
	)
);
