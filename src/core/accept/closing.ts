import type { End } from '../ends';
import { CHANGE_WORDS } from '../record/changes';
import { latestVoiding, stillHolds, type EndState, type HopState } from '../record/hopState';
import { numberText } from '../units/text';

export interface ClosingQuestion {
	key: string;
	ask: string;
	optional: boolean;
}

/** The last look at one end before it is left. */
export const CLOSING_QUESTIONS: readonly ClosingQuestion[] = [
	{ key: 'meter-off', ask: 'Meter off, cap back on the level port', optional: false },
	{ key: 'lamps', ask: 'Lamps as the unit’s sheet has them in operation', optional: false },
	{ key: 'drains', ask: 'Drain plugs as the dish’s sheet says', optional: false },
	{ key: 'tools', ask: 'Tools counted: as many down as went up', optional: false },
	{ key: 'labels', ask: 'Cables and units labelled', optional: false },
	{ key: 'seals', ask: 'Joints sealed, cables clamped, nothing loose', optional: false },
	{ key: 'photos', ask: 'Photos of the finished end taken', optional: false },
	{ key: 'site', ask: 'Site clean, gates and cabinets locked', optional: true }
];

/** Questions of the final look that are not answered, or answered with no. */
export function openClosingQuestions(state: HopState, end: End): string[] | null {
	const latest = state.ends[end].closingCheck;
	if (!latest || !stillHolds(state, 'closing-check', end, latest)) return null;
	return CLOSING_QUESTIONS.filter(({ key, optional }) => {
		const answer = latest.answers[key];
		return answer !== 'yes' && !(optional && answer === 'not-here');
	}).map(({ ask }) => ask);
}

export interface Snag {
	snagId: string;
	end: End;
	text: string;
	owner: string;
	/** Day it is due, ISO 8601. */
	due: string;
	photoIds: readonly string[];
	recordedAt: string;
	recordedBy: string;
	closed: { note: string; at: string; by: string; photoIds: readonly string[] } | null;
}

/** Every snag of a hop, the open ones first, then by the day they are due. */
export function snagsOf({ snags }: Pick<HopState, 'snags'>): Snag[] {
	return snags
		.map(({ opened, closed }): Snag => ({
			snagId: opened.snagId,
			end: opened.end,
			text: opened.text,
			owner: opened.owner,
			due: opened.due,
			photoIds: opened.photoIds,
			recordedAt: opened.at,
			recordedBy: opened.by,
			closed: closed && {
				note: closed.note,
				at: closed.at,
				by: closed.closedBy ?? closed.by,
				photoIds: closed.photoIds ?? []
			}
		}))
		.sort(
			(p, q) => Number(p.closed !== null) - Number(q.closed !== null) || p.due.localeCompare(q.due)
		);
}

/** A soak that is shorter says nothing, s. */
const SHORTEST_TEST_S = 60;

export interface ErrorTestVerdict {
	verdict: 'pass' | 'deviation' | 'missing';
	measured: string;
	reason: string;
}

/** The latest error, traffic or soak test that either end recorded. */
export function latestErrorTest({ ends }: HopState): EndState['errorTest'] {
	const [a, b] = [ends.A.errorTest, ends.B.errorTest];
	return (a?.seq ?? 0) > (b?.seq ?? 0) ? a : (b ?? a);
}

/** What the latest test of the hop says of it. */
export function judgeErrorTest(state: HopState): ErrorTestVerdict {
	const latest = latestErrorTest(state);
	if (!latest) {
		return {
			verdict: 'missing',
			measured: '',
			reason: 'No error, traffic or soak test was recorded.'
		};
	}
	const { durationS, erroredSeconds, bitErrorRatio } = latest;
	const measured = `${numberText(durationS / 60, 0)} min, ${erroredSeconds} errored seconds${bitErrorRatio === null ? '' : bitErrorRatio === 0 ? ', no bit wrong' : `, ratio ${bitErrorRatio.toExponential(1)}`}`;
	if (!stillHolds(state, 'error-test', latest.end, latest)) {
		const since = latestVoiding(state, 'error-test', latest.end)!;
		return {
			verdict: 'deviation',
			measured,
			reason: `Run it again: ${CHANGE_WORDS[since.change]} at ${since.end} since.`
		};
	}
	if (durationS < SHORTEST_TEST_S) {
		return { verdict: 'deviation', measured, reason: 'Too short to say anything.' };
	}
	// None while the link stands and the air is clear.
	return erroredSeconds === 0
		? { verdict: 'pass', measured, reason: 'Free of errors.' }
		: {
				verdict: 'deviation',
				measured,
				reason: `${erroredSeconds} errored seconds in clear air: look at RSL, XPD and interference.`
			};
}
