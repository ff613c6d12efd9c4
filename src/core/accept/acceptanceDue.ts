import { CHANGE_WORDS, WORK } from '../record/changes';
import { ENDS } from '../ends';
import { openVisit, type HopState } from '../record/hopState';

/** Whether a hop can be accepted now, after it was accepted before or for the first time. */
export type AcceptanceDue =
	| { kind: 'first' }
	/** Something changed since it was accepted that a signature must stand for again. */
	| { kind: 'again'; why: string[] }
	/** It stands as it was accepted. */
	| { kind: 'stands' }
	/** A visit goes on: it is closed first. */
	| { kind: 'in-visit' };

/** What the last acceptance judged. */
export interface Accepted {
	revisionNumber: number;
	lastSeq: number;
}

/**
 * Whether a hop is to be accepted, for the first time or again.
 *
 * @param latestRevisionNumber of the plan, from 1
 */
export function acceptanceDue(
	state: HopState,
	latestRevisionNumber: number,
	accepted: Accepted | null
): AcceptanceDue {
	if (!accepted) return { kind: 'first' };
	if (openVisit(state)) return { kind: 'in-visit' };
	const why = [
		...(latestRevisionNumber > accepted.revisionNumber
			? [
					`Plan revision ${latestRevisionNumber} was issued; ${accepted.revisionNumber} was accepted.`
				]
			: []),
		...ENDS.flatMap((end) => {
			const { changedAt } = state.ends[end];
			const latest = WORK.filter((change) => changedAt[change] > accepted.lastSeq).sort(
				(p, q) => changedAt[q] - changedAt[p]
			)[0];
			return latest ? [`At ${end} ${CHANGE_WORDS[latest]} since.`] : [];
		})
	];
	return why.length ? { kind: 'again', why } : { kind: 'stands' };
}
